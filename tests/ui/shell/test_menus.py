"""The menus: every key once, every entry does something, recent projects forgotten."""

from collections import Counter
from pathlib import Path

import pytest
from PyQt6.QtCore import QProcess
from PyQt6.QtGui import QShortcut
from PyQt6.QtWidgets import QApplication

from lumvak import __version__
from lumvak.ui.handbook.pages import page_text
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.theme import THEME


def test_text_grows_and_shrinks_and_goes_back(window: Window) -> None:
    actions = {name.replace("&", ""): action for name, action in window.menus.actions}
    sizes = []
    for name in ("Larger text", "Larger text", "Smaller text", "Text at 100 %", "Smaller text"):
        actions[name].trigger()
        sizes.append(THEME.percent)
    assert sizes == [125, 150, 125, 100, 75]
    actions["Smaller text"].trigger()
    assert THEME.percent == 75


def test_recent_projects_are_offered_and_forgotten(window: Window, tmp_path: Path) -> None:
    menu = window.menus.filled["Recent"]
    window.session.save(tmp_path / "one.lumvak.json")
    window.remember_file(tmp_path / "one.lumvak.json")
    menu.aboutToShow.emit()
    names = [item.text() for item in menu.actions()]
    assert names[0] == "one.lumvak.json"
    menu.actions()[-1].trigger()
    assert window.settings.recent == ()
    menu.aboutToShow.emit()
    assert [item.text() for item in menu.actions()] == ["nothing yet"]


def test_another_window_is_a_program_of_its_own(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    begun: list[list[str]] = []
    monkeypatch.setattr(QProcess, "startDetached", lambda _, words: begun.append(words))
    window.another_window()
    assert begun == [["-P", "-m", "lumvak"]]


def test_the_page_on_the_program_tells_its_version(window: Window) -> None:
    actions = {name.replace("&", ""): action for name, action in window.menus.actions}
    actions["About Lumvak"].trigger()
    QApplication.processEvents()
    assert window.handbook is not None
    assert f"Version {__version__}" in window.handbook.toPlainText()


def keys_of(window: Window) -> list[str]:
    found = [key.toString() for _, action in window.menus.actions for key in action.shortcuts()]
    return found + [item.key().toString() for item in window.findChildren(QShortcut)]


def test_no_key_means_two_things(window: Window) -> None:
    counts = Counter(keys_of(window))
    assert len(counts) > 40
    assert not {key: count for key, count in counts.items() if count > 1}


def test_every_key_is_in_the_handbook(window: Window) -> None:
    text = page_text("window")
    told = {key for key in keys_of(window) if f"**{key}**" in text}
    # The others are told as a range, from the first to the last, or beside what they undo.
    others = {key.rsplit("+", 1)[0] for key in keys_of(window) if key not in told}
    assert others <= {"Alt", "Ctrl", "Ctrl+Alt", "Ctrl+Shift", "Shift"}
    assert len(told) >= 18
