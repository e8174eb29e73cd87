"""How wide pieces may lie, and how far they may reach beyond their last joint (methods 39)."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator
from typing import Any

import numpy as np
import shapely
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrangement.layout import Layout
from lumvak.core.clearance.least import apart_mm
from lumvak.core.clearance.metal import SLACK_MM
from lumvak.core.clearance.planes import Ends, end_width_mm

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Mask = NDArray[np.bool_]
Shapes = NDArray[np.object_]
# No piece is narrower, nor reaches less beyond its joint, whatever lies beside it.
NARROWEST_MM, LEAST_REACH_MM = 3.0, 1.0
HALVINGS = 9


class Widths(Struct, frozen=True):
    """The widest piece in mm along a group, and across one place of a series joint.

    ``places`` is how many places the narrowest series joint has.
    """

    group_mm: float
    series_mm: float
    places: int

    def widest_mm(self, outer: bool) -> float:
        """The widest piece on one place: of a series joint where ``outer``, else of a group."""
        return self.series_mm if outer else self.group_mm

    def lanes(self, width_mm: float, outer: bool) -> int:
        """How many conductors so wide lie side by side on one place; at least one."""
        return max(1, math.floor(min(self.widest_mm(outer), 1e6) / width_mm + 1e-6))


# Where nothing is laid yet: as wide as wanted.
ANY_WIDTH = Widths(math.inf, math.inf, 1)


class Fits(Struct, frozen=True):
    """How wide pieces may lie, and how far in mm they reach beyond their last joint."""

    widths: Widths
    reach_mm: float


class Lines(Struct, frozen=True, eq=False):
    """Pieces as lines between terminals: (M,) both ends, and which join two groups."""

    a: Index
    b: Index
    outer: Mask


def fits_of(
    layout: Layout,
    ends: Ends,
    lines: Lines,
    least_mm: float | None,
    reach_mm: float,
) -> Fits:
    """How wide the pieces on ``lines`` may be so that nothing comes too near.

    ``least_mm`` is what was typed; ``reach_mm`` how far they should reach beyond their last joint,
    which is cut short where that would be too far. By halving, to a hundredth of a millimetre.
    """
    widest = max(end_width_mm(layout.cell), NARROWEST_MM)
    places = np.bincount(layout.level[lines.a[lines.outer]], minlength=layout.series)[1:]
    count = int(places[places > 0].min(initial=layout.parallel))
    if not len(lines.a):
        return Fits(Widths(widest, widest, count), reach_mm)
    clear = _clear(layout, ends, lines, least_mm, widest, reach_mm)
    reach = _largest(LEAST_REACH_MM, reach_mm, lambda r: clear(NARROWEST_MM, NARROWEST_MM, r))
    both = _largest(NARROWEST_MM, widest, lambda w: clear(w, w, reach))
    series = _largest(both, widest, lambda w: clear(both, w, reach))
    return Fits(Widths(_down(both), _down(series), count), _down(reach))


def _down(value: float) -> float:
    """To the hundredth below, as it is measured off."""
    return float(np.floor(value * 100.0 + 1e-6) / 100.0)


def _largest(low: float, high: float, holds: Callable[[float], bool]) -> float:
    """The largest value for which something holds that holds for all below; ``low`` if none."""
    if high <= low or holds(high):
        return max(low, high)
    for _ in range(HALVINGS):
        middle = (low + high) / 2.0
        low, high = (middle, high) if holds(middle) else (low, middle)
    return low


def _clear(
    layout: Layout,
    ends: Ends,
    lines: Lines,
    least_mm: float | None,
    widest: float,
    reach_mm: float,
) -> Callable[[float, float, float], bool]:
    """Whether all pieces are clear at a width of the group's, of the series', and a reach.

    It is long, for what is near is picked once, for all widths that are tried.
    """
    planes = ends.planes
    here = planes.plane[lines.a] == planes.plane[lines.b]
    a, b, outer = lines.a[here], lines.b[here], lines.outer[here]
    level, plane = layout.level[a], planes.plane[a]
    start, end = planes.uv_mm[a], planes.uv_mm[b]
    group_v = layout.cell.voltage_full_v
    most = float(apart_mm(least_mm, np.asarray(layout.series * group_v)))
    largest = rectangles(start, end, np.full(len(a), widest), reach_mm)
    # Boxes that touch are more than lie within reach; what lies farther holds in any case.
    around = _boxes(largest, most)
    one, two = shapely.STRtree(largest).query(around)
    kept = (one < two) & (plane[one] == plane[two]) & (level[one] != level[two])
    one, two = one[kept], two[kept]
    metal, cell_end = ends.tree.query(around)
    kept = (plane[metal] == planes.plane[cell_end]) & (level[metal] != ends.level[cell_end])
    metal, cell_end = metal[kept], cell_end[kept]
    among = apart_mm(least_mm, np.abs(level[one] - level[two]) * group_v) - SLACK_MM
    chosen = _unlike(
        end[one] - start[one],
        start[two] - start[one],
        end[two] - start[one],
        outer[one],
        outer[two],
        among,
    )
    one, two = (np.asarray(item[chosen], dtype=np.intp) for item in (one, two))
    among = among[chosen]
    foreign = ends.rim_level[cell_end] != level[metal]
    over = apart_mm(least_mm, np.abs(level[metal] - ends.level[cell_end]) * group_v) - SLACK_MM
    chosen = _unlike(
        end[metal] - start[metal],
        planes.uv_mm[cell_end] - start[metal],
        outer[metal],
        foreign,
        cell_end % 2,
        over,
    )
    metal, cell_end, foreign, over = (item[chosen] for item in (metal, cell_end, foreign, over))

    def clear(group_mm: float, series_mm: float, reach: float) -> bool:
        width = np.where(outer, series_mm, group_mm)

        def made_of(which: NDArray[Any]) -> Shapes:
            return rectangles(start[which], end[which], width[which], reach)

        if (shapely.distance(made_of(one), made_of(two)) < among).any():
            return False
        made = made_of(metal)
        if (shapely.distance(made, ends.bare[cell_end]) < over).any():
            return False
        return not bool((shapely.distance(made[foreign], ends.rim[cell_end[foreign]]) <= 0.0).any())

    return clear


def _boxes(shapes: Shapes, more_mm: float) -> Shapes:
    """The boxes about shapes (M,), with so much more on all sides."""
    bounds = shapely.bounds(shapes) + np.array([-more_mm, -more_mm, more_mm, more_mm])
    return np.asarray(shapely.box(*bounds.T), dtype=object)


def _unlike(*columns: Array | Mask) -> Index:
    """One row of each kind: in a lattice the same few places come again and again."""
    rows = np.round(np.stack([np.asarray(item, dtype=float) for item in _each(columns)]), 2)
    order = np.lexsort(rows)
    ordered = rows[:, order]
    first = np.ones(len(order), dtype=bool)
    first[1:] = (ordered[:, 1:] != ordered[:, :-1]).any(axis=0)
    return np.asarray(order[first], dtype=np.intp)


def _each(columns: Iterable[Array | Mask]) -> Iterator[Array | Mask]:
    """Columns one by one, those of places (M, 2) as two."""
    for column in columns:
        yield from column.T if column.ndim == 2 else (column,)


def rectangles(start: Array, end: Array, width_mm: Array, reach_mm: float) -> Shapes:
    """Straight pieces as shapes: (M, 2) both ends in mm, (M,) widths, reach beyond both ends."""
    way = end - start
    length = np.maximum(np.linalg.norm(way, axis=1), 1e-9)[:, None]
    along = way / length
    across = np.stack([-along[:, 1], along[:, 0]], axis=1) * (width_mm / 2.0)[:, None]
    far, near = end + reach_mm * along, start - reach_mm * along
    corners = np.stack([near + across, far + across, far - across, near - across], axis=1)
    return np.asarray(shapely.polygons(corners), dtype=object)
