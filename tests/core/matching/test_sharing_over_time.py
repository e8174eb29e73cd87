"""Two sources side by side against what straight lines give."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.matching.sharing_over_time import SharedDischarge, SharedSource, shared
from tests.length import so_many


def straight(
    ah: list[float], ohm: list[float], low: float = 30.0, high: float = 42.0
) -> SharedSource:
    ends = np.array([0.0, 1.0])
    return SharedSource(ends, np.array([low, high]), np.ones(2), np.array(ah), np.array(ohm))


def at(course: SharedDischarge, hours: float) -> float:
    return float(np.interp(hours, course.hours, course.one_a[:, 0]))


def test_the_lower_resistance_leads_then_shares_go_towards_capacity() -> None:
    one, other = straight([6.0], [0.11]), straight([9.0], [0.09])
    course = shared(one, other, 12.0, 20.0)
    assert course.one_a[0, 0] == pytest.approx(5.4)
    assert course.one_a[-1, 0] == pytest.approx(4.8, abs=0.002)
    assert course.other_a[-1, 0] == pytest.approx(7.2, abs=0.002)
    # (R1 + R2) over the volts a charge of both: 0.2 / (12/6 + 12/9) of an hour, 216 s.
    for seconds in (60.0, 216.0, 600.0):
        wanted = 4.8 + 0.6 * math.exp(-seconds / 216.0)
        assert at(course, seconds / 3600.0) == pytest.approx(wanted, abs=0.01)


@settings(max_examples=so_many(15, 60))
@given(
    st.floats(1.0, 30.0),
    st.floats(1.0, 30.0),
    st.floats(0.005, 0.3),
    st.floats(0.005, 0.3),
    st.floats(0.1, 3.0),
)
def test_charge_is_kept_and_volts_are_the_same_on_both(
    one_ah: float, other_ah: float, one_ohm: float, other_ohm: float, rate: float
) -> None:
    one, other = straight([one_ah], [one_ohm]), straight([other_ah], [other_ohm])
    current = rate * (one_ah + other_ah)
    course = shared(one, other, current, 20.0)
    spans = np.diff(course.hours)
    taken = float(spans @ course.one_a[1:, 0]), float(spans @ course.other_a[1:, 0])
    assert sum(taken) == pytest.approx(current * course.hours[-1])
    for source, ah, amps in ((one, taken[0], course.one_a), (other, taken[1], course.other_a)):
        charge = 1.0 - ah / source.ah[0]
        if 0.0 <= charge <= 1.0:
            volts = np.interp(charge, source.charge, source.volts) - amps[-1, 0] * source.ohm[0]
            assert volts == pytest.approx(course.volts[-1, 0], abs=1e-6)


def test_alike_ones_share_alike_and_many_are_followed_at_once() -> None:
    one = straight([6.0, 6.0, 6.0], [0.1, 0.1, 0.3])
    other = straight([6.0, 12.0, 6.0], [0.1, 0.05, 0.1])
    course = shared(one, other, 9.0, 20.0)
    assert course.one_a[:, 0] == pytest.approx(4.5)
    assert course.one_a[:, 1] == pytest.approx(3.0)
    assert course.one_a[0, 2] == pytest.approx(9.0 * 0.1 / 0.4)
    assert course.one_a[-1, 2] == pytest.approx(4.5, abs=0.3)
    # The other of the third is empty first: 0.4 Ω over 4 V an Ah are 0.1 h, in which it gave
    # 2.25 A more at first.
    assert course.hours[-1] == pytest.approx((6.0 - 0.1 * 2.25) / 4.5, rel=0.01)


def test_it_ends_at_the_voltage_too() -> None:
    course = shared(straight([6.0], [0.1]), straight([6.0], [0.1]), 12.0, 36.0)
    # 42 − 12 · share − 0.6 is 36 at 0.45 of 12 Ah.
    assert course.hours[-1] == pytest.approx(0.45, abs=0.01)
    assert course.volts[-1, 0] >= 36.0


def test_both_begin_at_one_voltage_whatever_their_curves() -> None:
    one, other = straight([6.0], [0.1]), straight([6.0], [0.1], 30.0, 43.0)
    course = shared(one, other, 12.0, 20.0, 42.0)
    assert course.one_a[0, 0] == pytest.approx(6.0)
    # Alone, from 12/13 of it, the other gives 6 × 12/13 Ah.
    spans = np.diff(course.hours)
    assert float(spans @ course.other_a[1:, 0]) <= 6.0 * 12.0 / 13.0 + 1e-9
