"""Cells and count in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import worded

VIEWS = (
    ("counts", "counts"),
    ("chart", "chart"),
    ("beside", "side by side"),
    ("library", "library"),
    ("curves", "curves"),
    ("shop", "shop"),
)


def cells_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    choice = evaluation.sized.choice
    return worded("{} of {}", choice.count, choice.cell.name)
