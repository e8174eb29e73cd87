"""Views of the cells in hand, over an empty project and the demo with a lot."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.hand.groups import CellGroupsView
from lumvak.ui.stages.hand.readings import ReadingsView
from tests.conftest import BARROW, DEMOS

ROLLER = DEMOS / "seed-bed-roller.lumvak.json"


def view_of(window: Window, name: str) -> object:
    window.open_stage("hand")
    stage = window.stages["hand"]
    stage.show_view(name)
    return stage.views[name]  # type: ignore[attr-defined]


def readings_of(window: Window) -> ReadingsView:
    view = view_of(window, "measure")
    assert isinstance(view, ReadingsView)
    return view


def groups_of(window: Window) -> CellGroupsView:
    view = view_of(window, "groups")
    assert isinstance(view, CellGroupsView)
    return view


@pytest.fixture
def demo(request: pytest.FixtureRequest) -> Path:
    return ROLLER if "roller" in request.fixturenames else BARROW


@pytest.fixture
def roller(window: Window) -> Window:
    return window


def type_readings(qtbot: QtBot, view: ReadingsView, texts: list[str]) -> None:
    view.entry.setFocus()
    for text in texts:
        qtbot.keyClicks(view.entry, text)
        qtbot.keyClick(view.entry, Qt.Key.Key_Return)
