"""A pool of cells to deal into groups, and what a dealing is worth."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.said import Text, phrase
from lumvak.core.spelling import Refused

Array = NDArray[np.float64]
Index = NDArray[np.intp]
# A measure that comes second counts so much less that the first is settled before it.
SECOND = 3e-5
# Spreads that differ by less tie.
TIE = 1e-10
# The groups of an old pack have numbers from here on, which no cell has.
OLD = 1_000_000


class PoolError(Refused):
    """A pool that cannot be dealt as asked; ``missing`` is how many good cells it lacks."""

    def __init__(self, text: Text, missing: int = 0) -> None:
        super().__init__(text)
        self.missing = missing


class Pool(Struct, frozen=True, eq=False):
    """Cells to deal: their numbers, capacities in Ah and conductances in S, (n,) each.

    What is not known of a measure is the mean of what is; where nothing is known of it, it is NaN
    throughout and counts for nothing. ``pins`` give the group, from 0, of a place in the pool;
    ``apart`` are sets of places no two of which may be in one group. ``weights`` say how much
    capacity and conductance count.
    """

    numbers: tuple[int, ...]
    ah: Array
    siemens: Array
    series: int
    parallel: int
    weights: tuple[float, float] = (1.0, SECOND)
    pins: Mapping[int, int] = field(default_factory=dict)
    apart: tuple[frozenset[int], ...] = ()

    @property
    def seats(self) -> int:
        """How many cells the pack takes, and old groups."""
        return self.series * self.parallel

    @property
    def old(self) -> Index:
        """Places of the groups of an old pack, in the order of theirs, (series,) or (0,)."""
        return np.flatnonzero(np.array(self.numbers) >= OLD)


WEIGHTS = {
    "capacity": (1.0, SECOND), "resistance": (SECOND, 1.0), "both": (1.0, 1.0),
}  # fmt: skip


def pool_of(
    cells: Iterable[tuple[int, float | None, float | None]],
    series: int,
    parallel: int,
    weights: tuple[float, float] = WEIGHTS["capacity"],
    pins: Mapping[int, int] | None = None,
    apart: Sequence[Iterable[int]] = (),
    old: Sequence[tuple[float | None, float | None]] = (),
) -> Pool:
    """A pool from numbers, capacities in Ah and resistances in ohm; ``None`` is not known.

    ``pins`` give the group, from 0, of a cell by its number; ``apart`` are numbers of cells that
    are kept apart. ``old`` are Ah and ohm of groups of an old pack: each is in its group from the
    start, so that the sums of both come out alike. Raises PoolError where there are too few cells,
    or a pin or a wish to keep apart cannot be met.

    It is long, for each thing that cannot be has its own error.
    """
    listed = sorted(cells, key=lambda item: item[0])
    numbers = tuple(number for number, _, _ in listed)
    ah = np.array([np.nan if item[1] is None else item[1] for item in listed], dtype=float)
    ohm = np.array([np.nan if item[2] is None else item[2] for item in listed], dtype=float)
    place = {number: at for at, number in enumerate(numbers)}
    if len(place) < len(numbers):
        raise PoolError("two cells have the same number; give each its own")
    if len(numbers) < series * parallel:
        lacking = series * parallel - len(numbers)
        raise PoolError(
            phrase(
                "{} good cells for {} places: {} are missing",
                len(numbers),
                series * parallel,
                lacking,
            ),
            lacking,
        )
    fixed: dict[int, int] = {}
    for number, group in (pins or {}).items():
        if number not in place:
            raise PoolError(
                phrase("cell {} is to have its place, and is not among the good ones", number)
            )
        if not 0 <= group < series:
            raise PoolError(phrase("cell {} is to be in group {} of {}", number, group + 1, series))
        fixed[place[number]] = group
    taken = np.bincount([*fixed.values()], minlength=series)
    if taken.max(initial=0) > parallel:
        full = int(np.argmax(taken)) + 1
        raise PoolError(
            phrase("group {} is to take {} cells and has room for {}", full, taken.max(), parallel)
        )
    sets = []
    for item in apart:
        known = frozenset(place[number] for number in item if number in place)
        if len(known) > series:
            raise PoolError(
                phrase("{} cells are to be kept apart in {} groups", len(known), series)
            )
        groups = [fixed[at] for at in known if at in fixed]
        if len(groups) > len(set(groups)):
            raise PoolError("two cells are to be kept apart and to be in one group")
        if len(known) > 1:
            sets.append(known)
    pool = Pool(
        numbers,
        _filled(ah),
        siemens=_filled(1.0 / ohm),
        series=series,
        parallel=parallel,
        weights=weights,
        pins=fixed,
        apart=tuple(sets),
    )
    return _with_old(pool, old) if old else pool


def _with_old(pool: Pool, old: Sequence[tuple[float | None, float | None]]) -> Pool:
    """A pool with the groups of an old pack, each as one cell more in its place."""
    if len(old) != pool.series:
        raise PoolError(
            phrase("{} old groups are to stand beside {} of the pack", len(old), pool.series)
        )
    ah = np.array([np.nan if item[0] is None else item[0] for item in old], dtype=float)
    ohm = np.array([np.nan if item[1] is None else item[1] for item in old], dtype=float)
    at = len(pool.numbers)
    return replace(
        pool,
        numbers=(*pool.numbers, *range(OLD, OLD + len(old))),
        ah=_with_known(pool.ah, ah),
        siemens=_with_known(pool.siemens, 1.0 / ohm),
        parallel=pool.parallel + 1,
        pins={**pool.pins, **{at + group: group for group in range(len(old))}},
    )


def _with_known(own: Array, old: Array) -> Array:
    """Values of cells and of old groups; these count for nothing where one is not known."""
    nothing = np.full_like(old, np.nan if np.isnan(own).any() else 0.0)
    known = np.isfinite(old).all() and np.isfinite(own).all()
    return np.concatenate([own, old if known else nothing])


def _filled(values: Array) -> Array:
    """Values with the mean of the known where one is not known."""
    known = np.isfinite(values)
    if not known.any():
        return values
    return np.where(known, values, values[known].mean())


class Dealt(Struct, frozen=True, eq=False):
    """A dealing: places of the pool by group, (series, parallel), and the spares.

    ``proven`` is whether none is better by what counts for more, or by the sum where both do.
    """

    pool: Pool
    groups: Index
    spares: tuple[int, ...]
    proven: bool = False

    @property
    def group_ah(self) -> Array:
        """Capacity of each group in Ah, (series,)."""
        return np.asarray(self.pool.ah[self.groups].sum(axis=1))

    @property
    def group_siemens(self) -> Array:
        """Conductance of each group in S, (series,)."""
        return np.asarray(self.pool.siemens[self.groups].sum(axis=1))

    @property
    def spread_capacity(self) -> float:
        """Largest less least capacity of a group, over the mean; NaN where none is known."""
        return spread(self.group_ah)

    @property
    def spread_conductance(self) -> float:
        """Largest less least conductance of a group, over the mean; NaN where none is known."""
        return spread(self.group_siemens)

    @property
    def delivered_ah(self) -> float:
        """Charge that the pack gives: that of its weakest group."""
        return float(self.group_ah.min())

    @property
    def worth(self) -> tuple[float, float]:
        """The spread of what counts for more, and that of the other; less is better.

        Where both count alike it is their sum.
        """
        return in_order(self.pool, self.spread_capacity, self.spread_conductance)

    def numbers(self) -> list[list[int]]:
        """The numbers of the cells of each group; an old pack has none."""
        named = [[self.pool.numbers[at] for at in group] for group in self.groups.tolist()]
        return [[number for number in group if number < OLD] for group in named]


def in_order(pool: Pool, capacity: float, conductance: float) -> tuple[float, float]:
    """The spreads of ``capacity`` and ``conductance``, that which counts for more first.

    One that is not known is 0; where both count alike it is their sum.
    """
    both = (0.0 if np.isnan(capacity) else capacity, 0.0 if np.isnan(conductance) else conductance)
    if pool.weights[0] == pool.weights[1]:
        return sum(both), 0.0
    return both[::-1] if by_conductance(pool) else both


def less(one: tuple[float, float], other: tuple[float, float]) -> bool:
    """Whether spreads are less: by the first, and where they tie in it by the second."""
    if abs(one[0] - other[0]) > TIE:
        return one[0] < other[0]
    return one[1] < other[1] - TIE


def spread(values: Array) -> float:
    """Largest less least of values (n,), over their mean."""
    return float((values.max() - values.min()) / values.mean())


def by_conductance(pool: Pool) -> bool:
    """Whether conductance counts for more, or is all that is known."""
    known = np.isfinite(pool.siemens).all()
    return bool(known and (pool.weights[1] > pool.weights[0] or not np.isfinite(pool.ah).all()))


def ranked(pool: Pool) -> Index:
    """Places of the pool (n,) from the best cell to the worst, by what counts for more.

    Best is the largest capacity or conductance; among equals the lower number.
    """
    first = pool.ah if pool.weights[0] >= pool.weights[1] else pool.siemens
    if not np.isfinite(first).all():
        first = pool.siemens if first is pool.ah else pool.ah
    if not np.isfinite(first).all():
        return np.arange(len(pool.numbers))
    return np.argsort(-first, kind="stable")


class Picked(NamedTuple):
    """Places of the cells to use, the best first, and those left over."""

    used: Index
    spares: tuple[int, ...]


def picked(pool: Pool) -> Picked:
    """Places of the cells to use (m,), the best first, and those left over.

    What is pinned is used; of the others the best. The order is that of the pool's own ranking.
    """
    order = ranked(pool)
    pinned = np.isin(order, [*pool.pins])
    free = order[~pinned][: pool.seats - int(pinned.sum())]
    used = np.isin(order, free) | pinned
    return Picked(order[used], tuple(sorted(int(at) for at in order[~used])))
