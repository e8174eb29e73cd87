"""Running totals typed by keys; what is wrong is named, and the reading that decides is taken."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.core.spelling import spoken
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.taps.answer import taps_answer
from lumvak.ui.stages.taps.check import CheckView
from tests.conftest import DEMOS
from tests.ui.conftest import forget
from tests.ui.taps.conftest import view_of


def totals(window: Window) -> list[float]:
    return [round(float(volts), 2) for volts in window.session.evaluation.balance.check.level_v]


def type_in(qtbot: QtBot, view: CheckView, readings: list[float | str]) -> None:
    view.entry.setFocus()
    for volts in readings:
        qtbot.keyClicks(view.entry, str(volts))
        qtbot.keyClick(view.entry, Qt.Key.Key_Return)


def decide(qtbot: QtBot, check: CheckView, volts: float) -> None:
    check.decide.setFocus()
    qtbot.keyClicks(check.decide, str(volts))
    qtbot.keyClick(check.decide, Qt.Key.Key_Return)


def test_a_right_harness_is_safe_and_a_swap_is_found(
    qtbot: QtBot, barrow_window: Window, check: CheckView
) -> None:
    right = totals(barrow_window)
    type_in(qtbot, check, [*right[:-1]])
    assert check.verdict.text() == f"{len(right) - 1} of {len(right)} read"
    assert check.at == len(right) - 1
    type_in(qtbot, check, [right[-1]])
    assert check.verdict.text() == "Not yet: lead 0 is not proven"
    assert check.ends.text() == "lead 0 to lead 1"
    decide(qtbot, check, right[1])
    assert check.verdict.text() == "Safe to plug in"
    assert check.why.text().startswith("Every lead reads as its tap does.")
    assert "Group voltages are known no closer than" in check.why.text()
    assert taps_answer(barrow_window.session.evaluation) == "safe to plug in"
    # Two are swapped: each says so by itself, all of them together name it.
    check.turn_to(4)
    type_in(qtbot, check, [f"{right[5]}".replace(".", ","), right[4]])
    assert check.verdict.text() == "Do not plug in"
    assert check.why.text().startswith("Leads 4 and 5 are swapped. Change leads 4 and 5 over")
    assert check.table.rows_model.rows[4].cells[4] == "as tap 5"
    assert not check.asked.isVisible()
    drawn = check.sides.views[0].drawn
    assert drawn is not None
    assert drawn.taps_wrong == frozenset((4, 5))
    stop = next(
        item for item in barrow_window.session.evaluation.findings if item.code == "taps-wrong"
    )
    assert spoken(stop.text) == "Do not plug in: Leads 4 and 5 are swapped"
    barrow_window.session.undo_stack.undo()
    barrow_window.session.undo_stack.undo()
    assert check.verdict.text() == "Safe to plug in"
    forget(barrow_window)


def test_what_remains_is_decided_by_one_reading(
    qtbot: QtBot, barrow_window: Window, check: CheckView
) -> None:
    right = totals(barrow_window)
    shifted = [*right[:6], *right[5:-1]]
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("\n".join(map(str, shifted)))
    check.paste()
    assert check.asked.isVisible()
    assert check.explains.isVisible()
    names = [row.cells[0] for row in check.explains.rows_model.rows]
    assert names[0].startswith("From lead 6 on each sits one tap too low")
    assert any(name.startswith("Group 6 gives next to nothing") for name in names)
    assert "to main plus" in check.ends.text()
    lead = int(check.ends.text().split()[1])
    qtbot.keyClicks(check.decide, f"{right[-1] - shifted[lead]:.2f}")
    qtbot.keyClick(check.decide, Qt.Key.Key_Return)
    assert not check.asked.isVisible()
    assert check.why.text().startswith("From lead 6 on each sits one tap too low")
    # Another reading of a lead makes those between leads stale.
    check.turn_to(2)
    type_in(qtbot, check, ["open"])
    assert barrow_window.session.project.balance_leads.more == ()
    assert check.table.rows_model.rows[2].cells[3:] == ("open", "open")
    check.begin_anew()
    assert check.verdict.text().startswith("0 of ")
    forget(barrow_window)


def test_the_planted_swap_of_a_demo_is_found(window: Window) -> None:
    forget(window)
    window.files.open_sample(DEMOS / "kayak-thruster.lumvak.json")
    view = view_of(window, "check")
    assert isinstance(view, CheckView)
    assert view.verdict.text() == "Do not plug in"
    assert view.why.text().startswith("Leads 2 and 3 are swapped.")
    assert taps_answer(window.session.evaluation) == "do not plug in"
    forget(window)


def test_totals_are_read_at_arms_length(
    qtbot: QtBot, barrow_window: Window, check: CheckView
) -> None:
    right = totals(barrow_window)
    qtbot.keyClick(barrow_window, Qt.Key.Key_F9)
    bench = check.bench
    assert bench is not None
    assert len(bench.steps) == len(right) + 1
    for volts in right[:-1]:
        qtbot.keyClicks(bench.entry, str(volts))
        qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert bench.reading.text().endswith("as it should")
    qtbot.keyClicks(bench.entry, "no idea")
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert "is not a voltage" in bench.problem.text()
    # What was refused is written over.
    qtbot.keyClicks(bench.entry, str(right[-1]))
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    # Lead 0 last: from it to lead 1.
    assert bench.isVisible() and "lead 0" in bench.steps[-1].place
    qtbot.keyClicks(bench.entry, str(right[1]))
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert check.verdict.text() == "Safe to plug in"
    assert bench.place.text() == "done"
    # Whoever goes back sees what was read, and is asked before it is replaced.
    qtbot.keyClick(bench, Qt.Key.Key_Backspace)
    qtbot.keyClick(bench.entry, Qt.Key.Key_Backspace)
    assert f"kept: {right[-1]:.2f} V" in bench.expected.text()
    qtbot.keyClicks(bench.entry, "12")
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert "Enter again replaces it" in bench.problem.text()
    assert barrow_window.session.evaluation.balance.check.read[len(right) - 1] == right[-1]
    qtbot.keyClick(bench, Qt.Key.Key_Escape)
    assert check.entry.hasFocus()
    forget(barrow_window)


def test_what_cannot_be_meant_is_said_and_offered(
    qtbot: QtBot, barrow_window: Window, check: CheckView
) -> None:
    right = totals(barrow_window)
    type_in(qtbot, check, ["lots"])
    assert check.problem.text().startswith("Lead 0: “lots” is not a voltage")
    assert check.entry.text() == "lots"
    assert barrow_window.session.project.balance_leads.totals == ()
    qtbot.keyClick(check.entry, Qt.Key.Key_Escape)
    assert not check.entry.text()
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("0;3.7")
    check.paste()
    assert check.problem.text().startswith(f"2 readings for {len(right)} leads")
    clipboard.setText(";".join(f"{round(1000 * volts)}" for volts in right))
    check.paste()
    assert check.verdict.text() == "Do not plug in"
    assert "millivolts may be meant" in check.why.text()
    assert check.meant.isVisible()
    check.meant.click()
    assert check.verdict.text() == "Not yet: lead 0 is not proven"
    assert not check.meant.isVisible()
    # Typed one by one it is told at the field; Enter once more keeps it.
    check.turn_to(1)
    type_in(qtbot, check, ["3710"])
    assert check.problem.text().startswith("Lead 1 reads 3710 V; millivolts may be meant")
    assert check.meant.text() == "take lead 1 as 3.71 V"
    assert barrow_window.session.project.balance_leads.totals[1].volts == right[1]
    check.meant.click()
    assert barrow_window.session.project.balance_leads.totals[1].volts == 3.71
    check.turn_to(1)
    type_in(qtbot, check, ["-3.7"])
    assert "black probe on the most negative tap" in check.problem.text()
    qtbot.keyClick(check.entry, Qt.Key.Key_Return)
    assert barrow_window.session.project.balance_leads.totals[1].volts == -3.7
    # Up and Down go to another lead.
    check.entry.setFocus()
    check.turn_to(3)
    qtbot.keyClick(check.entry, Qt.Key.Key_Up)
    assert check.at == 2
    forget(barrow_window)
