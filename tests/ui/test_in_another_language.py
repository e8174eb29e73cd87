"""The whole window in another language: nothing left in ours, nothing cut, and back again."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QEvent, Qt
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
from pytestqt.qtbot import QtBot

from lumvak.files.languages import sentences_of
from lumvak.ui.bench_mode import BenchMode
from lumvak.ui.laid_over.over import Over
from lumvak.ui.shell.window import Window
from lumvak.ui.speech import SPEECH, in_words
from tests.conftest import BARROW, DEMOS
from tests.sizes import faults_of, views_of

GERMAN = sentences_of("de")
TEDDER = DEMOS / "hay-tedder.lumvak.json"
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


@pytest.mark.parametrize("demo", [BARROW, TEDDER], ids=lambda path: path.stem)
def test_no_word_is_left_in_ours_and_nothing_is_cut_in_any_view(
    german: Window, monkeypatch: pytest.MonkeyPatch, demo: Path
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
        # A found pack differs where it is looked at as one.
        if demo is TEDDER and stage not in ("as_found", "trouble", "beside"):
            continue
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


OVER = ("&New …", "S&helf", "Pr&actise", "&Drawings as rows", "&Find anything", "&Preferences")
BENCHES = {
    "joints": ("making",),
    "charging": ("log",),
    "hand": ("measure", "groups"),
    "taps": ("guide", "check"),
    "prove": ("tests",),
    "trouble": ("find",),
}


def test_no_word_is_left_in_ours_in_what_lies_over_the_window(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(
        "lumvak.ui.laid_over.practising.card_path", lambda: tmp_path / "practise.json"
    )
    doing = {begin: it for begin in OVER for name, it in window.menus.actions if begin in name}
    assert len(doing) == len(OVER)
    turned_to(window, "de")
    window.go_to("joints")
    theirs, left, seen = set(GERMAN.values()), set(), 0
    for begin, action in doing.items():
        action.trigger()
        QApplication.processEvents()
        over = [it for it in window.findChildren(Over) if it.isVisible()]
        assert over, begin
        for page in over:
            for text in shown(page):
                seen += 1
                if in_ours(text, theirs):
                    left.add(f"{begin}: {text}")
            page.leave()
    SPEECH.sentences = {}
    assert seen > 200
    assert "\n".join(sorted(left)) == ""


@pytest.mark.parametrize("stage", BENCHES)
def test_no_word_is_left_in_ours_at_the_bench(qtbot: QtBot, german: Window, stage: str) -> None:
    theirs, left = set(GERMAN.values()), set()
    for view in BENCHES[stage]:
        german.open_stage(stage)
        german.stages[stage].show_view(view)  # type: ignore[attr-defined]
        german.begin_bench()
        found = (it for it in QApplication.topLevelWidgets() if type(it) is BenchMode)
        bench = next((it for it in found if it.isVisible()), None)
        # Where nothing is measured yet there are no steps.
        if bench is None:
            assert stage in ("hand", "prove", "trouble"), view
            continue
        for _ in range(4):
            left |= {f"{view}: {text}" for text in shown(bench) if in_ours(text, theirs)}
            qtbot.keyClick(bench.entry if bench.entry.isVisible() else bench, Qt.Key.Key_Return)
        bench.close()
        bench.deleteLater()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
    assert "\n".join(sorted(left)) == ""


def test_the_window_goes_to_another_language_and_back(window: Window) -> None:
    menus = [action.text() for action in window.menuBar().actions()]  # type: ignore[union-attr]
    before = set(shown(window))
    turned_to(window, "de")
    there = [action.text() for action in window.menuBar().actions()]  # type: ignore[union-attr]
    assert there != menus and set(shown(window)) != before
    turned_to(window, "en")
    assert [action.text() for action in window.menuBar().actions()] == menus  # type: ignore[union-attr]
    assert set(shown(window)) == before
