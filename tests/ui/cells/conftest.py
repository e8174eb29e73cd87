"""The stage in a window."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.stage import CellsStage
from tests.ui.cells.opened import cells_at


@pytest.fixture
def cells(window: Window) -> CellsStage:
    return cells_at(window)
