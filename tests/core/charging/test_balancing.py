"""What evens groups out: the board's bleed, resistors, a mover; how long and how warm."""

import re

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.charging.balancing import (
    ANY_V,
    Means,
    balancing_now,
    balancing_of,
    board_bleed,
    means_of,
    origin_of,
)
from lumvak.core.charging.charger import ChargeSetting
from lumvak.core.charging.cycles import CycleSetting
from lumvak.core.charging.groups_now import Usual, groups_now
from lumvak.core.charging.groups_run import Bleed
from lumvak.core.document.charging import ChargeGroup, Charging, Module, Mover
from lumvak.core.spelling import spoken
from tests.core.charging.test_charger import setting_of


def now_of(catalogue: Catalogue, shares: list[float], **more: float):  # type: ignore[no-untyped-def]
    setting = setting_of(catalogue, series=len(shares))
    typed = tuple(ChargeGroup(share=share, **more) for share in shares)
    usual = Usual(setting.group_ah, 0.01, 0.0, 0.5, 0.02)
    return setting, groups_now(typed, (), (), setting.behaviour, len(shares), usual)


def test_a_board_bleeds_as_its_sheet_says(catalogue: Catalogue) -> None:
    board = catalogue.boards["wicket-14-30"]
    found = board_bleed(board, 4.2, None)
    assert found is not None
    assert (found.from_v, found.amps, found.always) == (4.18, 0.06, False)
    assert board_bleed(catalogue.boards["latch-5-30-plain"], 4.2, None) is None
    assert board_bleed(None, 4.2, None) is None
    other = board_bleed(catalogue.boards["yoke-14"], 4.2, None)
    assert other is not None and other.from_v == ANY_V and other.always


def use_of(setting: ChargeSetting, series: int, **changed: float) -> CycleSetting:
    """Charged in five hours, emptied in two, once every two days."""
    amps = setting.group_ah / 5.0
    board = setting.board
    assert board is not None
    use = CycleSetting(amps, 4.2 * series, 0.1 * amps, setting.over_v,
                       board.over_voltage_release_v, 0.0, 2.5 * amps, 2.9, 48.0,
                       2.0)  # fmt: skip
    return replace(use, **changed)  # type: ignore[arg-type]


def test_hours_are_excess_over_bleed_and_heat_is_all_of_them(catalogue: Catalogue) -> None:
    setting, now = now_of(catalogue, [0.5, 0.5, 0.48, 0.5])
    means = means_of(Charging(by="module", module=Module(ohm=22.0, from_v=4.15)), None, 4.2, None)
    found = balancing_now(means, now, None, 4.2)
    assert found.flow_a == pytest.approx(4.15 / 22.0)
    assert found.hours == pytest.approx(0.02 * setting.group_ah / (4.15 / 22.0))
    assert found.days is None
    assert found.heat_w == pytest.approx(4 * 4.15**2 / 22.0)
    assert found.excess_ah == pytest.approx(0.02 * setting.group_ah * (
        now.share > 0.49
    ))  # fmt: skip
    assert {item.origin for item in found.figures[:2]} == {"sheet", "typed"}


def test_a_mover_takes_from_the_full_at_its_own_pace(catalogue: Catalogue) -> None:
    """What arrives is less than what is taken: rooms meet nearer to the emptier side."""
    setting, now = now_of(catalogue, [0.6, 0.5, 0.4])
    means = means_of(Charging(by="active", mover=Mover(amps=2.0, efficiency=1.0)), None, 4.2, None)
    found = balancing_now(means, now, None, 4.2)
    assert found.active is not None and found.bleed is None
    assert found.hours == pytest.approx(0.1 * setting.group_ah / 2.0)
    half = means_of(Charging(by="active", mover=Mover(amps=2.0, efficiency=0.5)), None, 4.2, None)
    slower = balancing_now(half, now, None, 4.2)
    # Taken from 0.6 down to the level L, half of it put under 0.4 and, past it, under 0.5.
    level = (0.6 + 2 * 0.4 + 2 * 0.5) / 5.0
    level = level if level > 0.5 else (0.6 + 0.5 + 2 * 0.4) / 4.0
    taken = sum(max(share - level, 0.0) for share in (0.6, 0.5, 0.4))
    assert slower.hours == pytest.approx(taken * setting.group_ah / 2.0, rel=1e-6)
    by_name = {item.key: item for item in slower.figures}
    watts = by_name["charging.bleed_w"]
    amps, volts, arrives = (item.number for item in watts.inputs)
    assert watts.number == pytest.approx(amps * volts * (1.0 - arrives))


def test_nothing_evens_out_where_nothing_is_chosen_or_at_the_bottom(catalogue: Catalogue) -> None:
    setting, now = now_of(catalogue, [0.6, 0.5, 0.4])
    for charging in (Charging(by="none"), Charging(at="bottom")):
        found = balancing_now(means_of(charging, setting.board, 4.2, None), now, None, 4.2)
        assert not found.works
        assert found.hours is None and "nothing evens" in spoken(found.because)
    bleed = means_of(Charging(), setting.board, 4.2, 0.015).bleed
    assert bleed is not None and bleed.spread_v == 0.015


def test_a_board_that_cuts_off_first_is_told(catalogue: Catalogue) -> None:
    """One group 20 % ahead is over 4.25 V long before the others are full."""
    setting, now = now_of(catalogue, [0.7, 0.5, 0.5, 0.5])
    assert setting.board is not None
    means = means_of(Charging(), setting.board, 4.2, None)
    found = balancing_now(means, now, use_of(setting, 4), 4.2)
    assert found.cut_off_v == setting.board.over_voltage_v
    _, near = now_of(catalogue, [0.503, 0.5, 0.5, 0.5])
    assert balancing_now(means, near, use_of(setting, 4), 4.2).cut_off_v is None


def test_a_leak_between_charges_beats_a_bleed_that_is_held_for_too_short(
    catalogue: Catalogue,
) -> None:
    """By hand: 3 days at 5 mA lose 0.36 Ah; the tail of a charge bleeds 60 mA for an hour."""
    setting, now = now_of(catalogue, [0.5] * 4)
    leak = np.array([0.0, 0.0, 0.005, 0.0])
    groups = replace(now.groups, leak_a=leak)
    means = Means(Bleed(4.18, amps=0.06, spread_v=0.005), None, "the bleed")
    use = use_of(setting, 4, between_h=72.0, floor_v=3.3)
    found = balancing_of(means, groups, now.share, use, 4.2)
    assert found.hours is None and found.days is None
    assert "group 3 falls behind" in spoken(found.because)
    held = balancing_of(means, groups, now.share, replace(use, stays_h=12.0), 4.2)
    assert held.hours is not None


def test_a_group_that_runs_empty_between_charges_is_a_stop(catalogue: Catalogue) -> None:
    setting, now = now_of(catalogue, [0.5] * 4)
    groups = replace(now.groups, leak_a=np.array([0.0, 0.1, 0.0, 0.0]))
    means = Means(Bleed(4.18, amps=0.06, spread_v=0.005), None, "the bleed")
    found = balancing_of(means, groups, now.share, use_of(setting, 4, between_h=240.0), 4.2)
    assert found.stop and "group 2" in spoken(found.because)


def test_groups_bled_alike_stay_apart_and_what_is_burnt_is_told(catalogue: Catalogue) -> None:
    """5 % low: at 4.2 V it stands over 4.1 V, where all are bled."""
    setting, now = now_of(catalogue, [0.5, 0.5, 0.45, 0.5])
    means = Means(Bleed(4.1, amps=0.06), None, "the bleed")
    found = balancing_of(means, now.groups, now.share, use_of(setting, 4, stays_h=20.0), 4.2)
    assert found.hours is None and "bled alike" in spoken(found.because)
    assert found.left_share == pytest.approx(0.05, abs=0.005)
    # Twenty hours and the tail of the charge, four groups at some 4.2 V.
    told = re.search(r"([\d.]+) Wh are burnt in each charge", spoken(found.because))
    assert told and float(told[1]) == pytest.approx(4 * 4.2 * 0.06 * 21.0, rel=0.1)


def test_a_resistor_over_its_rating_is_a_stop(catalogue: Catalogue) -> None:
    _, now = now_of(catalogue, [0.5, 0.47])
    hot = Charging(by="module", module=Module(ohm=0.5, watt=0.25))
    found = balancing_now(means_of(hot, None, 4.2, None), now, None, 4.2)
    assert found.stop and found.hours is None
    assert "it burns" in spoken(found.because)


def test_where_a_value_comes_from_is_the_least_sure_of_all() -> None:
    assert origin_of(("measured", "shown")) == "measured"
    assert origin_of(("measured", "typed")) == "typed"
    assert origin_of(("typed", "sheet")) == "sheet"
    assert origin_of(("measured", "assumed", "sheet")) == "assumed"
