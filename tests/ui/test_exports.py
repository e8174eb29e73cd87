"""Exports: where they go, and what is said when they cannot."""

from pathlib import Path

import pytest
from PyQt6.QtWidgets import QFileDialog

from lumvak.files.export.formats import FORMATS, SUFFIXES
from lumvak.ui.exports import EXPORTS, ask_export, export_to
from lumvak.ui.shell.window import Window


def test_every_format_can_be_asked_for() -> None:
    assert {to for to, _ in EXPORTS} == set(FORMATS)


@pytest.mark.parametrize("to", FORMATS)
def test_an_export_is_written_where_it_was_asked_for(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, to: str
) -> None:
    suggested: list[str] = []

    def ask(*arguments: object) -> tuple[str, str]:
        suggested.append(str(arguments[2]))
        return str(tmp_path / f"out{SUFFIXES[to]}"), ""

    monkeypatch.setattr(QFileDialog, "getSaveFileName", ask)
    ask_export(window.session, window, to)
    assert suggested[0].endswith(f"Orchard barrow{SUFFIXES[to]}")
    assert (tmp_path / f"out{SUFFIXES[to]}").stat().st_size > 100
    assert "Written to" in window.notice.text.text()


def test_what_is_wrong_is_said(window: Window, tmp_path: Path) -> None:
    session = window.session
    assert session.path is not None
    export_to(session, "svg", session.path)
    assert "is the project itself" in window.notice.text.text()
    taken = tmp_path / "taken"
    taken.write_text("x", "utf-8")
    export_to(session, "svg", taken / "y.svg")
    assert "was not saved" in window.notice.text.text()
