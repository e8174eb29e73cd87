"""Where balance leads go: a row each, the way of the marked one, soldered at the bench."""

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.taps.answer import taps_answer
from lumvak.ui.stages.taps.guide import GuideView
from tests.ui.conftest import forget


def test_each_lead_has_its_row_colour_and_way(
    qtbot: QtBot, barrow_window: Window, guide: GuideView
) -> None:
    rows = guide.table.rows_model.rows
    count = barrow_window.session.evaluation.sized.choice.series + 1
    assert [row.cells[0] for row in rows] == [str(lead) for lead in range(count)]
    assert [row.cells[3] for row in rows[:6]] == [
        "black",
        "white",
        "blue",
        "yellow",
        "green",
        "black",
    ]
    assert rows[3].cells[4] == "B3"
    guide.turn_to(3)
    drawn = [view.drawn for view in guide.sides.views]
    assert all(side is not None and side.tap == 3 and side.route is not None for side in drawn)
    guide.colours.setText("red, grey")
    guide.colours.editingFinished.emit()
    assert barrow_window.session.project.balance_leads.colours == ("red", "grey")
    assert guide.table.rows_model.rows[2].cells[3] == "red"
    guide.colours.setText(" , ")
    guide.colours.editingFinished.emit()
    assert "Colours" in guide.problem.text()
    assert barrow_window.session.project.balance_leads.colours == ("red", "grey")
    window = barrow_window
    window.session.edit({"balance_leads.soldered": (3,)})
    assert guide.table.rows_model.rows[3].cells[7] == "soldered"
    window.session.undo_stack.undo()
    assert guide.table.rows_model.rows[3].cells[7] == ""
    forget(barrow_window)


def test_a_way_too_far_out_is_refused_with_what_is_accepted(
    barrow_window: Window, guide: GuideView
) -> None:
    guide.turn_to(3)
    guide.way.setText("12;30 10000;40")
    guide.way.setModified(True)
    guide.way.editingFinished.emit()
    assert "Route of lead 3 lies too far out; accepted:" in guide.problem.text()
    assert barrow_window.session.project.balance_leads.ways == ()
    guide.sides.views[0].way_laid.emit(((12.0, 30.0), (12.0, -9000.0)))
    assert "lies too far out" in guide.problem.text()
    guide.sides.views[0].way_laid.emit(((12.0, 30.0),))
    assert guide.problem.text() == ""
    assert barrow_window.session.project.balance_leads.ways[0].corners == ((12.0, 30.0),)
    forget(barrow_window)


def test_at_the_bench_one_side_after_the_other_by_keys(
    qtbot: QtBot, barrow_window: Window, guide: GuideView
) -> None:
    session = barrow_window.session
    qtbot.keyClick(barrow_window, Qt.Key.Key_F9)
    bench = guide.bench
    assert bench is not None
    sides = [step.what.split(", ")[1] for step in bench.steps]
    assert sides == sorted(sides)
    first = int(bench.place.text().split()[1].rstrip(","))
    assert "from main minus" in bench.expected.text()
    assert len(bench.step.sides) == 1
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert session.project.balance_leads.soldered == (first,)
    second = int(bench.place.text().split()[1].rstrip(","))
    qtbot.keyClicks(bench.entry, "about 4")
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert "is not a voltage" in bench.problem.text()
    assert session.project.balance_leads.soldered == (first,)
    bench.entry.clear()
    qtbot.keyClicks(bench.entry, "7.42")
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert session.project.balance_leads.soldered == (first, second)
    assert session.project.balance_leads.totals[0].volts == 7.42
    assert taps_answer(session.evaluation).startswith("1 of ")
    qtbot.keyClick(bench, Qt.Key.Key_Escape)
    assert not bench.isVisible()
    forget(barrow_window)
