"""Parts fold by themselves and by hand, and where the window was left is remembered."""

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QFileDialog
from pytest import MonkeyPatch
from pytestqt.qtbot import QtBot

from lumvak.files.kept.window_settings import Settings, load_settings, save_settings, settings_path
from lumvak.ui.application import make_window
from lumvak.ui.shell.window import Window
from tests.conftest import BARROW
from tests.ui.conftest import forget

CONTROL = Qt.KeyboardModifier.ControlModifier


def test_the_margin_floats_where_there_is_no_room_beside_the_stage(
    qtbot: QtBot, window: Window
) -> None:
    window.resize(1024, 700)
    QApplication.processEvents()
    assert not window.margin.isVisible()
    wide = window.stack.width()
    qtbot.keyClick(window, Qt.Key.Key_M, CONTROL)
    margin = window.margin
    assert margin.isVisible()
    # The stage keeps its width; the margin lies over it, inside of the window.
    assert window.stack.width() == wide
    assert margin.geometry().right() <= window.frame.width()
    assert margin.geometry().left() > window.frame.width() // 2
    margin.findings.setFocus()
    qtbot.keyClick(margin.findings, Qt.Key.Key_Escape)
    assert not margin.isVisible()
    # A number asked about opens it; the builder's wish for wide windows stays.
    window.session.explain("pack.energy_wh")
    assert margin.isVisible()
    qtbot.mouseClick(margin.away, Qt.MouseButton.LeftButton)
    assert not margin.isVisible()
    window.resize(1300, 900)
    QApplication.processEvents()
    assert margin.isVisible()
    assert window.frame.split.indexOf(margin) == 2
    assert not margin.away.isVisible()
    assert window.settings.margin_shown


def test_folded_parts_give_their_room_to_the_stage(qtbot: QtBot, window: Window) -> None:
    window.resize(1300, 900)
    QApplication.processEvents()
    wide, high = window.stack.width(), window.stack.height()
    for key in (Qt.Key.Key_B, Qt.Key.Key_M, Qt.Key.Key_J):
        qtbot.keyClick(window, key, CONTROL)
    QApplication.processEvents()
    assert window.stack.width() >= wide + 280 + 140
    assert window.stack.height() >= high + 90
    stored = load_settings(settings_path())[0]
    assert (stored.line_shown, stored.margin_shown, stored.path_shown) == (False, False, False)


def test_size_stage_view_and_folder_are_found_again(
    qapp: QApplication, tmp_path: Path, monkeypatch: MonkeyPatch
) -> None:
    path = tmp_path / "pack.lumvak.json"
    path.write_text(BARROW.read_text("utf-8"), "utf-8")
    window = make_window(qapp, path)
    window.resize(1111, 777)
    window.show()
    window.open_stage("joints")
    window.stages["joints"].show_view("making")
    window.open_stage("power")
    window.stages["power"].show_view("rest")
    window.close()
    again = make_window(qapp, path)
    assert (again.width(), again.height()) == (1111, 777)
    assert again.stage == "power"
    assert again.stages["power"].view.value == "rest"  # type: ignore[attr-defined]
    again.open_stage("joints")
    assert again.stages["joints"].view.value == "making"  # type: ignore[attr-defined]
    asked: list[str] = []

    def ask(*arguments: object) -> tuple[str, str]:
        asked.append(str(arguments[2]))
        return "", ""

    monkeypatch.setattr(QFileDialog, "getOpenFileName", ask)
    again.files.ask_open()
    assert asked == [str(tmp_path)]
    forget(again)
    again.close()
    # A new project begins with what is to be powered.
    fresh = make_window(qapp, None)
    assert fresh.stage == "need"
    fresh.close()


def test_what_was_remembered_and_is_no_more_is_passed_over(qapp: QApplication) -> None:
    settings = Settings(stage="lanterns", views={"cells": "moon", "moon": "cells"}, folder="/no")
    save_settings(settings, settings_path())
    window = make_window(qapp, None)
    assert window.stage == "need"
    window.open_stage("cells")
    assert window.stages["cells"].view.value == "counts"  # type: ignore[attr-defined]
    forget(window)
    window.close()


def test_another_sheet_or_size_keeps_every_view(window: Window) -> None:
    window.open_stage("joints")
    window.stages["joints"].show_view("conductors")
    window.open_stage("power")
    window.stages["power"].show_view("order")
    window.swap_sheet()
    window.set_text(125)
    assert window.stages["power"].view.value == "order"  # type: ignore[attr-defined]
    window.open_stage("joints")
    assert window.stages["joints"].view.value == "conductors"  # type: ignore[attr-defined]
