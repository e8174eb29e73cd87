"""Groups by swaps against hand methods, exhaustive search and a mixed-integer solver."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import Bounds, LinearConstraint, milp

from lumvak.core.matching.by_hand import kept_apart, snake
from lumvak.core.matching.dealing import compared
from lumvak.core.matching.optimiser import optimised
from lumvak.core.matching.pool import WEIGHTS, Dealt, Pool, less, pool_of
from tests.core.matching.pools import TWELVE, least_by_all_ways, pool
from tests.length import so_many


def lot(count: int, seed: int, step: int = 3) -> list[tuple[int, float, float]]:
    chance = np.random.default_rng(seed)
    ah = np.round(chance.normal(2.5, 0.035, count), step)
    ohm = chance.normal(0.022, 0.001, count)
    return [(place + 1, float(ah[place]), float(ohm[place])) for place in range(count)]


def apart_mah(dealt: Dealt) -> float:
    return float(np.ptp(dealt.group_ah)) * 1000.0


def test_the_worked_pool_of_twelve() -> None:
    given_pool = pool(TWELVE, 4, 3)
    assert apart_mah(snake(given_pool)) == pytest.approx(88.0)
    best = optimised(given_pool)
    assert apart_mah(best) == pytest.approx(12.0)
    assert sorted(best.group_ah * 1000.0)[0] == pytest.approx(6914.0)
    assert sorted(best.group_ah * 1000.0)[-1] == pytest.approx(6926.0)


@given(
    st.sampled_from([(2, 2), (2, 3), (3, 2), (2, 4), (4, 2), (3, 3)]),
    st.lists(st.integers(2000, 2600), min_size=9, max_size=9),
)
@settings(max_examples=so_many(15, 60))
def test_small_pools_are_dealt_as_well_as_any_way(size: tuple[int, int], values: list[int]) -> None:
    series, parallel = size
    values = values[: series * parallel]
    series, parallel = (series, parallel) if len(values) == series * parallel else (3, 3)
    best = optimised(pool(values, series, parallel))
    assert apart_mah(best) == pytest.approx(least_by_all_ways(values, series, parallel), abs=1e-6)
    found = compared(pool(values, series, parallel))
    assert found.gap == pytest.approx(0.0, abs=1e-12)


def least_by_milp(values: np.ndarray, series: int, parallel: int, seconds: float) -> float:
    """A lower bound of the least spread, from a mixed-integer program that is given some time."""
    count = len(values)
    names = count * series
    cost = np.zeros(names + 2)
    cost[-2:] = (1.0, -1.0)
    rows, low, high = [], [], []
    for cell in range(count):
        row = np.zeros(names + 2)
        row[cell * series : (cell + 1) * series] = 1.0
        rows.append(row), low.append(1.0), high.append(1.0)
    for group in range(series):
        row = np.zeros(names + 2)
        row[group:names:series] = 1.0
        rows.append(row), low.append(parallel), high.append(parallel)
        total = np.zeros(names + 2)
        total[group:names:series] = values
        over, under = total.copy(), total.copy()
        over[-2], under[-1] = -1.0, -1.0
        rows += [over, under]
        low += [-np.inf, 0.0]
        high += [0.0, np.inf]
    whole = np.concatenate([np.ones(names), [0.0, 0.0]])
    result = milp(
        cost,
        integrality=whole,
        constraints=LinearConstraint(np.array(rows), low, high),
        bounds=Bounds(np.zeros(names + 2), np.concatenate([np.ones(names), [np.inf, np.inf]])),
        options={"time_limit": seconds},
    )
    return float(result.fun)


@pytest.mark.parametrize(("series", "parallel", "seed"), [(4, 4, 1), (5, 3, 2), (3, 5, 3)])
def test_middle_pools_are_dealt_no_worse_than_a_solver_does(
    series: int, parallel: int, seed: int
) -> None:
    cells = lot(series * parallel, seed)
    best = optimised(pool_of(cells, series, parallel), seconds=0.5)
    values = np.array([ah for _, ah, _ in cells]) * 1000.0
    solved = least_by_milp(values, series, parallel, 4.0)
    assert apart_mah(best) <= solved + 1e-6


@pytest.mark.parametrize(("count", "series", "parallel"), [(140, 13, 10), (1000, 100, 10)])
def test_large_pools_come_under_a_hundredth_of_a_per_cent(
    count: int, series: int, parallel: int
) -> None:
    for seed in range(3):
        given_pool = pool_of(lot(count, seed), series, parallel)
        best, hand = optimised(given_pool), snake(given_pool)
        assert best.spread_capacity < 1e-4 < hand.spread_capacity
        assert best.spread_conductance < 0.2 * hand.spread_conductance
        assert len(best.spares) == count - series * parallel
        # What is left over is not what would have given more.
        assert best.delivered_ah > 0.999 * hand.delivered_ah
        again = optimised(given_pool)
        assert np.array_equal(best.groups, again.groups)


@st.composite
def pools(draw: st.DrawFn) -> Pool:
    series, parallel = draw(st.integers(1, 7)), draw(st.integers(1, 7))
    count = series * parallel + draw(st.integers(0, 6))
    chance = np.random.default_rng(draw(st.integers(0, 10_000)))
    known = draw(st.sampled_from(("both", "ah", "mohm", "some")))
    cells = []
    for number in chance.permutation(np.arange(1, count + 1)).tolist():
        ah, ohm = float(chance.normal(2.5, 0.2)), float(chance.normal(0.02, 0.002))
        lost = known == "some" and chance.random() < 0.2
        cells.append(
            (number, None if known == "mohm" or lost else ah, None if known == "ah" else ohm)
        )
    pinned = draw(st.lists(st.integers(1, count), max_size=4, unique=True))
    pins = {number: place % series for place, number in enumerate(pinned)}
    if max([0, *np.bincount([*pins.values()] or [0])]) > parallel:
        pins = {}
    least = min(2, count)
    apart = [draw(st.lists(st.integers(1, count), min_size=least, max_size=3, unique=True))]
    if len(apart[0]) > series or len({pins.get(number, -number) for number in apart[0]}) < len(
        apart[0]
    ):
        apart = []
    weights = draw(st.sampled_from([*WEIGHTS.values()]))
    return pool_of(cells, series, parallel, weights, pins, apart)


@given(pools())
@settings(max_examples=so_many(15, 60))
def test_every_cell_once_groups_full_pins_kept_and_no_worse_than_by_hand(item: Pool) -> None:
    found = compared(item, seconds=0.02)
    for name, dealt in found.methods.items():
        seated = sorted([*dealt.groups.ravel().tolist(), *dealt.spares])
        assert seated == list(range(len(item.numbers))), name
        assert dealt.groups.shape == (item.series, item.parallel)
        for at, group in item.pins.items():
            assert at in dealt.groups[group], name
    best = found.best
    hand = [dealt for name, dealt in found.methods.items() if kept_apart(item, dealt.groups)]
    if kept_apart(item, snake(item).groups):
        assert kept_apart(item, best.groups)
        assert not less(snake(item).worth, best.worth)
    assert hand or item.apart
    assert found.gap >= 0.0


def test_better_ones_are_told_and_it_can_be_stopped() -> None:
    given_pool = pool_of(lot(60, 1), 20, 3)
    told: list[tuple[tuple[float, float], float]] = []

    def report(best: Dealt, share: float) -> bool:
        told.append((best.worth, share))
        return len(told) < 5

    optimised(given_pool, seconds=5.0, report=report)
    assert len(told) == 5
    assert [worth for worth, _ in told] == sorted((worth for worth, _ in told), reverse=True)
    assert [share for _, share in told] == sorted(share for _, share in told)
