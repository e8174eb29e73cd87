"""A path through a small uneven room, found by trying and going back, where no sweep finds one."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lumvak.core.arrangement.group_paths import Lattices, Task, Way, neighbours_of
from lumvak.core.arrangement.sites import Sites

# So many places are laid on trial in a lattice before it is given up.
MOST_TRIALS = 8_000


def walked_ways(task: Task, held: Lattices) -> Iterator[Way]:
    """Paths found by trying place after place, in the lattices that ``held`` enough."""
    for run, sites in held:
        order = walked_path(sites, task.series, task.parallel)
        if order is not None:
            yield Way(f"walked{'t' * run}", "by trying, one group beside the other", sites, order)


def walked_path(sites: Sites, series: int, parallel: int) -> np.ndarray | None:
    """Places, (S P,), of groups each beside the one before; ``None`` where none was found.

    Layer by layer, or row by row of lying cells, as many groups in each as go in.
    """
    near = neighbours_of(sites)
    order: list[int] = []
    left = series
    for level in range(int(sites.stack.max(initial=-1)) + 1):
        own = np.flatnonzero(sites.stack == level).tolist()
        for count in range(min(left, len(own) // parallel), 0, -1):
            path = _Walk(near, own, parallel, count).path()
            if path:
                order += path
                left -= count
                break
    return np.array(order, dtype=np.intp) if left == 0 else None


class _Walk:
    """A search through the places of one layer, each a bit of a number."""

    def __init__(self, near: list[list[int]], own: list[int], parallel: int, count: int) -> None:
        self.own, self.parallel, self.wanted = own, parallel, parallel * count
        bit = {place: at for at, place in enumerate(own)}
        self.near = [sum(1 << bit[other] for other in near[place] if other in bit) for place in own]
        self.trials = 0
        self.tried: set[tuple[int, int, int]] = set()
        self.laid: list[int] = []

    def path(self) -> list[int]:
        """A path from any place, the most hidden ones tried first; empty where none was found."""
        everything = (1 << len(self.own)) - 1
        for start in sorted(range(len(self.own)), key=lambda at: self.near[at].bit_count()):
            if self._on(everything, 0, 0, 1 << start):
                return [self.own[at] for at in self.laid]
        return []

    def _on(self, free: int, before: int, group: int, options: int) -> bool:
        """Lay the next cell on one of ``options`` and go on; whether that came to an end.

        ``group`` are the cells of the group at hand, ``before`` those of the one before it.
        """
        state = (free, before if not group else 0, group)
        if state in self.tried and self.laid:
            return False
        self.tried.add(state)
        while options and self.trials < MOST_TRIALS:
            at = self._fewest(options, free)
            options &= ~(1 << at)
            self.trials += 1
            self.laid.append(at)
            if len(self.laid) == self.wanted:
                return True
            left, grown = free & ~(1 << at), group | (1 << at)
            # What ends the group at hand may lie elsewhere than all groups after it.
            to_end = -len(self.laid) % self.parallel
            if self._room_left(left, self.wanted - len(self.laid) - to_end):
                onwards = self._beside(grown) & left
                whole = len(self.laid) % self.parallel == 0
                if self._on(left, grown if whole else before, 0 if whole else grown, onwards):
                    return True
            self.laid.pop()
        return False

    def _beside(self, places: int) -> int:
        found = 0
        while places:
            low = places & -places
            found |= self.near[low.bit_length() - 1]
            places ^= low
        return found

    def _fewest(self, options: int, free: int) -> int:
        """The option with the fewest free places beside it: what is left for later is reached."""
        best, least = -1, 1 << 30
        rest = options
        while rest:
            low = rest & -rest
            place = low.bit_length() - 1
            count = (self.near[place] & free).bit_count()
            if count < least:
                best, least = place, count
            rest ^= low
        return best

    def _room_left(self, free: int, wanted: int) -> bool:
        """Whether one part of what is free still holds all that is to be laid."""
        while free and wanted:
            part, grown = 0, free & -free
            while grown != part:
                part = grown
                grown |= self._beside(part) & free
            if part.bit_count() >= wanted:
                return True
            free &= ~part
        return wanted == 0
