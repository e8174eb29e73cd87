"""Phases against closed forms, and what ends them."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.balancing.groups_run import Active, Bleed, Groups
from lumvak.core.balancing.phase import (
    COARSE,
    FINE,
    Equipment,
    Grain,
    Phase,
    State,
    Trace,
    phase_run,
)
from tests.length import so_many
from tests.straight import at, off, straight_cell, straight_groups


def run(groups: Groups, share: float, phase: Phase, **having: object) -> tuple[State, str, Trace]:
    """A phase of groups that begin alike."""
    count = len(groups.ah)
    trace = Trace()
    state = State(np.full(count, share), 25.0, off(count))
    after, _, why = phase_run(groups, state, phase, Equipment(**having), trace)  # type: ignore[arg-type]
    return after, why, trace


def test_a_straight_line_is_charged_as_its_closed_form() -> None:
    """2.5 Ah, 40 mΩ, 3.0 to 4.2 V, 1.25 A: 1 h 55 min, then 690.8 s with 300 s; to 1e-4."""
    groups = straight_groups([2.5])
    after, why, trace = run(groups, 0.0, Phase(1.25, 1e6, 4.2, 0.125))
    assert why == "end current"
    turn = next(place for place, seen in enumerate(trace.moments) if seen.volts >= 4.2 - 1e-6)
    assert trace.seconds[turn] == pytest.approx(6900.0, rel=1e-4)
    assert trace.moments[turn].charge[0] == pytest.approx(0.958333, rel=1e-4)
    taper_s = after.seconds - trace.seconds[turn]
    assert taper_s == pytest.approx(300.0 * math.log(10.0), rel=2e-4)
    assert after.seconds == pytest.approx(6900.0 + 690.776, rel=1e-4)
    assert after.charge[0] == pytest.approx(1.0 - 0.125 * 0.04 / 1.2, rel=1e-4)


@settings(max_examples=so_many(8, 30))
@given(
    amps=st.floats(0.3, 5.0),
    ohm=st.floats(0.01, 0.15),
    ah=st.floats(1.0, 10.0),
    start=st.floats(0.0, 0.5),
    share=st.floats(0.05, 0.5),
)
def test_all_straight_charges_are_as_their_closed_form(
    amps: float, ohm: float, ah: float, start: float, share: float
) -> None:
    """Bulk to 1 − I R ÷ (V1 − V0), then a taper with R Q ÷ (V1 − V0)."""
    turn = 1.0 - amps * ohm / 1.2
    if turn <= start + 0.05:
        return
    after, why, _ = run(straight_groups([ah], ohm), start, Phase(amps, 1e7, 4.2, share * amps))
    assert why == "end current"
    bulk_s = (turn - start) * ah * 3600.0 / amps
    taper_s = ohm * ah * 3600.0 / 1.2 * math.log(1.0 / share)
    assert after.seconds == pytest.approx(bulk_s + taper_s, rel=1e-4)
    assert after.charge[0] == pytest.approx(1.0 - share * amps * ohm / 1.2, rel=1e-4)


def test_a_bleed_of_one_group_falls_as_its_closed_form() -> None:
    """A group at rest with 22 Ω: volts fall with (R + r) Q ÷ (V1 − V0)."""
    groups = straight_groups([2.0], ohm=0.05)
    bleed = Bleed(3.1, ohm=22.0, always=True)
    hours = 10.0
    for grain in (FINE, Grain(600.0), COARSE):
        after, _, _ = run(groups, 0.9, Phase(0.0, hours * 3600.0), bleed=bleed, grain=grain)
        rest_v = float(groups.rest(after.charge)[0][0])
        constant_h = 22.05 * 2.0 / 1.2
        assert rest_v == pytest.approx((3.0 + 1.2 * 0.9) * math.exp(-hours / constant_h), rel=1e-4)


def test_a_result_does_not_hang_on_the_step() -> None:
    groups = straight_groups([2.5, 2.4, 2.6], path_ohm=0.05)
    bleed = Bleed(4.1, amps=0.05)
    ends = []
    for grain in (Grain(20.0, 1 / 80, 0.5), FINE, Grain(300.0, 1 / 10, 5.0), COARSE):
        after, why, _ = run(groups, 0.3, Phase(1.0, 1e6, 12.6, 0.1), bleed=bleed, grain=grain)
        assert why == "end current"
        ends.append((after.seconds, *after.charge))
    for other in ends[1:]:
        assert other == pytest.approx(ends[0], rel=3e-3)
    assert ends[1] == pytest.approx(ends[0], rel=2e-5)


@pytest.mark.parametrize(
    ("phase", "why"),
    [
        (Phase(1.0, 1e6, 12.6, over_v=4.1), "over"),
        (Phase(-1.0, 1e6, under_v=3.2), "under"),
        (Phase(1.0, 60.0, 12.6), "time"),
        (Phase(1.0, 1e6, above_v=3.7), "above"),
        (Phase(0.0, 1e9, released_v=3.4), "released"),
    ],
)
def test_a_phase_ends_at_its_limit_and_not_past_it(phase: Phase, why: str) -> None:
    groups = straight_groups([2.5, 2.5, 2.3], leak_a=0.01)
    after, found, trace = run(groups, 0.5, phase)
    assert found == why
    seen = trace.moments[-1].group_v
    if why == "over":
        assert seen.max() == pytest.approx(4.1, abs=1e-5)
    if why == "under":
        assert seen.min() == pytest.approx(3.2, abs=1e-5)
    if why == "above":
        assert seen.min() == pytest.approx(3.7, abs=1e-5)
    if why == "time":
        assert after.seconds == pytest.approx(60.0)


def test_what_bleeds_waits_for_its_threshold_and_for_the_charger() -> None:
    groups = straight_groups([2.5, 2.5])
    trace = Trace()
    state = State(at(0.8, 0.7), 25.0, off(2))
    only = Equipment(Bleed(4.0, amps=0.05))
    phase_run(groups, state, Phase(0.5, 3600.0), only, trace)
    for seen in trace.moments:
        assert seen.on[seen.group_v > 4.02].all()
        assert not seen.on[seen.group_v < 3.98].any()
    assert trace.moments[-1].on[0]
    resting = Trace()
    phase_run(groups, State(at(0.99, 0.9), 25.0, off(2)), Phase(0.0, 600.0), only, resting)
    assert not resting.moments[-1].on.any()


def test_a_spread_bleeds_only_what_is_over_the_lowest() -> None:
    groups = straight_groups([2.5, 2.5, 2.5])
    state = State(at(0.95, 0.9, 0.9), 25.0, off(3))
    having = Equipment(Bleed(3.5, amps=0.05, spread_v=0.01, always=True))
    after, _, _ = phase_run(groups, state, Phase(0.0, 50 * 3600.0), having)
    volts = groups.rest(after.charge)[0]
    assert 0.0 < np.ptp(volts) <= 0.01
    assert after.charge[1] == pytest.approx(0.9)


def test_no_more_bleed_at_once_than_the_board_can() -> None:
    groups = straight_groups([2.5] * 4)
    trace = Trace()
    having = Equipment(Bleed(3.5, amps=0.05, always=True, most=2))
    state = State(at(0.9, 0.92, 0.94, 0.96), 25.0, off(4))
    phase_run(groups, state, Phase(0.0, 3600.0), having, trace)
    assert all(int(seen.on.sum()) == 2 for seen in trace.moments)
    assert list(trace.moments[0].on) == [False, False, True, True]


@pytest.mark.parametrize("way", ["high-low", "pack-low", "high-pack"])
def test_a_mover_brings_groups_together_and_loses_what_it_loses(way: str) -> None:
    groups = Groups(straight_cell(), np.full(3, 2.0), np.full(3, 0.001), np.zeros(3))
    state = State(at(0.7, 0.5, 0.6), 25.0, off(3))
    having = Equipment(active=Active(0.5, 0.9, way, 0.004), grain=FINE)
    before = float(groups.held_wh(state.charge).sum())
    after, sums, _ = phase_run(groups, state, Phase(0.0, 4 * 3600.0), having)
    assert np.ptp(groups.rest(after.charge)[0]) < 0.03
    held = float(groups.held_wh(after.charge).sum())
    assert held == pytest.approx(before + sums.stored_wh, abs=1e-6)
    assert sums.moved_wh < 0.0


def test_a_mover_feeds_a_group_of_no_volts_no_more_than_it_can() -> None:
    """A group at 0 V would take endless amps for the same power."""
    groups = Groups(straight_cell(0.0), np.full(2, 2.0), np.full(2, 1e-6), np.zeros(2))
    having = Equipment(active=Active(0.5, 0.9, "high-low", 0.004), grain=FINE)
    trace = Trace()
    phase_run(groups, State(at(0.9, 0.0), 25.0, off(2)), Phase(0.0, 60.0), having, trace)
    moved = np.array([seen.moved_a for seen in trace.moments])
    assert np.isfinite(moved).all()
    assert moved.max() <= 0.5 * 0.9 * 4.2 / 0.5
