"""The pack on the table: where every cell lies, its terminals, its neighbours and what it weighs.

Millimetres from the room's corner, x to the right, y downwards as drawn, seen from side A. Cells
are in the order of their groups; terminal ``2 c`` is the positive end of cell ``c``, ``2 c + 1``
its negative end.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import cached_property

import numpy as np
import shapely
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.arrangement import Axis, Spot

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Mask = NDArray[np.bool_]
AXES: tuple[Axis, ...] = ("up", "along", "across")
# Posts and tabs sit at this share of the width from the middle (methods 18).
POST_SHARE = 0.3
FACE_A, FACE_B, FACE_LOW, FACE_HIGH = 0, 1, 2, 3
FACE_NAMES = ("side A", "side B", "the low end", "the high end")
# Neighbours may lie this much farther apart than they should and still be neighbours.
REACH = 1.12
LAYER_GAP_MM = 3.0
# Cells whose middles differ by no more stand in one line.
SAME_LINE_MM = 1.0


def half_sizes(cell: Cell, axis: Axis) -> tuple[float, float, float]:
    """Half the extent in mm of one cell along x, y and z for a direction."""
    long, short = cell.footprint_mm
    return {
        "up": (long / 2.0, short / 2.0, cell.height_mm / 2.0),
        "along": (cell.height_mm / 2.0, short / 2.0, long / 2.0),
        "across": (short / 2.0, cell.height_mm / 2.0, long / 2.0),
    }[axis]


def face_to_face(cell: Cell, axis: Index, apart_mm: Array) -> Mask:
    """Which neighbours, (K, 3) so far apart along x, y and z, lie beside each other across their
    thin side; round ones always do.
    """
    if cell.diameter_mm is not None:
        return np.ones(len(apart_mm), dtype=bool)
    # The thin side runs along y, but along x where the top looks along y.
    thin = np.where(np.asarray(axis) == AXES.index("across"), 0, 1)
    aside = np.abs(np.asarray(apart_mm)).copy()
    aside[np.arange(len(aside)), thin] = 0.0
    return np.asarray(aside.max(axis=1, initial=0.0) < SAME_LINE_MM)


def layer_step_mm(cell: Cell, axis: Axis, gap_mm: float, between_mm: float, nested: bool) -> float:
    """Height in mm from one layer to the next: ``between_mm`` holds the strips of standing cells.

    Lying ones have theirs at their ends: they lie a gap apart, round ones in nested rows nearer.
    """
    tall = 2.0 * half_sizes(cell, axis)[2]
    if axis == "up":
        return tall + between_mm
    step = tall + gap_mm
    return step * math.sqrt(0.75) if nested and cell.diameter_mm is not None else step


def layers_height_mm(
    cell: Cell, axis: Axis, gap_mm: float, between_mm: float, nested: bool, layers: int
) -> float:
    """Height in mm of so many layers, with the strips of standing cells on both sides."""
    tall = 2.0 * half_sizes(cell, axis)[2]
    cover = between_mm if axis == "up" else 0.0
    return tall + cover + (layers - 1) * layer_step_mm(cell, axis, gap_mm, between_mm, nested)


class Layout(Struct, frozen=True, eq=False, dict=True):
    """Every cell of a pack in its place; arrays of length N = series x parallel."""

    cell: Cell
    series: int
    parallel: int
    gap_mm: float
    x_mm: Array
    y_mm: Array
    layer: Index
    axis: Index
    turned: Mask
    between_mm: float = LAYER_GAP_MM
    nested: bool = False

    def __len__(self) -> int:
        """How many cells there are."""
        return len(self.x_mm)

    @cached_property
    def group(self) -> Index:
        """Group of every cell, (N,), from 0 at the most negative."""
        return np.repeat(np.arange(self.series), self.parallel)

    @cached_property
    def level(self) -> Index:
        """(2 N,) level of every terminal: its group's lower one at the negative end.

        Level ``k`` is the potential between group ``k`` and group ``k + 1``.
        """
        levels = np.repeat(self.group, 2)
        levels[0::2] += 1
        return levels

    @cached_property
    def half_mm(self) -> Array:
        """(N, 3) half extents in mm."""
        extents: Array = np.array([half_sizes(self.cell, axis) for axis in AXES])
        return np.asarray(extents[self.axis], dtype=np.float64)

    @cached_property
    def z_mm(self) -> Array:
        """Height in mm of every cell's middle over the floor, (N,)."""
        steps = np.array(
            [
                layer_step_mm(self.cell, axis, self.gap_mm, self.between_mm, self.nested)
                for axis in AXES
            ]
        )
        step = steps[self.axis].max(initial=0.0)
        return np.asarray(self.layer * step + self.half_mm[:, 2])

    @cached_property
    def _terminals(self) -> tuple[Array, Index]:
        sign = np.where(self.turned, -1.0, 1.0)
        places = np.repeat(np.stack([self.x_mm, self.y_mm, self.z_mm], axis=1), 2, axis=0)
        face = np.zeros(2 * len(self), dtype=np.intp)
        up = self.axis == 0
        long = self.cell.footprint_mm[0]
        for pole, way in ((0, 1.0), (1, -1.0)):
            end = sign * way
            if self.cell.diameter_mm is None:
                # Posts and tabs are on top; they lie along the longer side.
                shift = end * POST_SHARE * long
                places[pole::2, 0] += np.where(up, shift, 0.0)
                places[pole::2, 2] += np.where(up, self.half_mm[:, 2], 0.0)
            else:
                places[pole::2, 2] += np.where(up, end * self.half_mm[:, 2], 0.0)
                face[pole::2] = np.where(end > 0.0, FACE_A, FACE_B)
            for axis, column in ((1, 0), (2, 1)):
                lying = self.axis == axis
                if self.cell.diameter_mm is None:
                    # Its top looks to the high end; turned over, the posts change places.
                    places[pole::2, 2] += np.where(lying, end * POST_SHARE * long, 0.0)
                    places[pole::2, column] += np.where(lying, self.half_mm[:, column], 0.0)
                    face[pole::2] = np.where(lying, FACE_HIGH, face[pole::2])
                    continue
                places[pole::2, column] += np.where(lying, end * self.half_mm[:, column], 0.0)
                face[pole::2] = np.where(
                    lying, np.where(end > 0.0, FACE_HIGH, FACE_LOW), face[pole::2]
                )
        return places, face

    @property
    def terminal_mm(self) -> Array:
        """(2 N, 3) places of the terminals in mm."""
        return self._terminals[0]

    @property
    def face(self) -> Index:
        """(2 N,) where each terminal is reached from: FACE_A to FACE_HIGH."""
        return self._terminals[1]

    @cached_property
    def neighbours(self) -> Index:
        """(K, 2) pairs of cells side by side, the lower first: of one direction, walls touching."""
        return _neighbours(self)

    @cached_property
    def touching(self) -> Index:
        """(K, 2) pairs of cells whose walls lie side by side, in whatever direction they point."""
        return _touching(self)

    def stacked(self, pairs: Index) -> Mask:
        """Which (K, 2) pairs of neighbours stand face to face; round ones always do."""
        middle = np.stack([self.x_mm, self.y_mm, self.z_mm], axis=1)
        return face_to_face(
            self.cell, self.axis[pairs[:, 0]], middle[pairs[:, 1]] - middle[pairs[:, 0]]
        )

    @cached_property
    def name(self) -> tuple[str, ...]:
        """``g3c2``: the second cell of the third group."""
        return tuple(
            f"g{group + 1}c{member + 1}"
            for group in range(self.series)
            for member in range(self.parallel)
        )

    @cached_property
    def size_mm(self) -> tuple[float, float, float]:
        """Length, width and height in mm over the cells, with strips and cover on standing ones."""
        if not len(self):
            return 0.0, 0.0, 0.0
        low = np.stack([self.x_mm, self.y_mm], axis=1) - self.half_mm[:, :2]
        high = np.stack([self.x_mm, self.y_mm], axis=1) + self.half_mm[:, :2]
        length, width = (high.max(axis=0) - low.min(axis=0)).tolist()
        cover = self.between_mm * (self.axis == 0)
        return length, width, float((self.z_mm + self.half_mm[:, 2] + cover).max())

    @cached_property
    def corner_mm(self) -> tuple[float, float]:
        """The corner of the pack nearest the origin, in mm."""
        return (
            float((self.x_mm - self.half_mm[:, 0]).min()),
            float((self.y_mm - self.half_mm[:, 1]).min()),
        )

    @cached_property
    def centre_mm(self) -> tuple[float, float, float]:
        """Where the weight of the cells has its centre, in mm from the room's corner."""
        return float(self.x_mm.mean()), float(self.y_mm.mean()), float(self.z_mm.mean())

    def spots(self) -> tuple[Spot, ...]:
        """The cells as the project keeps them."""
        return tuple(
            Spot(
                group=int(self.group[cell]) + 1,
                x_mm=round(float(self.x_mm[cell]), 3),
                y_mm=round(float(self.y_mm[cell]), 3),
                layer=int(self.layer[cell]),
                axis=AXES[self.axis[cell]],
                turned=bool(self.turned[cell]),
            )
            for cell in range(len(self))
        )


def layout_of(
    cell: Cell,
    series: int,
    parallel: int,
    gap_mm: float,
    spots: Sequence[Spot],
    between_mm: float = LAYER_GAP_MM,
    nested: bool = False,
) -> Layout:
    """The layout of cells placed by hand, in the order of their groups and then of the list.

    Needs ``parallel`` spots in each of the ``series`` groups; see ``placed.spot_flaws``.
    """
    ordered = sorted(spots, key=lambda spot: spot.group)
    return Layout(
        cell,
        series,
        parallel=parallel,
        gap_mm=gap_mm,
        x_mm=np.array([spot.x_mm for spot in ordered]),
        y_mm=np.array([spot.y_mm for spot in ordered]),
        layer=np.array([spot.layer for spot in ordered], dtype=np.intp),
        axis=np.array([AXES.index(spot.axis) for spot in ordered], dtype=np.intp),
        turned=np.array([spot.turned for spot in ordered], dtype=bool),
        between_mm=between_mm,
        nested=nested,
    )


def _pairs(layout: Layout, reach_mm: float) -> Index:
    """(K, 2) pairs of cells whose middles lie within a distance, seen from above."""
    return near_pairs(layout.x_mm, layout.y_mm, reach_mm)


def near_pairs(x_mm: Array, y_mm: Array, reach_mm: float) -> Index:
    """(K, 2) pairs of places that lie within a distance of each other, the lower first."""
    if len(x_mm) < 2:
        return np.zeros((0, 2), dtype=np.intp)
    points = np.asarray(shapely.points(x_mm, y_mm), dtype=object)
    one, other = shapely.STRtree(points).query(points, predicate="dwithin", distance=reach_mm)
    found = np.stack([one, other], axis=1)[one < other]
    return np.asarray(found[np.lexsort((found[:, 1], found[:, 0]))], dtype=np.intp)


def between_mm(layout: Layout, pairs: Index) -> Array:
    """(K,) least distance in mm between the walls of pairs of cells; negative where they overlap.

    Exact for round cells that stand or lie alike; others are taken as boxes.
    """
    one, other = pairs[:, 0], pairs[:, 1]
    middle = np.stack([layout.x_mm, layout.y_mm, layout.z_mm], axis=1)
    apart = np.abs(middle[one] - middle[other])
    room = apart - (layout.half_mm[one] + layout.half_mm[other])
    outside = np.linalg.norm(np.maximum(room, 0.0), axis=1)
    boxed = np.where(outside > 0.0, outside, room.max(axis=1))
    if layout.cell.diameter_mm is None:
        return np.asarray(boxed)
    same = layout.axis[one] == layout.axis[other]
    # Across their common axis two round cells are two circles.
    across = np.array([(0, 1), (1, 2), (0, 2)])[layout.axis[one]]
    rows = np.arange(len(pairs))
    circles = np.hypot(apart[rows, across[:, 0]], apart[rows, across[:, 1]])
    circles -= layout.cell.diameter_mm
    along = room[rows, np.array([2, 0, 1])[layout.axis[one]]]
    round_gap = np.where(along < 0.0, circles, np.maximum(circles, along))
    return np.asarray(np.where(same, round_gap, boxed))


def overlaps(layout: Layout) -> Index:
    """(K, 2) pairs of cells that take up the same place."""
    if len(layout) < 2:
        return np.zeros((0, 2), dtype=np.intp)
    pairs = _pairs(layout, float(2.0 * np.linalg.norm(layout.half_mm, axis=1).max()))
    return np.asarray(pairs[between_mm(layout, pairs) < -1e-3])


def _touching(layout: Layout) -> Index:
    if len(layout) < 2:
        return np.zeros((0, 2), dtype=np.intp)
    limit = layout.gap_mm + (REACH - 1.0) * layout.cell.pitch_mm
    pairs = _pairs(layout, float(2.0 * np.linalg.norm(layout.half_mm, axis=1).max()) + limit)
    # Between layers of standing cells lie strips and their cover.
    lying = (layout.axis[pairs] > 0).all(axis=1)
    pairs = pairs[lying | (layout.layer[pairs[:, 0]] == layout.layer[pairs[:, 1]])]
    return np.asarray(pairs[between_mm(layout, pairs) <= limit])


def _neighbours(layout: Layout) -> Index:
    pairs = layout.touching
    one, other = pairs[:, 0], pairs[:, 1]
    pairs = pairs[layout.axis[one] == layout.axis[other]]
    # Lying end to end no strip joins them in one plane.
    along = np.where(
        layout.axis[pairs] == AXES.index("across"), layout.y_mm[pairs], layout.x_mm[pairs]
    )
    level = np.abs(along[:, 0] - along[:, 1]) < SAME_LINE_MM
    return np.asarray(pairs[(layout.axis[pairs[:, 0]] == 0) | level])


class Barriers(Struct, frozen=True, eq=False):
    """Cans side by side that want a barrier: (K, 2) pairs, and (K,) V between them."""

    pairs: Index
    volts: Array


def potential_v(groups: int, full_v: float) -> float:
    """V between two places that many groups apart, every group at ``full_v`` (methods 18)."""
    return groups * full_v


def barriers_of(layout: Layout, full_v: float, over_v: float) -> Barriers:
    """Cans side by side whose potential differs by more than ``over_v``.

    A round cell's can is its negative end, so neighbours differ by the groups between them
    (methods 18).
    """
    pairs = layout.touching
    volts = np.abs(layout.group[pairs[:, 0]] - layout.group[pairs[:, 1]]) * full_v
    far = volts > over_v
    return Barriers(pairs[far], volts[far])
