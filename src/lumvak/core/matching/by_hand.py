"""How cells are dealt into groups by hand: as they come, folded, snaked (methods 26)."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from lumvak.core.matching.heap import Dealt, Heap, Index, picked


def as_they_come(heap: Heap) -> Dealt:
    """Group after group in the order of the numbers."""
    used, spares = picked(heap)
    order = np.sort(used)
    return _seated(heap, [int(at) for at in order], _rows(heap), spares)


def fold(heap: Heap) -> Dealt:
    """The best with the worst, a pair to each group in turn.

    A fold only pairs: where an odd number is in parallel, the middle ones are left over, and are
    dealt out as they follow.
    """
    used, spares = picked(heap)
    count, pairs = heap.seats, heap.series * (heap.parallel // 2)
    order, seats = [], []
    for pair in range(pairs):
        order += [int(used[pair]), int(used[count - 1 - pair])]
        seats += [pair % heap.series] * 2
    for place in range(pairs, count - pairs):
        order.append(int(used[place]))
        seats.append((place - pairs) % heap.series)
    return _seated(heap, order, seats, spares)


def snake(heap: Heap) -> Dealt:
    """One to each group from the first to the last, then back from the last to the first."""
    used, spares = picked(heap)
    seats = []
    for place in range(heap.seats):
        row, column = divmod(place, heap.series)
        seats.append(column if row % 2 == 0 else heap.series - 1 - column)
    return _seated(heap, [int(at) for at in used], seats, spares)


def _rows(heap: Heap) -> list[int]:
    return [place // heap.parallel for place in range(heap.seats)]


def _seated(
    heap: Heap, order: Sequence[int], wanted: Sequence[int], spares: tuple[int, ...]
) -> Dealt:
    """Cells in their wanted groups; who is pinned sits first, who finds no room goes on."""
    groups: list[list[int]] = [[] for _ in range(heap.series)]
    for at, group in heap.pins.items():
        groups[group].append(at)
    later = []
    for at, group in zip(order, wanted, strict=True):
        if at in heap.pins:
            continue
        if len(groups[group]) < heap.parallel and _may(heap, at, groups[group]):
            groups[group].append(at)
        else:
            later.append(at)
    for at in later:
        _find_room(heap, at, groups)
    return Dealt(heap, np.array(groups, dtype=np.intp), spares)


def _may(heap: Heap, at: int, group: Sequence[int]) -> bool:
    """Whether a cell may join a group: nobody is there that it is kept apart from."""
    return not any(at in item and item.intersection(group) for item in heap.apart)


def _find_room(heap: Heap, at: int, groups: list[list[int]]) -> None:
    """Seat a cell where there is room; where it may not, it changes places with one that may."""
    open_ = [group for group in groups if len(group) < heap.parallel]
    for group in open_:
        if _may(heap, at, group):
            group.append(at)
            return
    for group in open_:
        for other in groups:
            for place, sits in enumerate(other):
                rest = other[:place] + other[place + 1 :]
                if sits not in heap.pins and _may(heap, at, rest) and _may(heap, sits, group):
                    other[place] = at
                    group.append(sits)
                    return
    # Nobody can change places: it sits where there is room, and the optimiser parts them.
    open_[0].append(at)


def kept_apart(heap: Heap, groups: Index) -> bool:
    """Whether no two cells that are to be apart sit in one group of (series, parallel) places."""
    return all(np.isin(group, [*item]).sum() <= 1 for item in heap.apart for group in groups)
