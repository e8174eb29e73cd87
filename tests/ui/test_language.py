from __future__ import annotations

from collections.abc import Iterator

import pytest
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QComboBox, QLabel, QLineEdit, QMenu, QPushButton, QVBoxLayout, QWidget
from pytestqt.qtbot import QtBot

from lumvak.ui.language import turn, turn_window
from lumvak.ui.speech import SPEECH, in_words, word_typed, worded
from lumvak.ui.widgets.words import plain

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


@pytest.mark.usefixtures("another")
def test_several_sentences_in_one_text_are_said_one_by_one() -> None:
    SPEECH.sentences = {
        **WORDS,
        "Ends here. Read on.": "Endet hier. Weiter.",
        "Read on.": "Lesen.",
    }
    assert in_words("Cell: Ends here. Read on.") == "Zelle: Endet hier. Weiter."
    assert in_words("Save. Read on.") == "Sichern. Lesen."
    assert in_words("1  Cell\n2  a word.") == "1  Zelle\n2  ein Wort."
    # What nobody knows is left as it is, and so is a word within another.
    assert in_words("Ostrel 21-48; Cells, Save") == "Ostrel 21-48; Cells, Sichern"


@pytest.mark.usefixtures("another")
def test_a_word_is_typed_in_either_language() -> None:
    assert word_typed(" cell ", ("Save", "Cell")) == "Cell"
    assert word_typed("ZELLE", ("Save", "Cell")) == "Cell"
    assert word_typed("Zell", ("Save", "Cell")) is None


@pytest.mark.usefixtures("another")
def test_a_label_says_what_it_is_told_whenever_that_is(qtbot: QtBot) -> None:
    label = plain("Cell")
    qtbot.addWidget(label)
    assert label.text() == "Zelle"
    label.setText("Save")
    label.setAccessibleName("a word")
    label.setToolTip("Cell")
    assert (label.text(), label.accessibleName(), label.toolTip()) == (
        "Sichern",
        "ein Wort",
        "Zelle",
    )
