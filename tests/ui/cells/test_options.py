"""The options that serve, and the refused."""

from pytestqt.qtbot import QtBot

from lumvak.core.document.edit import with_values
from lumvak.core.evaluate import stops_of
from lumvak.core.spelling import spoken
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.stage import CellsStage
from tests.narrow_strips import NARROW_STRIPS
from tests.needs import random_need
from tests.ui.cells.test_folding import unfold


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


def test_an_option_that_is_stopped_says_by_what(window: Window, cells: CellsStage) -> None:
    window.session.start(with_values(random_need(11), NARROW_STRIPS), None)
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
    assert told and set(told) <= {"group strips", "series connections"}
    assert bool(stops_of(evaluation)) == (0 in evaluation.sized.options.stopped)
