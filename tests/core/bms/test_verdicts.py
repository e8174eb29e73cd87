import pytest

from lumvak.core.bms.as_specified import board_as_specified
from lumvak.core.bms.verdicts import (
    BoardSetting,
    board_choice,
    judge,
    peak_current_a,
    verdicts,
    wants_one_port,
)
from lumvak.core.catalogue.boards import Board, BoardStage
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.checked import made
from lumvak.core.document.need import Need
from lumvak.core.document.power import Protection, Rest
from lumvak.core.need.load_over_time import Draw
from lumvak.core.spelling import spoken


def setting_for(catalogue: Catalogue, **changes: object) -> BoardSetting:
    values: dict[str, object] = {
        "family": "cobalt",
        "cell": catalogue.cells["ostrel-21-48"],
        "series": 10,
        "parallel": 5,
        "draw": Draw(18.0, 40.0, 8.0),
        "charge_a": 2.0,
        "one_port": False,
        "protection": Protection(),
        "rest": Rest(),
    }
    return BoardSetting(**{**values, **changes})  # type: ignore[arg-type]


def board(**changes: object) -> Board:
    values: dict[str, object] = {
        "id": "test-10-30",
        "name": "Test 10-30",
        "family": "cobalt",
        "series": 10,
        "continuous_a": 30.0,
        "stages": (
            BoardStage(current_a=60.0, delay_s=1.0),
            BoardStage(current_a=105.0, delay_s=0.1),
        ),
        "ports": 1,
        "charge_a": 10.0,
        "over_voltage_v": 4.25,
        "under_voltage_v": 2.8,
        "balance_a": 0.06,
        "sensors": 1,
        "resistance_ohm": 0.002,
        "quiescent_a": 5e-5,
        "mass_g": 40.0,
        "price": 15.0,
    }
    return made(Board, {**values, **changes})


@pytest.mark.parametrize(
    ("seconds", "current"), [(8.0, 60.0), (1.0, 60.0), (0.5, 105.0), (0.1, 105.0), (0.01, 105.0)]
)
def test_a_stage_limits_peaks_as_long_as_its_delay(seconds: float, current: float) -> None:
    assert peak_current_a(board(), seconds) == current


def test_a_board_that_suits_has_nothing_against_it(catalogue: Catalogue) -> None:
    verdict = judge(board(), setting_for(catalogue))
    assert verdict.serves
    assert verdict.headroom == pytest.approx(30.0 / 18.0 - 1.0)
    assert verdict.remarks == ()


@pytest.mark.parametrize(
    ("changes", "word"),
    [
        ({"series": 13}, "is for 13 in series"),
        ({"family": "phosphate"}, "is for iron phosphate cells"),
        ({"continuous_a": 15.0}, "15 A continuous; the load draws 18 A"),
        ({"stages": (BoardStage(current_a=35.0, delay_s=2.0),)}, "trips at 35 A"),
        ({"charge_a": 1.0}, "charges at 1 A"),
        ({"balance_a": 0.0}, "does not balance"),
        ({"sensors": 0}, "no temperature sensor"),
        ({"kind": "charger"}, "nothing ends a discharge"),
        ({"kind": "balancer"}, "nothing ends a charge"),
        ({"over_voltage_v": 4.31}, "0.1 V over its full 4.2 V"),
        ({"under_voltage_v": 2.3}, "under its empty 2.5 V"),
    ],
)
def test_each_reason_is_named(catalogue: Catalogue, changes: dict[str, object], word: str) -> None:
    verdict = judge(board(**changes), setting_for(catalogue))
    assert not verdict.serves
    assert any(word in spoken(reason.text) for reason in verdict.reasons)


def test_two_contacts_refuse_a_separate_charge_port(catalogue: Catalogue) -> None:
    need = Need(kind="tool", rated_voltage_v=36.0, contacts=2)
    assert wants_one_port(need)
    verdict = judge(board(ports=2), setting_for(catalogue, one_port=wants_one_port(need)))
    assert any("two contacts" in spoken(reason.text) for reason in verdict.reasons)
    third = Need(kind="tool", rated_voltage_v=36.0, contacts=3)
    either = setting_for(catalogue, one_port=wants_one_port(third))
    assert judge(board(ports=2), either).serves


def test_a_level_of_the_duty_under_its_peak_trips_a_slow_stage(catalogue: Catalogue) -> None:
    # The peak is short enough, the level under it is not.
    draw = Draw(18.0, 58.0, 0.5, levels=((58.0, 0.5), (40.0, 20.0), (5.0, 60.0)))
    setting = setting_for(catalogue, draw=draw)
    assert judge(board(), setting).serves
    slow = board(
        stages=(BoardStage(current_a=35.0, delay_s=10.0), BoardStage(current_a=105.0, delay_s=0.1))
    )
    found = judge(slow, setting)
    assert [point.code for point in found.reasons] == ["profile"]
    assert "40 A for 20 s" in spoken(found.reasons[0].text)
    short = Draw(18.0, 58.0, 0.5, levels=((58.0, 0.5), (40.0, 9.0)))
    assert judge(slow, setting_for(catalogue, draw=short)).serves


def test_telemetry_and_feeding_others_are_asked_for(catalogue: Catalogue) -> None:
    told = setting_for(catalogue, protection=Protection(telemetry=True))
    assert judge(board(), told).reasons[0].code == "telemetry"
    assert judge(board(telemetry="wire"), told).serves
    feeding = setting_for(catalogue, protection=Protection(feeds=True))
    assert judge(board(ports=2), feeding).reasons[0].code == "feeds"
    assert judge(board(), feeding).serves


def test_relaxed_schools_leave_remarks_in_place_of_reasons(catalogue: Catalogue) -> None:
    relaxed = setting_for(catalogue, protection=Protection(balancing="matched", sensor=False))
    verdict = judge(board(balance_a=0.0, sensors=0), relaxed)
    assert verdict.serves
    assert len(verdict.remarks) == 2


@pytest.mark.parametrize(
    ("changes", "word"),
    [
        ({"over_voltage_v": 4.28, "over_voltage_release_v": 4.22}, "go on again at 4.22 V"),
        ({"under_voltage_v": 2.5, "under_voltage_release_v": 2.6}, "open and close in turn"),
        ({"quiescent_a": 0.02}, "that alone empties the pack in 30 days"),
        ({"wakes": "charger"}, "wakes on the charger"),
    ],
)
def test_thresholds_beyond_the_cell_are_remarked(
    catalogue: Catalogue, changes: dict[str, object], word: str
) -> None:
    verdict = judge(board(**changes), setting_for(catalogue))
    assert any(word in spoken(remark.text) for remark in verdict.remarks)


def test_verdicts_put_those_that_serve_first_and_near_misses_next(catalogue: Catalogue) -> None:
    setting = setting_for(catalogue)
    choice = board_choice(catalogue.boards, None, setting, board_as_specified(setting))
    assert choice.verdict is not None
    assert choice.verdict is choice.verdicts[0] is choice.first
    serving = [item.serves for item in choice.verdicts]
    assert serving == sorted(serving, reverse=True)
    for_pack = [
        (item.board.series, item.board.family) == (10, "cobalt") for item in choice.verdicts
    ]
    assert for_pack == sorted(for_pack, reverse=True)
    # Those for other packs are judged later, and the whole is as if all had been at once.
    assert sum(for_pack) == len(choice.own) < len(choice.verdicts) == len(catalogue.boards)
    assert choice.verdicts == verdicts(catalogue.boards.values(), setting)


def test_where_none_serves_one_as_specified_stands_in_its_place(catalogue: Catalogue) -> None:
    setting = setting_for(catalogue, series=29)
    specified = board_as_specified(setting)
    choice = board_choice(catalogue.boards, None, setting, specified)
    assert choice.board is specified
    assert choice.verdict is not None and choice.verdict.serves
    assert not choice.own
    assert choice.first is choice.verdicts[0]
    assert board_choice({}, None, setting, specified).first is None


def test_thresholds_that_can_be_set_are_not_held_against_a_board(catalogue: Catalogue) -> None:
    for changes in ({"over_voltage_v": 4.31}, {"under_voltage_v": 2.3}):
        assert judge(board(**changes, adjustable=True), setting_for(catalogue)).serves
    # At a tenth of a volt it still protects.
    assert judge(board(over_voltage_v=4.3), setting_for(catalogue)).serves
    assert judge(board(under_voltage_v=2.5), setting_for(catalogue)).serves
