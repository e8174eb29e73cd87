"""The plan, what is at hand, and a test taken by hand in bench mode."""

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.prove.plan_view import PlanView
from lumvak.ui.stages.prove.stage import ProveStage
from tests.ui.prove.conftest import settled


def shown(prove: ProveStage) -> PlanView:
    prove.show_view("tests")
    view = prove.views["tests"]
    assert isinstance(view, PlanView)
    return view


def test_what_is_not_at_hand_comes_last_and_says_so(
    qtbot: QtBot, window: Window, prove: ProveStage
) -> None:
    view = shown(prove)
    rows = view.table.rows_model.rows
    assert [row.value for row in rows][:4] == ["insulation", "asleep", "groups", "total"]
    assert rows[-1].faded and rows[-1].cells[2].startswith("wants a")
    view.at_hand.picked.emit(("meter", "load", "supply", "thermometer", "charger"))
    settled(qtbot, prove)
    settles = {row.value: row.cells[2] for row in view.table.rows_model.rows}
    assert "of run time" in settles["full-discharge"]
    assert "of warmth" in settles["staircase"]
    assert window.session.project.proving.at_hand[1] == "load"


def test_groups_by_hand_and_a_flat_one_is_outside(
    qtbot: QtBot, window: Window, prove: ProveStage
) -> None:
    view = shown(prove)
    view.table.picked.emit("groups")
    assert view.begin_bench() and view.bench is not None
    bench = view.bench
    assert bench.step.what == "Group 1, at its taps"
    for group in range(1, 15):
        qtbot.keyClicks(bench.entry, "3.41" if group == 5 else "3.70")
        qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
        kept = window.session.project.proving.readings
        assert len(kept) == group and kept[-1].place == f"group:{group}"
    bench.close()
    settled(qtbot, prove)
    row = next(it for it in view.table.rows_model.rows if it.value == "groups")
    assert row.cells[3] == "outside" and "A group is flat" in view.means.text().replace(
        "a group", "A group"
    )
    # Taken again, the earlier one stays; which counts is chosen.
    assert view.begin_bench() and view.bench is not None
    for _ in range(14):
        qtbot.keyClicks(view.bench.entry, "3.70")
        qtbot.keyClick(view.bench.entry, Qt.Key.Key_Return)
    view.bench.close()
    settled(qtbot, prove)
    assert view.again.isVisible() and window.session.project.proving.readings[-1].attempt == 2
    qtbot.mouseClick(view.again, Qt.MouseButton.LeftButton)
    settled(qtbot, prove)
    assert window.session.project.proving.counts[0].attempt == 1
    row = next(it for it in view.table.rows_model.rows if it.value == "groups")
    assert row.cells[3] == "outside"


def test_a_bad_reading_stays_and_says_what_is_accepted(
    qtbot: QtBot, window: Window, prove: ProveStage
) -> None:
    view = shown(prove)
    view.table.picked.emit("drops")
    assert view.begin_bench() and view.bench is not None
    bench = view.bench
    qtbot.keyClicks(bench.entry, "many")
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert "write a number" in bench.problem.text() and not window.session.project.proving.readings
    bench.entry.clear()
    for text in ("21.5 A", "40 mV"):
        qtbot.keyClicks(bench.entry, text)
        qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    amps, fuse = window.session.project.proving.readings
    assert amps.what == "amps" and (fuse.place, fuse.value, fuse.amps) == ("fuse", 0.04, 21.5)
    bench.close()


def test_it_leads_to_the_bench(qtbot: QtBot, prove: ProveStage) -> None:
    view = shown(prove)
    view.table.picked.emit("staircase")
    qtbot.mouseClick(view.run, Qt.MouseButton.LeftButton)
    assert prove.view.value == "bench" and prove.prover.wanted == ("staircase",)
