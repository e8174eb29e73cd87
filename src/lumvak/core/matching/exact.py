"""Middle pools settled: the best dealing by one measure, proven, or that no better one is."""

from __future__ import annotations

import math
from itertools import combinations
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Index = NDArray[np.intp]
# Groups that could be made at all, those near enough to the mean, and steps of the search.
MOST_GROUPS, MOST_NEAR, MOST_STEPS = 150_000, 6_000, 60_000
# Sums that differ by less than so much of one are the same.
SAME = 1e-12


def can_settle(count: int, parallel: int) -> bool:
    """Whether a pool is small enough to try for a proof."""
    return math.comb(count, parallel) <= MOST_GROUPS


class Proof(NamedTuple):
    """A better dealing where there is one, and whether the search came to its end."""

    dealing: Index | None
    ended: bool


def settled(values: Array, parallel: int, found: float) -> Proof:
    """A dealing of ``values`` (n,) whose sums lie nearer together than ``found``, and the proof.

    Each group of a better dealing lies within ``found`` of the mean; all such groups are listed,
    and those that share no cell are put together, the first free cell first. Returns the groups
    (series, parallel) of places, or ``None`` where none is better, and whether the search came to
    its end, so that no other is better still.
    """
    series, mean = len(values) // parallel, float(values.sum()) * parallel / len(values)
    near = SAME * max(1.0, mean)
    every = np.array(list(combinations(range(len(values)), parallel)), dtype=np.intp)
    sums = values[every].sum(axis=1)
    within = np.flatnonzero(np.abs(sums - mean) < found - near)
    if len(within) > MOST_NEAR:
        return Proof(None, False)
    masks = [sum(1 << int(at) for at in group) for group in every[within].tolist()]
    totals = sums[within].tolist()
    # By the least cell of each: the group of the first free cell is looked for there.
    by_first: list[list[int]] = [[] for _ in values]
    for place, group in enumerate(every[within].tolist()):
        by_first[group[0]].append(place)
    best: list[int] = []
    least, steps = found - near, 0
    whole = (1 << len(values)) - 1

    def look(taken: int, chosen: list[int], low: float, high: float) -> bool:
        """Go on from the cells that are taken; whether there is still time."""
        nonlocal best, least, steps
        if taken == whole:
            best, least = chosen[:], high - low - near
            return True
        free = (~taken & (taken + 1)).bit_length() - 1
        for place in by_first[free]:
            total = totals[place]
            if masks[place] & taken or max(high, total) - min(low, total) >= least:
                continue
            steps += 1
            if steps > MOST_STEPS:
                return False
            if not look(taken | masks[place], [*chosen, place], min(low, total), max(high, total)):
                return False
        return True

    ended = look(0, [], math.inf, -math.inf)
    if not best:
        return Proof(None, ended)
    assert len(best) == series
    return Proof(every[within][best], ended)
