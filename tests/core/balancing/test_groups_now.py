"""Where size and charge of groups come from."""

import numpy as np
import pytest

from lumvak.core.balancing.groups_now import UsualGroup, groups_now, month_loss_a
from lumvak.core.document.charging import ChargeGroup
from lumvak.core.matching.matched import GroupNow
from tests.straight import straight_cell

USUAL = UsualGroup(3.0, 0.04, 1e-4, 0.2, 0.05)


def test_what_nobody_says_is_of_the_sheet_and_assumed() -> None:
    found = groups_now((), (), (), straight_cell(), 3, USUAL)
    assert found.groups.ah.tolist() == [3.0] * 3
    assert found.share.tolist() == [0.2] * 3
    assert not found.measured
    assert found.groups.path_ohm == 0.05
    assert found.charge_ah == pytest.approx([0.6] * 3)


def test_typed_comes_before_shown_and_shown_before_measured() -> None:
    typed = (ChargeGroup(ah=2.8, share=0.7), ChargeGroup(leak_ma=5.0, mohm=50.0))
    cells = tuple(GroupNow(place, (place,), 2.9, 20.0, 3.6, None) for place in (1, 2, 3))
    found = groups_now(typed, cells, (3.9, 3.72), straight_cell(), 3, USUAL)
    assert found.groups.ah.tolist() == [2.8, 2.9, 2.9]
    assert found.ah_from == ("typed", "measured", "measured")
    assert found.share == pytest.approx([0.7, 0.6, 0.5])
    assert found.share_from == ("typed", "shown", "measured")
    assert found.groups.ohm.tolist() == pytest.approx([0.05, 0.05, 0.05])
    assert found.groups.leak_a.tolist() == pytest.approx([1e-4, 5e-3, 1e-4])
    assert found.measured


def test_a_group_without_volts_has_the_mean_of_the_others() -> None:
    typed = (ChargeGroup(share=0.4), ChargeGroup(volts=3.72), ChargeGroup())
    found = groups_now(typed, (), (), straight_cell(), 3, USUAL)
    assert found.share == pytest.approx([0.4, 0.6, 0.5])
    assert found.share_from[2] == "assumed"


def test_two_percent_a_month_are_a_small_current() -> None:
    assert month_loss_a(0.02, 15.0) == pytest.approx(15.0 * 0.02 / (30.44 * 24.0))
    assert np.isclose(month_loss_a(0.02, 15.0), 0.41e-3, rtol=0.01)
