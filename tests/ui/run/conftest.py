"""The stage in a window."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.run.stage import RunStage


@pytest.fixture
def stage(window: Window) -> RunStage:
    window.open_stage("run")
    made = window.stages["run"]
    assert isinstance(made, RunStage)
    return made
