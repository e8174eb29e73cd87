"""The chart's rectangle and its packs, without a mouse."""

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.chart import ChartView
from lumvak.ui.stages.cells.stage import CellsStage
from tests.ui.cells.opened import cells_at

SHIFT = Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def stage(window: Window) -> CellsStage:
    return cells_at(window, "chart")


def test_a_rectangle_is_drawn_and_dropped_by_keys(qtbot: QtBot, stage: CellsStage) -> None:
    chart = stage.chart
    assert isinstance(chart, ChartView)
    plot = chart.plot
    every = len(stage.table.rows_model.rows)
    plot.setFocus()
    for key in (Qt.Key.Key_Left, Qt.Key.Key_Down):
        for _ in range(8):
            qtbot.keyClick(plot, key, SHIFT)
    corner = plot.place
    qtbot.keyClick(plot, Qt.Key.Key_Space)
    for key in (Qt.Key.Key_Right, Qt.Key.Key_Up):
        for _ in range(2):
            qtbot.keyClick(plot, key, SHIFT)
    assert chart.band.isVisible()
    assert chart.brush_rect is None
    qtbot.keyClick(plot, Qt.Key.Key_Space)
    rect = chart.brush_rect
    assert rect is not None
    assert rect.contains(corner)
    held = len(stage.table.rows_model.rows)
    assert stage.options.count.text() == f"{held} in the rectangle"
    qtbot.keyClick(plot, Qt.Key.Key_Escape)
    assert chart.brush_rect is None
    assert len(stage.table.rows_model.rows) == every


def test_a_pack_is_taken_by_keys(qtbot: QtBot, stage: CellsStage, window: Window) -> None:
    chart = stage.chart
    assert isinstance(chart, ChartView)
    field, reach = chart.field, chart.reach
    assert field is not None
    plot = chart.plot
    x, y = chart.values_of(chart.across), chart.values_of(chart.up)
    rect = plot.getPlotItem().vb.viewRect()
    # Any pack but the one in hand that the cross can come near to.
    shares = np.stack(
        [(x - rect.left()) / rect.width() * 40, (y - rect.top()) / rect.height() * 40], axis=1
    )
    near = int(np.argmin(np.abs(shares - np.round(shares)).sum(axis=1)))
    wanted = np.round(shares[near]).astype(int)
    plot.setFocus()
    for steps, back, on in (
        (wanted[0] - 20, Qt.Key.Key_Left, Qt.Key.Key_Right),
        (wanted[1] - 20, Qt.Key.Key_Down, Qt.Key.Key_Up),
    ):
        for _ in range(abs(int(steps))):
            qtbot.keyClick(plot, on if steps > 0 else back)
    heard = plot.seen.accessibleName()
    qtbot.keyClick(plot, Qt.Key.Key_Return)
    pack, cells = (
        window.session.project.pack,
        window.session.evaluation.sized.sized_pack.table.cells,
    )
    place, (wide, high) = plot.place, chart.box.viewPixelSize()
    gap = np.hypot((x - place.x()) / wide, (y - place.y()) / high)
    there = {
        (cells[int(field.rows[at])].id, int(field.series[at]), int(field.parallel[at]))
        for at in reach[gap <= gap.min() + 1e-9]
    }
    assert (pack.cell, pack.series, pack.parallel) in there
    told = {f"{pack.series}S{pack.parallel}P of {cell.name}" for cell in cells}
    assert any(name in heard for name in told)
    assert "mass of the cells " in heard and "cost of the cells " in heard
    assert window.session.undo_stack.count() == 1
