"""Bars of readings hold every cell that has one."""

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPointF, QRectF
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.hand.judging import JudgingView
from tests.ui.conftest import forget
from tests.ui.hand.conftest import view_of


@pytest.mark.parametrize(("field", "count"), [("ah", 89), ("mohm", 90), ("volts", 90)])
def test_every_reading_is_in_a_bar(qtbot: QtBot, roller: Window, field: str, count: int) -> None:
    view = view_of(roller, "judge")
    assert isinstance(view, JudgingView)
    view.shows.picked.emit(field)
    assert view.histogram.isVisible()
    rows = view.histogram.told().rows
    assert sum(int(row[2]) for row in rows) == count
    assert {row[0] for row in rows} == {"reclaimed, unused"}
    view.shows.picked.emit("both")
    assert view.plot.isVisible()
    forget(roller)


def test_origins_stand_on_each_other(qtbot: QtBot, roller: Window) -> None:
    hand = roller.session.project.hand
    lots = (*hand.lots, replace(hand.lots[0], name="other", origin="used"))
    cells = tuple(
        replace(cell, lot="other") if cell.number % 3 == 0 else cell for cell in hand.cells
    )
    roller.session.edit({"hand.lots": lots, "hand.cells": cells})
    view = view_of(roller, "judge")
    assert isinstance(view, JudgingView)
    view.turn("mohm")
    rows = view.histogram.told().rows
    assert {row[0] for row in rows} == {"reclaimed, unused", "used"}
    assert sum(int(row[2]) for row in rows) == 90
    forget(roller)


def test_the_cells_of_a_bar_are_picked_by_a_click_and_of_several_by_a_drag(
    qtbot: QtBot, roller: Window
) -> None:
    view = view_of(roller, "judge")
    assert isinstance(view, JudgingView)
    view.turn("ah")
    plot, judged = view.histogram, roller.session.evaluation.sized.in_hand.judged
    plot.box.clicked.emit(QPointF(judged[58].cell.ah or 0.0, 0.5))
    assert view.chosen == {58}
    plot.box.clicked.emit(QPointF(9.9, 0.5))
    assert view.chosen == frozenset()
    plot.box.brushed.emit(QRectF(2.45, 0.0, 0.02, 5.0))
    assert view.chosen == {
        number for number, item in judged.items() if 2.45 <= (item.cell.ah or 0.0) <= 2.47
    }
    forget(roller)
