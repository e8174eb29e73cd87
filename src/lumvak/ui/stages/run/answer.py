"""The run in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import say, worded


def run_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    warmest = say(evaluation.run.warmest_c.value, "°C")
    return worded("{}, warms to {}", say(evaluation.run.run.hours, "h"), warmest)
