"""Dots of cells: told as rows, picked by a click and by a rectangle."""

from PyQt6.QtCore import QPointF, QRectF
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.hand.judging import JudgingView
from tests.ui.conftest import forget
from tests.ui.hand.conftest import view_of


def test_dots_are_picked_and_told(qtbot: QtBot, roller: Window) -> None:
    view = view_of(roller, "judge")
    assert isinstance(view, JudgingView)
    plot = view.plot
    # One was not measured in full.
    assert len(plot.told().rows) == 89
    cell = roller.session.evaluation.matched.judged[58].cell
    plot.box.clicked.emit(QPointF(cell.ah or 0.0, cell.mohm or 0.0))
    assert view.chosen == {58}
    plot.box.clicked.emit(QPointF(2.0, 60.0))
    assert view.chosen == frozenset()
    plot.box.brushed.emit(QRectF(1.0, 0.0, 1.2, 100.0))
    assert view.chosen == {58}
    (left, right), (low, high) = plot.whole
    assert left < 1.618
    assert right > 2.6
    assert low < 42.0
    assert high > 72.4
    forget(roller)
