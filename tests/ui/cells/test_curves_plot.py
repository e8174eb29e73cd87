"""Dots of the sheet and lines as worked out."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.ui.stages.cells.curves_plot import CurvesPlot
from tests.core.cells.test_sheet_fit import MADE, of, with_sheet


def test_dots_and_lines_lie_on_each_other(qtbot: QtBot, catalogue: Catalogue) -> None:
    plot = CurvesPlot()
    qtbot.addWidget(plot)
    plain = catalogue.cells[MADE]
    sheet = with_sheet(plain, of(catalogue), cold=True)
    plot.show_cell(sheet, behaviour_of(sheet, catalogue.chemistry_of(sheet)), 1)
    items = plot.plot.listDataItems()
    assert len(items) == 8
    assert [label.text for _, label in plot.legend.items] == [
        "0.96 A, 25 °C",
        "4.8 A, 25 °C",
        "9.6 A, 25 °C",
        "2.4 A, 0 °C",
    ]
    for dots, line in zip(items[::2], items[1::2], strict=True):
        assert len(dots.getData()[0]) == 24
        assert line.getData()[1].min() == pytest.approx(2.5, abs=0.02)
        assert line.getData()[0].max() == pytest.approx(dots.getData()[0].max(), rel=0.02)
    assert [item.opts["pen"].width() for item in items[1::2]] == [1, 3, 1, 1]
    plot.weigh(3)
    assert [item.opts["pen"].width() for item in items[1::2]] == [1, 1, 1, 3]
    # A cell that draws nothing: no dots, and a slow discharge of its own.
    plot.show_cell(plain, behaviour_of(plain, catalogue.chemistry_of(plain)), 0)
    assert len(items[0].getData()[0] if items[0].getData()[0] is not None else []) == 0
    assert len(items[1].getData()[0]) > 50
    assert items[7].getData()[0] is None or len(items[7].getData()[0]) == 0
    assert not plot.legend.items
