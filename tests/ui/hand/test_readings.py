"""Readings one by one and as tables."""

import csv
import io
from pathlib import Path

import pytest
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from tests.ui.conftest import forget
from tests.ui.hand.conftest import readings_of, type_readings


def test_a_reading_is_on_the_disk_once_enter_is_pressed(qtbot: QtBot, window: Window) -> None:
    view = readings_of(window)
    type_readings(qtbot, view, ["3.61"])
    copies = [path.read_text("utf-8") for path in window.session.recovery.folder.glob("*.json")]
    assert any('"volts": 3.61' in text for text in copies)
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


def test_tables_come_in_and_go_out_whole_or_not_at_all(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    view = readings_of(window)
    path = tmp_path / "heap.csv"
    path.write_text("number;volts;Zappel;Capacity (mAh)\n1;3,61;x;4700\n2;3,62;x;4690\n", "utf-8")
    view.bring_in(path)
    assert [cell.ah for cell in window.session.project.hand.cells] == [4.7, 4.69]
    assert "2 cells are new, 0 changed. Left out: Zappel" in window.notice.text.text()
    before = window.session.project
    path.write_text("number;volts\n1;3,6\n1;3,7\n", "utf-8")
    view.bring_in(path)
    assert "line 3: cell 1 is in line 2 already" in window.notice.text.text()
    assert window.session.project is before
    clipboard = QGuiApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("cell\tIR\n2\t21,5\n3\t22\n")
    view.paste()
    assert [cell.mohm for cell in window.session.project.hand.cells] == [None, 21.5, 22.0]
    out = tmp_path / "out.csv"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(out), ""))
    view.buttons["export …"].click()
    rows = list(csv.reader(io.StringIO(out.read_text("utf-8"))))
    assert [row[0] for row in rows[1:]] == ["1", "2", "3"]
    assert rows[0][-3:] == ["place", "is", "why"]
    assert rows[1][-2] == "good"
    view.turn_to(3)
    view.buttons["take out"].click()
    assert len(window.session.project.hand.cells) == 2
    forget(window)


def test_a_later_voltage_is_kept_with_its_days(qtbot: QtBot, roller: Window) -> None:
    view = readings_of(roller)
    assert not view.after.isVisible()
    view.reads.picked.emit("later_v")
    assert view.after.isVisible()
    view.days.setText("2 weeks")
    view.turn_to(5)
    type_readings(qtbot, view, ["3.55"])
    cell = roller.session.evaluation.matched.judged[5].cell
    assert (cell.later_v, cell.days) == (3.55, 14.0)
    assert "it leaks" in view.says.text()
    view.days.setText("soon")
    view.turn_to(6)
    type_readings(qtbot, view, ["3.6"])
    assert "“soon” is not a time" in view.problem.text()
    forget(roller)


def test_a_testers_log_is_the_capacity_of_its_cell(window: Window, tmp_path: Path) -> None:
    view = readings_of(window)
    path = tmp_path / "cell 37.csv"
    path.write_text("time,voltage,current\n0,4.1,0\n5,4.0,1\n3605,3.0,1\n", "utf-8")
    view.bring_in(path)
    cell = window.session.project.hand.cells[0]
    assert (cell.number, cell.mohm) == (37, 100.0)
    assert cell.ah == pytest.approx(1.0007)
    assert "cell 37 gave 1 Ah at 1 A down to 3 V, 100 mΩ by a step" in window.notice.text.text()
    forget(window)
