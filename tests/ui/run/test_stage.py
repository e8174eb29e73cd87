"""The discharge through the window: its course, others beside it, and how sure it is."""

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.run.stage import RunStage


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
    assert stage.labels[1].said == "low-voltage cut-off"
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
