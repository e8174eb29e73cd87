"""The stage of charging: its views, its answer, and where findings lead."""

from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.charging.answer import VIEWS, charging_answer
from lumvak.ui.stages.charging.stage import MAKERS, TITLES
from tests.ui.charging.conftest import Opener, even, settle


def test_every_view_has_a_title_and_opens(window: Window, qtbot: QtBot, open_view: Opener) -> None:
    assert {key for key, _ in VIEWS} == set(TITLES) == set(MAKERS)
    for key, _ in VIEWS:
        page = open_view(key)
        settle(page, qtbot)
        assert window.stages["charging"].head.title.text() == TITLES[key]  # type: ignore[attr-defined]


def test_the_answer_is_the_volts_and_what_is_wrong(window: Window) -> None:
    session = window.session
    even(session)
    assert charging_answer(session.evaluation) == "58.8 V, 4 A"
    session.edit({"need.charger_voltage_v": 84.0})
    assert charging_answer(session.evaluation) == "58.8 V; it is wrong"
    session.edit({"need.charger_voltage_v": 56.0})
    assert charging_answer(session.evaluation) == "58.8 V; it undercharges"
