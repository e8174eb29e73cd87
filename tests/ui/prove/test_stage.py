"""A person proves a pack in the window: the plan, the bench, what came of it."""

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.speech import say
from lumvak.ui.stages.prove.bench_view import BenchView
from lumvak.ui.stages.prove.plan_view import PlanView
from lumvak.ui.stages.prove.proven_view import ProvenView
from lumvak.ui.stages.prove.stage import ProveStage
from tests.ui.prove.conftest import settled


def test_the_whole_plan_from_the_window(qtbot: QtBot, window: Window, prove: ProveStage) -> None:
    prove.show_view("bench")
    bench = prove.views["bench"]
    assert isinstance(bench, BenchView)
    assert bench.state.text() == "Nothing is switched on."
    bench.speed.show_value(0.0)
    bench.fault.setCurrentIndex(bench.fault.findData("worn-connector"))
    qtbot.mouseClick(bench.whole, Qt.MouseButton.LeftButton)
    assert "Supply: 58.8 V and 15 A" in bench.acts.text()
    qtbot.mouseClick(bench.begin, Qt.MouseButton.LeftButton)
    assert prove.prover.running and bench.stop.isVisible()
    settled(qtbot, prove)
    assert "13 of 13 tests are done. Load and supply are off" in bench.state.text()
    readings = window.session.project.proving.readings
    assert len(readings) > 1000 and len({it.test for it in readings}) == 13
    prove.show_view("tests")
    tests = prove.views["tests"]
    assert isinstance(tests, PlanView)
    tests.table.picked.emit("drops")
    stands = {row.value: row.cells[3] for row in tests.table.rows_model.rows}
    assert stands["drops"] == "outside" and stands["groups"] == "inside"
    assert tests.means.text().startswith("Across the connector is outside. Usually: worn")
    drop = next(it for it in readings if it.place == "connector")
    assert say(1e3 * drop.value / (drop.amps or 1.0), "mΩ") in tests.chart.accessibleName()
    prove.show_view("proven")
    proven = prove.views["proven"]
    assert isinstance(proven, ProvenView)
    assert proven.standing.text().startswith("The rating is proven")
    assert "from the cells to the output more than designed" in proven.due.text()
    proven.table.picked.emit("path")
    assert window.session.explained_key == "proven.path"
    figure = window.session.figure("proven.path")
    assert figure is not None and figure.origin == "measured"
    # One test is one step back; nothing else goes with it.
    window.session.undo_stack.undo()
    assert len({it.test for it in window.session.project.proving.readings}) == 12
