"""A duty, typed, pasted or from a log."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.need.stage import NeedStage
from tests.ui.need.test_stage import begin, clip, steps_of, type_cell


def test_a_duty_is_typed_pasted_and_undone(qtbot: QtBot, window: Window, need: NeedStage) -> None:
    assert not need.duty.isVisible()
    need.load_basis.picked.emit("duty")
    assert need.duty.isVisible()
    grid = need.duty.grid
    clip("46 A 8 s, 20 A 40 s, 0 A 12 s")
    grid.paste()
    assert steps_of(window) == [(46, 8), (20, 40), (0, 12)]
    type_cell(qtbot, grid, 1, 0, "18,5")
    type_cell(qtbot, grid, 1, 1, "1 min")
    assert steps_of(window)[1] == (18.5, 60)
    grid.add.click()
    # Enter went down to the last row, and the new one stands after it.
    assert steps_of(window)[3] == (0, 10)
    qtbot.keyClick(grid.table, Qt.Key.Key_Delete, Qt.KeyboardModifier.ControlModifier)
    assert len(steps_of(window)) == 3
    # A bad entry stays, is explained and changes nothing.
    before = window.session.project
    type_cell(qtbot, grid, 0, 0, "lots")
    assert "not a current" in grid.problem.text()
    item = grid.table.item(0, 0)
    assert item is not None
    assert item.text() == "lots"
    assert window.session.project == before
    window.session.undo_stack.undo()
    assert not grid.problem.isVisible()
    # A save takes what is typed and not yet entered.
    begin(qtbot, grid, 0, 0, "44")
    qtbot.keyClick(window, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    assert steps_of(window)[0] == (44, 8)
    assert not window.session.unsaved


def test_a_duty_begins_from_a_preset_or_a_log(
    window: Window, need: NeedStage, tmp_path: Path
) -> None:
    need.load_basis.picked.emit("duty")
    menu = need.duty.presets.menu()
    assert menu is not None
    next(item for item in menu.actions() if item.text() == "hills").trigger()
    assert steps_of(window)[0] == (pytest.approx(1.8 * 22.0), 90.0)
    assert "to begin from" in need.duty.about.text()
    log = tmp_path / "ride.csv"
    log.write_text("time;power\n0;100,5\n10;300\n20;-20\n", "utf-8")
    need.duty.take_log(log)
    assert window.session.project.need.duty_unit == "W"
    assert steps_of(window) == [(100.5, 10.0), (300.0, 10.0), (0.0, 10.0)]
    assert "1 samples under zero" in need.duty.about.text()
    before = window.session.project
    log.write_text("time;power\n0;100\n10;x\n", "utf-8")
    need.duty.take_log(log)
    assert window.session.project == before
    assert "ride.csv, line 3" in window.notice.text.text()
