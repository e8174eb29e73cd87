"""The record in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation

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
        return f"built {record.built}"
    count = len(record.log)
    return f"{count} {'entry' if count == 1 else 'entries'} in the log" if count else "not begun"
