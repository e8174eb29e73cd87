"""How tests are done: each said whole, with its cautions, and by hand step by step."""

import pytest

from lumvak.core.document.proving import TestName
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.proving.guide import GUIDES, by_hand, minutes, settings_said
from lumvak.core.proving.programme import LEVELS
from lumvak.core.proving.proof import TESTS
from lumvak.core.spelling import spoken


@pytest.mark.parametrize("test", TESTS)
def test_every_test_is_said_whole(bench_pack: BenchPack, test: TestName) -> None:
    guide = GUIDES[test]
    assert guide.purpose and guide.steps and guide.cautions
    assert {name for name, _ in guide.drawn} <= set(guide.needs)
    assert minutes(test, bench_pack) > 0.0
    assert by_hand(test, bench_pack)
    # What turns something on says at how many volts or amps.
    on = {"load", "supply"} & set(guide.needs)
    assert bool(spoken(settings_said(test, bench_pack))) == bool(on)


def test_by_hand_it_is_as_many_readings_as_there_are_places(bench_pack: BenchPack) -> None:
    groups = bench_pack.series
    assert len(by_hand("groups", bench_pack)) == groups
    assert len(by_hand("self-discharge", bench_pack)) == 2 * groups
    assert len(by_hand("drops", bench_pack)) == 1 + 3 + groups - 1
    stairs = by_hand("staircase", bench_pack)
    # Four temperatures before, and what comes back after the last level twice more.
    assert len(stairs) == 4 + 8 * len(LEVELS) + 2
    assert [it.at_s for it in stairs] == sorted(it.at_s for it in stairs)


def test_a_discharge_takes_charge_over_current(bench_pack: BenchPack) -> None:
    discharge = 60.0 * bench_pack.group_ah / bench_pack.discharge_a
    assert minutes("full-discharge", bench_pack) > discharge
