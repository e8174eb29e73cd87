"""The whole window in another language: nothing left in ours, nothing cut, and back again."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QApplication,
    QComboBox,
    QHeaderView,
    QLabel,
    QLineEdit,
    QTableWidget,
    QWidget,
)

from lumvak.files.languages import sentences_of
from lumvak.ui.shell.window import Window
from lumvak.ui.speech import SPEECH, in_words
from tests.sizes import faults_of, views_of

GERMAN = sentences_of("de")
SIZES = ((1280, 800), (960, 640))


def turned_to(window: Window, language: str) -> None:
    window.settings = replace(window.settings, language=language)
    window.set_text(100)
    QApplication.processEvents()


@pytest.fixture
def german(window: Window) -> Iterator[Window]:
    turned_to(window, "de")
    yield window
    SPEECH.sentences = {}


def shown(root: QWidget) -> Iterator[str]:
    """What is read on a page; cells that are typed in stay as they were typed."""
    for widget in root.findChildren(QWidget):
        yield widget.toolTip()
        yield widget.accessibleName()
        if isinstance(widget, QLabel | QAbstractButton):
            yield widget.text()
        elif isinstance(widget, QLineEdit):
            yield widget.placeholderText()
        elif isinstance(widget, QComboBox):
            yield from (widget.itemText(place) for place in range(widget.count()))
        elif isinstance(widget, QAbstractItemView) and (model := widget.model()) is not None:
            for column in range(model.columnCount()):
                yield str(model.headerData(column, Qt.Orientation.Horizontal) or "")
                if not isinstance(widget, QTableWidget | QHeaderView):
                    for row in range(min(model.rowCount(), 12)):
                        yield str(model.index(row, column).data() or "")


def in_ours(text: str, theirs: set[str]) -> bool:
    """Whether something in a text would be said otherwise in the other language."""
    return text not in theirs and in_words(text) not in (text, "")


def test_no_word_is_left_in_ours_and_nothing_is_cut_in_any_view(
    german: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    painted: set[str] = set()
    draw = QPainter.drawText

    def seen(painter: QPainter, *given: Any) -> object:
        painted.update(it for it in given if isinstance(it, str))
        return draw(painter, *given)

    monkeypatch.setattr(QPainter, "drawText", seen)
    # What the project calls its parts is left as it is.
    named = {part.name for part in german.session.project.arrangement.kept_free}
    theirs = {*GERMAN.values(), *named}
    left, cut = set(), set()
    for stage, view in views_of(german):
        place = f"{stage}/{view}"
        painted.clear()
        german.grab()
        texts = {*shown(german.stages[stage]), *shown(german.margin), *painted}
        left |= {f"{place}: {text}" for text in texts if in_ours(text, theirs)}
        for size in SIZES:
            german.resize(*size)
            for _ in range(5):
                QApplication.processEvents()
            cut |= {f"{place}, {size}: {fault}" for fault in faults_of(german)}
    assert "\n".join(sorted(left)) == ""
    assert "\n".join(sorted(cut)) == ""


def test_the_window_goes_to_another_language_and_back(window: Window) -> None:
    menus = [action.text() for action in window.menuBar().actions()]  # type: ignore[union-attr]
    before = set(shown(window))
    turned_to(window, "de")
    there = [action.text() for action in window.menuBar().actions()]  # type: ignore[union-attr]
    assert there != menus and set(shown(window)) != before
    turned_to(window, "en")
    assert [action.text() for action in window.menuBar().actions()] == menus  # type: ignore[union-attr]
    assert set(shown(window)) == before
