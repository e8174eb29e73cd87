"""The outline of a plate over the cells of a joint: their own places, clear of all others."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import shapely
from msgspec import Struct
from numpy.typing import NDArray
from shapely import affinity
from shapely.geometry import LineString, MultiPolygon, Point, Polygon
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.layout import Layout
from lumvak.core.arrays import distinct
from lumvak.core.clearance.least import apart_mm
from lumvak.core.clearance.planes import POST_WIDTH_SHARE, Ends

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Corner = tuple[float, float]
# A plate covers its cells and ends so far short of their walls; between two of them it is never
# narrower than this share of a cell (methods 20).
EDGE_MM, BRIDGE_SHARE = 1.0, 0.6
# Corners nearer to a straight line than this in mm are left out; so much farther plates keep off.
SIMPLE_MM, SPARE_MM = 0.05, 0.1
STEPPED = "stepped"
# What lacks at a corner is a rectangle where it fills so much of the one around it.
SQUARE_SHARE = 0.8


class Plate(Struct, frozen=True, eq=False):
    """What one plate joins: its plane and level, and both ends of the pieces that it stands for."""

    plane: int
    level: int
    a: Index
    b: Index

    @property
    def terminals(self) -> Index:
        """The terminals that it joins, each once, rising, (k,)."""
        return distinct(np.concatenate([self.a, self.b]))


class LaidPlate(Struct, frozen=True, eq=False):
    """A plate with its shape in mm, and the pieces of the network that it is."""

    plate: Plate
    pieces: tuple[int, ...]
    shape: BaseGeometry


def plate_shapes(
    layout: Layout, ends: Ends, plates: Sequence[Plate], least_mm: float | None
) -> list[BaseGeometry]:
    """The shape of each plate, in mm in its plane.

    Its core are the places of its cells and bridges between neighbours; the corners in between are
    filled as far as the cores of other plates, ends of other cells and plates made before allow.
    """
    pitch = layout.cell.pitch_mm + layout.gap_mm
    group_v = layout.cell.voltage_full_v
    cores = [_core(layout, ends, plate) for plate in plates]
    made: list[BaseGeometry] = []
    for k, (plate, core) in enumerate(zip(plates, cores, strict=True)):
        filled = core.buffer(pitch, quad_segs=16).buffer(-pitch, quad_segs=16)
        others = [
            item.buffer(float(apart_mm(least_mm, np.asarray(volts))) + SPARE_MM)
            for other, before in enumerate(plates)
            if other != k and before.plane == plate.plane and before.level != plate.level
            for item in ([made[other]] if other < k else [cores[other]])
            for volts in [abs(before.level - plate.level) * group_v]
        ]
        # What lies farther off than the pack's largest distance takes nothing away.
        reach = float(apart_mm(least_mm, np.asarray(layout.series * group_v))) + SPARE_MM
        foreign = ends.tree.query(filled, predicate="dwithin", distance=reach)
        foreign = foreign[
            (ends.planes.plane[foreign] == plate.plane) & (ends.level[foreign] != plate.level)
        ]
        volts = np.abs(ends.level[foreign] - plate.level) * group_v
        keep_off = shapely.buffer(ends.bare[foreign], apart_mm(least_mm, volts) + SPARE_MM)
        rims = shapely.buffer(ends.rim[foreign[ends.rim_level[foreign] != plate.level]], SPARE_MM)
        away = shapely.union_all([*others, *keep_off, *rims])
        shape = filled.difference(away).union(core.difference(away))
        own = [Point(*at) for at in ends.planes.uv_mm[plate.terminals].tolist()]
        made.append(_one_piece(shape, own).simplify(SIMPLE_MM))
    return made


def _core(layout: Layout, ends: Ends, plate: Plate) -> BaseGeometry:
    """The places of the cells of a plate, and straight bridges between neighbours."""
    uv = ends.planes.uv_mm
    terminals = plate.terminals
    cell = layout.cell
    if cell.diameter_mm is not None:
        radius, width = cell.diameter_mm / 2.0 - EDGE_MM, BRIDGE_SHARE * cell.diameter_mm
    else:
        radius = 1.5 * POST_WIDTH_SHARE * cell.footprint_mm[0]
        width = 2.0 * radius
    places = [Point(*uv[end]).buffer(radius, quad_segs=12) for end in terminals.tolist()]
    bridges = [
        LineString([uv[one], uv[two]]).buffer(width / 2.0, cap_style="flat")
        for one, two in zip(plate.a.tolist(), plate.b.tolist(), strict=True)
    ]
    return shapely.union_all([*places, *bridges])


def _one_piece(shape: BaseGeometry, own: Sequence[Point]) -> BaseGeometry:
    """The part of a shape that most of its own places lie in: what is cut off is no plate."""
    parts = list(shape.geoms) if isinstance(shape, MultiPolygon) else [shape]
    return max(parts, key=lambda part: (sum(map(part.contains, own)), part.area))


def letter_of(shape: BaseGeometry, least_mm2: float) -> str:
    """The letter that a plate looks like, L, U, T or Z; empty for a rectangle, else “stepped”.

    By what lacks of the rectangle around it, in parts larger than ``least_mm2``.
    """
    # Straight edges run along the rows, whichever way those run.
    (ring,), _ = rings_of(shape)
    edges = [(math.dist(one, other), one, other) for one, other in pairwise((*ring, ring[0]))]
    _, (x, y), (far_x, far_y) = max(edges)
    turn = -math.degrees(math.atan2(far_y - y, far_x - x))
    level = affinity.rotate(shape, turn, origin=(0.0, 0.0))
    left, top, right, bottom = level.bounds
    around = shapely.box(left, top, right, bottom)
    corners = []
    for part in shapely.get_parts(around.difference(level.buffer(SIMPLE_MM))):
        if part.area < least_mm2:
            continue
        low_x, low_y, high_x, high_y = part.bounds
        if part.area < SQUARE_SHARE * (high_x - low_x) * (high_y - low_y):
            return STEPPED
        touched = (
            low_x - left < 1.0,
            high_x > right - 1.0,
            low_y - top < 1.0,
            high_y > bottom - 1.0,
        )
        corners.append(touched)
    if not corners:
        return ""
    counts = [sum(touched) for touched in corners]
    if len(corners) == 1:
        return {1: "U", 2: "L"}.get(counts[0], STEPPED)
    if len(corners) == 2 and counts == [2, 2]:
        shared = sum(one and other for one, other in zip(*corners, strict=True))
        return "T" if shared else "Z"
    return STEPPED


class Rings(NamedTuple):
    """The outer ring of a plate, and those of what is cut out of it."""

    outer: tuple[tuple[Corner, ...], ...]
    inner: tuple[tuple[Corner, ...], ...]


def rings_of(
    shape: BaseGeometry,
) -> Rings:
    """The outer ring of a plate, and the rings of what is cut out of it."""
    if not isinstance(shape, Polygon) or shape.is_empty:
        return Rings((), ())

    def corners(ring: BaseGeometry) -> tuple[Corner, ...]:
        return tuple((float(x), float(y)) for x, y, *_ in list(ring.coords)[:-1])

    return Rings((corners(shape.exterior),), tuple(corners(ring) for ring in shape.interiors))
