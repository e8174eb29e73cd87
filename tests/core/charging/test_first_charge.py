"""The first charge in stages."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.balancing.groups_run import BodyWarmth
from lumvak.core.charging.first_charge import SLOW_H, AtHand, first_charge, with_band
from lumvak.core.charging.to_full import FullSetting
from lumvak.core.spelling import spoken
from tests.straight import at, straight_groups

ROOM = BodyWarmth(1e-6, 1e9, 25.0)


def test_it_begins_slowly_and_ends_with_a_rest() -> None:
    groups = straight_groups([10.0] * 4)
    use = FullSetting(6.0, 16.8, 0.5, None, 4.25, None, 3.0)
    plan = first_charge(groups, at(0.3, 0.3, 0.3, 0.3), use, ROOM, 4.2)
    assert [stage.name for stage in plan.stages] == ["before", "slow", "usual", "taper", "rest"]
    _, slow, usual, taper, _ = plan.stages
    assert slow.amps == pytest.approx(1.0) and usual.amps == pytest.approx(5.0)
    assert slow.hours == pytest.approx(SLOW_H)
    # 0.05 of the charge in the slow half hour, then on to 4.1 V under 5 A.
    reached = (4.1 - 5.0 * 0.04 - 3.0) / 1.2
    assert usual.hours == pytest.approx((reached - 0.35) * 10.0 / 5.0, rel=0.03)
    assert plan.hours == pytest.approx(slow.hours + usual.hours + taper.hours, rel=1e-6)
    assert (np.diff(plan.seconds) >= 0.0).all()
    assert plan.ended_by == "charger"
    assert all(stage.stop and stage.watch and stage.until for stage in plan.stages)


def test_no_stage_gives_more_than_the_charger() -> None:
    groups = straight_groups([10.0] * 2)
    use = FullSetting(0.6, 8.4, 0.06, None, None, None, 3.0)
    plan = first_charge(groups, at(0.3, 0.3), use, ROOM, 4.2)
    assert {stage.amps for stage in plan.stages if stage.amps} == {0.6}


def test_a_full_pack_is_done_within_the_slow_stage() -> None:
    groups = straight_groups([10.0] * 2)
    use = FullSetting(6.0, 8.4, 0.5, None, 4.25, None, 3.0)
    plan = first_charge(groups, at(0.995, 0.999), replace(use, hold_v=9.0, over_v=4.25), ROOM, 4.2)
    assert [stage.name for stage in plan.stages][:2] == ["before", "slow"]
    assert plan.ended_by in ("board", "charger")


def test_the_plan_has_a_band_about_it() -> None:
    groups = straight_groups([10.0] * 3)
    use = FullSetting(5.0, 12.6, 0.5, None, 4.25, None, 3.0)
    given = (groups, at(0.3, 0.3, 0.3), use, ROOM, 4.2)
    plan = first_charge(*given)
    wide = with_band(plan, *given, 0.02, 0.1).band_v
    narrow = with_band(plan, *given, 0.0, 0.0).band_v
    assert wide is not None and narrow is not None
    assert (wide[0] <= plan.volts).all() and (plan.volts <= wide[1]).all()
    # Where it begins 3 % of a straight line of 1.2 V are 0.036 V a group.
    assert narrow[1][1] - plan.volts[1] == pytest.approx(3 * 0.036, rel=0.05)
    assert (wide[1] - wide[0]).max() > (narrow[1] - narrow[0]).max()


def test_a_plan_asks_no_more_than_meter_and_charger_can() -> None:
    groups = straight_groups([10.0] * 4)
    use = FullSetting(6.0, 16.8, 0.5, None, 4.25, None, 3.0)
    given = (groups, at(0.3, 0.3, 0.3, 0.3), use, ROOM, 4.2)
    coarse = first_charge(*given, having=AtHand(0.08, 6.0, True))
    assert all(stage.apart_v >= 0.08 for stage in coarse.stages)
    _, slow, usual, _, rest = coarse.stages
    assert "bench supply set to 16.8 V and 1 A" in spoken(slow.by) and "5 A" in spoken(usual.by)
    assert "too little" in slow.watch and "80 mV" in spoken(rest.stop[0])
    # One that can be set, and a fine meter: as it was.
    plain = first_charge(*given)
    assert [stage.by for stage in plain.stages] == [""] * 5
    assert plain.stages[1].apart_v == pytest.approx(0.03)
    small = first_charge(*given, having=AtHand(fixed_a=1.05))
    assert spoken(small.stages[1].by) == ""
