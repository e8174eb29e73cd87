"""A line leaves undo to the window once what was typed is taken."""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QMainWindow
from pytestqt.qtbot import QtBot

from lumvak.ui.widgets.entry import EntryField

CONTROL = Qt.KeyboardModifier.ControlModifier


def test_undo_is_the_lines_own_only_while_it_has_something_to_undo(qtbot: QtBot) -> None:
    window, line = QMainWindow(), EntryField("old")
    qtbot.addWidget(window)
    window.setCentralWidget(line)
    asked: list[str] = []
    for name, keys in (("undo", "Ctrl+Z"), ("redo", "Ctrl+Y")):
        action = QAction(name, window)
        action.setShortcut(QKeySequence(keys))
        action.triggered.connect(lambda _=False, name=name: asked.append(name))
        window.addAction(action)
    window.show()
    with qtbot.waitActive(window):
        window.activateWindow()
    line.setFocus()
    qtbot.keyClick(line, Qt.Key.Key_Z, CONTROL)
    assert asked == ["undo"]
    qtbot.keyClicks(line, "x")
    qtbot.keyClick(line, Qt.Key.Key_Z, CONTROL)
    assert line.text() == "old"
    assert asked == ["undo"]
    qtbot.keyClick(line, Qt.Key.Key_Z, CONTROL)
    assert asked == ["undo", "undo"]
    line.setText("taken")
    qtbot.keyClick(line, Qt.Key.Key_Y, CONTROL)
    assert asked == ["undo", "undo", "redo"]
