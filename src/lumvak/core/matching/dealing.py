"""Groups by every method side by side, with the bound that says how alike they can be at all."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct

from lumvak.core.document.hand import Hand
from lumvak.core.matching.bounds import least_spread
from lumvak.core.matching.by_hand import as_they_come, fold, snake
from lumvak.core.matching.matched import Matched
from lumvak.core.matching.optimiser import Better, optimised
from lumvak.core.matching.pool import WEIGHTS, Array, Dealt, Pool, by_conductance, pool_of

METHODS = {
    "as they come": as_they_come,
    "fold": fold,
    "snake": snake,
}
BEST = "optimiser"
# What builders call them.
METHOD_NAMES = {
    "as they come": "as they come", "fold": "best with worst", "snake": "serpentine",
    BEST: "optimised",
}  # fmt: skip


class Compared(Struct, frozen=True, eq=False):
    """Dealings of one pool by method; ``bound`` is the least spread of what counts for more."""

    methods: Mapping[str, Dealt]
    bound: float

    @property
    def best(self) -> Dealt:
        """What the optimiser found."""
        return self.methods[BEST]

    @property
    def gap(self) -> float:
        """How far the best is over the bound: no dealing is more than so much better."""
        return max(0.0, spread_of(self.best) - self.bound)


def spread_of(dealt: Dealt) -> float:
    """The spread of what counts for more; where both count alike their sum."""
    return dealt.worth[0]


def proof_of(pool: Pool) -> str:
    """What a proof is of, in words."""
    if pool.weights[0] == pool.weights[1]:
        return "the sum of both spreads"
    return "conductance" if by_conductance(pool) else "capacity"


def compared(
    pool: Pool, seed: int = 1, seconds: float | None = None, report: Better | None = None
) -> Compared:
    """Deal a pool by every method (methods 26)."""
    methods = {name: deal(pool) for name, deal in METHODS.items()}
    methods[BEST] = optimised(pool, seed, seconds, report)
    return Compared(methods, bound_of(pool, methods[BEST]))


def bound_of(pool: Pool, best: Dealt) -> float:
    """The least spread that the cells in use can be dealt to, as a share of the mean.

    Where the best is proven it is its own; of pairs it is that of the first with the last.
    """
    if best.proven:
        return spread_of(best)
    if pool.weights[0] == pool.weights[1]:
        used = best.groups.ravel()
        return sum(
            least_spread(own[used], pool.series, pool.parallel)
            for own in (pool.ah, pool.siemens)
            if np.isfinite(own).all()
        )
    every: Array = pool.siemens if by_conductance(pool) else pool.ah
    if len(pool.old):
        return _beside_old(pool, every)
    values: Array = every[best.groups.ravel()]
    if pool.parallel == 2:
        ordered = np.sort(values)
        sums = ordered + ordered[::-1]
        return float(np.ptp(sums) / (values.sum() / pool.series))
    return least_spread(values, pool.series, pool.parallel)


def _beside_old(pool: Pool, values: Array) -> float:
    """What the best cells for the weakest old group, and the worst for the strongest, leave.

    ``values`` are those of the whole pool, (n,).
    """
    new = np.sort(np.delete(values, pool.old))
    cells = pool.parallel - 1
    least, most = new[:cells].sum(), new[-cells:].sum()
    old = values[pool.old]
    left = float((old.max() + least) - (old.min() + most))
    return max(left, 0.0) / float(old.mean() + most)


def pool_in_hand(hand: Hand, matched: Matched, series: int, parallel: int) -> Pool:
    """The good cells in hand as a pool, with all that binds them; raises PoolError.

    The groups of an old pack that they are joined to count, where there are as many.
    """
    pins = {item.number: int(item.cell[1:].partition("c")[0]) - 1 for item in hand.pins}
    cells = [(cell.number, cell.ah, matched.ohm.get(cell.number)) for cell in matched.good]
    groups = hand.old.groups if len(hand.old.groups) == series else ()
    old = [(item.ah, None if item.mohm is None else item.mohm * 1e-3) for item in groups]
    return pool_of(
        cells,
        series,
        parallel=parallel,
        weights=WEIGHTS[hand.by],
        pins=pins,
        apart=hand.apart,
        old=old,
    )


def by_voltage(
    cells: Sequence[tuple[int, float]], series: int, parallel: int
) -> tuple[list[list[int]], tuple[int, ...]]:
    """Cells of one kind in the order of their rest voltages, so that neighbours are joined.

    ``cells`` are numbers and V. Of more cells than are needed those nearest together are taken.
    Returns the groups by number, and the spares. It promises nothing on capacity: a voltage tells
    charge, not size.
    """
    ordered = sorted(cells, key=lambda item: (item[1], item[0]))
    count = series * parallel
    spans = [ordered[at + count - 1][1] - ordered[at][1] for at in range(len(ordered) - count + 1)]
    first = int(np.argmin(spans))
    taken = [number for number, _ in ordered[first : first + count]]
    left = [number for number, _ in (*ordered[:first], *ordered[first + count :])]
    groups = [taken[at : at + parallel] for at in range(0, count, parallel)]
    return groups, tuple(sorted(left))
