"""Bars of readings hold every cell that has one."""

import pytest
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
    lots = (*hand.lots, hand.lots[0].model_copy(update={"name": "other", "origin": "used"}))
    cells = tuple(
        cell.model_copy(update={"lot": "other"}) if cell.number % 3 == 0 else cell
        for cell in hand.cells
    )
    roller.session.edit({"hand.lots": lots, "hand.cells": cells})
    view = view_of(roller, "judge")
    assert isinstance(view, JudgingView)
    view.turn("mohm")
    rows = view.histogram.told().rows
    assert {row[0] for row in rows} == {"reclaimed, unused", "used"}
    assert sum(int(row[2]) for row in rows) == 90
    forget(roller)
