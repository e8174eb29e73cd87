"""The whole window in another language: nothing left in ours, nothing cut, and back again."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
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
from lumvak.ui.speech import SPEECH
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


def test_no_word_is_left_in_ours_and_nothing_is_cut_in_any_view(german: Window) -> None:
    theirs = set(GERMAN.values())
    left, cut = set(), set()
    for stage, view in views_of(german):
        place = f"{stage}/{view}"
        left |= {
            f"{place}: {text}"
            for text in shown(german.stages[stage])
            if text in GERMAN and text not in theirs
        }
        for size in SIZES:
            german.resize(*size)
            for _ in range(5):
                QApplication.processEvents()
            cut |= {f"{place}, {size}: {fault}" for fault in faults_of(german)}
    assert sorted(left) == []
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
