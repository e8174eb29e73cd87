"""Chargers at hand: picked, added, changed, taken from the library and kept there."""

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.files.own_parts import load_own
from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.charging.charger import ChargerView
from tests.ui.charging.conftest import Opener


@pytest.fixture
def view(open_view: Opener) -> ChargerView:
    page = open_view("charger")
    assert isinstance(page, ChargerView)
    return page


def row(view: ChargerView, name: str) -> tuple[str, ...]:
    return next(item.cells for item in view.table.rows_model.rows if item.cells[0] == name)


def test_what_to_take_is_said_with_its_slips(view: ChargerView) -> None:
    assert view.labels[0].said == "58.8 V"
    assert "CC-CV" in view.labels[0].name and "current limit" in view.limit_says.toolTip()
    assert "50.4 V is the nominal" in view.slips.text()
    assert "412 V is all 98 cells" in view.slips.text()


def test_a_click_charges_with_another(view: ChargerView, session: Session) -> None:
    assert row(view, "Yard charger for lead")[4] == "undercharges"
    assert row(view, "the one to buy")[4] == "right"
    assert "93 %" in view.lines.text()
    view.table.picked.emit("trickle-58-4")
    assert session.project.charging.charger == "trickle-58-4"
    assert view.verdict.text() == "Trickle 58-4: right"
    view.table.picked.emit("right")
    assert view.verdict.text() == "The one to buy: right"
    session.undo_stack.undo()
    assert session.project.charging.charger == "trickle-58-4"


def type_into(view: ChargerView, qtbot: QtBot, line: int, column: int, text: str) -> None:
    item = view.grid.table.item(line, column)
    assert item is not None
    item.setText(text)


def test_a_charger_is_added_and_changed_in_the_grid(
    view: ChargerView, session: Session, qtbot: QtBot
) -> None:
    view.grid.add_row()
    assert len(session.project.charging.chargers) == 3
    added = session.project.charging.charger
    assert added == "charger"
    line = next(
        place for place, item in enumerate(session.project.charging.chargers) if item.id == added
    )
    type_into(view, qtbot, line, 2, "84 V")
    assert session.evaluation.charging.verdict.kind == "wrong"
    assert "wrong" in view.verdict.text()
    type_into(view, qtbot, line, 1, "nickel")
    assert session.project.charging.chargers[line].kind == "nickel"
    before = session.project
    type_into(view, qtbot, line, 4, "0 A")
    assert session.project is before
    assert "Amps" in view.grid.problem.text()
    view.grid.take_back()
    given = session.project.charging.chargers[line].amps
    type_into(view, qtbot, line, 6, f"{given + 1.0:g} A")
    assert "is no less than it gives" in view.grid.problem.text()
    assert session.project is before
    view.grid.take_back()
    type_into(view, qtbot, line, 1, "steam")
    assert "accepted: cc-cv, lead-acid, nickel, supply" in view.grid.problem.text()


def test_the_charger_that_is_removed_is_not_charged_with(
    view: ChargerView, session: Session
) -> None:
    view.grid.table.setCurrentCell(0, 0)
    view.grid.remove_row()
    assert [item.id for item in session.project.charging.chargers] == ["trickle-58-4"]
    assert session.evaluation.charging.charger.id == "given"


def test_the_library_gives_and_keeps(view: ChargerView, session: Session, window: Window) -> None:
    place = view.library.findData("rake-18-nickel")
    assert place >= 0
    view.library.setCurrentIndex(place)
    view.buttons["take this one"].click()
    assert session.project.charging.charger == "rake-18-nickel"
    assert session.evaluation.charging.verdict.kind in ("leans", "wrong")
    view.table.picked.emit("yard-lead")
    view.buttons["keep in my parts"].click()
    assert [item.id for item in load_own().chargers] == ["yard-lead"]
    assert "in your own parts" in window.notice.text.text()
    assert "yard-lead" in session.catalogue.chargers


def test_a_rebuilt_charger_is_told_what_to_check(
    view: ChargerView, session: Session, qtbot: QtBot
) -> None:
    assert view.checks.isHidden()
    type_into(view, qtbot, 0, 11, "yes")
    assert not view.checks.isHidden()
    assert "licensed" in view.checks.text()


def test_the_socket_limits_what_to_take(view: ChargerView, session: Session, qtbot: QtBot) -> None:
    view.socket.edit.setFocus()
    qtbot.keyClicks(view.socket.edit, "3 A")
    qtbot.keyClick(view.socket.edit, Qt.Key.Key_Return)
    assert session.project.charging.socket_a == 3.0
    assert "the socket sets the amps" in view.limit_says.text()
