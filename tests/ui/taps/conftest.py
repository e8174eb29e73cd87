"""Views of the balance leads."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.taps.check import CheckView
from lumvak.ui.stages.taps.guide import GuideView


def view_of(window: Window, name: str) -> object:
    window.open_stage("taps")
    stage = window.stages["taps"]
    stage.show_view(name)
    return stage.views[name]  # type: ignore[attr-defined]


@pytest.fixture
def barrow_window(window: Window) -> Window:
    return window


@pytest.fixture
def check(barrow_window: Window) -> CheckView:
    view = view_of(barrow_window, "check")
    assert isinstance(view, CheckView)
    return view


@pytest.fixture
def guide(barrow_window: Window) -> GuideView:
    view = view_of(barrow_window, "guide")
    assert isinstance(view, GuideView)
    return view
