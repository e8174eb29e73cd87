"""The arrangement in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation


def arrangement_answer(seen: Evaluation) -> str:
    """What the build line says of the stage."""
    placing = seen.table.placing
    if placing.short:
        return "does not fit"
    length, width, height = (round(side) for side in placing.layout.size_mm)
    return f"{length} × {width} × {height} mm{', by hand' if placing.by_hand else ''}"
