"""The stage opens at each view with its question."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.trouble.answer import VIEWS
from lumvak.ui.stages.trouble.stage import TITLES
from tests.ui.trouble.conftest import trouble


@pytest.mark.parametrize("view", [key for key, _ in VIEWS])
def test_each_view_has_a_question(window: Window, view: str) -> None:
    stage = trouble(window, view)
    assert TITLES[view].endswith("?") and stage.views[view].isVisible()
