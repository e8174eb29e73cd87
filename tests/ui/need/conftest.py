"""The stage in a window."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.need.stage import NeedStage


@pytest.fixture
def need(window: Window) -> NeedStage:
    stage = window.stages["need"]
    assert isinstance(stage, NeedStage)
    return stage
