"""Paths through a room judged: which hold together, and which stand before others."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrangement.connected import components
from lumvak.core.arrangement.group_paths import Task, Way, lattices_for, ways
from lumvak.core.arrangement.layout import SAME_LINE_MM, face_to_face
from lumvak.core.arrangement.orientation import orientations
from lumvak.core.arrangement.sites import Sites
from lumvak.core.arrangement.walk import walked_ways
from lumvak.core.arrays import distinct
from lumvak.core.catalogue.cells import Cell
from lumvak.core.said import Text

Array = NDArray[np.float64]
Index = NDArray[np.intp]
MOST_PROPOSALS = 8
# Where no path was found in an uneven room, rows that begin at so many other places are tried.
MORE_STARTS = 6
# Length and width are compared with about a cell around the middles.
CELL_MM = 20.0
# What counts in the order of the proposals, out of one (methods 18).
WEIGHTS = {"least": 0.4, "mean": 0.2, "straight": 0.25, "potential": 0.05, "compact": 0.1}


class JudgedPath(Struct, frozen=True, eq=False):
    """A path that serves, before its layout is made: places, layers and what it scores.

    Nothing can be laid better than a ``perfect`` one.
    """

    key: str
    name: Text
    perfect: bool
    sites: Sites
    site: Index
    turned: NDArray[np.bool_]
    least: int
    mean: float
    straight: float
    apart: int
    wired: int
    score: float


def paths_of(task: Task, trying: bool = True) -> Iterator[JudgedPath]:
    """Every path that serves; where no sweep finds one and ``trying`` is wanted, one that is tried
    out place by place.
    """
    loose = task.arrangement.room.kind == "none"
    found = False
    held = lattices_for(task, every_angle=trying)
    for way in ways(task, held):
        made = path_of(way, task, loose)
        if made is not None:
            found = True
            yield made
    if found or not trying:
        return
    # Rows that begin elsewhere hold no more, but may leave another way through.
    for way in ways(
        task, lattices_for(task, every_angle=False, starts=MORE_STARTS) if held else []
    ):
        made = path_of(way, task, loose)
        if made is not None:
            yield made
            return
    for way in walked_ways(task, held):
        made = path_of(way, task, loose)
        if made is not None:
            yield made
            return


def ranked(paths: Iterable[JudgedPath], task: Task) -> list[JudgedPath]:
    """Paths that differ, best first, the few that are offered."""
    found: dict[bytes, JudgedPath] = {}
    for path in paths:
        # The same cells in the same groups, whatever way the path ran through them.
        groups = np.sort(path.site.reshape(task.series, task.parallel), axis=1)
        sites = path.sites
        same = np.stack([sites.x_mm[groups], sites.y_mm[groups], sites.layer[groups]]).tobytes()
        if same not in found or path.score > found[same].score:
            found[same] = path
    # Of perfect paths the first that is tried stands first, so that the search may end there.
    ranked = sorted(
        found.values(),
        key=lambda item: (
            not item.perfect,
            item.least == 0,
            0.0 if item.perfect else -round(item.score, 9),
        ),
    )
    return ranked[:MOST_PROPOSALS]


def path_of(way: Way, task: Task, loose: bool) -> JudgedPath | None:
    """The groups along one path, judged; ``None`` where they do not fit or a group falls apart.

    ``loose`` counts how compact the pack is.
    """
    series, parallel, cell = task.series, task.parallel, task.cell
    sites = way.sites
    site = _seats(sites, way.order, series, parallel)
    if site is None:
        return None
    group_of_rank = np.arange(series * parallel) // parallel
    level = sites.stack[site]
    node = np.full(len(sites), -1)
    node[site] = np.arange(len(site))
    held = node[sites.pairs]
    pairs = held[(held >= 0).all(axis=1)]
    group = group_of_rank[pairs]
    apart = np.abs(group[:, 0] - group[:, 1])
    mixed = bool((sites.axis != sites.axis[:1]).any())
    flat_cells = cell.diameter_mm is None
    whole = pairs[apart == 0]
    if flat_cells:
        whole = whole[_stacked(sites, site[whole], cell)]
    if not mixed and not _whole(whole, series, parallel):
        return None
    turned = np.arange(series) % 2 == 1
    if flat_cells:
        turned, front = _turned(sites, site[pairs[apart == 1]], group[apart == 1], task)
        # One bar runs over the posts of both groups, whichever way they stand.
        front = np.where(front > 0, parallel, 0)
    else:
        front = np.bincount(group[apart == 1].min(axis=1), minlength=max(1, series - 1))
    turns = np.flatnonzero(np.diff(level[::parallel]))
    flat = np.delete(front, turns) if series > 1 else np.array([parallel])
    if len(flat) and flat.min() == 0 and not mixed and not flat_cells:
        return None
    # Flat cells are pressed and joined best in one stack; round ones in straight groups.
    straight = (
        float(_stacked(sites, site[pairs[apart == 1]], cell).sum()) / max(1, series - 1)
        if flat_cells
        else _straight(sites, site, series, parallel)
    )
    least = int(flat.min(initial=parallel))
    mean = float(flat.mean()) if len(flat) else float(parallel)
    far = int(apart.max(initial=0))
    extent = sorted((float(np.ptp(sites.x_mm[site])), float(np.ptp(sites.y_mm[site]))))
    compact = (extent[0] + CELL_MM) / (extent[1] + CELL_MM) if loose else 1.0
    score = (
        WEIGHTS["least"] * min(1.0, least / parallel)
        + WEIGHTS["mean"] * min(1.0, mean / parallel)
        + WEIGHTS["straight"] * straight
        + WEIGHTS["potential"] * (1.0 - (far - 1) / max(1, series - 1))
        + WEIGHTS["compact"] * compact
    )
    wired = int((front == 0).sum()) if series > 1 else 0
    # Whole fronts, every group in one line, nothing beside a group but its neighbours. Single
    # cells in a free row, or blocks in one, would be that too, and needlessly long.
    single = loose and (parallel == 1 or flat_cells)
    perfect = least >= parallel and straight == 1.0 and far <= 1 and not single
    return JudgedPath(
        way.key,
        way.name,
        perfect=perfect,
        sites=sites,
        site=site,
        turned=turned,
        least=least,
        mean=mean,
        straight=straight,
        apart=far,
        wired=wired,
        score=score,
    )


def _seats(sites: Sites, order: Index, series: int, parallel: int) -> Index | None:
    """The places of the cells in the order of their groups, (S P,); ``None`` where too few.

    No group lies in two layers, or in two rows of lying cells: what is left of one stays free.
    """
    level = sites.stack[order]
    ends = np.flatnonzero(np.diff(level, append=-1)) + 1
    kept = []
    begin = 0
    for end in ends.tolist():
        kept.append(order[begin : begin + (end - begin) // parallel * parallel])
        begin = end
    seats = np.concatenate(kept) if kept else order[:0]
    return None if len(seats) < series * parallel else seats[: series * parallel]


def _stacked(sites: Sites, pairs: Index, cell: Cell) -> NDArray[np.bool_]:
    """Which (K, 2) places side by side stand face to face."""
    return face_to_face(cell, sites.axis[pairs[:, 0]], _apart_mm(sites, pairs))


def _apart_mm(sites: Sites, pairs: Index) -> Array:
    """(K, 3) from the first to the second of places side by side; a layer up counts as far."""
    one, other = pairs[:, 0], pairs[:, 1]
    upwards = (sites.layer[other] - sites.layer[one]) * CELL_MM
    return np.stack(
        [sites.x_mm[other] - sites.x_mm[one], sites.y_mm[other] - sites.y_mm[one], upwards], axis=1
    )


def _turned(
    sites: Sites, pairs: Index, group: Index, task: Task
) -> tuple[NDArray[np.bool_], Index]:
    """Which groups of flat cells are turned, and the strips of each joint (methods 18).

    ``pairs`` (K, 2) are places of neighbours in series, of the groups ``group`` (K, 2).
    """
    order = np.argsort(group, axis=1)
    low_high = np.take_along_axis(pairs, order, axis=1)
    axis = sites.axis[low_high[:, 0]]
    apart = _apart_mm(sites, low_high)
    # The width of a lying cell stands upright, its plus above where it is not turned.
    aside = np.where(axis == 0, apart[:, 0], apart[:, 2])
    onwards = np.where(np.abs(aside) > SAME_LINE_MM, np.sign(aside), 0.0).astype(np.intp)
    stacked = _stacked(sites, low_high, task.cell)
    return orientations(task.series, group.min(axis=1), stacked, onwards)


def _whole(within: Index, series: int, parallel: int) -> bool:
    """Whether every group holds together; ``within`` are neighbours of one group, by rank."""
    count = series * parallel
    # Along a path each cell touches the next; only where one does not is there more to look at.
    follows = np.zeros(count, dtype=bool)
    follows[within.min(axis=1)[np.ptp(within, axis=1) == 1]] = True
    follows[parallel - 1 :: parallel] = True
    if follows.all():
        return True
    return len(distinct(components(count, within[:, 0], within[:, 1]))) == series


def _straight(sites: Sites, site: Index, series: int, parallel: int) -> float:
    """Share of the groups whose cells lie in one line."""
    upwards = np.where(sites.axis[site] == 0, 0.0, sites.layer[site] * CELL_MM)
    places = np.stack([sites.x_mm[site], sites.y_mm[site], upwards], axis=1)
    groups = places.reshape(series, parallel, 3)
    from_first = groups - groups[:, :1]
    # The cell farthest from the first gives the direction; what lies aside is its cross product.
    far = np.argmax(np.linalg.norm(from_first, axis=2), axis=1)
    way = from_first[np.arange(series), far][:, None]
    aside = np.linalg.norm(np.cross(from_first, way), axis=2)
    length = np.maximum(np.linalg.norm(way, axis=2), 1e-9)
    return float((aside / length < SAME_LINE_MM).all(axis=1).mean())
