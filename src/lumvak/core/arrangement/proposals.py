"""Proposals: the series groups along a path through the room, ranked; or by how much it is short.

The path runs through bands of rows, there and back, so that neighbours in series lie side by side
(methods 18).
"""

from __future__ import annotations

from functools import cached_property, lru_cache

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.group_paths import Task
from lumvak.core.arrangement.judged_paths import JudgedPath, paths_of, ranked
from lumvak.core.arrangement.layers import between_of, gap_of, grown, in_holder, is_nested
from lumvak.core.arrangement.layout import Layout, layout_of, overlaps
from lumvak.core.arrangement.outline import Flaw, inside, outline_of
from lumvak.core.arrangement.set_aside import clear_of_parts, usable
from lumvak.core.arrangement.shortage import shortage
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.holders import Holder
from lumvak.core.document.arrangement import Arrangement, Room
from lumvak.core.said import Text, phrase, say


class Proposal(Struct, frozen=True, eq=False):
    """One way to lay the groups; fronts are cells side by side between neighbours in series."""

    key: str
    name: Text
    layout: Layout
    least_front: int
    mean_front: float
    straight: float
    groups_apart: int
    wired: int
    score: float


class Placing(Struct, frozen=True, eq=False, dict=True):
    """The arrangement in force and what is wrong with it; ``lacks_room`` where no way fits.

    ``proposals``, and what room would be enough, are worked out when they are asked for.
    """

    task: Task
    layout: Layout
    chosen: Proposal | None
    shape: BaseGeometry | None
    lacks_room: bool
    flaws: tuple[Flaw, ...]
    by_hand: bool

    @property
    def free(self) -> BaseGeometry | None:
        """The room less what is kept free; ``None`` where nothing limits it."""
        return self.task.free

    @property
    def fits(self) -> bool:
        """Whether the cells lie in the room."""
        return not self.lacks_room and not self.flaws

    @cached_property
    def short(self) -> Text:
        """What is lacking, and what room would do; empty where the cells have room."""
        return shortage(self.task) if self.lacks_room else ""

    @cached_property
    def proposals(self) -> tuple[Proposal, ...]:
        """The best ways to lay the groups, best first; none where the room is too small."""
        if self.lacks_room:
            return ()
        return tuple(_proposal(path, self.task) for path in ranked(paths_of(self.task), self.task))


def lying_only(arrangement: Arrangement) -> Arrangement:
    """An arrangement without what is said of barriers, on which no place hangs."""
    return replace(arrangement, barrier_v=Arrangement().barrier_v)


@lru_cache(24)
def placed(
    wanted: Arrangement,
    cell: Cell,
    series: int,
    parallel: int,
    gap_mm: float,
    holder: Holder | None = None,
) -> Placing:
    """Lay a pack in its room; kept, for most edits do not touch it.

    Parameters: what the builder ``wanted``; ``gap_mm`` between wrappers where no holder says. Flat
    cells are laid as thick as they will grow.
    """
    arrangement, cell = in_holder(wanted, holder), grown(cell, wanted)
    gap = gap_of(arrangement, cell, gap_mm)
    shape, flaws = outline_of(arrangement.room)
    no_room = bool(flaws)
    flaws += _pitch_flaws(arrangement, cell)
    task = Task(
        arrangement,
        cell,
        series=series,
        parallel=parallel,
        gap_mm=gap,
        free=usable(shape, arrangement, cell, gap),
        edge_mm=0.0 if holder is None else holder.edge_mm,
    )
    if arrangement.spots:
        found = spot_flaws(task)
        if not any(flaw.code == "spots-count" for flaw in found):
            layout = layout_by_hand(task)
            return Placing(
                task,
                layout,
                chosen=None,
                shape=shape,
                lacks_room=False,
                flaws=(*flaws, *found),
                by_hand=True,
            )
        flaws += found
    chosen = None if no_room else _best(task)
    lacks_room = chosen is None
    if chosen is None:
        loose = replace(arrangement, room=Room(), kept_free=(), blocks=(), way=None)
        chosen = _best(replace(task, arrangement=loose, free=None))
        assert chosen is not None, "without a room every count fits"
    return Placing(
        task,
        chosen.layout,
        chosen=chosen,
        shape=shape,
        lacks_room=lacks_room,
        flaws=flaws,
        by_hand=False,
    )


def _best(task: Task) -> Proposal | None:
    """The proposal that was picked, else the first in order; a perfect one ends the search."""
    found = []
    way = task.arrangement.way
    for path in paths_of(task):
        if path.perfect and way is None:
            return _proposal(path, task)
        found.append(path)
    offered = ranked(found, task)
    best = next((item for item in offered if item.key == way), None) or next(iter(offered), None)
    return None if best is None else _proposal(best, task)


def _pitch_flaws(arrangement: Arrangement, cell: Cell) -> tuple[Flaw, ...]:
    if arrangement.pitch_mm is None or arrangement.pitch_mm >= cell.pitch_mm:
        return ()
    return (
        Flaw(
            "holder-narrow",
            phrase(
                "A holder of {} pitch does not take a cell of {}",
                say(arrangement.pitch_mm, "mm"),
                say(cell.pitch_mm, "mm"),
            ),
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
                phrase(
                    "{} cells lie by hand, not {} in each of {} groups",
                    len(spots),
                    parallel,
                    series,
                ),
                "Lay them anew, or set the count back.",
                spots[0].x_mm,
                spots[0].y_mm,
            ),
        )
    layout = layout_by_hand(task)
    found = [
        Flaw(
            "cells-overlap",
            phrase("{} and {} take up the same place", layout.name[one], layout.name[other]),
            "Move one of them.",
            float(layout.x_mm[one]),
            float(layout.y_mm[one]),
        )
        for one, other in overlaps(layout)
    ]
    given = (layout.x_mm, layout.y_mm, layout.half_mm[:, :2], _discs(layout))
    out = ~inside(task.free, *given) | ~clear_of_parts(
        *given, layout.layer, task.arrangement, task.cell, task.gap_mm
    )
    found += [
        Flaw(
            "cell-outside",
            phrase("{} does not lie in the free room", layout.name[place]),
            "Move it inside, or move what is kept free.",
            float(layout.x_mm[place]),
            float(layout.y_mm[place]),
        )
        for place in np.flatnonzero(out)
    ]
    return tuple(found)


def layout_by_hand(task: Task) -> Layout:
    """The layout of the cells that were placed by hand."""
    arrangement = task.arrangement
    return layout_of(
        task.cell,
        task.series,
        parallel=task.parallel,
        gap_mm=task.gap_mm,
        spots=arrangement.spots,
        between_mm=between_of(arrangement),
        nested=is_nested(arrangement, task.cell),
    )


def _discs(layout: Layout) -> NDArray[np.bool_]:
    return np.asarray((layout.axis == 0) & (layout.cell.diameter_mm is not None))


def _proposal(path: JudgedPath, task: Task) -> Proposal:
    """A path with its layout; cells of a group are counted from above, then from the left."""
    sites = path.sites
    group = np.arange(task.series * task.parallel) // task.parallel
    order = np.lexsort((sites.x_mm[path.site], sites.y_mm[path.site], group))
    site = path.site[order]
    layout = Layout(
        task.cell,
        task.series,
        parallel=task.parallel,
        gap_mm=task.gap_mm,
        x_mm=sites.x_mm[site],
        y_mm=sites.y_mm[site],
        layer=sites.layer[site].astype(np.intp),
        axis=sites.axis[site],
        turned=path.turned[group],
        between_mm=between_of(task.arrangement),
        nested=is_nested(task.arrangement, task.cell),
    )
    return Proposal(
        path.key,
        path.name,
        layout=layout,
        least_front=path.least,
        mean_front=path.mean,
        straight=path.straight,
        groups_apart=path.apart,
        wired=path.wired,
        score=path.score,
    )
