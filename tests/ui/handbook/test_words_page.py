"""F1 on a word opens the glossary there."""

import sys
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint
from PyQt6.QtGui import QCursor
from PyQt6.QtWidgets import QApplication, QLabel, QPushButton
from pytestqt.qtbot import QtBot

from lumvak.ui.handbook.pages import WORDS, page_text
from lumvak.ui.handbook.words_page import term_in, terms, text_at
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.figure_label import FigureLabel

sys.path.insert(0, str(Path(__file__).parents[3] / "tools"))


def test_the_page_is_made_from_the_glossary() -> None:
    import glossary

    assert page_text(WORDS) == glossary.page_text(), "run tools/glossary.py"
    assert len(terms()) > 70


@pytest.mark.parametrize(
    ("text", "head"),
    [
        ("Fusible links at each cell", "fusible link"),
        ("its busbars", "busbar"),
        ("BMS", "BMS"),
        ("the breaking capacity of a fuse", "breaking capacity"),
        ("Untitled", ""),
        ("", ""),
    ],
)
def test_the_longest_term_in_a_text_is_found(text: str, head: str) -> None:
    assert term_in(text) == head


def test_labels_buttons_and_figures_show_their_words(qtbot: QtBot, window: Window) -> None:
    place = QPoint(0, 0)
    assert text_at(QLabel("ceiling"), place) == "ceiling"
    assert text_at(QPushButton("drop"), place) == "drop"
    label = window.title_line.findChildren(FigureLabel)[1]
    assert text_at(label, place) == label.accessibleName()
    assert text_at(None, place) == ""
    assert text_at(window, place) == ""


def test_f1_opens_the_word_under_the_pointer_else_the_stage(
    qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    word = QLabel("busbar")
    qtbot.addWidget(word)
    monkeypatch.setattr(QCursor, "pos", lambda: QPoint(5, 5))
    monkeypatch.setattr(QApplication, "widgetAt", lambda _: word)
    window.open_handbook()
    assert window.handbook is not None
    assert window.handbook.textCursor().selectedText() == "busbar:"
    word.setText("nothing of that kind")
    window.open_handbook()
    assert "What is to be powered" in window.handbook.toPlainText() or (
        "Need" in window.handbook.toPlainText()[:200]
    )
