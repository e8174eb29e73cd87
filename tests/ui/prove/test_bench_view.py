"""The bench in the window: paused, stopped, and what it cannot begin with."""

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.prove.bench_view import BenchView
from lumvak.ui.stages.prove.stage import ProveStage
from tests.ui.prove.conftest import settled


def test_a_plan_is_paused_and_stopped(qtbot: QtBot, window: Window, prove: ProveStage) -> None:
    prove.show_view("bench")
    bench = prove.views["bench"]
    assert isinstance(bench, BenchView)
    prove.prover.wanted = ("full-charge",)
    bench.speed.show_value(1000.0)
    bench.show_evaluation(window.session.evaluation)
    qtbot.mouseClick(bench.begin, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: bool(window.session.project.proving.readings), timeout=20_000)
    qtbot.mouseClick(bench.pause, Qt.MouseButton.LeftButton)
    assert "paused" in bench.state.text() and bench.pause.text() == "go on"
    runner = prove.prover.runner
    assert runner is not None
    qtbot.mouseClick(bench.stop, Qt.MouseButton.LeftButton)
    settled(qtbot, prove)
    assert "Full charge: Stopped by you" in bench.state.text()
    kept = len(window.session.project.proving.readings)
    assert kept > 0 and not runner.alarm


def test_what_is_no_seed_and_no_instrument_is_told(
    qtbot: QtBot, window: Window, prove: ProveStage
) -> None:
    prove.show_view("bench")
    bench = prove.views["bench"]
    assert isinstance(bench, BenchView)
    told: list[str] = []
    window.session.told.connect(lambda _, text, __: told.append(text))
    bench.seed.setText("seven")
    assert bench.source() is None and "no seed" in told[-1]
    bench.kind.picked.emit(False)
    assert bench.real.isVisible() and bench.source() is None and "No instrument" in told[-1]
    bench.resources["meter"].setText("TCPIP0::127.0.0.1::1::SOCKET")
    source = bench.source()
    assert source is not None and not source.simulated
    prove.prover.start(source, ("groups",))
    settled(qtbot, prove)
    assert "does not answer" in bench.state.text()
