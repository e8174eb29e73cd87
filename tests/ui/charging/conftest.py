"""The barrow's window with the stage of charging open."""

from collections.abc import Callable

import pytest
from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.pages import Page

Opener = Callable[[str], Page]


@pytest.fixture
def open_view(window: Window, qtbot: QtBot) -> Opener:
    """Opens a view of the stage and waits until what it simulates is there."""

    def opened(view: str) -> Page:
        window.open_stage("charging")
        stage = window.stages["charging"]
        stage.show_view(view)
        page = stage.views[view]  # type: ignore[attr-defined]
        settle(page, qtbot)
        return page  # type: ignore[no-any-return]

    return opened


def settle(page: Page, qtbot: QtBot) -> None:
    """Wait until what a view simulates is there."""
    simulated = getattr(page, "simulated", None)
    if simulated is not None:
        qtbot.waitUntil(lambda: not simulated.busy, timeout=20_000)


def even(session: Session) -> None:
    """Groups that are alike, and no charger but that of the need."""
    session.edit({"charging.groups": (), "charging.chargers": (), "charging.charger": None})
