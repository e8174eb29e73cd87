"""Evening out by hand, and balancing at the bottom."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.balancing.by_hand import balancing_by_hand, bottom_plan
from tests.straight import at, straight_groups


def test_high_groups_are_brought_down_and_low_ones_up() -> None:
    groups = straight_groups([3.0, 3.0, 3.0, 3.0])
    found = balancing_by_hand(groups, at(0.5, 0.6, 0.5, 0.4), 10.0, 0.5)
    assert [(item.group, item.do) for item in found] == [(2, "discharge"), (4, "charge")]
    down, up = found
    assert down.ah == pytest.approx(0.3) and up.ah == pytest.approx(0.3)
    assert down.amps == pytest.approx((3.72 + 3.6) / 2.0 / 10.0)
    assert down.to_v == pytest.approx(3.6) and up.to_v == pytest.approx(3.6)
    assert up.hours == pytest.approx(0.6)
    only_down = balancing_by_hand(groups, at(0.5, 0.6, 0.5, 0.4), 10.0, 0.5, to_mean=False)
    assert {item.do for item in only_down} == {"discharge"}
    assert len(only_down) == 3


@given(
    sizes=st.lists(st.floats(1.0, 10.0), min_size=2, max_size=8),
    shares=st.lists(st.floats(0.1, 0.9), min_size=8, max_size=8),
    down=st.booleans(),
)
def test_once_it_is_done_all_are_full_together(
    sizes: list[float], shares: list[float], down: bool
) -> None:
    groups, share = straight_groups(sizes), np.array(shares[: len(sizes)])
    charge = share * groups.ah
    for item in balancing_by_hand(groups, share, 10.0, 0.5, to_mean=not down):
        charge[item.group - 1] += item.ah if item.do == "charge" else -item.ah
    room = groups.ah - charge
    assert np.ptp(room) <= 0.02 * groups.ah.max() + 1e-9


def test_at_the_bottom_the_smallest_is_full_first_and_the_pack_is_not() -> None:
    groups = straight_groups([3.0, 2.7, 3.0])
    found = bottom_plan(groups, at(0.5, 0.5, 0.6), 3.0, 4.2, 5.0)
    assert found.first == 2
    # The others are then at 2.7 of 3 Ah: 4.08 V.
    assert found.pack_v == pytest.approx(4.2 + 2 * 4.08)
    assert found.pack_v < found.usual_v == pytest.approx(12.6)
    assert found.longest_h == pytest.approx(1.8 / found.load_a)
    assert found.watts == pytest.approx(found.load_a**2 * 5.0)
