"""The stage of the record, opened at a view."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.record.stage import RecordStage


def record(window: Window, view: str) -> RecordStage:
    window.open_stage("record")
    stage = window.stages["record"]
    assert isinstance(stage, RecordStage)
    stage.show_view(view)
    return stage
