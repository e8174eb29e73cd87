"""What is set in a board, and the sheet of it."""

import csv
import json
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from lumvak.core.time_current import at_time
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.power.board_settings import BoardSettingsView
from lumvak.ui.stages.power.boards import BoardsView
from tests.ui.power.test_stage import codes, power_of
from tests.ui.test_walk import click_row, row_of


def test_a_board_that_can_be_set_is_set(qtbot: QtBot, window: Window) -> None:
    stage = power_of(window)
    boards = stage.views["board"]
    assert isinstance(boards, BoardsView)
    click_row(qtbot, boards.table, row_of(boards.table, "Portcullis 14-80"))
    assert window.session.project.protection.board == "portcullis-14-80"
    stage.show_view("settings")
    sheet = stage.views["settings"]
    assert isinstance(sheet, BoardSettingsView)
    table = sheet.grid.table
    value = table.item(0, 1)
    assert value is not None
    assert value.text() == "4.25 V"
    value.setText("4,4 V")
    assert window.session.project.protection.settings[0].value == 4.4
    assert "setting-beyond" in codes(window)
    board = window.session.evaluation.power.board
    assert board is not None
    assert board.over_voltage_v == 4.4
    # Emptied, the proposed value is back.
    again = table.item(0, 1)
    assert again is not None
    again.setText("")
    assert window.session.project.protection.settings == ()
    assert "setting-beyond" not in codes(window)
    # A delay of nothing is refused, and what was typed stays.
    delay = table.item(2, 3)
    assert delay is not None
    delay.setText("0 s")
    assert "a number over 0" in sheet.grid.problem.text()
    assert window.session.project.protection.settings == ()
    # The slow stage moves with what is typed.
    slow = table.item(2, 1)
    assert slow is not None
    slow.setText("100 A")
    assert "setting-beyond" in codes(window)
    again = table.item(2, 1)
    assert again is not None
    again.setText("50 A")
    assert "setting-beyond" not in codes(window)
    curve = next(item for item in window.session.evaluation.power.curves if item.key == "board")
    assert at_time(curve.low_a, 1000.0) == 50.0


def test_the_settings_sheet_is_saved_beside(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    stage = power_of(window)
    window.session.edit({"protection.board": "portcullis-14-80"})
    stage.show_view("settings")
    sheet = stage.views["settings"]
    assert isinstance(sheet, BoardSettingsView)
    for name in ("sheet.csv", "sheet.json"):
        path = tmp_path / name
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, p=path: (str(p), ""))
        sheet.save.click()
    rows = list(csv.DictReader((tmp_path / "sheet.csv").read_text("utf-8").splitlines()))
    told = json.loads((tmp_path / "sheet.json").read_text("utf-8"))
    assert told["board"] == "portcullis-14-80"
    assert [row["setting"] for row in rows] == [row["setting"] for row in told["settings"]]
    assert float(rows[0]["value"]) == told["settings"][0]["value"] == 4.25
    monkeypatch.setattr(
        QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "none" / "x.csv"), "")
    )
    (tmp_path / "none").write_text("a file, no folder")
    sheet.save.click()
    assert window.notice.isVisible()
