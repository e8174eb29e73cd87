"""A search as somebody walks it in the window."""

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.trouble.find_view import FindView
from tests.ui.trouble.conftest import trouble


@pytest.fixture
def view(window: Window) -> FindView:
    found = trouble(window, "find").views["find"]
    assert isinstance(found, FindView)
    return found


def test_the_bms_is_found_by_three_readings_from_the_complaint_on(
    window: Window, view: FindView
) -> None:
    """The output jumps, the pack before the BMS is steady, the groups are alike."""
    session = window.session
    session.edit({"trouble.complaint": None, "trouble.readings": ()})
    assert not view.body.isVisible()
    view.complaint.setCurrentIndex(view.complaint.findData("jumps"))
    view.complaint.activated.emit(view.complaint.currentIndex())
    answers = {"terminals": "jumps", "pack": "51.5 V", "groups": "alike"}
    for _ in range(3):
        # What is asked otherwise cannot be taken here.
        while view.wanted is not None and (
            view.wanted.place not in answers or view.wanted.state != "rest" or view.wanted.in_ohm
        ):
            view.cannot.click()
        assert view.wanted is not None
        answer = answers.pop(view.wanted.place)
        if answer in ("jumps", "alike"):
            (view.jumps if answer == "jumps" else view.alike).click()
        else:
            view.entry.setText(answer)
            view.keep.click()
    assert len(session.project.trouble.readings) == 3
    rows = [row.cells for row in view.causes.rows_model.rows]
    assert rows[0][0] == "the output switch of the BMS is half on"
    assert "another BMS" in view.speaks.text()


def test_a_reading_that_is_none_waits_with_why(window: Window, view: FindView) -> None:
    before = len(window.session.project.trouble.readings)
    view.entry.setText("a lot")
    view.keep.click()
    assert view.problem.isVisible() and len(window.session.project.trouble.readings) == before
    view.entry.setText("1.6 mΩ")
    view.keep.click()
    kept = window.session.project.trouble.readings[-1]
    assert not view.problem.isVisible() and kept.in_ohm and kept.value == pytest.approx(0.0016)
    assert kept.taken is not None
    window.session.undo_stack.undo()
    assert len(window.session.project.trouble.readings) == before


def test_all_groups_are_typed_in_a_row(window: Window, view: FindView) -> None:
    window.session.edit({"trouble.complaint": "low-group", "trouble.readings": ()})
    while view.wanted is not None and view.wanted.place != "groups":
        view.cannot.click()
    assert view.alike.isVisible()
    view.entry.setText("3.7 3.6")
    view.keep.click()
    assert "accepted: 14 in a row" in view.problem.text()
    view.entry.setText(" ".join("3.1" if at == 4 else "3.7" for at in range(14)))
    view.keep.click()
    assert "group 5" in view.causes.rows_model.rows[0].cells[0]
    assert view.do.text()


def test_what_cannot_be_taken_gives_the_next_and_can_be_had_again(
    window: Window, view: FindView
) -> None:
    first = view.wanted
    assert first is not None
    view.cannot.click()
    assert view.wanted is not None and view.wanted.place != first.place
    assert view.can.isVisible()
    view.can.click()
    assert view.wanted is not None and view.wanted.place == first.place


def test_a_click_tells_of_another_cause(view: FindView) -> None:
    before = view.speaks.text()
    view.causes.picked.emit(1)
    assert view.speaks.text() != before


def test_at_the_bench_the_readings_come_one_after_the_other(
    window: Window, view: FindView, qtbot: QtBot
) -> None:
    session = window.session
    session.edit({"trouble.readings": ()})
    assert view.begin_bench() and view.bench is not None
    bench = view.bench
    qtbot.addWidget(bench)
    typed = {"the terminals": "jumps", "the pack before its BMS": "51.5", "all groups": "alike"}
    for _ in range(12):
        if bench.step.take is None:
            break
        # What is neither is refused and stays.
        bench.entry.setText("a lot")
        qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
        assert bench.problem.text()
        at_rest = "nothing drawn, the BMS awake" in bench.step.what
        bench.entry.setText(typed.pop(bench.step.place, "") if at_rest else "")
        qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert len(session.project.trouble.readings) == 3
    assert bench.step.place == "enough" or not typed
    assert "half on" in view.causes.rows_model.rows[0].cells[0]
    bench.close()


def test_at_the_bench_it_ends_with_what_was_found(
    window: Window, view: FindView, qtbot: QtBot
) -> None:
    session = window.session
    session.edit({"trouble.complaint": "low-group", "trouble.readings": ()})
    assert view.begin_bench() and view.bench is not None
    bench = view.bench
    qtbot.addWidget(bench)
    for _ in range(40):
        if bench.step.take is None:
            break
        low = bench.step.place == "all groups" and "ohm" not in bench.step.what
        bench.entry.setText(" ".join(["3.7"] * 13 + ["2.1"]) if low else "")
        qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert bench.step.place == "enough" and "group 14" in bench.step.what
    qtbot.keyClick(bench, Qt.Key.Key_Return)
    assert bench.step.place == "done"
    bench.close()


def test_without_a_complaint_there_is_nothing_at_the_bench(window: Window, view: FindView) -> None:
    window.session.edit({"trouble.complaint": None})
    assert not view.begin_bench()
