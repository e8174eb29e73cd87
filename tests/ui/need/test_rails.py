"""Rails and appliances."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.need.stage import NeedStage
from tests.ui.need.test_stage import type_cell


def test_rails_and_appliances_make_the_load(qtbot: QtBot, window: Window, need: NeedStage) -> None:
    need.kind.picked.emit("portable")
    session = window.session
    assert session.project.need.load_basis == "rails"
    rails, fed = need.rails.rails, need.rails.appliances
    assert rails.isVisible()
    # 10 W at 12 V and 2 A at 5 V, each through 90 %.
    assert session.evaluation.figures["demand.power_w"].number == pytest.approx(20.0 / 0.9)
    type_cell(qtbot, rails, 0, 3, "80 %")
    type_cell(qtbot, rails, 1, 4, "1,5 A")
    assert session.project.need.rails[1].limit_w == pytest.approx(7.5)
    assert "rail-over" in {item.code for item in session.evaluation.findings}
    type_cell(qtbot, fed, 1, 2, "7 W")
    assert "rail-over" not in {item.code for item in session.evaluation.findings}
    assert session.evaluation.figures["demand.power_w"].number == pytest.approx(
        10.0 / 0.8 + 7.0 / 0.9
    )
    # A rail that is renamed keeps what it feeds; one that feeds something stays.
    type_cell(qtbot, rails, 0, 0, "lamps")
    assert session.project.need.appliances[0].rail == "lamps"
    rails.table.setCurrentCell(0, 0)
    rails.remove.click()
    assert "is no rail" in rails.problem.text()
    assert len(session.project.need.rails) == 2
    rails.add.click()
    assert [rail.name for rail in session.project.need.rails] == ["lamps", "9 V", "5 V"]
    # Back to a vehicle: its own questions, and a load in amps.
    need.kind.picked.emit("vehicle")
    assert session.project.need.load_basis == "current"
    assert need.of_kind.small["wheel_mm"].isVisible()
    assert not need.rails.isVisible()
