"""The stage of the cells, opened at a view."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.stage import CellsStage


def cells_at(window: Window, view: str = "counts") -> CellsStage:
    """The stage, turned to one of its views."""
    window.open_stage("cells")
    stage = window.stages["cells"]
    assert isinstance(stage, CellsStage)
    if view != "counts":
        stage.show_view(view)
    return stage
