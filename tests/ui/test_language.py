from __future__ import annotations

from collections.abc import Iterator

import pytest
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QComboBox, QLabel, QLineEdit, QMenu, QPushButton, QVBoxLayout, QWidget
from pytestqt.qtbot import QtBot

from lumvak.ui.language import turn, turn_window
from lumvak.ui.speech import SPEECH, in_words, worded

WORDS = {"Cell": "Zelle", "a word": "ein Wort", "Save": "Sichern", "{} of {}": "{1} hat {0}"}


@pytest.fixture
def another() -> Iterator[None]:
    SPEECH.sentences = WORDS
    yield
    SPEECH.sentences = {}


def a_page(qtbot: QtBot) -> QWidget:
    page = QWidget()
    qtbot.addWidget(page)
    box = QVBoxLayout(page)
    label, button, line, combo = QLabel("Cell"), QPushButton("Save"), QLineEdit("Cell"), QComboBox()
    label.setToolTip("a word")
    label.setAccessibleName("Cell")
    line.setPlaceholderText("a word")
    combo.addItems(["Cell", "3 Ah"])
    menu = QMenu("Cell", page)
    entry = QAction("Save\tCtrl+S", page)
    page.addAction(entry)
    menu.addAction(entry)
    for each in (label, button, line, combo):
        box.addWidget(each)
    return page


@pytest.mark.usefixtures("another")
def test_all_that_a_page_was_made_with_is_turned_but_what_was_typed(qtbot: QtBot) -> None:
    page = a_page(qtbot)
    turn(page)
    turn_window(page)
    label, line = page.findChildren(QLabel)[0], page.findChildren(QLineEdit)[0]
    combo, menu = page.findChildren(QComboBox)[0], page.findChildren(QMenu)[0]
    assert (label.text(), label.toolTip(), label.accessibleName()) == ("Zelle", "ein Wort", "Zelle")
    assert page.findChildren(QPushButton)[0].text() == "Sichern"
    assert (line.text(), line.placeholderText()) == ("Cell", "ein Wort")
    assert [combo.itemText(place) for place in range(combo.count())] == ["Zelle", "3 Ah"]
    assert menu.title() == "Zelle"
    assert "Sichern\tCtrl+S" in {action.text() for action in page.findChildren(QAction)}


@pytest.mark.usefixtures("another")
def test_menus_go_back_to_our_language_with_it(qtbot: QtBot) -> None:
    page = a_page(qtbot)
    turn_window(page)
    SPEECH.sentences = {}
    turn_window(page)
    assert page.findChildren(QMenu)[0].title() == "Cell"
    assert "Save\tCtrl+S" in {action.text() for action in page.findChildren(QAction)}


def test_our_own_language_turns_nothing(qtbot: QtBot) -> None:
    page = a_page(qtbot)
    turn(page)
    assert page.findChildren(QLabel)[0].text() == "Cell"


@pytest.mark.usefixtures("another")
def test_values_stand_where_the_other_language_wants_them() -> None:
    assert worded("{} of {}", 3, "Cell") == "Zelle hat 3"
    assert worded("{} and {}", 3, 4) == "3 and 4"
    assert in_words("Cell") == "Zelle"
    assert in_words("unknown") == "unknown"
