"""Readings one by one and as tables."""

import json

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
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


def test_an_empty_lot_is_read_until_escape(qtbot: QtBot, window: Window) -> None:
    view = readings_of(window)
    name = window.session.project.name
    qtbot.keyClick(window, Qt.Key.Key_F9)
    bench = view.bench
    assert bench is not None and bench.count.text() == "reading 1, until Escape"
    for place in range(20):
        qtbot.keyClicks(bench.entry, f"3.6{place % 10}")
        qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert bench.place.text() == "cell 22"
    qtbot.keyClick(bench, Qt.Key.Key_Escape)
    # A hand that has not noticed goes on with the next reading.
    assert view.entry.hasFocus() and window.session.project.name == name
    cells = window.session.project.hand.cells
    assert [(cell.number, cell.volts) for cell in cells] == [
        (place + 1, float(f"3.6{place % 10}")) for place in range(20)
    ]
    # All of them are read: it goes on behind the last.
    qtbot.keyClick(window, Qt.Key.Key_F9)
    assert view.bench is not None and view.bench.place.text() == "cell 21"
    qtbot.keyClick(view.bench, Qt.Key.Key_Escape)
    forget(window)


def test_a_reading_over_a_kept_one_asks_and_a_refused_one_is_written_over(
    qtbot: QtBot, window: Window
) -> None:
    view = readings_of(window)
    qtbot.keyClick(window, Qt.Key.Key_F9)
    bench = view.bench
    assert bench is not None
    heard: list[bool] = []
    window.session.beep = lambda: heard.append(True)  # type: ignore[method-assign]
    for text in ("3612", "3.61"):
        qtbot.keyClicks(bench.entry, text)
        qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
        if not view.session.project.hand.cells:
            assert bench.problem.text() == "3612 V is no cell voltage; type 3.612, or 3612 mV"
    assert heard == [True]
    qtbot.keyClick(bench.entry, Qt.Key.Key_Backspace)
    assert bench.place.text() == "cell 1" and bench.expected.text() == "kept: 3.61 V"
    qtbot.keyClicks(bench.entry, "3.70")
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert bench.problem.text() == "3.61 V is kept here: Enter again replaces it by 3.70."
    assert window.session.project.hand.cells[0].volts == 3.61
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert window.session.project.hand.cells[0].volts == 3.7
    qtbot.keyClick(bench, Qt.Key.Key_Escape)
    forget(window)


def test_a_refused_reading_of_the_page_is_written_over_too(qtbot: QtBot, window: Window) -> None:
    view = readings_of(window)
    type_readings(qtbot, view, ["36 12", "3.61"])
    assert [cell.volts for cell in window.session.project.hand.cells] == [3.61]
    forget(window)


def test_arrows_choose_what_is_read_and_a_click_goes_on_to_the_reading(
    qtbot: QtBot, roller: Window
) -> None:
    view = readings_of(roller)
    view.reads.setFocus()
    for field in ("later_v", "mohm"):
        qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Right)
        assert view.field == field and view.reads.isAncestorOf(QApplication.focusWidget())
    qtbot.mouseClick(view.reads.words[3], Qt.MouseButton.LeftButton)
    assert view.field == "ah" and view.entry.hasFocus()
    forget(roller)


def test_sound_is_a_preference(window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    heard: list[bool] = []
    monkeypatch.setattr(QApplication, "beep", lambda: heard.append(True))
    window.session.beep()
    window.prefer("sounds", True)
    window.session.beep()
    assert heard == [True]
