"""The stage of a found pack, opened at a view of the salvaged sample."""

from pathlib import Path

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.as_found.stage import AsFoundStage
from tests.conftest import DEMOS


@pytest.fixture
def demo() -> Path:
    return DEMOS / "hay-tedder.lumvak.json"


def as_found(window: Window, view: str) -> AsFoundStage:
    window.open_stage("as_found")
    stage = window.stages["as_found"]
    assert isinstance(stage, AsFoundStage)
    stage.show_view(view)
    return stage
