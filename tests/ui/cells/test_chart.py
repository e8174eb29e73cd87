"""All packs as dots."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.stage import CellsStage
from tests.ui.cells.test_stage import in_hand


def test_the_chart_brushes_the_table_and_picks(
    qtbot: QtBot, window: Window, cells: CellsStage
) -> None:
    cells.view.picked.emit("chart")
    chart = cells.chart
    assert chart is not None
    assert chart.isVisible()
    field = chart.field
    assert field is not None
    # A drag with the mouse over the left half of the plot.
    viewport = chart.plot.viewport()
    area = chart.box.sceneBoundingRect()
    start = area.topLeft().toPoint()
    stop = QPointF(area.center().x(), area.bottom()).toPoint()
    QTest.mousePress(viewport, Qt.MouseButton.LeftButton, pos=start)
    for share in (0.3, 0.6, 1.0):
        QTest.mouseMove(viewport, start + (stop - start) * share)
        qtbot.wait(5)
    QTest.mouseRelease(viewport, Qt.MouseButton.LeftButton, pos=stop)
    assert "in the rectangle" in cells.options.count.text()
    rect = chart.brush_rect
    assert rect is not None
    heaviest = 10.0 ** rect.right()
    masses = [
        row.value[1] * row.value[2] * window.session.catalogue.cells[row.value[0]].mass_g / 1000
        for row in cells.table.rows_model.rows
    ]
    assert masses
    assert max(masses) <= heaviest * (1 + 1e-9)
    cells.options.all.click()
    assert cells.options.count.text().startswith("120 packs")
    assert not chart.band.isVisible()
    # Other measures; the edge is drawn as a line through the undominated.
    chart.up.setCurrentIndex(chart.up.findData("runtime"))
    assert "run time, h" in chart.plot.getAxis("left").label.toPlainText()
    x, y = chart.front.getData()
    assert len(x) >= 2
    assert all(y[1:] >= y[:-1])
    # A click on a dot takes that pack in hand, also one beyond the table.
    place = int(chart.reach[-1])
    spot = QPointF(float(chart.values_of(chart.across)[-1]), float(chart.values_of(chart.up)[-1]))
    chart.click(spot)
    cell = window.session.evaluation.sized.sized_pack.table.cells[int(field.rows[place])]
    assert in_hand(window) == (cell.id, int(field.series[place]), int(field.parallel[place]))
    assert window.session.evaluation.sized.choice.index is not None
    cells.show_view("counts")
    chart.brush(QRectF(0, 0, 0, 0))


def test_a_click_into_the_open_drops_the_rectangle(window: Window, cells: CellsStage) -> None:
    cells.view.picked.emit("chart")
    chart = cells.chart
    assert chart is not None
    chart.across.setCurrentIndex(chart.across.findData("headroom"))
    chart.up.setCurrentIndex(chart.up.findData("temperature"))
    # Percent and degrees run straight, and cooler is better: the edge falls to neither side.
    assert not chart.plot.getAxis("left").by_log
    _, y = chart.front.getData()
    assert all(y[1:] >= y[:-1])
    (low, high), (bottom, top) = chart.plot.viewRange()
    chart.brush(QRectF(QPointF(low, bottom), QPointF(high, top)))
    count = len(chart.reach)
    assert f"{count} in the rectangle" in cells.options.count.text()
    before = window.session.project
    chart.click(QPointF(low - (high - low), bottom - (top - bottom)))
    assert window.session.project == before
    assert not chart.band.isVisible()
    assert cells.options.count.text().startswith("120 packs")
    # The rectangle follows an edit: it stays, and what is in it is found anew.
    chart.brush(QRectF(QPointF(low, bottom), QPointF(high, top)))
    window.session.edit({"need.current_a": 30.0})
    assert "in the rectangle" in cells.options.count.text()
    cells.show_view("counts")
    assert cells.options.count.text().startswith("120 packs")
