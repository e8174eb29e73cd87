"""Cells and count in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation

VIEWS = (
    ("counts", "counts"),
    ("chart", "chart"),
    ("beside", "side by side"),
    ("library", "library"),
    ("curves", "curves"),
)


def cells_answer(seen: Evaluation) -> str:
    """What the build line says of the stage."""
    return f"{seen.choice.series}S{seen.choice.parallel}P of {seen.choice.cell.name}"
