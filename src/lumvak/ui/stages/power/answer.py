"""The power path in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import in_words

VIEWS = (
    ("board", "BMS"),
    ("settings", "settings"),
    ("parts", "leads and parts"),
    ("order", "protection"),
    ("start", "start"),
    ("rating", "rating"),
    ("rest", "storage"),
    ("shop", "shop"),
)


def power_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    board = evaluation.board.board.name if evaluation.board else in_words("no BMS serves")
    fuse = evaluation.power.fuse.part
    held = in_words("no fuse") if fuse is None else fuse.name
    return f"{board}, {held}"
