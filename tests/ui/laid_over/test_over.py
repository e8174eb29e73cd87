from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.ui.laid_over.over import Over
from lumvak.ui.shell.window import Window


def test_it_lies_inside_of_the_window_and_gives_the_focus_back(
    qtbot: QtBot, window: Window
) -> None:
    window.path_view.setFocus()
    over = Over(window, "Test", 5000, 5000)
    over.lie_over()
    QApplication.processEvents()
    assert window.rect().contains(over.geometry())
    over.setFocus()
    qtbot.keyClick(over, Qt.Key.Key_Escape)
    assert not over.isVisible()
    assert window.path_view.hasFocus()
