"""The stage in a window."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.arrangement.stage import ArrangementStage


@pytest.fixture
def stage(window: Window) -> ArrangementStage:
    window.open_stage("arrangement")
    made = window.stages["arrangement"]
    assert isinstance(made, ArrangementStage)
    return made
