"""Paths through a room: bands there and back, groups that grow, rings, blocks of cells."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import product

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.lattice import Sites, block_sites, lattice, lattices_in, ring_sites
from lumvak.core.arrangement.layout import half_sizes
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.arrangement import Arrangement

Index = NDArray[np.intp]
MOST_BANDS = 6


@dataclass(frozen=True, slots=True, eq=False)
class Task:
    """What is to be laid where: the pack, the gap between wrappers in mm, the free room."""

    arrangement: Arrangement
    cell: Cell
    series: int
    parallel: int
    gap_mm: float
    free: BaseGeometry | None


def ways(task: Task) -> Iterator[tuple[str, str, Sites, Index]]:
    """Every path to try: key, words, places, and those in the order of the path, (N,)."""
    arrangement, cell, free = task.arrangement, task.cell, task.free
    parallel, gap_mm = task.parallel, task.gap_mm
    if arrangement.blocks:
        sites, orders = _block_paths(arrangement, cell, gap_mm, free)
        for place, order in enumerate(orders, 1):
            yield f"blocks-{place}", f"through the blocks, way {place}", sites, order
        return
    if arrangement.room.kind != "none":
        if free is not None and not free.is_empty:
            yield from _ways_in_room(task, free)
        return
    nested = arrangement.rows == "nested" and cell.diameter_mm is not None
    total = task.series * parallel
    half_x, half_y, _ = half_sizes(cell, arrangement.axis)
    # Seen from above rows of standing round cells are alike both ways.
    alike = half_x == half_y and not nested
    widths = _band_widths(parallel)
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
            sites = lattice(cell, arrangement.axis, gap_mm, nested, columns, rows, (0.0, 0.0), None)
            if free is not None:
                sites = _grown(arrangement, cell, gap_mm, nested, columns, rows, total, free)
            name = _words(task, band, across) + (f", {bands} bands" if bands > 1 else "")
            key = f"{'y' if across else 'x'}{band}b{bands}"
            yield key, name, sites, snake(sites, band, across)


def _runs_so(task: Task, band: int, across: bool) -> bool:
    """Whether groups may run so through bands: those of flat cells stand face to face.

    Along their thin side cell by cell, or group by group across it (methods 18).
    """
    if task.cell.diameter_mm is not None:
        return True
    thin_along_x = task.arrangement.axis == "across"
    return band == 1 if across != thin_along_x else band % task.parallel == 0


def _ways_in_room(task: Task, free: BaseGeometry) -> Iterator[tuple[str, str, Sites, Index]]:
    arrangement, cell, parallel, gap_mm = task.arrangement, task.cell, task.parallel, task.gap_mm
    for run, sites in enumerate(lattices_in(free, arrangement, cell, gap_mm)):
        for across in (False, True):
            rows = sites.column if across else sites.row
            most = int(rows.max(initial=0)) + 1 if len(sites) else 0
            bands = range(1, min(most, 3 * parallel) + 1)
            for band in sorted(bands, key=lambda width: width != parallel):
                if not _runs_so(task, band, across):
                    continue
                yield (
                    f"{'y' if across else 'x'}{band}{'t' * run}",
                    _words(task, band, across),
                    sites,
                    snake(sites, band, across),
                )
        if not free.equals(shapely.box(*free.bounds)):
            for name, along, back in (
                ("the left", sites.column, 1), ("the right", sites.column, -1),
                ("above", sites.row, 1), ("below", sites.row, -1),
            ):  # fmt: skip
                order = grown_path(sites, along * back, parallel)
                key = f"grown-{name.removeprefix('the ')}{'t' * run}"
                yield key, f"grown from {name}", sites, order
    rings = rings_in(arrangement, cell, gap_mm, free)
    if rings is not None:
        yield "rings", "rings along the wall", rings, np.arange(len(rings))


def grown_path(sites: Sites, sweep: Index, parallel: int) -> Index:
    """Places, (N,), in the order in which groups grow through an uneven room, one out of the other.

    Each group begins beside the one before and takes, of the places beside itself, those that
    ``sweep`` (N,) reaches first; so it holds together whatever the outline. It ends where nothing
    is left to grow into.
    """
    near: list[list[int]] = [[] for _ in range(len(sites))]
    for one, other in sites.pairs.tolist():
        near[one].append(other)
        near[other].append(one)
    reached = np.lexsort((sites.row, sites.column, sweep))
    rank = np.empty(len(sites), dtype=np.intp)
    rank[reached] = np.arange(len(sites))
    key, place_of, free = sweep.tolist(), rank.tolist(), set(range(len(sites)))
    ways_left = [len(item) for item in near]
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
                ways_left[place] -= 1
                if place in free:
                    start.add(place)
        if len(group) < parallel:
            break
        order += group
        before = set(group)
    return np.array(order, dtype=np.intp)


def rings_in(
    arrangement: Arrangement, cell: Cell, gap_mm: float, free: BaseGeometry, scale: float = 1.0
) -> Sites | None:
    """Rings along the wall of a round room ``scale`` times as large; ``None`` in other rooms."""
    room = arrangement.room
    if room.kind != "round" or arrangement.axis != "up":
        return None
    return ring_sites(room.diameter_mm * scale, arrangement.wall_mm, cell, gap_mm, free)


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
        sites = lattice(cell, arrangement.axis, gap_mm, nested, columns, rows, (0.0, 0.0), free)
        if len(sites) >= total or columns > 4 * total + 40:
            return sites
        columns += max(1, (total - len(sites)) // rows)


def _band_widths(parallel: int) -> list[int]:
    """Rows in a band: a whole group first, then whole shares of one, then two groups."""
    shares = [rows for rows in range(1, parallel) if parallel % rows == 0]
    return list(dict.fromkeys([parallel, *shares, 2 * parallel]))


def _words(task: Task, band: int, across: bool) -> str:
    parallel = task.parallel
    line = "rows" if across else "columns"
    if task.cell.diameter_mm is None:
        if across == (task.arrangement.axis != "across"):
            return "face to face, one group after the other"
        return "groups side by side" if band == parallel else f"side by side in {line} of {band}"
    if parallel == 1:
        return f"cell by cell along {line} of {band}"
    if band == parallel:
        return f"{line} of {band}"
    if parallel % band == 0:
        return f"{parallel // band} {line} of {band} a group"
    return f"groups along {line} of {band}"


def snake(sites: Sites, band: int, across: bool) -> Index:
    """Places, (N,), in the order of a path through bands of ``band`` rows, there and back.

    ``across`` takes bands of columns instead. Within a band the path goes up and down.
    """
    along, over = (sites.row, sites.column) if across else (sites.column, sites.row)
    strip = over // band
    forth = np.where(strip % 2 == 0, along, -along)
    within = over % band
    up = (strip + along) % 2 == 0
    return np.lexsort((np.where(up, within, -within), forth, strip))


def _block_paths(
    arrangement: Arrangement, cell: Cell, gap_mm: float, free: BaseGeometry | None
) -> tuple[Sites, list[Index]]:
    """All places of the blocks, and paths through them in their order, each end near the next."""
    parts = [block_sites(block, cell, gap_mm, free) for block in arrangement.blocks]
    starts = np.cumsum([0, *(len(part) for part in parts)])
    joined = Sites(
        np.concatenate([part.x_mm for part in parts]),
        np.concatenate([part.y_mm for part in parts]),
        np.concatenate([part.column + 1000 * place for place, part in enumerate(parts)]),
        np.concatenate([part.row + 1000 * place for place, part in enumerate(parts)]),
        np.concatenate([part.axis for part in parts]),
        np.concatenate([part.pairs + start for part, start in zip(parts, starts, strict=False)]),
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
                runs.sort(key=lambda run, p=part, x=x, y=y: float(
                    np.hypot(p.x_mm[run[0]] - x, p.y_mm[run[0]] - y)))  # type: ignore[misc]  # fmt: skip
            best = runs[0]
            end = (float(part.x_mm[best[-1]]), float(part.y_mm[best[-1]]))
            order.append(best + start)
        orders.append(np.concatenate(order) if order else np.zeros(0, dtype=np.intp))
    return joined, orders
