"""The stage opens at either view, and asks its question."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.beside.answer import VIEWS
from lumvak.ui.stages.beside.stage import TITLES
from tests.ui.beside.conftest import beside


@pytest.mark.parametrize("view", [key for key, _ in VIEWS])
def test_each_view_has_a_question(window: Window, view: str) -> None:
    stage = beside(window, view)
    assert TITLES[view].endswith("?") and stage.views[view].isVisible()
