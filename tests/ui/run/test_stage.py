"""The discharge through the window: its course, others beside it, and how sure it is."""

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.core.run.tolerance import Tolerance
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.run.stage import RunStage


@pytest.fixture
def stage(window: Window) -> RunStage:
    window.open_stage("run")
    made = window.stages["run"]
    assert isinstance(made, RunStage)
    return made


def hours(stage: RunStage, place: int = 0) -> float:
    times, _ = stage.volts_curves[place].getData()
    return float(times[-1]) * stage.scale_s() / 3600.0


def test_the_course_of_a_run_is_drawn(qtbot: QtBot, window: Window, stage: RunStage) -> None:
    window.open_stage("need")
    qtbot.keyClick(window, Qt.Key.Key_3, Qt.KeyboardModifier.AltModifier)
    assert window.stage == "run"
    run = window.session.evaluation.run.run
    assert hours(stage) == pytest.approx(run.hours)
    assert float(stage.volts_curves[0].getData()[1][-1]) == pytest.approx(36.0, abs=0.05)
    assert stage.labels[1].said == "stop voltage"
    before = hours(stage)
    window.session.edit({"need.current_a": 30.0})
    assert hours(stage) < before
    # From half full, and with the amps and the charge below.
    stage.start.edit.setText("50 %")
    stage.start.commit()
    assert hours(stage) < 0.6 * before
    stage.what.picked.emit("charge")
    charge = stage.below_curves[0].getData()[1]
    assert (charge[0], stage.below.getAxis("left").labelText) == (50.0, "charge, %")
    stage.what.picked.emit("amps")
    assert set(stage.below_curves[0].getData()[1]) == {30.0}
    assert not stage.limit_line.isVisible()


def test_packs_kept_beside_are_laid_over_it(window: Window, stage: RunStage) -> None:
    assert stage.volts_curves[1].getData()[0] is None
    window.session.edit(
        {
            "pack.beside": (
                {"cell": "tallin-p-105", "series": 14, "parallel": 3},
                {"cell": "fennimor-b-50", "series": 15, "parallel": 1},
            )
        }
    )
    assert len(stage.legend.items) == 3
    assert hours(stage, 2) > hours(stage) > hours(stage, 1)
    window.session.undo_stack.undo()
    assert stage.volts_curves[1].getData()[0] is None
    assert len(stage.legend.items) == 0


def test_tolerance_is_drawn_off_the_thread_and_stale_draws_are_dropped(
    qtbot: QtBot, window: Window, stage: RunStage
) -> None:
    panel, session = stage.tolerance, window.session
    assert not panel.spreads.isVisible()
    with qtbot.waitSignal(panel.drawn, timeout=20_000) as drawn:
        panel.switch.picked.emit(True)
        assert panel.bar.isVisible()
    assert drawn.args is not None
    result = drawn.args[0]
    assert isinstance(result, Tolerance)
    assert stage.band.isVisible()
    assert panel.labels[0].said == "70 %"
    assert stage.ends[0].value() == pytest.approx(result.run_band_h()[0] * 60.0)
    # A click on the chance shows its working.
    session.explain("tolerance.chance")
    assert "70" in window.margin.title.text()
    # An edit drops the band at once; what is drawn for the state before is not shown.
    session.edit({"run.draws": 300})
    assert not stage.band.isVisible()
    assert session.figure("tolerance.chance") is None
    panel.take_result(result, session.revision - 1)
    assert not stage.band.isVisible()
    with qtbot.waitSignal(panel.drawn, timeout=20_000) as again:
        pass
    assert again.args is not None
    assert len(again.args[0].hours) == 300
    assert stage.band.isVisible()
    # Called off: nothing comes any more.
    session.edit({"run.draws": 20_000})
    panel.start()
    panel.cancel.click()
    assert "stopped" in panel.said.text()
    with qtbot.assertNotEmitted(panel.drawn, wait=700):
        pass
    panel.switch.picked.emit(False)
    assert not stage.band.isVisible()
