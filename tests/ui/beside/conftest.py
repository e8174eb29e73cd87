"""The stage of a second pack, opened at a view."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.beside.stage import BesideStage


def beside(window: Window, view: str) -> BesideStage:
    window.open_stage("beside")
    stage = window.stages["beside"]
    assert isinstance(stage, BesideStage)
    stage.show_view(view)
    return stage
