"""The chart of amps over time."""

from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QApplication, QBoxLayout
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.power.opening_order import OpenFirstView
from tests.ui.power.test_stage import power_of


def test_the_legend_moves_under_a_narrow_chart_and_the_wheel_picks_nothing(
    qtbot: QtBot, window: Window
) -> None:
    stage = power_of(window)
    stage.show_view("order")
    view = stage.views["order"]
    assert isinstance(view, OpenFirstView)
    window.resize(1400, 800)
    assert view.upper.direction() == QBoxLayout.Direction.LeftToRight
    window.resize(960, 640)
    window.set_text(150)
    stage = power_of(window)
    stage.show_view("order")
    narrow = stage.views["order"]
    assert isinstance(narrow, OpenFirstView)
    qtbot.waitUntil(lambda: narrow.upper.direction() == QBoxLayout.Direction.TopToBottom)
    view = narrow
    box = view.parts["fuse"]
    place = QPointF(box.rect().center())
    turn = QWheelEvent(
        place,
        box.mapToGlobal(place),
        QPoint(),
        QPoint(0, -120),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    before = window.session.project
    QApplication.sendEvent(box, turn)
    assert window.session.project is before
    assert box.currentIndex() == -1
