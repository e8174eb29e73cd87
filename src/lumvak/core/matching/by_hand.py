"""How cells are dealt into groups by hand: as they come, folded, snaked (methods 26)."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from lumvak.core.matching.pool import Dealt, Index, Pool, picked


def as_they_come(pool: Pool) -> Dealt:
    """Group after group in the order of the numbers."""
    used, spares = picked(pool)
    order = np.sort(used)
    return _seated(pool, [int(at) for at in order], _rows(pool), spares)


def fold(pool: Pool) -> Dealt:
    """The best with the worst, a pair to each group in turn.

    A fold only pairs: where an odd number is in parallel, the middle ones are left over, and are
    dealt out as they follow.
    """
    used, spares = picked(pool)
    count, pairs = pool.seats, pool.series * (pool.parallel // 2)
    order, seats = [], []
    for pair in range(pairs):
        order += [int(used[pair]), int(used[count - 1 - pair])]
        seats += [pair % pool.series] * 2
    for place in range(pairs, count - pairs):
        order.append(int(used[place]))
        seats.append((place - pairs) % pool.series)
    return _seated(pool, order, seats, spares)


def snake(pool: Pool) -> Dealt:
    """One to each group from the first to the last, then back from the last to the first."""
    used, spares = picked(pool)
    seats = []
    for place in range(pool.seats):
        row, column = divmod(place, pool.series)
        seats.append(column if row % 2 == 0 else pool.series - 1 - column)
    return _seated(pool, [int(at) for at in used], seats, spares)


def _rows(pool: Pool) -> list[int]:
    return [place // pool.parallel for place in range(pool.seats)]


def _seated(
    pool: Pool, order: Sequence[int], wanted: Sequence[int], spares: tuple[int, ...]
) -> Dealt:
    """Cells in their wanted groups; who is pinned sits first, who finds no room goes on."""
    groups: list[list[int]] = [[] for _ in range(pool.series)]
    for at, group in pool.pins.items():
        groups[group].append(at)
    later = []
    for at, group in zip(order, wanted, strict=True):
        if at in pool.pins:
            continue
        if len(groups[group]) < pool.parallel and _may(pool, at, groups[group]):
            groups[group].append(at)
        else:
            later.append(at)
    for at in later:
        _find_room(pool, at, groups)
    return Dealt(pool, np.array(groups, dtype=np.intp), spares)


def _may(pool: Pool, at: int, group: Sequence[int]) -> bool:
    """Whether a cell may join a group: nobody is there that it is kept apart from."""
    return not any(at in item and item.intersection(group) for item in pool.apart)


def _find_room(pool: Pool, at: int, groups: list[list[int]]) -> None:
    """Seat a cell where there is room; where it may not, it changes places with one that may."""
    open_ = [group for group in groups if len(group) < pool.parallel]
    for group in open_:
        if _may(pool, at, group):
            group.append(at)
            return
    for group in open_:
        for other in groups:
            for place, sits in enumerate(other):
                rest = other[:place] + other[place + 1 :]
                if sits not in pool.pins and _may(pool, at, rest) and _may(pool, sits, group):
                    other[place] = at
                    group.append(sits)
                    return
    # Nobody can change places: it sits where there is room, and the optimiser parts them.
    open_[0].append(at)


def kept_apart(pool: Pool, groups: Index) -> bool:
    """Whether no two cells that are to be apart sit in one group of (series, parallel) places."""
    return all(np.isin(group, [*item]).sum() <= 1 for item in pool.apart for group in groups)
