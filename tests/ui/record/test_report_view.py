"""The report is made from the window with the parts that are wanted."""

from pathlib import Path

import pytest
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from lumvak.core.record_of_pack.report import TITLES
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.record.report_view import ReportView
from tests.ui.record.conftest import record


def test_parts_are_left_out_and_it_says_how_far_it_is(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    view = record(window, "report").views["report"]
    assert isinstance(view, ReportView)
    assert "NOT PROVEN" in view.stands.text() and not view.left_out
    view.none.click()
    assert not any(button.isEnabled() for button in view.saves)
    view.parts["need"].setChecked(True)
    view.parts["cautions"].setChecked(True)
    assert set(view.left_out) == set(TITLES) - {"need", "cautions"}
    target = tmp_path / "report.html"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    view.saves[1].click()
    qtbot.waitUntil(target.exists, timeout=20_000)
    text = target.read_text("utf-8")
    assert '<h2 id="need">' in text and '<h2 id="cautions">' in text and "NOT PROVEN" in text
    assert text.count("<h2") == 2
    view.every.click()
    assert not view.left_out and all(button.isEnabled() for button in view.saves)
