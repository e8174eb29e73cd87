"""Tables of readings in and out."""

import csv
import io
from pathlib import Path

import pytest
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QFileDialog, QPushButton
from pytestqt.qtbot import QtBot

from lumvak.files.kept.window_settings import load_settings, settings_path
from lumvak.ui.shell.window import Window
from tests.ui.conftest import forget
from tests.ui.hand.conftest import readings_of


def test_tables_come_in_and_go_out_whole_or_not_at_all(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    view = readings_of(window)
    path = tmp_path / "pool.csv"
    path.write_text("number;volts;Zappel;Capacity (mAh)\n1;3,61;x;4700\n2;3,62;x;4690\n", "utf-8")
    view.tables.bring_in(path)
    assert [cell.ah for cell in window.session.project.hand.cells] == [4.7, 4.69]
    assert "2 cells are new, 0 changed. Left out: Zappel" in window.notice.text.text()
    # What nobody knew is mapped once, and remembered.
    assert [button.text() for button in window.notice.findChildren(QPushButton)][-2:] == [
        "say what they are …",
        "close",
    ]
    path.write_text(path.read_text("utf-8").replace(";x;", ";21;"), "utf-8")
    view.tables.map_head("Zappel", "mohm", path.read_text("utf-8"), path.name)
    assert [cell.mohm for cell in window.session.project.hand.cells] == [21.0, 21.0]
    assert load_settings(settings_path())[0].heads == {"zappel": "mohm"}
    before = window.session.project
    path.write_text("number;volts\n1;3,6\n1;3,7\n", "utf-8")
    view.tables.bring_in(path)
    assert "line 3: cell 1 is in line 2 already" in window.notice.text.text()
    assert window.session.project is before
    clipboard = QGuiApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("cell\tIR\n2\t21,5\n3\t22\n")
    view.tables.paste()
    assert [cell.mohm for cell in window.session.project.hand.cells] == [21.0, 21.5, 22.0]
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


def test_a_testers_log_is_the_capacity_of_its_cell(window: Window, tmp_path: Path) -> None:
    view = readings_of(window)
    path = tmp_path / "cell 37.csv"
    path.write_text("time,voltage,current\n0,4.1,0\n5,4.0,1\n3605,3.0,1\n", "utf-8")
    view.tables.bring_in(path)
    cell = window.session.project.hand.cells[0]
    assert (cell.number, cell.mohm) == (37, 100.0)
    assert cell.ah == pytest.approx(1.0007)
    assert "cell 37 gave 1 Ah at 1 A down to 3 V, 100 mΩ by a step" in window.notice.text.text()
    forget(window)
