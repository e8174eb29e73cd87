"""Readings one by one and as tables."""

import json

from msgspec.structs import replace
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from tests.ui.conftest import forget
from tests.ui.hand.conftest import readings_of, type_readings


def test_a_reading_is_on_the_disk_once_enter_is_pressed(qtbot: QtBot, window: Window) -> None:
    view = readings_of(window)
    type_readings(qtbot, view, ["3.61"])
    copies = [
        json.loads(path.read_bytes()) for path in window.session.recovery.folder.glob("*.json")
    ]
    assert [copy["project"]["hand"]["cells"][0]["volts"] for copy in copies] == [3.61]
    forget(window)


def test_what_is_out_of_family_is_said_at_once(qtbot: QtBot, roller: Window) -> None:
    view = readings_of(roller)
    view.turn_to(12)
    type_readings(qtbot, view, ["1,1"])
    assert view.says.text().startswith("Cell 12: rests at 1.1 V, under 2.25 V")
    # Cells by their reasons, found by a word.
    view.look.setText("leaks")
    assert [item.cell.number for item in view.table.shown] == [23]
    view.look.setText("")
    view.table.sort_asked.emit(6)
    assert {item.cell.number for item in view.table.shown[:5]} == {12, 23, 41, 58, 66}
    forget(roller)


def test_up_and_down_go_to_another_cell_where_the_page_scrolls_too(
    qtbot: QtBot, roller: Window
) -> None:
    roller.resize(1024, 640)
    view = readings_of(roller)
    view.turn_to(12)
    qtbot.keyClick(view.entry, Qt.Key.Key_Down)
    assert view.number == 13
    qtbot.keyClick(view.entry, Qt.Key.Key_Up)
    qtbot.keyClick(view.entry, Qt.Key.Key_Up)
    assert view.number == 11
    forget(roller)


def test_a_later_voltage_is_kept_with_its_days(qtbot: QtBot, roller: Window) -> None:
    view = readings_of(roller)
    assert not view.after.isVisible()
    view.reads.picked.emit("later_v")
    assert view.after.isVisible()
    view.days.setText("2 weeks")
    view.turn_to(5)
    type_readings(qtbot, view, ["3.55"])
    cell = roller.session.evaluation.sized.in_hand.judged[5].cell
    assert (cell.later_v, cell.days) == (3.55, 14.0)
    assert "it leaks" in view.says.text()
    view.days.setText("soon")
    view.turn_to(6)
    type_readings(qtbot, view, ["3.6"])
    assert "“soon” is not a time" in view.problem.text()
    forget(roller)


def test_what_is_out_of_family_is_said_at_arms_length_too(qtbot: QtBot, roller: Window) -> None:
    view = readings_of(roller)
    cells = roller.session.project.hand.cells
    fresh = tuple(replace(cell, volts=None) if cell.number in (11, 12) else cell for cell in cells)
    roller.session.edit({"hand.cells": fresh})
    qtbot.keyClick(roller, Qt.Key.Key_F9)
    bench = view.bench
    assert bench is not None
    assert [step.place for step in bench.steps] == ["cell 11", "cell 12"]
    qtbot.keyClicks(bench.entry, "1.1")
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert bench.reading.text().startswith("last: 1.1: rests at 1.1 V")
    qtbot.keyClick(bench, Qt.Key.Key_Escape)
    forget(roller)
