"""What a harness would read, and how likely readings are of it."""

import math

import numpy as np
import pytest

from lumvak.core.taps.faults import OPEN, singles_of
from lumvak.core.taps.readings import (
    JOINT,
    MAIN_MINUS,
    MAIN_PLUS,
    Between,
    Case,
    TapMeter,
    counts,
    explains,
    lacks,
    log_share,
    log_share_lacking,
    reads_beyond,
    reads_near,
    wired,
)

GROUPS = np.array([3.7, 3.7, 3.7])
EXACT = TapMeter(0.0, 0.0, 0.02)
USUAL = TapMeter()


def case(totals: list[float], *more: Between, meter: TapMeter = USUAL) -> Case:
    return Case(GROUPS, np.array(totals), meter, more)


def test_a_meter_is_off_by_its_share_and_its_digits() -> None:
    within = TapMeter(0.005, 2.0, 0.01).within(np.array([0.0, 88.0, -88.0]))
    assert within[0] == pytest.approx(0.025 / 0.995)
    assert within[1] == pytest.approx((0.44 + 0.025) / 0.995)
    assert within[2] == within[1]


def test_a_harness_is_explained_by_itself_and_by_no_other() -> None:
    singles = singles_of(3)
    for at, joint in enumerate(singles.joint):
        level = np.array([0.0, 3.7, 7.4, 11.1])
        totals = [math.nan if place < 0 else float(level[place]) for place in joint.tolist()]
        fits = explains(wired(case(totals), singles.joint))
        assert fits[at]
        # A lead that sits on nothing may read anything.
        same = (singles.joint == joint) | ((singles.joint == OPEN) & (joint != OPEN))
        assert fits.tolist() == same.all(axis=1).tolist()


def test_readings_between_any_two_ends_count() -> None:
    right = np.arange(4, dtype=np.int16)[None]
    level = [0.0, 3.7, 7.4, 11.1]
    for start, end, volts in (
        (1, 2, 3.7),
        (3, MAIN_PLUS, 0.0),
        (MAIN_MINUS, 2, 7.4),
        (JOINT + 1, JOINT + 3, 7.4),
        (2, 1, -3.7),
    ):
        good = case(level, Between(start, end, volts))
        assert explains(wired(good, right))[0]
        bad = case(level, Between(start, end, volts + 0.2))
        assert not explains(wired(bad, right))[0]


def test_what_a_group_lacks_is_bounded_by_every_reading() -> None:
    seen = case([0.0, 3.7, 6.9, 10.6], Between(JOINT + 1, JOINT + 2, 3.2))
    right = wired(seen, np.arange(4, dtype=np.int16)[None])
    count = counts(seen, right, 2)
    assert count.tolist() == [[0.0, 0.0, 1.0, 1.0, 1.0]]
    low, high, fits = lacks(right.off, count, right.within, right.lost)
    assert fits[0]
    assert low[0] < 0.5 < high[0]
    # The reading across the group itself is the sharpest.
    assert high[0] - low[0] <= 2.0 * right.within[0, 4]
    elsewhere = counts(seen, right, 3)
    assert not lacks(right.off, elsewhere, right.within, right.lost)[2][0]


def test_one_gain_for_all_is_much_likelier_than_each_off_alike_by_chance() -> None:
    right = np.arange(4, dtype=np.int16)[None]
    level = np.array([0.0, 3.7, 7.4, 11.1])
    together = case((level * 1.004).tolist())
    apart = case((level + np.array([0.0, 0.03, -0.05, 0.06])).tolist())
    shares = [log_share(item, wired(item, right), 0) for item in (together, apart)]
    assert shares[0] > shares[1] + 1.0


def test_the_density_is_that_of_the_readings_by_hand() -> None:
    # Without a gain both ways are one: 1 ÷ (2 · 0.01) for each of four readings.
    seen = case([0.0, 3.7, 7.4, 11.1], meter=EXACT)
    right = wired(seen, np.arange(4, dtype=np.int16)[None])
    assert log_share(seen, right, 0) == pytest.approx(-4.0 * math.log(2.0 * 0.01))
    # A lack known to ± 0.01 of a range of 1 V.
    weak = case([0.0, 3.7, 7.4, 10.6], meter=EXACT)
    thought = wired(weak, np.arange(4, dtype=np.int16)[None])
    share = log_share_lacking(weak, thought, 0, ((3, 0.0, 1.0),))
    assert share == pytest.approx(math.log(0.02) - 4.0 * math.log(0.02))


def test_open_leads_read_what_lies_within_the_pack_and_not_next_to_them() -> None:
    assert reads_beyond(case([0.0, 3700.0, -5.0, 11.1])).tolist() == [False, True, True, False]
    near = reads_near(case([0.0, 7.4, 11.1, 0.0]))
    assert near.tolist() == [True, True, True, False]
