"""The second pack in one line."""

from __future__ import annotations

from pathlib import Path

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import in_words, say, worded

VIEWS = (("together", "both together"), ("what-if", "what if"), ("ways", "ways to join"))


def beside_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    wanted = evaluation.project.beside
    if wanted.file:
        return Path(wanted.file).name.partition(".")[0]
    if wanted.capacity_ah is None:
        return in_words("no second pack")
    return worded("{} beside it", say(wanted.capacity_ah, in_words("Ah")))
