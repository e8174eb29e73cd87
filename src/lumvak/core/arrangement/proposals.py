"""Proposals: the series groups along a path through the room, ranked; or by how much it is short.

The path runs through bands of rows, there and back, so that neighbours in series lie side by side
(methods 18).
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import affinity
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.connected import components
from lumvak.core.arrangement.group_paths import Task, rings_in, ways
from lumvak.core.arrangement.lattice import Sites, block_sites, gap_of, lattices_in, layers_in
from lumvak.core.arrangement.layout import (
    Layout,
    face_to_face,
    layer_height_mm,
    layout_of,
    overlaps,
)
from lumvak.core.arrangement.orientation import orientations
from lumvak.core.arrangement.outline import Flaw, inside, outline_of, usable
from lumvak.core.arrays import distinct
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.arrangement import Arrangement, Room
from lumvak.core.units import keeps_words, say

Array = NDArray[np.float64]
Index = NDArray[np.intp]
MOST_PROPOSALS = 8
LARGEST_GROWTH = 6.0
# Length and width are compared with about a cell around the middles.
CELL_MM = 20.0
# What counts in the order of the proposals, out of one (methods 18).
WEIGHTS = {"least": 0.4, "mean": 0.2, "straight": 0.25, "potential": 0.05, "compact": 0.1}


@dataclass(frozen=True, eq=False)
class Proposal:
    """One way to lay the groups; fronts are cells side by side between neighbours in series."""

    key: str
    name: str
    layout: Layout
    least_front: int
    mean_front: float
    straight: float
    groups_apart: int
    wired: int
    score: float


@dataclass(frozen=True, eq=False)
class Placed:
    """The arrangement in force and what is wrong with it; ``proposals`` are made when asked for."""

    task: Task
    layout: Layout
    chosen: Proposal | None
    shape: BaseGeometry | None
    short: str
    flaws: tuple[Flaw, ...]
    by_hand: bool

    @property
    def free(self) -> BaseGeometry | None:
        """The room less what is kept free; ``None`` where nothing limits it."""
        return self.task.free

    @property
    def fits(self) -> bool:
        """Whether the cells lie in the room."""
        return not self.short and not self.flaws

    @cached_property
    def proposals(self) -> tuple[Proposal, ...]:
        """The best ways to lay the groups, best first; none where the room is too small."""
        if self.short:
            return ()
        return tuple(_proposal(path, self.task) for path in _ranked(_paths(self.task), self.task))


def lying_only(arrangement: Arrangement) -> Arrangement:
    """An arrangement without what is said of barriers, on which no place hangs."""
    return arrangement.model_copy(update={"barrier_v": Arrangement().barrier_v})


@keeps_words(24)
def placed(
    arrangement: Arrangement, cell: Cell, series: int, parallel: int, gap_mm: float
) -> Placed:
    """Lay a pack in its room; kept, for most edits do not touch it.

    Parameters: the builder's ``arrangement``; ``gap_mm`` between wrappers where no holder says.
    """
    gap = gap_of(arrangement, cell, gap_mm)
    shape, flaws = outline_of(arrangement.room)
    no_room = bool(flaws)
    flaws += _pitch_flaws(arrangement, cell)
    task = Task(arrangement, cell, series, parallel, gap, usable(shape, arrangement))
    if arrangement.spots:
        found = spot_flaws(task)
        if not any(flaw.code == "spots-count" for flaw in found):
            layout = layout_of(cell, series, parallel, gap, arrangement.spots)
            return Placed(task, layout, None, shape, "", (*flaws, *found), True)
        flaws += found
    chosen = None if no_room else _best(task)
    short = ""
    if chosen is None:
        short = _shortage(task, shape)
        loose = arrangement.model_copy(
            update={"room": Room(), "kept_free": (), "blocks": (), "way": None}
        )
        chosen = _best(replace(task, arrangement=loose, free=None))
        assert chosen is not None, "without a room every count fits"
    return Placed(task, chosen.layout, chosen, shape, short, flaws, False)


def _best(task: Task) -> Proposal | None:
    """The proposal that was picked, else the first in order; a perfect one ends the search."""
    found = []
    way = task.arrangement.way
    for path in _paths(task):
        if path.perfect and way is None:
            return _proposal(path, task)
        found.append(path)
    offered = _ranked(found, task)
    best = next((item for item in offered if item.key == way), None) or next(iter(offered), None)
    return None if best is None else _proposal(best, task)


def _pitch_flaws(arrangement: Arrangement, cell: Cell) -> tuple[Flaw, ...]:
    if arrangement.pitch_mm is None or arrangement.pitch_mm >= cell.pitch_mm:
        return ()
    return (
        Flaw(
            "holder-narrow",
            f"A holder of {say(arrangement.pitch_mm, 'mm')} pitch does not take a cell of "
            f"{say(cell.pitch_mm, 'mm')}",
            "Set a larger pitch, or leave it empty to use the gap.",
            0.0,
            0.0,
        ),
    )


def spot_flaws(task: Task) -> tuple[Flaw, ...]:
    """What is wrong with cells placed by hand: their count, overlaps, cells out of the room."""
    spots, series, parallel = task.arrangement.spots, task.series, task.parallel
    counts = np.bincount([spot.group for spot in spots], minlength=series + 1)[1:]
    if len(counts) != series or (counts != parallel).any():
        return (
            Flaw(
                "spots-count",
                f"{len(spots)} cells lie by hand, not {parallel} in each of {series} groups",
                "Lay them anew, or set the count back.",
                spots[0].x_mm,
                spots[0].y_mm,
            ),
        )
    layout = layout_of(task.cell, series, parallel, task.gap_mm, spots)
    found = [
        Flaw(
            "cells-overlap",
            f"{layout.name[one]} and {layout.name[other]} take up the same place",
            "Move one of them.",
            float(layout.x_mm[one]),
            float(layout.y_mm[one]),
        )
        for one, other in overlaps(layout)
    ]
    out = ~inside(
        task.free, layout.x_mm, layout.y_mm, layout.half_mm[:, :2], _discs(layout)
    )  # fmt: skip
    found += [
        Flaw(
            "cell-outside",
            f"{layout.name[place]} does not lie in the free room",
            "Move it inside, or move what is kept free.",
            float(layout.x_mm[place]),
            float(layout.y_mm[place]),
        )
        for place in np.flatnonzero(out)
    ]
    return tuple(found)


def _discs(layout: Layout) -> NDArray[np.bool_]:
    return np.asarray((layout.axis == 0) & (layout.cell.diameter_mm is not None))


def _paths(task: Task) -> Iterator[_Path]:
    layers = layers_in(task.arrangement, task.cell)
    loose = task.arrangement.room.kind == "none"
    for key, name, sites, order in ways(task):
        made = _path(key, name, sites, order, layers, task, loose)
        if made is not None:
            yield made


def _ranked(paths: Iterable[_Path], task: Task) -> list[_Path]:
    """Paths that differ, best first, the few that are offered."""
    found: dict[bytes, _Path] = {}
    for path in paths:
        # The same cells in the same groups, whatever way the path ran through them.
        groups = np.sort(path.site.reshape(task.series, task.parallel), axis=1)
        same = np.stack([path.sites.x_mm[groups], path.sites.y_mm[groups]]).tobytes()
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


@dataclass(frozen=True, eq=False)
class _Path:
    """A path that serves, before its layout is made: places, layers and what it scores.

    Nothing can be laid better than a ``perfect`` one.
    """

    key: str
    name: str
    perfect: bool
    sites: Sites
    site: Index
    layer: Index
    turned: NDArray[np.bool_]
    least: int
    mean: float
    straight: float
    apart: int
    wired: int
    score: float


def _path(
    key: str,
    name: str,
    sites: Sites,
    order: Index,
    layers: int,
    task: Task,
    loose: bool,
) -> _Path | None:
    """The groups along one path, judged; ``None`` where they do not fit or a group falls apart.

    ``loose`` counts how compact the pack is.
    """
    series, parallel, cell = task.series, task.parallel, task.cell
    per_layer = len(order) // parallel
    if per_layer * layers < series:
        return None
    group_of_rank = np.arange(series * parallel) // parallel
    layer = group_of_rank // per_layer
    rank = np.arange(series * parallel) - layer * per_layer * parallel
    used = np.minimum(per_layer, series - layer * per_layer) * parallel
    # Every other layer is walked backwards, so that the path goes on above where it ended.
    rank = np.where(layer % 2 == 1, used - 1 - rank, rank)
    site = order[rank]
    node = np.full((layers, len(sites)), -1)
    node[layer, site] = np.arange(len(site))
    held = node[:, sites.pairs].reshape(-1, 2)
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
    turns = np.flatnonzero(np.diff(layer[::parallel]))
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
    return _Path(
        key, name, perfect, sites, site, layer, turned, least, mean, straight, far, wired, score
    )


def _stacked(sites: Sites, pairs: Index, cell: Cell) -> NDArray[np.bool_]:
    """Which (K, 2) places side by side stand face to face."""
    x, y = (np.abs(np.diff(item[pairs], axis=1)[:, 0]) for item in (sites.x_mm, sites.y_mm))
    return face_to_face(cell, sites.axis[pairs[:, 0]], x, y)


def _turned(
    sites: Sites, pairs: Index, group: Index, task: Task
) -> tuple[NDArray[np.bool_], Index]:
    """Which groups of flat cells are turned, and the strips of each joint (methods 18).

    ``pairs`` (K, 2) are places of neighbours in series, of the groups ``group`` (K, 2).
    """
    order = np.argsort(group, axis=1)
    low, high = np.take_along_axis(pairs, order, axis=1).T
    # Lying, the width stands upright: whatever is beside a cell in its layer is behind its posts.
    standing = sites.axis[low] == 0
    onwards = np.sign(sites.x_mm[high] - sites.x_mm[low]).astype(np.intp) * standing
    stacked = _stacked(sites, np.stack([low, high], axis=1), task.cell)
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


def _proposal(path: _Path, task: Task) -> Proposal:
    """A path with its layout; cells of a group are counted from above, then from the left."""
    sites = path.sites
    group = np.arange(task.series * task.parallel) // task.parallel
    order = np.lexsort((sites.x_mm[path.site], sites.y_mm[path.site], group))
    site, layer = path.site[order], path.layer[order]
    layout = Layout(
        task.cell,
        task.series,
        task.parallel,
        task.gap_mm,
        sites.x_mm[site],
        sites.y_mm[site],
        layer.astype(np.intp),
        sites.axis[site],
        path.turned[group],
    )
    return Proposal(
        path.key, path.name, layout, path.least, path.mean, path.straight, path.apart,
        path.wired, path.score,
    )  # fmt: skip


def _straight(sites: Sites, site: Index, series: int, parallel: int) -> float:
    """Share of the groups whose cells lie in one line."""
    column = sites.column[site].reshape(series, parallel)
    row = sites.row[site].reshape(series, parallel)
    return float(((np.ptp(column, axis=1) == 0) | (np.ptp(row, axis=1) == 0)).mean())


def _shortage(task: Task, shape: BaseGeometry | None) -> str:
    """By how much the room is too small: millimetres in each direction, and cells."""
    arrangement, cell, gap_mm = task.arrangement, task.cell, task.gap_mm
    series, parallel = task.series, task.parallel
    room = arrangement.room
    if room.kind != "none" and room.height_mm is not None:
        tall = layer_height_mm(cell, arrangement.axis)
        if tall > room.height_mm:
            return f"short by {say(tall - room.height_mm, 'mm')} in height"
    total = series * parallel
    if arrangement.blocks:
        held = sum(len(block_sites(block, cell, gap_mm, task.free)) for block in arrangement.blocks)
        return f"the blocks hold {held} cells, {total} are wanted"
    if shape is None:
        return "the outline is no room yet"
    layers = layers_in(arrangement, cell)

    def groups(scale_x: float, scale_y: float) -> int:
        larger = usable(affinity.scale(shape, scale_x, scale_y, origin=(0, 0)), arrangement)
        if larger is None or larger.is_empty:
            return 0
        found = lattices_in(larger, arrangement, cell, gap_mm, shifted=False)
        ring = rings_in(arrangement, cell, gap_mm, larger, scale_x)
        found += [ring] if ring is not None else []
        return max((len(sites) // parallel for sites in found), default=0) * layers

    here = groups(1.0, 1.0)
    left, top, right, bottom = shapely.bounds(shape).tolist()
    said = []
    ways = (
        (("diameter", (1.0, 1.0), right - left),)
        if room.kind == "round"
        else (("length", (1.0, 0.0), right - left), ("width", (0.0, 1.0), bottom - top))
    )
    for name, (by_x, by_y), extent in ways:
        low, high = 1.0, LARGEST_GROWTH
        if groups(1.0 + by_x * (high - 1.0), 1.0 + by_y * (high - 1.0)) < series:
            continue
        while (high - low) * extent > 0.5:
            middle = (low + high) / 2.0
            enough = groups(1.0 + by_x * (middle - 1.0), 1.0 + by_y * (middle - 1.0)) >= series
            low, high = (low, middle) if enough else (middle, high)
        said.append(f"{say((high - 1.0) * extent, 'mm')} in {name}")
    cells = f"{total - here * parallel} cells"
    if here >= series:
        return "no path through the room keeps the groups together; try other rows or directions"
    return f"short by {' or '.join((*said, cells))}"
