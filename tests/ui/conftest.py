"""A real window over a session of its own."""

from collections.abc import Iterator
from copy import copy
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QCoreApplication, QEvent
from PyQt6.QtWidgets import QApplication, QMessageBox
from pytestqt.qtbot import QtBot

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.files.catalogue_file import load_catalogue, own_parts_folder
from lumvak.files.problem import stamp_of
from lumvak.ui import application
from lumvak.ui.application import make_application, make_window
from lumvak.ui.handbook.pages import Handbook
from lumvak.ui.session import Opened, Session, read_project
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
        if isinstance(widget, Window | Handbook) and not widget.property("shared"):
            widget.deleteLater()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)


class _Before:
    """What was opened before: the same file over the same parts is worked out once."""

    def __init__(self, catalogue: Catalogue) -> None:
        self._catalogue = catalogue
        self._opened: dict[tuple[str, bytes], Opened] = {}

    def load(self) -> tuple[Catalogue, tuple[str, ...]]:
        return load_catalogue() if own_parts_folder().is_dir() else (self._catalogue, ())

    def read(self, file: Path, catalogue: Catalogue) -> Opened:
        if catalogue is not self._catalogue or not file.is_file():
            return read_project(file, catalogue)
        key = file.name, file.read_bytes()
        if key not in self._opened:
            self._opened[key] = read_project(file, catalogue)
        opened = self._opened[key]
        return replace(opened, path=file, stamp=stamp_of(file), steps=copy(opened.steps))


@pytest.fixture(scope="session")
def before(catalogue: Catalogue) -> _Before:
    return _Before(catalogue)


@pytest.fixture(autouse=True)
def opened_before(before: _Before, monkeypatch: pytest.MonkeyPatch) -> None:
    """Windows begin with what another test has worked out."""
    monkeypatch.setattr(application, "load_catalogue", before.load)
    monkeypatch.setattr(application, "read_project", before.read)


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
