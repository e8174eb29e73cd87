"""The record in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import in_words, worded

VIEWS = (
    ("label", "label"),
    ("log", "log"),
    ("bill", "materials"),
    ("report", "report"),
    ("dates", "dates"),
    ("history", "its past"),
    ("conversion", "tool"),
)


def record_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    record = evaluation.project.record
    if record.built is not None:
        return worded("built {}", record.built)
    count = len(record.log)
    return (
        worded("{} {} in the log", count, "entry" if count == 1 else "entries")
        if count
        else in_words("not begun")
    )
