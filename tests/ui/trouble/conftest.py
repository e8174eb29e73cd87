"""The stage of trouble, opened at a view of the sample whose volts jump."""

from pathlib import Path

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.trouble.stage import TroubleStage
from tests.conftest import DEMOS


@pytest.fixture
def demo() -> Path:
    return DEMOS / "mill-race-dinghy.lumvak.json"


def trouble(window: Window, view: str) -> TroubleStage:
    window.open_stage("trouble")
    stage = window.stages["trouble"]
    assert isinstance(stage, TroubleStage)
    stage.show_view(view)
    return stage
