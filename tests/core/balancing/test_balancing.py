"""What evens groups out: the board's bleed, resistors, a mover; how long and how warm."""

import pytest
from msgspec.structs import replace

from lumvak.core.balancing.balancing import balancing_now, origin_of
from lumvak.core.balancing.cycles import CycleSetting
from lumvak.core.balancing.groups_now import UsualGroup, groups_now
from lumvak.core.balancing.means import means_of
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.charging.charger import ChargeSetting
from lumvak.core.document.charging import ChargeGroup, Charging, Module, Mover
from tests.core.charging.test_charger import setting_of


def now_of(catalogue: Catalogue, shares: list[float], **more: float):  # type: ignore[no-untyped-def]
    setting = setting_of(catalogue, series=len(shares))
    typed = tuple(ChargeGroup(share=share, **more) for share in shares)
    usual = UsualGroup(setting.group_ah, 0.01, 0.0, 0.5, 0.02)
    return setting, groups_now(typed, (), (), setting.behaviour, len(shares), usual)


def use_of(setting: ChargeSetting, series: int, **changed: float) -> CycleSetting:
    """Charged in five hours, emptied in two, once every two days."""
    amps = setting.group_ah / 5.0
    board = setting.board
    assert board is not None
    use = CycleSetting(
        amps,
        4.2 * series,
        0.1 * amps,
        setting.over_v,
        board.over_voltage_release_v,
        0.0,
        2.5 * amps,
        2.9,
        48.0,
        2.0,
    )
    return replace(use, **changed)  # type: ignore[arg-type]


def test_hours_are_excess_over_bleed_and_heat_is_all_of_them(catalogue: Catalogue) -> None:
    setting, now = now_of(catalogue, [0.5, 0.5, 0.48, 0.5])
    means = means_of(Charging(by="module", module=Module(ohm=22.0, from_v=4.15)), None, 4.2, None)
    found = balancing_now(means, now, None, 4.2)
    assert found.flow_a == pytest.approx(4.15 / 22.0)
    assert found.hours == pytest.approx(0.02 * setting.group_ah / (4.15 / 22.0))
    assert found.days is None
    assert found.heat_w == pytest.approx(4 * 4.15**2 / 22.0)
    assert found.excess_ah == pytest.approx(0.02 * setting.group_ah * (now.share > 0.49))
    assert {item.origin for item in found.figures[:2]} == {"sheet", "computed"}


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


def test_a_board_that_cuts_off_first_is_told(catalogue: Catalogue) -> None:
    """One group 20 % ahead is over 4.25 V long before the others are full."""
    setting, now = now_of(catalogue, [0.7, 0.5, 0.5, 0.5])
    assert setting.board is not None
    means = means_of(Charging(), setting.board, 4.2, None)
    found = balancing_now(means, now, use_of(setting, 4), 4.2)
    assert found.cut_off_v == setting.board.over_voltage_v
    _, near = now_of(catalogue, [0.503, 0.5, 0.5, 0.5])
    assert balancing_now(means, near, use_of(setting, 4), 4.2).cut_off_v is None


def test_where_a_value_comes_from_is_the_least_sure_of_all() -> None:
    assert origin_of(("measured", "shown")) == "measured"
    assert origin_of(("measured", "typed")) == "typed"
    assert origin_of(("typed", "sheet")) == "sheet"
    assert origin_of(("measured", "assumed", "sheet")) == "assumed"
