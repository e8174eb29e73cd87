"""Cells and count through the window: ladder, refusals, limits, chart, side by side."""

import pytest
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from lumvak.core.comparison.side_by_side import MEASURES
from lumvak.core.evaluate import stops_of
from lumvak.core.evaluation import rungs_in_hand
from lumvak.core.spelling import spoken
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.stage import CellsStage
from tests.few_parts import few_parts
from tests.needs import random_need
from tests.ui.cells.opened import cells_at
from tests.ui.cells.test_folding import unfold


@pytest.fixture
def cells(window: Window) -> CellsStage:
    return cells_at(window)


def in_hand(window: Window) -> tuple[str, int, int]:
    choice = window.session.evaluation.sized.choice
    return choice.cell.id, choice.series, choice.parallel


def test_a_rung_of_the_ladder_picks_its_count(window: Window, cells: CellsStage) -> None:
    rungs = rungs_in_hand(window.session.evaluation)
    serving = next(rung for rung in rungs if rung.serves and not rung.chosen)
    spot = QPointF(20, cells.ladder.row_rect(rungs.index(serving)).center().y())
    QTest.mouseClick(cells.ladder, Qt.MouseButton.LeftButton, pos=spot.toPoint())
    assert window.session.evaluation.sized.choice.series == serving.series
    refused = next(rung for rung in rungs if "too high" in spoken(rung.says))
    before = window.session.project
    cells.ladder.picked.emit(refused)
    assert window.session.project == before
    ask = cells.options.ask
    assert ask.answer.isVisible()
    assert spoken(refused.says) in ask.answer_text.text()


def test_refused_options_are_asked_about_and_own_counts_worked_out(
    qtbot: QtBot, window: Window, cells: CellsStage
) -> None:
    options, table = cells.options, cells.table
    window.session.edit({"need.stop_voltage_v": 44.0})
    options.refused.click()
    faded = [row for row in table.rows_model.rows if row.faded]
    assert len(faded) == len(window.session.evaluation.sized.options.refused)
    assert all(row.cells[2] for row in faded)
    # One of a form that is not wanted serves once it is asked for; this one cannot.
    named = next(
        row.value
        for row in faded
        if row.value.cell is not None
        and not any(word in spoken(row.value.reason) for word in ("wanted", "give as much"))
    )
    before = window.session.project
    table.picked.emit(named)
    assert window.session.project == before
    assert options.ask.cell.currentData() == named.cell
    options.ask.anyway.click()
    assert window.session.evaluation.sized.choice.cell.id == named.cell
    assert window.session.evaluation.sized.choice.index is None
    window.session.undo_stack.undo()
    options.show_row(0)
    options.fields["parallel"].edit.setText("2")
    options.fields["parallel"].commit()
    first = table.rows_model.rows[0]
    assert first.chosen
    assert first.cells[1:3] == ("14S2P", "refused")
    options.auto.click()
    assert window.session.evaluation.sized.choice.index == 0


def test_why_not_names_the_need_and_takes_the_cure(
    qtbot: QtBot, window: Window, cells: CellsStage
) -> None:
    options = cells.options
    options.which.picked.emit(3)
    ask = options.ask
    ask.cell.setCurrentIndex(ask.cell.findData("ostrel-21-48"))
    qtbot.keyClicks(ask.series, "14")
    qtbot.keyClicks(ask.parallel, "6")
    qtbot.keyClick(ask.parallel, Qt.Key.Key_Return)
    assert "run time asks for" in ask.answer_text.text()
    assert "7 in parallel (14 cells more)" in ask.answer_text.text()
    assert ask.take.text() == "take 14S7P"
    # The answer follows the need.
    window.session.edit({"need.runtime_h": 0.8})
    assert "serves" in ask.answer_text.text()
    ask.take.click()
    assert in_hand(window) == ("ostrel-21-48", 14, 6)
    ask.parallel.setText("many")
    ask.button.click()
    assert "not a whole number" in ask.answer_text.text()
    assert not ask.take.isVisible()


def test_limits_narrow_the_table_and_are_undone(window: Window, cells: CellsStage) -> None:
    options = cells.options
    count = len(cells.table.rows_model.rows)
    options.limits["most_mass_kg"].edit.setText("6,6 kg")
    options.limits["most_mass_kg"].commit()
    assert len(cells.table.rows_model.rows) < count
    # The pack in hand weighs 6.71 kg: it is kept and marked.
    assert cells.table.rows_model.rows[0].cells[2] == "refused"
    options.origin.picked.emit("reclaimed")
    assert "Nothing serves" in options.count.text()
    window.session.undo_stack.undo()
    window.session.undo_stack.undo()
    assert len(cells.table.rows_model.rows) == count


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


def test_packs_are_kept_beside_and_swapped(window: Window, cells: CellsStage) -> None:
    options, session = cells.options, window.session
    first = in_hand(window)
    options.keep.click()
    options.keep.click()
    assert "already" in window.notice.text.text()
    options.pick(("tallin-p-105", 14, 3))
    second = in_hand(window)
    cells.view.picked.emit("beside")
    columns = cells.beside.columns
    assert [side.pack for side in columns.sides] == [second, first]
    weight = next(at for at, item in enumerate(MEASURES) if item.name == "weight of the cells")
    assert columns.sides[1].entries[weight].better == 1
    # Enter on the second column takes it; the first stays beside.
    columns.setFocus()
    QTest.keyClick(columns, Qt.Key.Key_Right)
    QTest.keyClick(columns, Qt.Key.Key_Return)
    assert in_hand(window) == first
    assert [side.pack for side in columns.sides] == [first, second]
    # The working of a figure in the first column.
    line = columns.line_rect(weight).center().y()
    spot = QPointF(columns.column_rect(0).center().x(), line)
    QTest.mouseClick(columns, Qt.MouseButton.LeftButton, pos=spot.toPoint())
    assert session.explained_key == "pack.mass_kg"
    # And of one in the second: that of the other pack, under its own name.
    spot = QPointF(columns.column_rect(1).center().x(), line)
    QTest.mouseClick(columns, Qt.MouseButton.LeftButton, pos=spot.toPoint())
    other = session.figure(session.explained_key)
    assert other is not None
    assert spoken(other.label) == "Weight of the cells, 14S3P of Tallin flat 105"
    assert other.number == pytest.approx(42 * 0.212, rel=0.01)
    assert other.inputs
    QTest.keyClick(columns, Qt.Key.Key_Delete)
    assert len(columns.sides) == 1
    # What is replaced stands last.
    session.edit({"need.replaced_mass_kg": 20.0})
    assert columns.sides[-1].title == "replaced"
    assert spoken(columns.sides[-1].entries[weight].text) == "20.0 kg"
    session.undo_stack.undo()
    session.undo_stack.undo()
    assert [item.cell for item in session.project.pack.beside] == [second[0]]


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


def test_no_more_than_three_are_kept_beside(window: Window, cells: CellsStage) -> None:
    for parallel in (7, 8, 9, 10):
        cells.options.pick(("ostrel-21-48", 14, parallel))
        cells.options.keep.click()
    assert len(window.session.project.pack.beside) == 3
    assert "drop one first" in window.notice.text.text()
    cells.show_view("beside")
    assert len(cells.beside.columns.sides) == 4
    for _ in range(2):
        QTest.keyClick(cells.beside.columns, Qt.Key.Key_Right)
    cells.beside.drop.click()
    assert len(window.session.project.pack.beside) == 2


def test_forms_are_chosen_by_mouse_and_key_and_kept_for_new_projects(
    qtbot: QtBot, window: Window, cells: CellsStage
) -> None:
    forms, session = cells.forms, window.session
    assert forms.value == ("18650", "21700", "26650", "32700")
    before = len(session.evaluation.sized.options)
    forms.setFocus()
    # From 18650, where the cursor stands, to pouch.
    for _ in range(4):
        qtbot.keyClick(forms, Qt.Key.Key_Right)
    qtbot.keyClick(forms, Qt.Key.Key_Space)
    assert session.project.pack.forms == ("18650", "21700", "26650", "32700", "pouch")
    assert len(session.evaluation.sized.options) > before
    assert {item.format for item in map(session.evaluation.sized.options.cell, range(before))}
    assert window.settings.forms == session.project.pack.forms
    qtbot.mouseClick(forms.words[0], Qt.MouseButton.LeftButton)
    assert "18650" not in session.project.pack.forms
    for form in ("21700", "26650", "32700"):
        qtbot.keyClick(forms, Qt.Key.Key_Right)
        qtbot.keyClick(forms, Qt.Key.Key_Space)
        assert form not in session.project.pack.forms
    # The last one cannot be turned over: nothing would be left to look at.
    qtbot.keyClick(forms, Qt.Key.Key_Right)
    qtbot.keyClick(forms, Qt.Key.Key_Space)
    assert session.project.pack.forms == ("pouch",)
    assert "pouch" in forms.value
    session.undo_stack.setClean()
    window.files.new()
    assert session.project.pack.forms == ("pouch",)


def test_weights_are_typed_and_the_ranking_tells_why(
    qtbot: QtBot, window: Window, cells: CellsStage
) -> None:
    options, session = cells.options, window.session
    options.auto.click()
    options.which.picked.emit(2)
    field = options.weights["cost"]
    assert field.isVisible()
    assert field.edit.placeholderText() == "0.25"
    before = session.evaluation.sized.options.cost[0]
    field.edit.setText("5")
    field.commit()
    assert session.project.pack.weights.cost == 5.0
    assert session.evaluation.sized.options.cost[0] < before
    options.why.click()
    assert session.explained_key == "pack.score"
    assert "Counts against it" in window.margin.title.text()
    field.edit.setText("")
    field.commit()
    assert session.project.pack.weights.cost is None
    # One that ranks further down is told by which weight it would be first.
    there = session.evaluation.sized.options
    place = min(range(1, len(there)), key=lambda at: float(there.mass_kg[at]))
    options.ask_about(there.cell(place).id, int(there.series[place]), int(there.parallel[place]))
    text = options.ask.answer_text.text()
    assert f"ranks {place + 1} of {len(there)}" in text
    assert "first if" in text or "No one weight" in text


def test_an_option_that_is_stopped_says_by_what(window: Window, cells: CellsStage) -> None:
    # No large boards or fuses at hand, so that what ranks first is stopped.
    window.session.catalogue = few_parts(window.session.catalogue)
    window.session.start(random_need(11), None)
    evaluation = window.session.evaluation
    unfold(cells.table)
    rows = cells.table.rows_model.rows
    told = [
        row.cells[2]
        for row in rows[: len(evaluation.sized.options)]
        if row.marks.get(2) == "crimson"
    ]
    assert len(told) == len(evaluation.sized.options.stopped)
    assert evaluation.sized.choice.index == 0
    assert told and set(told) <= {"no board", "no fuse", "charge fuse"}
    assert bool(stops_of(evaluation)) == (0 in evaluation.sized.options.stopped)
