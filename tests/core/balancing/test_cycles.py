"""Cycles: what they give against the imbalance, drift, and boards that cut off."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.balancing.cycles import LONGEST_H, CycleSetting, course_of, cycles, stays
from lumvak.core.balancing.groups_run import Active, Array, Bleed, Groups
from lumvak.core.balancing.imbalance import active_ah, excess_ah, hours_to_even, imbalance
from lumvak.core.balancing.phase import COARSE, FINE, Equipment, Phase, State, phase_run
from tests.straight import at, straight_cell, straight_groups

STRONG = 1e-4
NOTHING = Equipment(grain=COARSE)


def setting(groups: Groups, **changed: float) -> CycleSetting:
    """A slow use, so that volts tell charge."""
    whole = CycleSetting(0.2, 4.2 * len(groups.ah), 0.01, 4.2, 4.15, 0.0, 0.2, 3.0, 0.0, 2.0)
    return replace(whole, **changed)  # type: ignore[arg-type]


@pytest.mark.parametrize("grain", [FINE, COARSE])
def test_without_balancing_a_cycle_gives_what_the_groups_stand_for(grain: object) -> None:
    groups = straight_groups([3.0, 3.0, 2.8, 3.1], ohm=STRONG)
    share = at(0.6, 0.55, 0.7, 0.62)
    (cycle,) = cycles(groups, share, 25.0, setting(groups), Equipment(grain=grain), 1)  # type: ignore[arg-type]
    wanted = imbalance(groups.ah, share * groups.ah)
    assert cycle.usable_ah == pytest.approx(wanted.usable_ah, rel=2e-3)
    assert cycle.ended_by == "over"
    full = imbalance(groups.ah, cycle.full * groups.ah)
    assert full.usable_ah == pytest.approx(wanted.usable_ah, rel=2e-3)


def test_bled_at_the_top_it_gives_the_smallest_in_the_end() -> None:
    groups = straight_groups([3.0, 3.0, 2.8, 3.1], ohm=STRONG)
    share = at(0.6, 0.55, 0.7, 0.62)
    having = Equipment(Bleed(3.9, amps=0.1, spread_v=0.002), grain=COARSE)
    found = cycles(groups, share, 25.0, setting(groups, stays_h=12.0), having, 4)
    assert found[-1].usable_ah == pytest.approx(2.8, rel=5e-3)
    assert found[0].usable_ah > imbalance(groups.ah, share * groups.ah).usable_ah


def test_a_mover_that_works_all_the_time_gives_more_than_the_smallest() -> None:
    groups = straight_groups([3.0, 3.0, 2.6, 3.0], ohm=STRONG)
    having = Equipment(active=Active(0.2, 1.0, "high-low", 0.002), grain=COARSE)
    found = cycles(groups, at(0.5, 0.5, 0.5, 0.5), 25.0, setting(groups, stays_h=8.0), having, 3)
    most = active_ah(groups.ah, 1e9)
    assert 2.7 < found[-1].usable_ah <= most * 1.005


def hours_by_run(groups: Groups, share: Array, setting: CycleSetting, having: Equipment) -> float:
    """Hours on the charger until groups are even at the top, within a thousandth."""
    state = State(share.copy(), 25.0, np.zeros(len(share), dtype=bool))
    charge = Phase(setting.amps, LONGEST_H * 3600.0, setting.hold_v, setting.end_a, setting.over_v)
    state, _, why = phase_run(groups, state, charge, having)
    begun = state.seconds
    while np.ptp((1.0 - state.charge) * groups.ah) > 1e-3 * groups.ah.mean():
        state, _ = stays(groups, state, replace(setting, stays_h=0.1), having, why == "over")
        why = ""
    return (state.seconds - begun) / 3600.0


def test_hours_on_the_charger_are_the_excess_over_the_bleed() -> None:
    """0.04 Ah too much in one of three groups at 20 mA: 2 h by the run as by the closed form."""
    groups = straight_groups([2.0, 2.0, 2.0], ohm=STRONG)
    share = at(0.5, 0.5, 0.5 + 0.02)
    bleed = Bleed(3.0, amps=0.02, spread_v=0.0005)
    wanted = hours_to_even(excess_ah(groups.ah, share * groups.ah), bleed.amps, groups.leak_a)
    assert wanted == pytest.approx(2.0)
    quick = setting(groups, amps=50.0)
    found = hours_by_run(groups, share, replace(quick, over_v=None), Equipment(bleed))
    assert found == pytest.approx(2.0, abs=0.4)


def test_groups_drift_apart_by_what_they_lose_and_are_bled_back() -> None:
    groups = Groups(
        straight_cell(), np.full(3, 3.0), np.full(3, STRONG), np.array([0.0, 0.0, 0.001])
    )
    weekly = setting(groups, between_h=168.0, floor_v=3.4)
    left = cycles(groups, at(0.5, 0.5, 0.5), 25.0, weekly, Equipment(grain=COARSE), 4)
    steps = np.diff([cycle.apart for cycle in left])
    # A week and the cycle's own hours at 1 mA of 3 Ah.
    assert steps == pytest.approx(np.full(3, 0.168 / 3.0), rel=0.25)
    bled = Equipment(Bleed(3.9, amps=0.1, spread_v=0.005), grain=COARSE)
    held = cycles(groups, at(0.5, 0.5, 0.5), 25.0, replace(weekly, stays_h=4.0), bled, 4)
    assert held[-1].apart < 0.02 < left[-1].apart


def test_a_leaking_group_beats_a_small_bleed() -> None:
    groups = Groups(
        straight_cell(), np.full(3, 3.0), np.full(3, STRONG), np.array([0.0, 0.0, 0.02])
    )
    small = Equipment(Bleed(4.0, amps=0.03, spread_v=0.005), grain=COARSE)
    use = setting(groups, between_h=48.0, stays_h=2.0, floor_v=3.6)
    found = cycles(groups, at(0.9, 0.9, 0.9), 25.0, use, small, 4)
    assert found[-1].usable_ah < found[0].usable_ah - 0.5


def test_a_group_that_is_emptied_before_its_next_charge_ends_the_cycles() -> None:
    """20 mA over a week is more than all that is in it: at 0 V nothing more is lost."""
    groups = Groups(
        straight_cell(), np.full(3, 3.0), np.full(3, STRONG), np.array([0.0, 0.0, 0.02])
    )
    found = cycles(groups, at(0.5, 0.5, 0.5), 25.0, setting(groups, between_h=168.0), NOTHING, 9)
    assert len(found) == 1 and found[0].flat == (3,)
    assert found[0].start.min() >= groups.least - 1e-9
    longer = setting(groups, between_h=3000.0)
    (out,) = cycles(groups, at(0.5, 0.5, 0.5), 25.0, longer, NOTHING, 1)
    assert groups.rest(out.start[2:])[0] == pytest.approx(0.0, abs=1e-6)


def test_a_course_tells_in_how_many_charges_groups_are_even() -> None:
    """Bled by 0.02 Ah in each charge, 0.3 Ah of 3 come within 2 % in 12 of them, as simulated."""
    groups = straight_groups([3.0, 3.0, 3.0], ohm=STRONG)
    having = Equipment(Bleed(4.19, amps=0.01, spread_v=0.002), grain=COARSE)
    use = setting(groups, over_v=4.4, stays_h=2.0)
    found = course_of(groups, at(0.5, 0.6, 0.5), 25.0, use, having)
    assert found.begins == pytest.approx(0.1)
    ran = cycles(groups, at(0.5, 0.6, 0.5), 25.0, use, having, 40)
    real = next(place for place, cycle in enumerate(ran, 1) if cycle.apart <= found.level)
    assert found.charges == pytest.approx(real, abs=1.0)
    assert found.flat is None and not found.drifts and found.bled_wh > 0.0


def test_a_course_tells_what_drifts_apart() -> None:
    groups = Groups(
        straight_cell(), np.full(3, 3.0), np.full(3, STRONG), np.array([0.0, 0.0, 0.002])
    )
    use = setting(groups, between_h=72.0, floor_v=3.6)
    found = course_of(groups, at(0.5, 0.5, 0.5), 25.0, use, NOTHING)
    assert found.drifts and found.ends > 0.04


def test_a_board_that_cut_off_comes_back_and_cuts_off_again() -> None:
    """One group is ahead: the board ends the charge, bleeds, and goes on until all are full."""
    groups = straight_groups([2.0, 2.0, 2.0], ohm=0.01)
    # Bleeding goes on while the charger is connected, though the board lets nothing through.
    bleed = Bleed(4.19, amps=0.1)
    use = CycleSetting(0.5, 12.6, 0.02, 4.25, 4.2, 0.0, 0.5, 3.1, 0.0)
    having = Equipment(bleed, grain=COARSE)
    share = at(0.9, 0.8, 0.8)
    (short,) = cycles(groups, share, 25.0, use, having, 1)
    assert short.ended_by == "over"
    (long,) = cycles(groups, share, 25.0, replace(use, stays_h=6.0), having, 1)
    assert short.full.min() < 0.96
    assert long.full.min() > 0.985
    assert long.usable_ah > short.usable_ah + 0.05


def test_cycles_are_called_off_between_two() -> None:
    groups = straight_groups([3.0, 3.0], ohm=STRONG)
    told = list[float]()

    def report(share: float) -> bool:
        told.append(share)
        return len(told) < 3

    found = cycles(groups, at(0.5, 0.5), 25.0, setting(groups), Equipment(grain=COARSE), 8, report)
    assert len(found) == 2
    assert told == [0.0, 0.125, 0.25]
