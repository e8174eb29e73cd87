"""How sure the run is."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.core.run.tolerance import Tolerance
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.run.stage import RunStage


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
