"""The parts that take room beside the cells: in which layers, and what they leave free."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import affinity
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.layers import is_nested, layers_in, spans_mm
from lumvak.core.arrangement.outline import SLACK_MM, Flaw, inside
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.arrangement import Arrangement, KeptFree
from lumvak.core.said import phrase, say, say_sides

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Mask = NDArray[np.bool_]
NO_ROOM_MM = 1e5
# So much of two parts may lie on each other before it is told, in mm.
TOUCHING_MM = 0.05


def box_of(part: KeptFree) -> BaseGeometry:
    """The rectangle of a part, seen from above."""
    x, y = part.x_mm, part.y_mm
    return shapely.box(x, y, x + part.length_mm, y + part.width_mm)


def between_cells_mm(cell: Cell, gap_mm: float, nested: bool) -> float:
    """Width in mm of the largest round thing between standing cells of ``gap_mm``."""
    if cell.diameter_mm is None:
        return gap_mm
    pitch = cell.diameter_mm + gap_mm
    return (2.0 / math.sqrt(3.0) if nested else math.sqrt(2.0)) * pitch - cell.diameter_mm


def layers_taken(part: KeptFree, arrangement: Arrangement, cell: Cell, gap_mm: float) -> Mask:
    """Of the layers that the room holds those in which no cell may lie where a part is, (L,).

    One that lies between the cells, as a sensor does, takes none.
    """
    layers = max(1, layers_in(arrangement, cell, gap_mm))
    if part.kind == "sensor":
        width = between_cells_mm(cell, gap_mm, is_nested(arrangement, cell))
        if max(part.length_mm, part.width_mm) <= width:
            return np.zeros(layers, dtype=bool)
    if part.height_mm is None:
        return np.ones(layers, dtype=bool)
    begin, end = spans_mm(arrangement, cell, gap_mm, layers).T
    if part.stands == "floor":
        return np.asarray(begin < part.height_mm - SLACK_MM)
    high = arrangement.room.height_mm if arrangement.room.kind != "none" else None
    # Without a lid it lies on top of them.
    lid = math.inf if high is None else high
    return np.asarray(end > lid - part.height_mm + SLACK_MM)


def usable(
    shape: BaseGeometry | None, arrangement: Arrangement, cell: Cell, gap_mm: float
) -> BaseGeometry | None:
    """The room less what is kept free to wall and plates, and what parts take of all layers."""
    takes = [
        part
        for part in arrangement.kept_free
        if layers_taken(part, arrangement, cell, gap_mm).all()
    ]
    if shape is not None:
        inner: BaseGeometry = shape.buffer(-arrangement.wall_mm, join_style="mitre")
        plate = plates_mm(arrangement, cell)
        if plate:
            inner = shapely.intersection_all(
                [
                    affinity.translate(inner, sign * plate * along, sign * plate * (1.0 - along))
                    for along in [float(arrangement.axis == "across")]
                    for sign in (-1.0, 1.0)
                ]
            )
    elif takes:
        inner = shapely.box(-NO_ROOM_MM, -NO_ROOM_MM, NO_ROOM_MM, NO_ROOM_MM)
    else:
        return None
    return inner.difference(shapely.union_all([box_of(part) for part in takes])) if takes else inner


def plates_mm(arrangement: Arrangement, cell: Cell) -> float:
    """Thickness in mm of each of the two plates between which flat cells are pressed, or 0."""
    return 0.0 if cell.diameter_mm is not None else arrangement.plate_mm or 0.0


def clear_of_parts(
    x_mm: Array,
    y_mm: Array,
    half: Array,
    disc: Mask,
    layer: Index,
    arrangement: Arrangement,
    cell: Cell,
    gap_mm: float,
) -> Mask:
    """Which places, (N,), no part takes that is lower than the room.

    Middles, (N, 2) half sizes, which are discs, and the layer of each, as ``inside`` takes them.
    """
    clear = np.ones(len(x_mm), dtype=bool)
    for part in arrangement.kept_free:
        taken = layers_taken(part, arrangement, cell, gap_mm)
        if not taken.any() or taken.all():
            continue
        here = np.flatnonzero(taken[np.minimum(layer, len(taken) - 1)])
        around = shapely.box(-NO_ROOM_MM, -NO_ROOM_MM, NO_ROOM_MM, NO_ROOM_MM)
        rest = around.difference(box_of(part))
        clear[here] &= inside(rest, x_mm[here], y_mm[here], half[here], disc[here])
    return clear


def part_flaws(shape: BaseGeometry | None, arrangement: Arrangement) -> Iterator[Flaw]:
    """Parts that reach out of the room, or lie where another does."""
    high = arrangement.room.height_mm if arrangement.room.kind != "none" else None
    parts = arrangement.kept_free
    for place, part in enumerate(parts):
        box = box_of(part)
        at = (float(box.centroid.x), float(box.centroid.y))
        if shape is not None and not shape.buffer(TOUCHING_MM).covers(box):
            yield Flaw(
                "part-outside",
                phrase("The {} reaches out of the room", part.name),
                "Move it inside, or make it smaller.",
                *at,
            )
        if high is not None and part.height_mm is not None and part.height_mm > high:
            yield Flaw(
                "part-high",
                phrase(
                    "The {} is {} high, the room {}",
                    part.name,
                    say(part.height_mm, "mm"),
                    say(high, "mm"),
                ),
                "Lay it another way, or make the room higher.",
                *at,
            )
        for other in parts[place + 1 :]:
            shared = box.intersection(box_of(other))
            left, top, right, bottom = shared.bounds if not shared.is_empty else (0.0,) * 4
            sides = (right - left, bottom - top)
            if min(sides) > TOUCHING_MM and _over_each_other_mm(part, other, high):
                yield Flaw(
                    "parts-overlap",
                    phrase("The {} and the {} share {}", part.name, other.name, say_sides(sides)),
                    "Move one of them.",
                    float(shared.centroid.x),
                    float(shared.centroid.y),
                )


def _over_each_other_mm(one: KeptFree, other: KeptFree, high: float | None) -> bool:
    """Whether two parts that share a place from above meet in height as well."""
    if one.height_mm is None or other.height_mm is None or one.stands == other.stands:
        return True
    return high is not None and one.height_mm + other.height_mm > high + TOUCHING_MM
