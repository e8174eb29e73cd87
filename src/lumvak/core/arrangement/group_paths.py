"""Paths through a room: bands there and back, groups that grow, rings, blocks of cells."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import product

import numpy as np
import shapely
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.lattice import block_sites, lattice, lattices_in, ring_sites
from lumvak.core.arrangement.layers import is_nested, layers_in
from lumvak.core.arrangement.lying import lying
from lumvak.core.arrangement.sites import Sites, clear, in_layers, together
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.arrangement import Arrangement
from lumvak.core.said import Text, phrase

Index = NDArray[np.intp]
MOST_BANDS, MOST_LATTICES = 6, 4
# Lattices that hold enough cells, each with its number.
Lattices = list[tuple[int, Sites]]


class Way(Struct, frozen=True, eq=False):
    """A path to try: its key, what it is in words, places, and those in its order, (N,)."""

    key: str
    name: Text
    sites: Sites
    order: Index


class Task(Struct, frozen=True, eq=False):
    """What is to be laid where: the pack, the gap between wrappers in mm, the free room.

    ``edge_mm`` of a holder stand outside the outermost cells.
    """

    arrangement: Arrangement
    cell: Cell
    series: int
    parallel: int
    gap_mm: float
    free: BaseGeometry | None
    edge_mm: float = 0.0


def ways(task: Task, held: Lattices) -> Iterator[Way]:
    """Every path to try, the likely ones first; ``held`` are those of ``lattices_for``."""
    arrangement, free = task.arrangement, task.free
    if arrangement.blocks:
        sites, orders = _block_paths(arrangement, task.cell, task.gap_mm, free)
        for place, order in enumerate(orders, 1):
            yield Way(f"blocks-{place}", phrase("through the blocks, way {}", place), sites, order)
    elif arrangement.room.kind != "none":
        if free is not None and not free.is_empty:
            yield from _ways_in_room(task, free, held)
    elif arrangement.axis == "up":
        yield from _ways_standing(task)
    else:
        yield from _ways_lying(task)


def _ways_standing(task: Task) -> Iterator[Way]:
    """Paths of standing cells where no room is set: bands of rows, long or folded."""
    arrangement, cell, gap_mm, free = task.arrangement, task.cell, task.gap_mm, task.free
    nested = is_nested(arrangement, cell)
    total = task.series * task.parallel
    # Seen from above straight rows of round cells are alike both ways.
    alike = cell.diameter_mm is not None and not nested
    widths = _band_widths(task.parallel)
    if cell.diameter_mm is None:
        # In one stack first, whatever it is called the second time.
        widths.sort()
    for band in widths:
        for bands, across in product(range(1, MOST_BANDS + 1), (False, True)):
            if not _runs_so(task, band, across) or (alike and across):
                continue
            long, wide = -(-total // (band * bands)), band * bands
            if bands > 1 and long * band * (bands - 1) >= total:
                continue
            columns, rows = (wide, long) if across else (long, wide)
            sites = lattice(
                cell,
                "up",
                gap_mm=gap_mm,
                nested=nested,
                columns=columns,
                rows=rows,
                corner=(0.0, 0.0),
                shape=None,
            )
            if free is not None:
                sites = _grown(
                    arrangement,
                    cell,
                    gap_mm=gap_mm,
                    nested=nested,
                    columns=columns,
                    rows=rows,
                    total=total,
                    free=free,
                )
            name = _words(task, band, across)
            if bands > 1:
                name = phrase("{}, {} bands", name, bands)
            key = f"{'y' if across else 'x'}{band}b{bands}"
            yield Way(key, name, sites, snake(sites, band, across))


def _ways_lying(task: Task) -> Iterator[Way]:
    """Paths of lying cells where no room is set: in one row, or in several one behind the other."""
    groups, parallel = task.series, task.parallel
    for behind in range(1, min(MOST_BANDS, groups) + 1):
        beside = -(-groups // behind) * parallel
        while True:
            sites = lying(
                task.cell, task.arrangement, task.gap_mm, (behind, beside, 1), (0.0, 0.0), task.free
            )
            if len(sites) >= groups * parallel or beside > 4 * groups * parallel + 40:
                break
            beside += parallel
        name = "in one row" if behind == 1 else phrase("in {} rows, end to end", behind)
        yield Way(f"r{behind}", name, sites, snake(sites, 1, False))


def lattices_for(task: Task, every_angle: bool, starts: int = 1) -> Lattices:
    """The first lattices in the free room that hold enough, with their number among all.

    At ``every_angle`` as well where none does; none at all where cells lie in blocks or no room is
    set. Of lattices that begin elsewhere the fullest ``starts`` are tried.
    """
    arrangement, free = task.arrangement, task.free
    if arrangement.blocks or arrangement.room.kind == "none" or free is None or free.is_empty:
        return []
    total = task.series * task.parallel
    given = (free, arrangement, task.cell, task.gap_mm)
    found = lattices_in(*given, starts=starts)
    if every_angle and max(map(len, found), default=0) < total:
        found = lattices_in(*given, every_angle=True)
    enough = [(run, sites) for run, sites in enumerate(found) if len(sites) >= total]
    return enough[: MOST_LATTICES * min(starts, 2)]


def _runs_so(task: Task, band: int, across: bool) -> bool:
    """Whether groups may run so through bands: those of flat cells stand face to face.

    Along their thin side cell by cell, or group by group across it (methods 18).
    """
    if task.cell.diameter_mm is not None:
        return True
    # Standing, the thin side runs along the rows' own way; lying, along the columns'.
    lies = task.arrangement.axis != "up"
    return band == 1 if across != lies else band % task.parallel == 0


def _ways_in_room(task: Task, free: BaseGeometry, held: Lattices) -> Iterator[Way]:
    arrangement, cell, parallel, gap_mm = task.arrangement, task.cell, task.parallel, task.gap_mm
    uneven = not free.equals(shapely.box(*free.bounds))
    for run, sites in held:
        for across in (False, True):
            rows = sites.column if across else sites.row
            most = int(rows.max(initial=0)) + 1 if len(sites) else 0
            bands = range(1, min(most, 3 * parallel) + 1)
            if run:
                bands = [band for band in _band_widths(parallel) if band <= most]  # type: ignore[assignment]
            for band in sorted(bands, key=lambda width: width != parallel):
                if not _runs_so(task, band, across):
                    continue
                yield Way(
                    f"{'y' if across else 'x'}{band}{'t' * run}",
                    _words(task, band, across),
                    sites,
                    snake(sites, band, across),
                )
        if uneven:
            for side, name, along, back in (
                ("left", "grown from the left", sites.column, 1),
                ("right", "grown from the right", sites.column, -1),
                ("above", "grown from above", sites.row, 1),
                ("below", "grown from below", sites.row, -1),
            ):
                yield Way(
                    f"grown-{side}{'t' * run}",
                    name,
                    sites,
                    grown_path(sites, along * back, parallel),
                )
    rings = rings_in(arrangement, cell, gap_mm, free)
    if rings is not None:
        yield Way("rings", "rings along the wall", rings, snake(rings, 10_000, False))
        yield Way(
            "rings-grown", "grown along the wall", rings, grown_path(rings, rings.row, parallel)
        )


def grown_path(sites: Sites, sweep: Index, parallel: int) -> Index:
    """Places, (N,), in the order in which groups grow through an uneven room, one out of the other.

    Each group begins beside the one before and takes, of the places beside itself, those that
    ``sweep`` (N,) reaches first; so it holds together whatever the outline. It ends where nothing
    is left to grow into, and goes on in the next layer, or row of lying cells.
    """
    near = neighbours_of(sites)
    reached = np.lexsort((sites.row, sites.column, sweep))
    rank = np.empty(len(sites), dtype=np.intp)
    rank[reached] = np.arange(len(sites))
    keys = (sweep.tolist(), rank.tolist())
    order: list[int] = []
    for level in range(int(sites.stack.max(initial=-1)) + 1):
        free = set(np.flatnonzero(sites.stack == level).tolist())
        order += _grown_through(near, free, keys, parallel)
    return np.array(order, dtype=np.intp)


def neighbours_of(sites: Sites) -> list[list[int]]:
    """The places beside each place."""
    near: list[list[int]] = [[] for _ in range(len(sites))]
    for one, other in sites.pairs.tolist():
        near[one].append(other)
        near[other].append(one)
    return near


def _grown_through(
    near: list[list[int]], free: set[int], keys: tuple[list[int], list[int]], parallel: int
) -> list[int]:
    """Groups grown through the ``free`` places, in order; ``keys`` tell which come first."""
    key, place_of = keys
    ways_left = {place: sum(other in free for other in near[place]) for place in free}
    order: list[int] = []
    before: set[int] = set()
    while len(free) >= parallel:
        edge = {place for cell in before for place in near[cell] if place in free}
        start = edge if order else free
        group: list[int] = []
        while len(group) < parallel and start:
            # First what the sweep reaches, then what has the fewest ways left, then what touches
            # the group before.
            best = min(
                start,
                key=lambda place: (
                    key[place],
                    ways_left[place],
                    -len(before.intersection(near[place])),
                    place_of[place],
                ),
            )
            if not group:
                start = set()
            group.append(best)
            free.discard(best)
            start.discard(best)
            for place in near[best]:
                if place in ways_left:
                    ways_left[place] -= 1
                if place in free:
                    start.add(place)
        if len(group) < parallel:
            break
        order += group
        before = set(group)
    return order


def rings_in(
    arrangement: Arrangement, cell: Cell, gap_mm: float, free: BaseGeometry
) -> Sites | None:
    """Rings along the wall of a round room; ``None`` in other rooms."""
    room = arrangement.room
    if room.kind != "round" or arrangement.axis != "up":
        return None
    rings = ring_sites(room.diameter_mm, arrangement.wall_mm, cell, gap_mm, free)
    layers = layers_in(arrangement, cell, gap_mm)
    if rings is None or not layers:
        return None
    return clear(in_layers(rings, layers), arrangement, cell, gap_mm)


def _grown(
    arrangement: Arrangement,
    cell: Cell,
    gap_mm: float,
    nested: bool,
    columns: int,
    rows: int,
    total: int,
    free: BaseGeometry,
) -> Sites:
    """A lattice that is made longer until what is kept free leaves enough places."""
    while True:
        sites = lattice(
            cell,
            arrangement.axis,
            gap_mm=gap_mm,
            nested=nested,
            columns=columns,
            rows=rows,
            corner=(0.0, 0.0),
            shape=free,
        )
        if len(sites) >= total or columns > 4 * total + 40:
            return sites
        columns += max(1, (total - len(sites)) // rows)


def _band_widths(parallel: int) -> list[int]:
    """Rows in a band: a whole group first, then whole shares of one, then two groups."""
    shares = [rows for rows in range(1, parallel) if parallel % rows == 0]
    return list(dict.fromkeys([parallel, *shares, 2 * parallel]))


def _words(task: Task, band: int, across: bool) -> Text:
    parallel = task.parallel
    line = "rows" if across else "columns"
    if task.cell.diameter_mm is None:
        if across == (task.arrangement.axis == "up"):
            return "face to face, one group after the other"
        return (
            "groups side by side"
            if band == parallel
            else phrase("side by side in {} of {}", line, band)
        )
    if parallel == 1:
        return phrase("cell by cell along {} of {}", line, band)
    if band == parallel:
        return phrase("{} of {}", line, band)
    if parallel % band == 0:
        return phrase("{} {} of {} a group", parallel // band, line, band)
    return phrase("groups along {} of {}", line, band)


def snake(sites: Sites, band: int, across: bool) -> Index:
    """Places, (N,), in the order of a path through bands of ``band`` rows, there and back.

    ``across`` takes bands of columns instead. Within a band the path goes up and down; every other
    layer is walked backwards, so that it goes on above where it ended.
    """
    along, over = (sites.row, sites.column) if across else (sites.column, sites.row)
    strip = over // band
    forth = np.where(strip % 2 == 0, along, -along)
    within = over % band
    up = (strip + along) % 2 == 0
    order = np.lexsort((np.where(up, within, -within), forth, strip, sites.stack))
    counts = np.bincount(sites.stack)
    if len(counts) == 1:
        return order
    parts = np.split(order, np.cumsum(counts)[:-1])
    return np.concatenate([part[::-1] if at % 2 else part for at, part in enumerate(parts)])


def _block_paths(
    arrangement: Arrangement, cell: Cell, gap_mm: float, free: BaseGeometry | None
) -> tuple[Sites, list[Index]]:
    """All places of the blocks, and paths through them in their order, each end near the next."""
    parts = [block_sites(block, cell, gap_mm, free) for block in arrangement.blocks]
    starts = np.cumsum([0, *(len(part) for part in parts)])
    joined = together(
        [
            replace(part, column=part.column + 1000 * place, row=part.row + 1000 * place)
            for place, part in enumerate(parts)
        ]
    )
    orders = []
    for first_across in (False, True):
        order: list[Index] = []
        end: tuple[float, float] | None = None
        for part, start in zip(parts, starts, strict=False):
            if not len(part):
                continue
            runs = [snake(part, 10_000, across) for across in (first_across, not first_across)]
            runs += [run[::-1] for run in runs]
            if end is not None:
                x, y = end
                far = [
                    float(np.hypot(part.x_mm[run[0]] - x, part.y_mm[run[0]] - y)) for run in runs
                ]
                runs = [runs[place] for place in np.argsort(far, kind="stable")]
            best = runs[0]
            end = (float(part.x_mm[best[-1]]), float(part.y_mm[best[-1]]))
            order.append(best + start)
        orders.append(np.concatenate(order) if order else np.zeros(0, dtype=np.intp))
    return joined, orders
