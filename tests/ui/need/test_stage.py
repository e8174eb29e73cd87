"""The need through the window: kinds of equipment, a duty in a table, rails."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QLineEdit
from pytestqt.qtbot import QtBot

from lumvak.core.evaluation import rungs_in_hand
from lumvak.core.spelling import spoken
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.need.stage import NeedStage
from lumvak.ui.widgets.grid import Grid


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
