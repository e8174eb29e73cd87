"""Hands that are fast and sensible: what they type goes into the field it was typed into, or waits.

Nothing that is typed may be attached to another field, or be lost without a word.
"""

from __future__ import annotations

import random
import re
from collections.abc import Iterator
from typing import Any

from msgspec import Struct
from msgspec.structs import asdict
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLineEdit, QWidget

from lumvak.core.document.project import Project
from lumvak.ui.bench_mode import BenchMode
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.quantity_field import QuantityField

ALT, CONTROL = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ControlModifier
WORDS = ("a lot", "?", "12 34 V", "0", "-3", "1e9")


class Astray(Exception):
    """What was typed went elsewhere, or is gone."""


def _leaves(record: Any, way: str = "") -> Iterator[tuple[str, Any]]:
    """Every field of a project by its path; the copies of parts are none of the hands' business."""
    for name, value in asdict(record).items():
        if isinstance(value, Struct):
            if name != "parts":
                yield from _leaves(value, f"{way}{name}.")
        else:
            yield way + name, value


def changed(before: Project, after: Project) -> set[str]:
    """Paths of the fields in which two projects differ."""
    one, two = dict(_leaves(before)), dict(_leaves(after))
    return {path for path in one if one[path] != two[path]}


def _field() -> QuantityField | None:
    """The field of a quantity that has the focus."""
    focus = QApplication.focusWidget()
    parent = focus.parentWidget() if isinstance(focus, QLineEdit) else None
    return parent if isinstance(parent, QuantityField) else None


class Hands:
    """A pair of hands at a window; ``did`` is what they did, for whoever looks for a fault."""

    def __init__(self, window: Window, seed: int) -> None:
        self.window, self.draw = window, random.Random(seed)
        self.did: list[str] = []

    def work(self, actions: int) -> None:
        """So many actions; raises Astray."""
        for _ in range(actions):
            act = self.draw.choices(
                (self.type, self.go, self.tab, self.escape, self.undo, self.bench),
                (6, 3, 2, 1, 1, 1),
            )[0]
            act()
            QApplication.processEvents()

    def _press(self, key: Qt.Key, modifier: Any = Qt.KeyboardModifier.NoModifier) -> None:
        QTest.keyClick(QApplication.focusWidget() or self.window, key, modifier)

    def go(self) -> None:
        """To another stage, view or field, by keys or by a click."""
        if self.draw.random() < 0.5:
            place = self.draw.randrange(len(STAGES))
            self.did.append(f"Alt+{place + 1}")
            self._press(Qt.Key(Qt.Key.Key_1 + place), ALT)
        elif self.draw.random() < 0.5:
            place = self.draw.randrange(5)
            self.did.append(f"Ctrl+{place + 1}")
            self._press(Qt.Key(Qt.Key.Key_1 + place), CONTROL)
        else:
            page = self.window.stages[self.window.stage]
            # A click into the field that has the focus places its cursor, and is meant to.
            fields = [
                it
                for it in page.findChildren(QuantityField)
                if it.edit.isVisible() and not it.edit.hasFocus()
            ]
            if fields:
                field = self.draw.choice(fields)
                self.did.append(f"click {field.path}")
                QTest.mouseClick(field.edit, Qt.MouseButton.LeftButton)

    def tab(self) -> None:
        """On with Tab, as often as it takes to come to a field."""
        self.did.append("Tab")
        for _ in range(self.draw.randrange(1, 12)):
            self._press(Qt.Key.Key_Tab)

    def type(self) -> None:
        """Type into what has the focus, and leave it in one of the usual ways."""
        field, session = _field(), self.window.session
        before, waiting = session.project, {it.path for it in session.refused.all}
        if field is None:
            self._type_elsewhere()
            return
        there = field.edit.text() or field.edit.placeholderText()
        number = re.search(r"\d+(\.\d+)?", there)
        in_force = re.search(r"\d+(\.\d+)?", field.shown_text)
        text = self.draw.choice(WORDS)
        if number and self.draw.random() < 0.8:
            text = f"{float(number[0]) * self.draw.choice((0.5, 0.8, 0.95, 1.05, 1.25, 2.0)):.3g}"
        QTest.keyClicks(field.edit, text)
        way = self.draw.choice(("Enter", "Tab", "Alt", "F6", "click"))
        self.did.append(f"{field.path} = {text}, {way}")
        if way == "Alt":
            self._press(Qt.Key(Qt.Key.Key_1 + self.draw.randrange(len(STAGES))), ALT)
        elif way == "click":
            QTest.mouseClick(self.window.build_line, Qt.MouseButton.LeftButton)
            self.window.commit_pending()
        else:
            key = {"Enter": Qt.Key.Key_Return, "Tab": Qt.Key.Key_Tab, "F6": Qt.Key.Key_F6}[way]
            self._press(key)
        after, path = session.project, field.path
        if astray := changed(before, after) - {path} - waiting:
            raise Astray(f"{path} = {text} changed {sorted(astray)}; {self.did[-6:]}")
        kept = session.refused.of(path)
        # What stands there already, or is in force behind what waits, changes nothing.
        same = text in {number and number[0], in_force and in_force[0]}
        taken = same or path in changed(before, after) or field.edit.text() != text
        if kept is None and not taken:
            raise Astray(f"{path} = {text} is gone; {self.did[-6:]}")
        if kept is not None and kept.text != text.strip():
            raise Astray(f"{path} = {text} waits as {kept.text}; {self.did[-6:]}")

    def _type_elsewhere(self) -> None:
        """Digits and Enter where there is no field of a quantity."""
        focus, before = QApplication.focusWidget(), self.window.session.project
        if isinstance(focus, QLineEdit) or focus is None:
            return
        name = before.name
        self.did.append(f"typed at {type(focus).__name__}")
        QTest.keyClicks(focus, "3.61")
        if self.window.session.project.name != name:
            raise Astray(f"the project is called {self.window.session.project.name}")

    def escape(self) -> None:
        """Take back what waits in the field in hand."""
        field, before = _field(), self.window.session.project
        self.did.append("Escape")
        self._press(Qt.Key.Key_Escape)
        if field is not None:
            if changed(before, self.window.session.project):
                raise Astray(f"Escape changed something; {self.did[-6:]}")
            if self.window.session.refused.of(field.path) is not None:
                raise Astray(f"Escape left {field.path} waiting; {self.did[-6:]}")

    def undo(self) -> None:
        """Undo, or redo, and stay where the hands are."""
        stack, name = self.window.session.undo_stack, self.window.session.project.name
        self.did.append("undo")
        (stack.undo if self.draw.random() < 0.7 else stack.redo)()
        if self.window.session.project.name != name:
            raise Astray("an undo has renamed the project")

    def bench(self) -> None:
        """Bench mode, a few readings, out again, and one more before it was noticed."""
        window, name = self.window, self.window.session.project.name
        self.did.append("F9")
        window.begin_bench()
        modes = [it for it in QApplication.topLevelWidgets() if isinstance(it, BenchMode)]
        for mode in [it for it in modes if it.isVisible()]:
            for _ in range(self.draw.randrange(4)):
                at: QWidget = mode.entry if mode.entry.isVisible() else mode
                QTest.keyClicks(at, self.draw.choice(("3.61", "36 1", "x", "3612")))
                QTest.keyClick(at, Qt.Key.Key_Return)
            QTest.keyClick(mode, Qt.Key.Key_Escape)
            mode.deleteLater()
            focus = QApplication.focusWidget()
            if focus is not None:
                QTest.keyClicks(focus, "3.62")
                QTest.keyClick(focus, Qt.Key.Key_Escape)
        if window.session.project.name != name:
            raise Astray(f"after the bench the project is called {window.session.project.name}")
