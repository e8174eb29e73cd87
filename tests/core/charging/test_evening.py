"""What evens groups out: the board's bleed, resistors, a mover; how long and how warm."""

from dataclasses import replace

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.charging.evening import ANY_V, board_bleed, evening_of, means_of
from lumvak.core.charging.groups_now import Usual, groups_now
from lumvak.core.document.charging import ChargeGroup, Charging, Module, Mover
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


def test_hours_are_excess_over_bleed_and_heat_is_all_of_them(catalogue: Catalogue) -> None:
    setting, now = now_of(catalogue, [0.5, 0.5, 0.48, 0.5])
    found = evening_of(Charging(by="module", module=Module(ohm=22.0, from_v=4.15)), setting, now,
                       None)  # fmt: skip
    assert found.flow_a == pytest.approx(4.15 / 22.0)
    assert found.hours == pytest.approx(0.02 * setting.group_ah / (4.15 / 22.0))
    assert found.heat_w == pytest.approx(4 * 4.15**2 / 22.0)
    assert found.left_share > 0.0
    assert found.excess_ah == pytest.approx(0.02 * setting.group_ah * (
        now.share > 0.49
    ))  # fmt: skip


def test_a_mover_takes_from_the_full_at_its_own_pace(catalogue: Catalogue) -> None:
    setting, now = now_of(catalogue, [0.6, 0.5, 0.4])
    found = evening_of(Charging(by="active", mover=Mover(amps=2.0)), setting, now, None)
    assert found.active is not None and found.bleed is None
    assert found.hours == pytest.approx(0.1 * setting.group_ah / 2.0)


def test_nothing_evens_out_where_nothing_is_chosen_or_at_the_bottom(catalogue: Catalogue) -> None:
    setting, now = now_of(catalogue, [0.6, 0.5, 0.4])
    for charging in (Charging(by="none"), Charging(at="bottom")):
        found = evening_of(charging, setting, now, None)
        assert not found.works
        assert found.hours is None
    assert means_of(Charging(), setting.board, 4.2, 0.015)[0].spread_v == 0.015  # type: ignore[union-attr]


def test_a_board_that_cuts_off_first_is_told(catalogue: Catalogue) -> None:
    """One group 20 % ahead is over 4.25 V long before the others are full."""
    setting, now = now_of(catalogue, [0.7, 0.5, 0.5, 0.5])
    board = setting.board
    assert board is not None
    found = evening_of(Charging(), setting, now, None)
    assert found.cut_off_v == board.over_voltage_v
    assert found.stuck == (
        board.over_voltage_release_v is not None and board.over_voltage_release_v < 4.17
    )
    kind = replace(setting, board=board.model_copy(update={"over_voltage_release_v": 4.2}))
    assert not evening_of(Charging(), kind, now, None).stuck
    _, near = now_of(catalogue, [0.503, 0.5, 0.5, 0.5])
    assert evening_of(Charging(), setting, near, None).cut_off_v is None
