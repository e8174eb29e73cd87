"""Exports: where they go, that they can be stopped, and what is said when they cannot be made."""

import time
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QFileDialog, QPushButton
from pytestqt.qtbot import QtBot

from lumvak.files.export.formats import FORMATS, SUFFIXES
from lumvak.ui import exports
from lumvak.ui.exports import EXPORTS, ask_export, export_to
from lumvak.ui.shell.window import Window


def test_every_format_can_be_asked_for() -> None:
    assert {to for _, to, _ in EXPORTS} == set(FORMATS)


# The sheet of places wants cells in hand; days want a pack that was closed up.
@pytest.mark.parametrize("to", [to for to in FORMATS if to not in ("placing", "dates")])
def test_an_export_is_written_where_it_was_asked_for(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, to: str
) -> None:
    suggested: list[str] = []

    def ask(*arguments: object) -> tuple[str, str]:
        suggested.append(str(arguments[2]))
        return str(tmp_path / f"out{SUFFIXES[to]}"), ""

    monkeypatch.setattr(QFileDialog, "getSaveFileName", ask)
    ask_export(window.session, window, to)
    qtbot.waitUntil(lambda: "Written to" in window.notice.text.text(), timeout=20_000)
    assert suggested[0].endswith(f"Orchard barrow{SUFFIXES[to]}")
    assert (tmp_path / f"out{SUFFIXES[to]}").stat().st_size > (50 if to == "log" else 100)


def test_what_is_wrong_is_said(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    session = window.session
    assert session.path is not None
    export_to(session, "svg", session.path)
    assert "is the project itself" in window.notice.text.text()
    taken = tmp_path / "taken"
    taken.write_text("x", "utf-8")
    export_to(session, "svg", taken / "y.svg")
    qtbot.waitUntil(lambda: "was not saved" in window.notice.text.text(), timeout=20_000)

    def fails(*_: object) -> bytes:
        raise ZeroDivisionError("made up")

    monkeypatch.setattr(exports, "exported", fails)
    export_to(session, "svg", tmp_path / "z.svg")
    qtbot.waitUntil(lambda: "z.svg was not made" in window.notice.text.text(), timeout=20_000)


def test_a_long_one_says_so_and_can_be_stopped(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def slow(*_: object) -> bytes:
        time.sleep(0.6)
        return b"late"

    monkeypatch.setattr(exports, "exported", slow)
    export_to(window.session, "svg", tmp_path / "late.svg")
    qtbot.waitUntil(lambda: "Making late.svg" in window.notice.text.text(), timeout=2_000)
    # The window is at hand all the while.
    window.session.edit({"need.current_a": 21.0})
    stop = next(item for item in window.notice.findChildren(QPushButton) if item.text() == "stop")
    stop.click()
    assert "was not written" in window.notice.text.text()
    qtbot.wait(800)
    assert not (tmp_path / "late.svg").exists()
