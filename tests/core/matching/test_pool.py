"""Pools that can be dealt, and what is said of those that cannot."""

from collections.abc import Iterator
from itertools import combinations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.matching.dealing import bound_of, compared
from lumvak.core.matching.pool import WEIGHTS, PoolError, pool_of
from tests.core.matching.pools import TWELVE, pool
from tests.length import so_many


def test_what_cannot_be_dealt_is_said() -> None:
    with pytest.raises(PoolError, match="11 good cells for 12 places: 1 are missing") as caught:
        pool(list(TWELVE[:11]), 4, 3)
    assert caught.value.missing == 1
    with pytest.raises(PoolError, match="cell 99 is to have its place"):
        pool(TWELVE, 4, 3, pins={99: 0})
    with pytest.raises(PoolError, match="group 2 is to take 4 cells"):
        pool(TWELVE, 4, 3, pins={1: 1, 2: 1, 3: 1, 4: 1})
    with pytest.raises(PoolError, match="kept apart in 4 groups"):
        pool(TWELVE, 4, 3, apart=[[1, 2, 3, 4, 5]])
    with pytest.raises(PoolError, match="kept apart and to be in one group"):
        pool(TWELVE, 4, 3, apart=[[1, 2]], pins={1: 0, 2: 0})
    with pytest.raises(PoolError, match="3 old groups are to stand beside 4"):
        pool(TWELVE, 4, 3, old=[(5.0, None)] * 3)


@settings(max_examples=so_many(8, 25), deadline=None)
@given(st.lists(st.integers(6800, 7600), min_size=4, max_size=4), st.integers(0, 9))
def test_cells_are_dealt_to_what_the_old_groups_lack(old: list[int], seed: int) -> None:
    """Against all ways to seat twelve cells beside four old groups."""
    cells = list(TWELVE[:8])
    found = pool(cells, 4, 2, old=[(value / 1000.0, None) for value in old])
    methods = compared(found, seed=seed)
    for dealt in methods.methods.values():
        groups = dealt.numbers()
        assert sorted(number for group in groups for number in group) == [*range(1, 9)]
        assert [len(group) for group in groups] == [2] * 4
        sums = [
            value + sum(cells[number - 1] for number in group)
            for value, group in zip(old, groups, strict=True)
        ]
        assert dealt.group_ah * 1000.0 == pytest.approx(sums)
    least = min(max(sums) - min(sums) for sums in _all_sums(tuple(cells), tuple(old)))
    best = methods.best.group_ah * 1000.0
    mean = float(np.mean(best))
    assert bound_of(found, methods.best) <= least / mean + 1e-9
    assert np.ptp(best) == pytest.approx(least, abs=1e-6)


def _all_sums(cells: tuple[int, ...], old: tuple[int, ...]) -> Iterator[tuple[int, ...]]:
    """Sums of all ways to seat two cells beside each old group."""
    if not old:
        yield ()
        return
    for pair in combinations(range(len(cells)), 2):
        rest = tuple(value for at, value in enumerate(cells) if at not in pair)
        for more in _all_sums(rest, old[1:]):
            yield (old[0] + cells[pair[0]] + cells[pair[1]], *more)


def test_what_is_not_known_of_all_old_groups_counts_for_none() -> None:
    cells = [(place, 2.0 + 0.1 * place, 0.02) for place in range(1, 5)]
    found = pool_of(cells, 2, 2, WEIGHTS["capacity"], old=[(7.0, 0.01), (7.2, None)])
    assert found.siemens[-2:] == pytest.approx([0.0, 0.0])
    assert found.ah[-2:] == pytest.approx([7.0, 7.2])
    by_ohm = pool_of(
        [(1, None, 0.02), (2, None, 0.03)],
        2,
        1,
        WEIGHTS["resistance"],
        old=[(7.0, 0.01), (7.2, 0.02)],
    )
    assert np.isnan(by_ohm.ah).all()
    assert by_ohm.siemens[-2:] == pytest.approx([100.0, 50.0])
    assert compared(by_ohm).best.numbers() == [[2], [1]]
