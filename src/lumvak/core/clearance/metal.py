"""The metal that lies on the ends of the cells, and what of it comes too near (methods 39)."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

import numpy as np
import shapely
from msgspec import Struct
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from lumvak.core.clearance.least import apart_mm
from lumvak.core.clearance.planes import Ends
from lumvak.core.said import Text

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Shapes = NDArray[np.object_]
# Less than this in mm² is no overlap, and less than this in mm no shortfall: what rounding leaves.
OVERLAP_MM2, SLACK_MM = 0.01, 1e-3
# So much beyond the least distance in mm is looked at, to tell how near the nearest lies.
BESIDE_MM = 0.5
# No rim lies farther than this from the bare metal within it.
RIM_MM = 20.0


class Metals(Struct, frozen=True, eq=False):
    """Bare pieces as arrays of length M: shape, plane and level; ``name`` tells one in words."""

    shape: Shapes
    plane: Index
    level: Index
    name: Callable[[int], Text]

    def __len__(self) -> int:
        """How many pieces there are."""
        return len(self.plane)


class Near(Struct, frozen=True):
    """Two things of different potential too near: how far apart in mm, 0 where they touch.

    ``metal`` and ``other`` are pieces by number; where the other is the end of a cell, ``end`` is
    its terminal and ``other`` -1. ``over_mm2`` is how much of one lies on the other, ``least_mm``
    what should be between them, ``volts`` what stands between them, ``at_mm`` where.
    """

    metal: int
    other: int
    end: int
    rim: bool
    apart_mm: float
    over_mm2: float
    least_mm: float
    volts: float
    at_mm: tuple[float, float]

    @property
    def touches(self) -> bool:
        """Whether the two touch."""
        return self.apart_mm <= 0.0


class TooNear(Struct, frozen=True):
    """What comes too near in a pack; the least distance of what does not touch; rings wanted.

    ``rings`` are the positive ends, by terminal, whose own rim a piece crosses.
    """

    near: tuple[Near, ...]
    closest_mm: float
    rings: tuple[int, ...]


def too_near(
    metals: Metals, ends: Ends, least_mm: float | None, group_v: float, first: int = 0
) -> TooNear:
    """Everything of different potential that touches or lies nearer than it may.

    ``least_mm`` is what was typed, ``group_v`` a full group. Each pair is told once; of the end of
    a cell either its bare metal or its rim. Only pieces from ``first`` on are looked at, against
    all: those before it were looked at already.
    """
    if len(metals) <= first:
        return TooNear((), float("inf"), ())
    most = float(apart_mm(least_mm, np.asarray(np.ptp(ends.level) * group_v)))
    among, closest = _among(metals, first, least_mm, group_v, most)
    over, nearest, rings = _over_ends(metals, first, ends, least_mm, group_v, most)
    return TooNear((*among, *over), min(closest, nearest), rings)


def both(one: TooNear, other: TooNear) -> TooNear:
    """What was found of some pieces and of others."""
    return TooNear(
        (*one.near, *other.near),
        min(one.closest_mm, other.closest_mm),
        tuple(sorted({*one.rings, *other.rings})),
    )


class _Among(NamedTuple):
    """Pieces that come too near each other, and the least distance of others."""

    near: list[Near]
    closest_mm: float


def _among(
    metals: Metals, first: int, least_mm: float | None, group_v: float, most: float
) -> _Among:
    """Pieces that come too near each other, and the least distance of others nearby."""
    shapes, plane, level = metals.shape, metals.plane, metals.level
    one, two = shapely.STRtree(shapes).query(_around(shapes[first:], most + BESIDE_MM))
    one = one + first
    kept = ((one < two) | (two < first)) & (plane[one] == plane[two]) & (level[one] != level[two])
    one, two = one[kept], two[kept]
    apart = shapely.distance(shapes[one], shapes[two])
    within = apart <= most + BESIDE_MM
    one, two, apart = one[within], two[within], apart[within]
    volts = np.abs(level[one] - level[two]) * group_v
    least = apart_mm(least_mm, volts)
    touching = _overlap(shapes[one], shapes[two], apart)
    bad = (touching > 0.0) | (apart < least - SLACK_MM)
    found = [
        Near(
            int(one[k]),
            int(two[k]),
            end=-1,
            rim=False,
            apart_mm=float(apart[k]),
            over_mm2=float(touching[k]),
            least_mm=float(least[k]),
            volts=float(volts[k]),
            at_mm=_between(shapes[one[k]], shapes[two[k]]),
        )
        for k in np.flatnonzero(bad)
    ]
    return _Among(found, float(apart.min(initial=np.inf)))


class _OverEnds(NamedTuple):
    """Pieces too near to the ends of cells, the least distance, rims of their own crossed."""

    near: list[Near]
    closest_mm: float
    rims: tuple[int, ...]


def _over_ends(
    metals: Metals, first: int, ends: Ends, least_mm: float | None, group_v: float, most: float
) -> _OverEnds:
    """Pieces too near to the ends of cells, the least distance, and rims of their own crossed."""
    shapes, plane, level = metals.shape, metals.plane, metals.level
    metal, end = ends.tree.query(_around(shapes[first:], most + BESIDE_MM))
    metal = metal + first
    kept = plane[metal] == ends.planes.plane[end]
    metal, end = metal[kept], end[kept]
    own = level[metal] == ends.level[end]
    # On a positive end of its own level a piece crosses the rim, which is a group lower.
    crossing = own & (ends.rim_level[end] != level[metal])
    over, near = shapes[metal[crossing]], end[crossing]
    beyond = shapely.intersects(over, ends.bare[near]) & ~shapely.covers(ends.bare[near], over)
    rings = near[beyond]
    metal, end = metal[~own], end[~own]
    apart = shapely.distance(shapes[metal], ends.bare[end])
    # What lies farther from the bare metal may still lie on the rim around it.
    within = apart <= most + BESIDE_MM + np.where(shapely.is_empty(ends.rim[end]), 0.0, RIM_MM)
    metal, end, apart = metal[within], end[within], apart[within]
    volts = np.abs(level[metal] - ends.level[end]) * group_v
    least = apart_mm(least_mm, volts)
    touching = _overlap(shapes[metal], ends.bare[end], apart)
    foreign = np.flatnonzero(ends.rim_level[end] != level[metal])
    foreign = foreign[shapely.intersects(shapes[metal[foreign]], ends.rim[end[foreign]])]
    rim = np.zeros(len(metal))
    rim[foreign] = _overlap(shapes[metal[foreign]], ends.rim[end[foreign]], np.zeros(len(foreign)))
    bad = (touching > 0.0) | (rim > 0.0) | (apart < least - SLACK_MM)
    found = [
        Near(
            int(metal[k]),
            -1,
            end=int(end[k]),
            rim=bool(touching[k] == 0.0 and rim[k] > 0.0),
            apart_mm=0.0 if rim[k] > 0.0 else float(apart[k]),
            over_mm2=float(max(touching[k], rim[k])),
            least_mm=float(least[k]),
            volts=float(volts[k]),
            at_mm=_between(shapes[metal[k]], ends.bare[end[k]]),
        )
        for k in np.flatnonzero(bad)
    ]
    return _OverEnds(found, float(apart.min(initial=np.inf)), tuple(sorted(set(rings.tolist()))))


def _around(shapes: Shapes, reach_mm: float) -> Shapes:
    """The boxes of shapes, wider on all sides: quicker to look through than distances."""
    low_x, low_y, high_x, high_y = shapely.bounds(shapes).T
    return np.asarray(
        shapely.box(low_x - reach_mm, low_y - reach_mm, high_x + reach_mm, high_y + reach_mm)
    )


def _overlap(one: Shapes, two: Shapes, apart: Array) -> Array:
    """(K,) area in mm² that lies on each other, 0 where it is less than rounding leaves."""
    area = np.zeros(len(one))
    close = apart <= 0.0
    area[close] = shapely.area(shapely.intersection(one[close], two[close]))
    return np.where(area > OVERLAP_MM2, area, 0.0)


def _between(one: BaseGeometry, two: BaseGeometry) -> tuple[float, float]:
    """The middle of where two shapes overlap, or of the shortest line between them."""
    shared = one.intersection(two)
    middle = (shapely.shortest_line(one, two) if shared.is_empty else shared).centroid
    return float(middle.x), float(middle.y)
