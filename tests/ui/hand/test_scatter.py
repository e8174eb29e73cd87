"""Dots of cells: told as rows, picked by a click and by a rectangle."""

from PyQt6.QtCore import QPointF, QRectF
from pytestqt.qtbot import QtBot

from lumvak.core.spelling import spoken
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
    cell = roller.session.evaluation.sized.in_hand.judged[58].cell
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


def test_who_is_pointed_at_is_shown_in_both(qtbot: QtBot, roller: Window) -> None:
    view = view_of(roller, "judge")
    assert isinstance(view, JudgingView)
    plot, table = view.plot, view.table
    judged = roller.session.evaluation.sized.in_hand.judged
    usual = view.says.text()
    for number in (58, 41):
        cell = judged[number].cell
        plot.box.hovered.emit(QPointF(cell.ah or 0.0, cell.mohm or 0.0))
        assert view.pointed == number
        assert view.says.text() == f"Cell {number}: {spoken(judged[number].said)}"
        row = table.shown.index(judged[number])
        viewport = table.viewport()
        assert viewport is not None
        assert viewport.rect().contains(table.visualRect(table.rows_model.index(row, 0)).center())
        assert tuple(plot.ring.getData()[0]) == (cell.ah,)
    plot.box.hovered.emit(None)
    assert view.says.text() == usual
    assert len(plot.ring.getData()[0]) == 0
    # The other way round, with the pointer on a row.
    index = table.rows_model.index(3, 0)
    qtbot.mouseMove(table.viewport(), table.visualRect(table.rows_model.index(5, 0)).center())
    qtbot.mouseMove(table.viewport(), table.visualRect(index).center())
    assert view.pointed == table.shown[3].cell.number
    assert view.chosen == frozenset()
    forget(roller)
