"""How cells lie over each other: gaps, layers of a room and their heights, room to grow."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.arrangement.layout import (
    LAYER_GAP_MM,
    half_sizes,
    layer_step_mm,
    layers_height_mm,
)
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.holders import Holder
from lumvak.core.document.arrangement import Arrangement
from lumvak.core.figures.figure import Figure, Rule

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
SWELL_SHARE = Rule("arrangement.swell_share", "Flat cells grow by", "%",
                   "pouches 8 %, cans of metal nothing", "methods 40")
# fmt: on

Array = NDArray[np.float64]
# Room that a cell wants to grow over its life, as a share of its thickness (methods 40).
SWELL = {"pouch": 0.08}


def gap_of(arrangement: Arrangement, cell: Cell, gap_mm: float) -> float:
    """Gap in mm between two wrappers: what the holder leaves, else the gap set for the joints."""
    if arrangement.pitch_mm is None:
        return gap_mm
    return max(0.0, arrangement.pitch_mm - cell.pitch_mm)


def between_of(arrangement: Arrangement) -> float:
    """Height in mm that strips and cover take between two layers, and between rows of ends."""
    return LAYER_GAP_MM if arrangement.between_mm is None else arrangement.between_mm


def is_nested(arrangement: Arrangement, cell: Cell) -> bool:
    """Whether rows lie in the gaps of each other."""
    return arrangement.rows == "nested" and cell.diameter_mm is not None


def swell_of(arrangement: Arrangement, cell: Cell) -> Figure:
    """By how much flat cells grow over their life, as a share of their thickness."""
    return SWELL_SHARE.said_or(arrangement.swell_share, SWELL.get(cell.format, 0.0))


def grown(cell: Cell, arrangement: Arrangement) -> Cell:
    """A flat cell as thick as it will be one day; a round one as it is."""
    share = swell_of(arrangement, cell).number
    if cell.thickness_mm is None or not share:
        return cell
    return replace(cell, thickness_mm=round(cell.thickness_mm * (1.0 + share), 6))


def in_holder(arrangement: Arrangement, holder: Holder | None) -> Arrangement:
    """An arrangement whose ``holder`` has been put into its pitch, wall, layers and height."""
    if holder is None:
        return arrangement
    room, edge = arrangement.room, holder.edge_mm
    changes: dict[str, object] = {"holder": None, "wall_mm": arrangement.wall_mm + edge}
    if arrangement.pitch_mm is None:
        changes["pitch_mm"] = holder.pitch_mm
    if arrangement.between_mm is None:
        # Both halves stand over the ends, strips and cover lie on them.
        changes["between_mm"] = LAYER_GAP_MM + 2.0 * holder.rib_mm
    if arrangement.axis != "up" and room.height_mm is not None:
        left = max(0.1, room.height_mm - 2.0 * edge)
        changes["room"] = replace(room, height_mm=left)
    return replace(arrangement, **changes)


def layers_in(arrangement: Arrangement, cell: Cell, gap_mm: float) -> int:
    """How many layers the height holds; one where no height is given."""
    height = arrangement.room.height_mm
    if arrangement.room.kind == "none" or height is None:
        return 1
    given = (cell, arrangement.axis, gap_mm, between_of(arrangement), is_nested(arrangement, cell))
    spare = height - layers_height_mm(*given, 1)
    return 0 if spare < -1e-9 else math.floor(spare / layer_step_mm(*given) + 1e-9) + 1


def spans_mm(arrangement: Arrangement, cell: Cell, gap_mm: float, layers: int) -> Array:
    """(layers, 2) heights in mm at which each layer begins and ends, with its cover."""
    between, nested = between_of(arrangement), is_nested(arrangement, cell)
    step = layer_step_mm(cell, arrangement.axis, gap_mm, between, nested)
    tall = 2.0 * half_sizes(cell, arrangement.axis)[2]
    high = tall + (between if arrangement.axis == "up" else 0.0)
    begin = np.arange(layers) * step
    return np.stack([begin, begin + high], axis=1)
