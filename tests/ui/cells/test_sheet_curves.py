"""A cell's sheet entered through the window: typed, pasted, traced, undone."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.core.catalogue.cells import Cell
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.sheet_curves import SheetCurvesView
from tests.core.cells.test_sheet_fit import MADE, drawn, of
from tests.ui.cells.opened import cells_at
from tests.ui.need.test_stage import clip, type_cell


@pytest.fixture
def view(window: Window) -> SheetCurvesView:
    stage = cells_at(window, "curves")
    assert stage.curves is not None
    return stage.curves


def mine(window: Window) -> Cell:
    (cell,) = window.session.own.cells
    return cell


def lines(window: Window, rate: float, celsius: float = 25.0) -> str:
    """A discharge as it would be copied from a spreadsheet."""
    catalogue = window.session.catalogue
    curve = drawn(catalogue.cells[MADE], of(catalogue), rate, celsius)
    return "Ah\tV\n" + "\n".join(f"{ah:.3f}\t{volts:.3f}" for ah, volts in curve.points)


def test_a_sample_is_locked_until_it_is_duplicated(window: Window, view: SheetCurvesView) -> None:
    assert "duplicate" in view.note.text()
    assert not view.curves.add.isEnabled()
    assert "as its family" in view.told.text()
    view.duplicate.click()
    assert mine(window).id == "ostrel-21-48-copy"
    assert view.which.currentData() == "ostrel-21-48-copy"
    assert not view.duplicate.isVisible()
    assert "slow discharge" in view.note.text()


def test_discharges_are_pasted_fitted_and_undone(
    qtbot: QtBot, window: Window, view: SheetCurvesView
) -> None:
    view.duplicate.click()
    for rate in (0.2, 1.0, 2.0):
        view.curves.add_row()
        # A discharge begun holds its current, and is kept once it has points.
        assert view.curves.records[-1]["count"] == 0
        assert view.curves.records[-1]["amps"] == pytest.approx(rate * 4.8)
        clip(lines(window, rate))
        view.points.paste()
    assert [curve.current_a for curve in mine(window).curves] == pytest.approx([0.96, 4.8, 9.6])
    assert [record["count"] for record in view.curves.records] == [24, 24, 24]
    assert all(float(record["off"].split()[0]) < 15.0 for record in view.curves.records)
    assert "as its family" not in view.told.text()
    assert "One in the cold" in view.note.text()
    # A current is corrected in place; a fit follows.
    type_cell(qtbot, view.curves, 2, 0, "9.5 A")
    assert mine(window).curves[2].current_a == 9.5
    window.session.undo_stack.undo()
    assert mine(window).curves[2].current_a == pytest.approx(9.6)
    for _ in range(3):
        window.session.undo_stack.undo()
    assert mine(window).curves == ()
    assert view.curves.records == []


def test_what_is_wrong_is_said_and_changes_nothing(
    qtbot: QtBot, window: Window, view: SheetCurvesView
) -> None:
    view.duplicate.click()
    clip("0 4.1\n1 3.9")
    view.points.paste()
    assert "add a discharge first" in view.points.problem.text()
    view.curves.add_row()
    view.curves.add_row()
    assert "points of the discharge begun" in view.curves.problem.text()
    clip("0 4.1\n1 3.9\n2 4.0\n3 3.0")
    view.points.paste()
    assert "must not rise" in view.points.problem.text()
    clip("0 4.1\n1 3.9 2")
    view.points.paste()
    assert "line 2" in view.points.problem.text()
    assert mine(window).curves == ()
    clip(lines(window, 0.2))
    view.points.paste()
    assert len(mine(window).curves) == 1
    type_cell(qtbot, view.curves, 0, 0, "0 A")
    assert view.curves.problem.text()
    assert mine(window).curves[0].current_a == pytest.approx(0.96)
    view.curves.table.setCurrentCell(0, 0)
    view.curves.remove_row()
    assert mine(window).curves == ()


def test_a_pulse_is_added_and_typed_over(
    qtbot: QtBot, window: Window, view: SheetCurvesView
) -> None:
    view.duplicate.click()
    view.pulses.add_row()
    assert mine(window).pulses[0].charge == 0.5
    type_cell(qtbot, view.pulses, 0, 0, "20 %")
    type_cell(qtbot, view.pulses, 0, 3, "31 mohm")
    assert (mine(window).pulses[0].charge, mine(window).pulses[0].ohm) == (0.2, 0.031)
    type_cell(qtbot, view.pulses, 0, 0, "130 %")
    assert view.pulses.problem.text()
    assert mine(window).pulses[0].charge == 0.2
