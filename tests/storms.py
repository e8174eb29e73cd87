"""Random actions in a real window, by pointer and keys, with every undo compared to the byte."""

from __future__ import annotations

import random
import re
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from types import TracebackType
from unittest.mock import patch

from PyQt6.QtCore import (
    QEvent,
    QMessageLogContext,
    QPoint,
    Qt,
    QtMsgType,
    qInstallMessageHandler,
)
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QApplication,
    QComboBox,
    QFileDialog,
    QLineEdit,
    QMessageBox,
    QWidget,
)

from lumvak.files.own_parts import load_own, parts_text
from lumvak.files.project_file import project_text
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.order import STAGES

# What is typed into any field: fitting, unfitting, and made to break it.
TYPED = (
    "", "0", "1", "2", "3", "10", "18", "0.5", "36V", "20 A", "0,2 mm", "1 h 15", "80 %", "AWG 12",
    "45 °C", "a word", "-1", "-5 °C", "1e9", "1e-320", "1e308 kW", "nan", "9" * 300, "=1+1", "<b>",
)  # fmt: skip
KEYS = (
    Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Return,
    Qt.Key.Key_Space, Qt.Key.Key_Delete, Qt.Key.Key_Escape, Qt.Key.Key_Home, Qt.Key.Key_End,
    Qt.Key.Key_Plus, Qt.Key.Key_Minus, Qt.Key.Key_Tab,
)  # fmt: skip
LEFT = Qt.MouseButton.LeftButton
# What the platform without a screen says of itself.
OFFSCREEN = "This plugin does not support"
CONTROL = Qt.KeyboardModifier.ControlModifier


class NotTheSame(Exception):
    """A state of the project or of the own parts is not what it was, or an action raised."""


def _spot(widget: QWidget, draw: random.Random) -> QPoint:
    return QPoint(draw.randrange(max(widget.width(), 1)), draw.randrange(max(widget.height(), 1)))


def _keys(widget: QWidget, text: str) -> None:
    """Press the keys of a text; QTest knows those of ASCII alone."""
    for letter in text:
        for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
            event = QKeyEvent(kind, 0, Qt.KeyboardModifier.NoModifier, letter)
            QApplication.sendEvent(widget, event)


def _type(edit: QLineEdit, draw: random.Random) -> str:
    text, there = draw.choice(TYPED), edit.text() or edit.placeholderText()
    if draw.random() < 0.6 and (number := re.search(r"[\d.]+", there)):
        # Another number of the kind that stands there.
        fresh = f"{float(number[0].strip('.') or 1) * draw.uniform(0.8, 1.25):.3g}"
        text = there.replace(number[0], fresh)
    edit.setFocus()
    edit.selectAll()
    if not text:
        QTest.keyClick(edit, Qt.Key.Key_Delete)
    _keys(edit, text)
    key = draw.choice((Qt.Key.Key_Return, Qt.Key.Key_Return, Qt.Key.Key_Tab, Qt.Key.Key_Escape))
    QTest.keyClick(edit, key)
    return f"typed {text[:20]!r}, {key.name}"


def _press(button: QAbstractButton, draw: random.Random) -> str:
    menu = button.menu() if hasattr(button, "menu") else None
    if menu is None:
        QTest.mouseClick(button, LEFT)
        return f"pressed {button.text()!r}"
    menu.aboutToShow.emit()
    entries = [item for item in menu.actions() if item.isEnabled() and item.menu() is None]
    if not entries:
        return "an empty menu"
    entry = draw.choice(entries)
    entry.trigger()
    return f"from a menu {entry.text()!r}"


def _go_through(view: QAbstractItemView, draw: random.Random) -> str:
    viewport, model = view.viewport(), view.model()
    assert viewport is not None
    if model is None or not model.rowCount():
        return "an empty table"
    index = model.index(draw.randrange(model.rowCount()), draw.randrange(model.columnCount()))
    view.scrollTo(index)
    held = draw.choice((Qt.KeyboardModifier.NoModifier, CONTROL))
    QTest.mouseClick(viewport, LEFT, held, view.visualRect(index).center())
    if draw.random() < 0.3:
        _keys(view, draw.choice(TYPED)[:12])
    key = draw.choice(KEYS)
    QTest.keyClick(view, key)
    return f"row {index.row()}, column {index.column()}, {key.name}"


def _choose(box: QComboBox, draw: random.Random) -> str:
    box.setFocus()
    key = draw.choice((Qt.Key.Key_Down, Qt.Key.Key_Up, Qt.Key.Key_End, Qt.Key.Key_Home))
    QTest.keyClick(box, key)
    return key.name


def _point(widget: QWidget, draw: random.Random) -> str:
    begin, end = _spot(widget, draw), _spot(widget, draw)
    kind = draw.random()
    if kind < 0.4:
        QTest.mouseClick(widget, LEFT, pos=begin)
        return f"clicked {begin.x()}, {begin.y()}"
    if kind < 0.6:
        QTest.mousePress(widget, LEFT, pos=begin)
        QTest.mouseMove(widget, (begin + end) / 2)
        QTest.mouseMove(widget, end)
        QTest.mouseRelease(widget, LEFT, pos=end)
        return f"dragged {begin.x()}, {begin.y()} to {end.x()}, {end.y()}"
    widget.setFocus()
    key = draw.choice(KEYS)
    QTest.keyClick(widget, key)
    return key.name


HANDS: tuple[tuple[type[QWidget], Callable[..., str]], ...] = (
    (QLineEdit, _type), (QAbstractButton, _press), (QComboBox, _choose),
    (QAbstractItemView, _go_through), (QWidget, _point),
)  # fmt: skip


def on_a_widget(window: Window, draw: random.Random, within: QWidget | None = None) -> str:
    """One action on a widget that can be seen; kinds of widgets are equally likely."""
    kinds: dict[type[QWidget], list[QWidget]] = {}
    for widget in (within or window).findChildren(QWidget):
        if not widget.isVisible() or not widget.isEnabled() or widget.visibleRegion().isEmpty():
            continue
        focusable = widget.focusPolicy() != Qt.FocusPolicy.NoFocus
        if focusable or isinstance(widget, QAbstractButton):
            kind = next(kind for kind, _ in HANDS if isinstance(widget, kind))
            kinds.setdefault(kind, []).append(widget)
    if not kinds:
        return "nothing to take hold of"
    kind = draw.choice(sorted(kinds, key=lambda kind: kind.__name__))
    widget = draw.choice(kinds[kind])
    name = f"{type(widget).__name__} {widget.objectName() or widget.accessibleName()}"
    return f"{name}: {dict(HANDS)[kind](widget, draw)}"


def _elsewhere(window: Window, draw: random.Random) -> str:
    """Another stage, and another view of it; now and then another sheet."""
    if draw.random() < 0.05:
        window.swap_sheet()
        return "the other sheet"
    stage = draw.choice(STAGES).key
    window.open_stage(stage)
    views = getattr(window.stages[stage], "views", None)
    if not views:
        return stage
    view = draw.choice(sorted(views))
    window.stages[stage].show_view(view)
    return f"{stage}/{view}"


@contextmanager
def nobody_asked(draw: random.Random) -> Iterator[list[str]]:
    """Dialogs are answered at random, files never named; what slots raise, and what Qt warns of,
    is gathered.
    """
    raised: list[str] = []

    def answered(box: QMessageBox) -> int:
        draw.choice(box.buttons()).click()
        return 0

    def hook(kind: type[BaseException], error: BaseException, _: TracebackType | None) -> None:
        at, place = error.__traceback__, ""
        while at is not None:
            place = f"{at.tb_frame.f_code.co_filename}:{at.tb_lineno}"
            at = at.tb_next
        raised.append(f"{kind.__name__}: {error} ({place})")

    def warned(kind: QtMsgType, _: QMessageLogContext, text: str | None) -> None:
        quiet = kind in (QtMsgType.QtDebugMsg, QtMsgType.QtInfoMsg)
        if not quiet and not (text or "").startswith(OFFSCREEN):
            raised.append(f"Qt: {text}")

    sys.excepthook, before = hook, sys.excepthook
    handler = qInstallMessageHandler(warned)
    try:
        with (
            patch.object(QMessageBox, "exec", answered),
            patch.object(QFileDialog, "getOpenFileName", lambda *_: ("", "")),
            patch.object(QFileDialog, "getSaveFileName", lambda *_: ("", "")),
        ):
            yield raised
    finally:
        sys.excepthook = before
        qInstallMessageHandler(handler)


def window_storm(window: Window, actions: int, seed: int) -> int:
    """So many random actions, then all undone and redone; how many steps there were in the end.

    Raises NotTheSame with the seed's last action where a state of the project or of the builder's
    own parts is not, to the byte, what it was at that place of the undo stack.
    """
    session, draw = window.session, random.Random(seed)
    stack = session.undo_stack

    def state() -> tuple[str, str]:
        return project_text(session.project), parts_text(load_own())

    states: dict[int, tuple[str, str]] = {stack.index(): state()}

    def hold(said: str) -> None:
        if raised:
            raise NotTheSame(f"{said}: {raised[0]}")
        place, seen = stack.index(), state()
        if states.setdefault(place, seen) != seen:
            raise NotTheSame(f"{said}: step {place} is not what it was")

    place = stack.index()
    with nobody_asked(draw) as raised:
        for turn in range(actions):
            kind = draw.random()
            if kind < 0.28:
                # What is typed into the field that is left counts as a step of its own.
                window.setFocus()
            before, text = stack.index(), stack.undoText()
            if before > place:
                states = {at: seen for at, seen in states.items() if at <= place}
            if kind < 0.08:
                said = f"to {_elsewhere(window, draw)}"
            elif kind < 0.22:
                QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
                said = "undo"
            elif kind < 0.28:
                QTest.keyClick(window, Qt.Key.Key_Y, CONTROL)
                said = "redo"
            else:
                said = on_a_widget(window, draw)
            QApplication.processEvents()
            place = stack.index()
            if place > before and said != "redo":
                # What was undone is gone, and new steps stand in its place.
                states = {at: seen for at, seen in states.items() if at <= before}
            elif not place and text and not stack.count():
                states = {}
            hold(f"action {turn}, {said}")
        while stack.canUndo():
            stack.undo()
            hold("on the way back")
        while stack.canRedo():
            stack.redo()
            hold("on the way forth")
        # So that nothing is left that a closing window would take up.
        window.commit_pending()
    return stack.count()
