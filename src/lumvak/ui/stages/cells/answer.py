"""Cells and count in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation


def cells_answer(seen: Evaluation) -> str:
    """What the build line says of the stage."""
    return f"{seen.choice.series}S{seen.choice.parallel}P of {seen.choice.cell.name}"
