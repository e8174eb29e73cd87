"""A short form of the campaign of pools and lots."""

import numpy as np
import pytest

from lumvak.core.document.hand import HandCell, Lot, Meter
from lumvak.core.matching.dealing import compared, proof_of
from lumvak.core.matching.judging import judge_lot, summary
from lumvak.core.matching.pool import WEIGHTS, pool_of
from lumvak.core.spelling import spoken
from tests.length import so_many
from tests.lots import least_spread_ah, missed, small_pool


@pytest.mark.parametrize("seed", range(so_many(8, 24)))
def test_no_small_pool_is_beaten_in_capacity(seed: int) -> None:
    cells, series, parallel = small_pool(seed)
    found = compared(pool_of(cells, series, parallel))
    least = least_spread_ah([ah for _, ah, _ in cells], parallel)
    assert float(np.ptp(found.best.group_ah)) <= least + 1e-9
    assert found.best.proven
    assert found.gap == 0.0
    assert proof_of(found.best.pool) == "capacity"


def test_a_proof_of_both_is_of_their_sum() -> None:
    cells, series, parallel = small_pool(3)
    found = compared(pool_of(cells, series, parallel, WEIGHTS["both"]))
    assert found.best.proven
    assert proof_of(found.best.pool) == "the sum of both spreads"
    sums = found.best.spread_capacity + found.best.spread_conductance
    assert found.bound == pytest.approx(sums)
    for dealt in found.methods.values():
        assert sums <= dealt.spread_capacity + dealt.spread_conductance + 1e-12


@pytest.mark.parametrize("seed", range(so_many(7, 20)))
def test_planted_faults_are_found_and_nothing_else(seed: int) -> None:
    assert missed(seed) == []


def test_dead_cells_are_rejected_though_nobody_said_what_they_are() -> None:
    volts = [3.62, 3.61, 3.63, 0.9, 3.62, 1.1, 3.6, 3.62]
    cells = [HandCell(number=place, volts=value) for place, value in enumerate(volts, 1)]
    for origin in ("used", "new", "reclaimed"):
        judged = judge_lot(Lot(origin=origin), cells, None, None, Meter())
        states = {item.cell.number: item.state for item in judged.cells}
        assert [number for number, state in states.items() if state == "reject"] == [4, 6]
        assert judged.cells[3].reasons[0].code == "dead"


def test_a_leak_of_two_readings_by_one_meter_is_told_and_the_least_one_said() -> None:
    cells = [
        HandCell(
            number=place,
            volts=3.620 + 0.001 * (place % 3),
            days=14.0,
            later_v=3.619 + 0.001 * (place % 3) - (0.049 if place == 7 else 0.0),
        )
        for place in range(1, 21)
    ]
    judged = judge_lot(Lot(origin="used"), cells, None, None, Meter())
    leaking = [
        item.cell.number
        for item in judged.cells
        if "leaks" in {reason.code for reason in item.reasons}
    ]
    assert leaking == [7]
    # Two digits of a millivolt on each, and 0.03 % of each, twice over; the lot loses 1 mV.
    least = 2.0 * (2.0 * (0.002 + 3e-4 * 3.619) ** 2) ** 0.5 / 14.0 + 0.001 / 14.0
    assert judged.leak_told_v == pytest.approx(max(least, 1e-3), rel=1e-3)
    assert "leaks from" in spoken(summary(judged))
