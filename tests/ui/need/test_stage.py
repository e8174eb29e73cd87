"""The need through the window: kinds of equipment, a duty in a table, rails."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QLineEdit
from pytestqt.qtbot import QtBot

from lumvak.core.evaluation import rungs_in_hand
from lumvak.core.spelling import spoken
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.need.stage import NeedStage
from lumvak.ui.widgets.grid import Grid


@pytest.fixture
def need(window: Window) -> NeedStage:
    stage = window.stages["need"]
    assert isinstance(stage, NeedStage)
    return stage


def begin(qtbot: QtBot, grid: Grid, row: int, place: int, text: str) -> QLineEdit:
    """Type into a cell, as far as Enter."""
    grid.table.setCurrentCell(row, place)
    grid.table.edit(grid.table.currentIndex())
    editor = next(item for item in grid.table.findChildren(QLineEdit) if item.isVisible())
    editor.clear()
    qtbot.keyClicks(editor, text)
    return editor


def type_cell(qtbot: QtBot, grid: Grid, row: int, place: int, text: str) -> None:
    qtbot.keyClick(begin(qtbot, grid, row, place, text), Qt.Key.Key_Return)
    QApplication.processEvents()


def clip(text: str) -> None:
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    clipboard.setText(text)


def steps_of(window: Window) -> list[tuple[float, float]]:
    return [(step.amount, step.seconds) for step in window.session.project.need.duty]


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


def test_rails_and_appliances_make_the_load(qtbot: QtBot, window: Window, need: NeedStage) -> None:
    need.kind.picked.emit("portable")
    session = window.session
    assert session.project.need.load_basis == "rails"
    rails, fed = need.rails.rails, need.rails.appliances
    assert rails.isVisible()
    # 10 W at 12 V and 2 A at 5 V, each through 90 %.
    assert session.evaluation.figures["demand.power_w"].number == pytest.approx(20.0 / 0.9)
    type_cell(qtbot, rails, 0, 3, "80 %")
    type_cell(qtbot, rails, 1, 4, "1,5 A")
    assert session.project.need.rails[1].limit_w == pytest.approx(7.5)
    assert "rail-over" in {item.code for item in session.evaluation.findings}
    type_cell(qtbot, fed, 1, 2, "7 W")
    assert "rail-over" not in {item.code for item in session.evaluation.findings}
    assert session.evaluation.figures["demand.power_w"].number == pytest.approx(
        10.0 / 0.8 + 7.0 / 0.9
    )
    # A rail that is renamed keeps what it feeds; one that feeds something stays.
    type_cell(qtbot, rails, 0, 0, "lamps")
    assert session.project.need.appliances[0].rail == "lamps"
    rails.table.setCurrentCell(0, 0)
    rails.remove.click()
    assert "is no rail" in rails.problem.text()
    assert len(session.project.need.rails) == 2
    rails.add.click()
    assert [rail.name for rail in session.project.need.rails] == ["lamps", "9 V", "5 V"]
    # Back to a vehicle: its own questions, and a load in amps.
    need.kind.picked.emit("vehicle")
    assert session.project.need.load_basis == "current"
    assert need.of_kind.small["wheel_mm"].isVisible()
    assert not need.rails.isVisible()


def test_a_vehicle_says_how_fast_it_rolls(window: Window, need: NeedStage) -> None:
    shown = need.of_kind.speeds[0]
    assert shown.isVisible()
    # 11 rpm/V x 50.4 V / 4.4 turns a 0.4 m wheel.
    assert "9.50 km/h" in shown.accessibleName()
    window.session.edit({"need.motor_kv": None})
    assert not shown.isVisible()
    rung = next(item for item in rungs_in_hand(window.session.evaluation) if item.chosen)
    assert "km/h" not in spoken(rung.says)
    window.session.undo_stack.undo()
    rung = next(item for item in rungs_in_hand(window.session.evaluation) if item.chosen)
    assert spoken(rung.says).endswith("10 km/h")
