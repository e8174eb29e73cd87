"""Groups that are as alike as can be: swaps between groups, from the snake on (methods 26)."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from itertools import combinations

import numpy as np
from msgspec.structs import replace

from lumvak.core.matching.bounds import partitions
from lumvak.core.matching.by_hand import kept_apart, snake
from lumvak.core.matching.exact import can_settle, settled
from lumvak.core.matching.pool import (
    Array,
    Dealt,
    Index,
    Pool,
    by_conductance,
    in_order,
    less,
)

# So few ways are all tried.
TRY_ALL = 20_000.0
# Groups that each of them is tried against, and pairs of cells of a group that are tried at once.
PARTNERS, MOST_PAIRS = 4, 66
# Groups so alike in what counts for more need no further search once no swap gains; a swap that
# gains less than this gains nothing.
ALIKE, LEAST_GAIN = 5e-5, 1e-16
# What it takes to improve one group, in s, with so many pairs tried; and the least passes.
IMPROVE_S, USUAL_PAIRS, LEAST_PASSES = 4e-4, 45, 6
# Cells that change places where nothing gains any more: up to a quarter of them.
KICKED, MOST_KICKED = 3, 40
LOOKED_AT = 50
Better = Callable[[Dealt, float], bool]
# What a swap gains, negative; with which group, -1 the spares; the seats of both.
Swap = tuple[float, int, Index, Index]
NO_SWAP: Swap = (0.0, -1, np.zeros(0, dtype=np.intp), np.zeros(0, dtype=np.intp))


def optimised(
    pool: Pool, seed: int = 1, seconds: float | None = None, report: Better | None = None
) -> Dealt:
    """The best dealing found; same pool, seed and seconds, same result.

    Work goes on for as many passes as take about ``seconds``; without them for a second at most,
    and only until the groups are alike. ``report`` is called with the best so far and the share of
    the work that is done, and says whether to go on. A pool of few ways is searched to the end.
    """
    begun = snake(pool)
    if not begun.spares and _how_many(pool) <= TRY_ALL:
        return _all_tried(pool, begun)
    search = _Search(begun, np.random.default_rng(seed))
    best = begun if kept_apart(pool, begun.groups) else None
    passes = _passes(pool, 1.0 if seconds is None else seconds)
    for number in range(passes):
        moved = search.one_pass()
        found = search.dealt()
        better = best is None or less(found.worth, best.worth)
        if better and kept_apart(pool, found.groups):
            best = found
        if report is not None and not report(best or found, (number + 1) / passes):
            break
        if moved:
            continue
        if best is not None and seconds is None and _alike(best):
            break
        # Nothing gains any more: some cells change places, from the best there is.
        search.kick(best or found)
    return _settled(best if best is not None else search.dealt())


def _settled(best: Dealt) -> Dealt:
    """The best of a pool that is small enough proven to be so, or a better one."""
    pool = best.pool
    if pool.pins or pool.apart or best.spares or not can_settle(pool.seats, pool.parallel):
        return best
    if min(pool.weights) == max(pool.weights):
        return best
    used = np.sort(best.groups.ravel())
    column = 1 if by_conductance(pool) else 0
    values = _values(pool, used)[:, column]
    if not values.any():
        return best
    sums = _values(pool, best.groups.ravel())[:, column].reshape(best.groups.shape).sum(axis=1)
    groups, proven = settled(values, pool.parallel, float(np.ptp(sums)))
    if groups is None:
        return replace(best, proven=proven)
    return Dealt(pool, used[groups], (), proven)


def _passes(pool: Pool, seconds: float) -> int:
    pairs = min(pool.parallel * (pool.parallel - 1) // 2, MOST_PAIRS)
    each = IMPROVE_S * pool.series * max(1.0, (pairs / USUAL_PAIRS) ** 2)
    return max(LEAST_PASSES, round(seconds / each))


def _alike(dealt: Dealt) -> bool:
    """Whether groups are as alike in what counts for more as no meter tells."""
    first, second = dealt.pool.weights
    spreads = (dealt.spread_capacity, dealt.spread_conductance)
    counted = [
        item
        for item, weight in zip(spreads, (first, second), strict=True)
        if weight >= max(first, second) and math.isfinite(item)
    ]
    return all(item <= ALIKE for item in counted)


def _all_tried(pool: Pool, begun: Dealt) -> Dealt:
    """The best of all ways to deal the cells out."""
    used = np.sort(begun.groups.ravel())
    best, least = begun, (np.inf, np.inf)
    values = _values(pool, used)
    if pool.pins:
        place = {int(at): seat for seat, at in enumerate(used)}
        fixed = [
            tuple(place[at] for at, own in pool.pins.items() if own == group)
            for group in range(pool.series)
        ]
        free = tuple(seat for seat, at in enumerate(used) if int(at) not in pool.pins)
        every = _ways_beside(fixed, free, pool.parallel)
    else:
        every = _ways(tuple(range(pool.seats)), pool.parallel)
    for ways in every:
        sums = values[np.array(ways)].sum(axis=1)
        worth = in_order(pool, *np.ptp(sums, axis=0).tolist())
        if less(worth, least):
            groups = used[np.array(ways)]
            if kept_apart(pool, groups):
                best, least = Dealt(pool, groups, ()), worth
    return replace(best, proven=True)


def _how_many(pool: Pool) -> float:
    """In how many ways all cells can be dealt out; who has a place keeps it."""
    if not pool.pins:
        return partitions(pool.series, pool.parallel)
    taken = np.bincount([*pool.pins.values()], minlength=pool.series)
    logs = math.lgamma(pool.seats - int(taken.sum()) + 1.0)
    logs -= sum(math.lgamma(pool.parallel - int(number) + 1.0) for number in taken)
    return math.exp(min(logs, 700.0))


def _ways_beside(
    fixed: list[tuple[int, ...]], left: tuple[int, ...], parallel: int
) -> Iterator[tuple[tuple[int, ...], ...]]:
    """Every way to deal these out to groups that have some already, one after the other."""
    if not fixed:
        yield ()
        return
    for others in combinations(left, parallel - len(fixed[0])):
        taken = set(others)
        rest = tuple(at for at in left if at not in taken)
        for more in _ways_beside(fixed[1:], rest, parallel):
            yield ((*fixed[0], *others), *more)


def _ways(left: tuple[int, ...], parallel: int) -> Iterator[tuple[tuple[int, ...], ...]]:
    """Every way to deal these out; the first one left is always in the next group."""
    if not left:
        yield ()
        return
    first, rest = left[0], left[1:]
    for others in combinations(rest, parallel - 1):
        taken = set(others)
        for more in _ways(tuple(at for at in rest if at not in taken), parallel):
            yield ((first, *others), *more)


def _values(pool: Pool, used: Index) -> Array:
    """Capacity and conductance of places, over the mean of a group, (n, 2); 0 where unknown."""
    columns = []
    for measure in (pool.ah, pool.siemens):
        own = measure[used]
        known = np.isfinite(own).all()
        columns.append(own / (own.sum() / pool.series) if known else np.zeros(len(own)))
    return np.stack(columns, axis=1)


class _Search:
    """Groups that swap cells, each pair of groups the best of all swaps of one or two cells."""

    def __init__(self, begun: Dealt, chance: np.random.Generator) -> None:
        pool = self.pool = begun.pool
        self.chance = chance
        self.groups = begun.groups.copy()
        self.spares = np.array(begun.spares, dtype=np.intp)
        # Values of all places, so that those of the cells in use make groups of 1 on average.
        used = begun.groups.ravel()
        everyone = np.stack([pool.ah, pool.siemens], axis=1)
        known = np.isfinite(everyone).all(axis=0)
        mean = np.where(known, everyone[used].sum(axis=0) / pool.series, 1.0)
        self.values: Array = np.where(known, everyone, 0.0) / mean
        self.weights = np.where(known, pool.weights, 0.0)
        self.pinned = np.zeros(len(pool.numbers), dtype=bool)
        self.pinned[[*pool.pins]] = True
        self.singles = np.arange(pool.parallel)[:, None]
        self.pairs = np.stack(np.triu_indices(pool.parallel, 1), axis=1)
        self.off = self._off()

    def _off(self) -> Array:
        """How far each group is off the mean, (series, 2)."""
        return np.asarray(self.values[self.groups].sum(axis=1) - 1.0)

    def dealt(self) -> Dealt:
        """What there is now."""
        return Dealt(self.pool, self.groups.copy(), tuple(sorted(self.spares.tolist())))

    def one_pass(self) -> bool:
        """Each group, the farthest off first, swaps with the one that gains most; whether any."""
        moved = False
        size = self.off**2 @ self.weights
        for group in np.argsort(-size).tolist():
            moved |= self._improve(group)
        return moved

    def _improve(self, group: int) -> bool:
        """Swap one or two cells of a group with another group or the spares; whether it gained."""
        own = self.off[group] * self.weights
        # Those that are off the other way gain most.
        score = self.off @ own
        score[group] = np.inf
        count = min(PARTNERS, len(score) - 1)
        tried = []
        if count > 0:
            partners = np.argpartition(score, count - 1)[:count]
            for seats in (self.singles, self._some_pairs()):
                tried.append(self._best_swap(group, partners, seats))
        if len(self.spares):
            tried.append(self._best_spare(group))
        gain, other, mine, theirs = min(tried, key=lambda item: item[0], default=NO_SWAP)
        if gain >= -LEAST_GAIN:
            return False
        self._swap(group, other, mine, theirs)
        return True

    def _some_pairs(self) -> Index:
        """Pairs of seats of a group that are tried at once, (m, 2)."""
        if len(self.pairs) <= MOST_PAIRS:
            return self.pairs
        return self.pairs[self.chance.choice(len(self.pairs), MOST_PAIRS, replace=False)]

    def _best_swap(self, group: int, partners: Index, seats: Index) -> Swap:
        """The swap of ``seats`` (m, 1 or 2) with one of ``partners`` (k,) that gains most.

        A swap gives g and gets t, and adds w·2·(g − t)·(g − t − c) to the weighted squares of both
        groups, c being how much farther off the first is: g·(g − c) + t·(t + c) − 2·g·t.
        """
        if not len(seats):
            return NO_SWAP
        mine, theirs = self.groups[group][seats], self.groups[partners][:, seats]
        given, got = self.values[mine].sum(axis=1), self.values[theirs].sum(axis=2)
        farther = (self.off[group] - self.off[partners])[:, None]
        a = (given * (given - farther)) @ self.weights
        b = (got * (got + farther)) @ self.weights
        if self.pool.pins:
            a = a + np.where(self.pinned[mine].any(axis=1), np.inf, 0.0)
            b = b + np.where(self.pinned[theirs].any(axis=2), np.inf, 0.0)
        both = (given * self.weights) @ got.transpose(0, 2, 1)
        cost = 2.0 * (a[:, :, None] + b[:, None, :] - 2.0 * both)
        for at in self._cheapest(cost):
            gain = float(cost.flat[at])
            if gain >= 0.0:
                break
            partner, one, two = np.unravel_index(at, cost.shape)
            other = int(partners[partner])
            if self._allowed(group, other, seats[one], seats[two]):
                return gain, other, seats[one], seats[two]
        return NO_SWAP

    def _cheapest(self, cost: Array) -> list[int]:
        """Places of the swaps to look at, the best first: one, unless some are kept apart."""
        if not self.pool.apart:
            return [int(np.argmin(cost))]
        return [int(at) for at in np.argsort(cost, axis=None)[:LOOKED_AT]]

    def _best_spare(self, group: int) -> Swap:
        """The swap of one cell with a spare one that gains most."""
        given = self.values[self.groups[group]][:, None] - self.values[self.spares][None]
        cost = np.asarray((given * (given - 2.0 * self.off[group])) @ self.weights)
        cost[self.pinned[self.groups[group]]] = np.inf
        for at in self._cheapest(cost):
            one, two = (np.array([place]) for place in divmod(at, len(self.spares)))
            gain = float(cost.flat[at])
            if gain < 0.0 and self._allowed(group, -1, one, two):
                return gain, -1, one, two
        return NO_SWAP

    def _allowed(self, group: int, other: int, mine: Index, theirs: Index) -> bool:
        """Whether nobody comes to sit with one that it is kept apart from."""
        if not self.pool.apart:
            return True
        there = self.spares if other < 0 else self.groups[other]
        one = np.concatenate([np.delete(self.groups[group], mine), there[theirs]])
        two = np.concatenate([np.delete(there, theirs), self.groups[group][mine]])
        held = (one,) if other < 0 else (one, two)
        return all(np.isin(item, [*apart]).sum() <= 1 for apart in self.pool.apart for item in held)

    def _swap(self, group: int, other: int, mine: Index, theirs: Index) -> None:
        there = self.spares if other < 0 else self.groups[other]
        self.groups[group][mine], there[theirs] = there[theirs], self.groups[group][mine]
        for place in (group, other):
            if place >= 0:
                self.off[place] = self.values[self.groups[place]].sum(axis=0) - 1.0

    def kick(self, best: Dealt) -> None:
        """Begin again at the best there is, with a few or many cells in other places."""
        self.groups = best.groups.copy()
        self.spares = np.array(best.spares, dtype=np.intp)
        most = max(KICKED, self.pool.seats // 4)
        times = int(self.chance.integers(1, most + 1)) if self.pool.series > 1 else 0
        for _ in range(min(times, MOST_KICKED)):
            group, other = self.chance.choice(self.pool.series, 2, replace=False).tolist()
            seats = [np.flatnonzero(~self.pinned[self.groups[item]]) for item in (group, other)]
            if all(len(item) for item in seats):
                one, two = (self.chance.choice(item, 1) for item in seats)
                if self._allowed(group, other, one, two):
                    self._swap(group, other, one, two)
        self.off = self._off()
