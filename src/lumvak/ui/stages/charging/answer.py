"""Charging in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import say, worded

VIEWS = (
    ("charger", "charger"), ("time", "time to full"), ("ceiling", "limits"),
    ("groups", "groups"), ("resistors", "resistors"), ("log", "first charge"),
)  # fmt: skip


def charging_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    topic = evaluation.charging
    volts = say(topic.right.volts.number, "V")
    if topic.verdict.kind == "right":
        return f"{volts}, {say(topic.charger.amps, 'A')}"
    words = topic.verdict.kind_words
    return worded(
        "{}; it {}{}",
        volts,
        "is " if topic.verdict.kind in ("wrong", "over-ceiling") else "",
        words,
    )
