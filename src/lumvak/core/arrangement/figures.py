"""The pack as it lies, as figures: size, centre of mass, neighbours."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from lumvak.core.arrangement.layout import Layout
from lumvak.core.cells.cell_model import of_cell
from lumvak.core.document.arrangement import Arrangement
from lumvak.core.figures.figure import Figure, computed, sheet, typed


@dataclass(frozen=True, slots=True)
class LayoutFigures:
    """How large the pack is and where its parts lie, as figures; ``base`` is what made them."""

    base: tuple[Figure, ...]
    size: tuple[Figure, ...]
    places: tuple[Figure, ...]


def layout_figures(
    layout: Layout, arrangement: Arrangement, gap_mm: float, series: Figure, parallel: Figure
) -> LayoutFigures:
    """Size, centre and neighbours of the pack as it lies (methods 18)."""
    cell = layout.cell
    base = (
        series,
        parallel,
        typed("arrangement.rows", "Rows", arrangement.rows, ""),
        typed("joints.gap_mm", "Gap between cells", gap_mm, "mm")
        if arrangement.pitch_mm is None
        else typed("arrangement.pitch_mm", "Pitch of the holder", arrangement.pitch_mm, "mm"),
        sheet("cell.pitch_mm", "Cell width", cell.pitch_mm, "mm", cell.name),
    )  # fmt: skip
    size = tuple(
        computed(f"layout.{name}_mm", f"{name.capitalize()} of the pack", value, "mm", rule,
                 "methods 18", *base)
        for name, value, rule in zip(
            ("length", "width", "height"),
            layout.size_mm,
            ("over the outermost cells", "over the outermost cells",
             "layers × (cell + 3 mm for strips and cover on both sides)"),
            strict=True,
        )
    )  # fmt: skip
    corner = layout.corner_mm
    centre = tuple(
        computed(f"layout.centre_{axis}_mm", f"Centre of mass from the {edge}", value, "mm",
                 "mean of the middles of the cells", "methods 18", *base[:2])
        for axis, edge, value in (
            ("x", "left edge", layout.centre_mm[0] - corner[0]),
            ("y", "upper edge", layout.centre_mm[1] - corner[1]),
        )
    )  # fmt: skip
    apart = layout.touching
    far = int(np.abs(np.diff(layout.group[apart], axis=1)).max(initial=0))
    full = of_cell(cell, "voltage_full_v", "Cell, full", "V")
    worst = computed(
        "layout.neighbour_v",
        "Most between cans side by side",
        far * full.number,
        "V",
        f"{far} groups apart × full cell voltage",
        "methods 18",
        full,
    )
    return LayoutFigures(base, size, (*centre, worst))
