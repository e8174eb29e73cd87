"""The pack as it lies, as figures: size and neighbours."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from lumvak.core.arrangement.layers import gap_of, grown, in_holder, swell_of
from lumvak.core.arrangement.layout import Layout
from lumvak.core.arrangement.set_aside import plates_mm
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.holders import Holder
from lumvak.core.cells.cell_model import of_cell
from lumvak.core.document.arrangement import Arrangement
from lumvak.core.figures.figure import Figure, Rule, sheet, typed

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
GAP_MM = Rule("layout.gap_mm", "Gap between cells as laid", "mm",
              "pitch − cell width, or gap + what a flat cell grows", "methods 40")
SIDE_MM = Rule("layout.{}_mm", "{}", "mm", "{}", "methods 18")
NEIGHBOUR_V = Rule("layout.neighbour_v", "Most between cans side by side", "V",
                   "{} groups apart × full cell voltage", "methods 18")
# fmt: on


class LayoutFigures(Struct, frozen=True):
    """How large the pack is and where its parts lie, as figures; ``base`` is what made them."""

    base: tuple[Figure, ...]
    size: tuple[Figure, ...]
    places: tuple[Figure, ...]


def layout_figures(
    layout: Layout,
    arrangement: Arrangement,
    gap_mm: float,
    cell: Cell,
    holder: Holder | None,
    series: Figure,
    parallel: Figure,
) -> LayoutFigures:
    """Size and neighbours of the pack as it lies (methods 18, 40); ``cell`` is as its sheet says.

    The size is over the holder and the plates, with what lies on the cells.
    """
    flat = cell.diameter_mm is None
    base = (
        series,
        parallel,
        typed("arrangement.rows", "Rows", arrangement.rows, ""),
        _apart(arrangement, gap_mm, holder),
        sheet("cell.pitch_mm", "Cell width", cell.pitch_mm, "mm", cell.name),
        *((swell_of(arrangement, cell),) if flat else ()),
    )
    extents = _whole_mm(layout, arrangement, holder)
    size = tuple(
        SIDE_MM.of(value, *base, key=name, label=label, rule=rule)
        for name, label, value, rule in zip(
            ("length", "width", "height"),
            ("Length of the pack", "Width of the pack", "Height of the pack"),
            extents,
            (
                "over the outermost cells, holder and plates",
                "over the outermost cells, holder and plates",
                "layers × (cell + 3 mm for strips and cover on both sides), and what lies on them",
            ),
            strict=True,
        )
    )
    apart = layout.touching
    far = int(np.abs(np.diff(layout.group[apart], axis=1)).max(initial=0))
    full = of_cell(cell, "voltage_full_v", "Cell, full", "V")
    worst = NEIGHBOUR_V.of(far * full.number, full, rule=far)
    return LayoutFigures(base, size, (worst,))


def _apart(arrangement: Arrangement, gap_mm: float, holder: Holder | None) -> Figure:
    """What sets how far apart the cells lie."""
    if arrangement.pitch_mm is not None:
        return typed("arrangement.pitch_mm", "Pitch of the holder", arrangement.pitch_mm, "mm")
    if holder is not None:
        return sheet("holder.pitch_mm", "Pitch of the holder", holder.pitch_mm, "mm", holder.name)
    return typed("joints.gap_mm", "Gap between cells", gap_mm, "mm")


def laid_gap(arrangement: Arrangement, gap_mm: float, holder: Holder | None, cell: Cell) -> Figure:
    """What lies between two cells over which a joint reaches, by gap or pitch, with room to grow.

    ``cell`` is as its sheet says.
    """
    apart = _apart(arrangement, gap_mm, holder)
    laid = grown(cell, arrangement)
    wide = laid.pitch_mm + gap_of(in_holder(arrangement, holder), laid, gap_mm)
    if wide == cell.pitch_mm + gap_mm:
        return apart
    return GAP_MM.of(wide - cell.pitch_mm, apart, swell_of(arrangement, cell))


def _whole_mm(
    layout: Layout, arrangement: Arrangement, holder: Holder | None
) -> tuple[float, float, float]:
    """Length, width and height in mm with all that stands out of the cells."""
    length, width, height = layout.size_mm
    edge = 0.0 if holder is None else holder.edge_mm
    plate = plates_mm(arrangement, layout.cell)
    across = arrangement.axis == "across"
    on_top = [part.height_mm or 0.0 for part in arrangement.kept_free if part.stands == "lid"]
    lid = max(on_top, default=0.0)
    room = arrangement.room
    if lid and room.kind != "none" and room.height_mm is not None:
        # Where it does not go over all cells it hangs beside the highest of them.
        lid = max(0.0, min(lid, room.height_mm - height))
    standing = arrangement.axis == "up"
    return (
        length + 2.0 * (edge + plate * across),
        width + 2.0 * (edge + plate * (not across)),
        height + lid + (0.0 if standing else 2.0 * edge),
    )
