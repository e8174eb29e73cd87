"""The settings sheet: proposed, typed and fixed values, and the board they make."""

import pytest
from msgspec.structs import replace

from lumvak.core.bms.settings import board_as_set, settings_of
from lumvak.core.bms.verdicts import bleed_hours, judge, switch_heat_w, switch_rise_k
from lumvak.core.catalogue.boards import Board, BoardStage
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.checked import made
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.power import Protection, SettingChange
from lumvak.core.document.project import Project
from lumvak.core.spelling import spoken
from tests.core.bms.test_verdicts import board, setting_for


@pytest.fixture
def settable(catalogue: Catalogue) -> Board:
    return replace(catalogue.boards["portcullis-14-80"], series=10)


def test_what_is_proposed_serves_and_has_a_reason(catalogue: Catalogue, settable: Board) -> None:
    setting = setting_for(catalogue)
    rows = {row.key: row for row in settings_of(settable, setting, None)}
    assert len(rows) == 12
    assert rows["over-voltage"].value == pytest.approx(4.25)
    assert rows["over-voltage"].release == pytest.approx(4.15)
    assert rows["under-voltage"].value == pytest.approx(2.6)
    # 40 A for 8 s: the slow stage waits longer than the peak and needs only the load.
    assert (rows["over-current-1"].value, rows["over-current-1"].delay_s) == (22.5, 12.0)
    assert rows["over-current-2"].value == pytest.approx(50.0)
    assert rows["charge-current"].value == pytest.approx(2.4)
    for row in rows.values():
        assert row.reason
        assert spoken(row.problem) == ""
        assert row.origin == "proposed"
    assert judge(board_as_set(settable, tuple(rows.values())), setting).serves


def test_a_lower_ceiling_lowers_the_over_voltage(catalogue: Catalogue, settable: Board) -> None:
    rows = settings_of(settable, setting_for(catalogue), 4.1)
    assert rows[0].value == pytest.approx(4.15)
    assert "charge limit" in spoken(rows[0].reason)


@pytest.mark.parametrize(
    ("change", "word"),
    [
        ({"key": "over-voltage", "value": 4.5}, "accepted: up to 4.3 V"),
        ({"key": "over-voltage", "release": 4.3}, "accepted: under 4.25 V"),
        ({"key": "under-voltage", "value": 2.0}, "accepted: 2.5 V or more"),
        ({"key": "under-voltage", "release": 2.5}, "accepted: over 2.6 V"),
        ({"key": "over-current-1", "value": 15.0}, "18 A is drawn"),
        ({"key": "over-current-1", "value": 60.0}, "over the quick level"),
        ({"key": "over-current-2", "value": 1000.0}, "accepted: up to 280 A"),
        ({"key": "charge-current", "value": 1.0}, "accepted: 2 A or more"),
        ({"key": "charge-cold", "value": -10.0}, "accepted: 0 °C or more"),
        ({"key": "discharge-hot", "value": 90.0}, "°C or less"),
        ({"key": "balance-from", "value": 4.3}, "accepted: up to 4.2 V"),
    ],
)
def test_what_is_beyond_the_cell_or_the_board_is_named(
    catalogue: Catalogue, settable: Board, change: dict[str, object], word: str
) -> None:
    typed = Protection(settings=(made(SettingChange, change),))
    rows = settings_of(settable, setting_for(catalogue, protection=typed), None)
    row = next(row for row in rows if row.key == change["key"])
    assert word in f"{spoken(row.problem)}; accepted: {spoken(row.accepts)}"
    assert row.origin == "typed"


def test_a_fixed_board_shows_what_it_is_made_for(catalogue: Catalogue) -> None:
    made = board()
    rows = {row.key: row for row in settings_of(made, setting_for(catalogue), None)}
    assert rows["over-current-1"].value == 60.0
    assert rows["short-circuit"].value == 105.0
    assert rows["charge-cold"].value is None
    assert board_as_set(made, tuple(rows.values())) is made


def test_settings_are_validated_where_they_are_kept() -> None:
    for record, word in (
        ({"key": "over-current-1", "delay_s": 0.0}, "a number over 0"),
        ({"key": "over-surge", "value": 1.0}, "over-voltage"),
    ):
        with pytest.raises(ProjectError, match=word):
            with_values(Project(), {"protection.settings": (record,)})
    twice = ({"key": "balance-from", "value": 4.1}, {"key": "balance-from", "value": 4.0})
    with pytest.raises(ProjectError, match="twice"):
        with_values(Project(), {"protection.settings": twice})


def test_heat_and_bleed_of_a_board_are_the_plain_products(catalogue: Catalogue) -> None:
    made = board(cooling_k_per_w=10.0)
    assert switch_heat_w(made, 20.0) == pytest.approx(0.8)
    assert switch_rise_k(made, 20.0) == pytest.approx(8.0)
    assert switch_rise_k(board(), 20.0) == pytest.approx(9.6)
    assert bleed_hours(made, 24.0) == pytest.approx(0.02 * 24.0 / 0.06)
    hot = judge(board(resistance_ohm=0.02), setting_for(catalogue))
    assert {"heat"} <= {point.code for point in hot.remarks}
    slow = judge(board(balance_a=0.003), setting_for(catalogue))
    assert {"bleed"} <= {point.code for point in slow.remarks}


def test_a_near_miss_says_what_would_rescue_it(catalogue: Catalogue) -> None:
    setting = setting_for(catalogue)
    assert "up to 15 A" in spoken(judge(board(continuous_a=15.0), setting).rescue)
    stages = (BoardStage(current_a=35.0, delay_s=2.0),)
    assert "peaks of up to 35 A, or peaks under 2 s" in spoken(
        judge(board(stages=stages), setting).rescue
    )
    both = judge(board(continuous_a=15.0, sensors=0), setting)
    assert spoken(both.rescue) == ""


@pytest.mark.parametrize(
    ("changes", "word"),
    [
        ({"over_voltage_release_v": 4.3}, "between the two thresholds"),
        ({"under_voltage_release_v": 2.7}, "between the two thresholds"),
        ({"kind": "balancer", "balance_a": 0.0}, "must balance"),
        ({"kind": "protection"}, "balance_a of 0"),
        ({"off_a": 1.0}, "must not exceed quiescent_a"),
    ],
)
def test_impossible_boards_are_refused(changes: dict[str, object], word: str) -> None:
    with pytest.raises(ValueError, match=word):
        board(**changes)
