"""A real window over a session of its own."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QCoreApplication, QEvent
from PyQt6.QtWidgets import QApplication, QMessageBox
from pytestqt.qtbot import QtBot

from lumvak.ui.application import make_application, make_window
from lumvak.ui.handbook.pages import Handbook
from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.theme import THEME
from tests.conftest import BARROW


@pytest.fixture(scope="session")
def qapp() -> QApplication:
    return make_application()


@pytest.fixture(autouse=True)
def no_questions(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """A question that no test expects must not wait for ever."""

    def unexpected(box: QMessageBox) -> int:
        raise AssertionError(f"asked: {box.text()}")

    monkeypatch.setattr(QMessageBox, "exec", unexpected)
    yield
    # A window that lingers is styled again with each that follows.
    for widget in QApplication.topLevelWidgets():
        if isinstance(widget, Window | Handbook):
            widget.deleteLater()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)


def forget(window: Window) -> None:
    """Let a window close without a question."""
    if focus := QApplication.focusWidget():
        focus.clearFocus()
    window.session.refused.clear()
    window.session.undo_stack.setClean()


@pytest.fixture
def demo() -> Path:
    """The project that the window opens with."""
    return BARROW


@pytest.fixture
def window(qtbot: QtBot, qapp: QApplication, tmp_path: Path, demo: Path) -> Iterator[Window]:
    path = tmp_path / demo.name
    path.write_text(demo.read_text("utf-8"), "utf-8")
    made = make_window(qapp, path)
    made.show()
    qtbot.waitExposed(made)
    yield made
    forget(made)
    made.close()
    THEME.name, THEME.percent = "light", 100


@pytest.fixture
def session(window: Window) -> Session:
    return window.session
