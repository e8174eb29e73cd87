"""The stage of joints over the hand-cycle drive."""

from pathlib import Path

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.joints.joined_pack import OnTableView
from lumvak.ui.stages.joints.making import MakingView
from lumvak.ui.stages.joints.stage import JointsStage
from tests.conftest import DEMOS


@pytest.fixture
def demo() -> Path:
    return DEMOS / "hand-cycle-drive.lumvak.json"


@pytest.fixture
def view(window: Window) -> OnTableView:
    window.open_stage("joints")
    stage = window.stages["joints"]
    assert isinstance(stage, JointsStage)
    return stage.on_table


@pytest.fixture
def making(window: Window, view: OnTableView) -> MakingView:
    stage = window.stages["joints"]
    assert isinstance(stage, JointsStage)
    stage.show_view("making")
    assert stage.making is not None
    return stage.making
