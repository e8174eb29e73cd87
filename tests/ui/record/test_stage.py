"""Every view of the record has a title and opens, beside the path in one line."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.record.answer import VIEWS
from lumvak.ui.stages.record.stage import TITLES
from tests.ui.record.conftest import record


@pytest.mark.parametrize("view", [name for name, _ in VIEWS])
def test_a_view_opens(window: Window, view: str) -> None:
    stage = record(window, view)
    assert stage.view.value == view and stage.head.title.text() == TITLES[view]
    assert window.folds.folded("path")
