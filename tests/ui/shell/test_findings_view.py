"""Numbers in the margin's sentences show the figures that they are."""

from PyQt6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window


def test_a_click_on_a_number_shows_its_figure(qtbot: QtBot, window: Window) -> None:
    window.open_stage("joints")
    view = window.margin.findings
    assert view.findings
    places = {
        key: QPoint(x, y)
        for y in range(0, view.minimumHeight(), 4)
        for x in range(20, view.width(), 4)
        if (key := view.number_at(QPoint(x, y)))
    }
    assert {"network.series_limit_a", "demand.end_current_a"} <= set(places)
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=places["demand.end_current_a"])
    assert window.session.explained_key == "demand.end_current_a"
    # Beside the numbers the sentence itself shows what it is about.
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=QPoint(23, 4))
    assert window.session.explained_key == view.findings[0].figure


def test_the_arrows_go_along_the_numbers_of_a_finding(qtbot: QtBot, window: Window) -> None:
    window.open_stage("joints")
    view = window.margin.findings
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_Down)
    assert view.findings
    first = view.findings[0].figure
    assert window.session.explained_key == first
    seen = {first}
    for _ in range(6):
        qtbot.keyClick(view, Qt.Key.Key_Right)
        seen.add(window.session.explained_key)
    assert "demand.end_current_a" in seen
    qtbot.keyClick(view, Qt.Key.Key_Left)
    assert window.session.explained_key in seen
