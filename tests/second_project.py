"""Another project opened where one was at work: it looks as in a window that knew no other."""

from __future__ import annotations

import random
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QCoreApplication, QEvent, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QApplication,
    QComboBox,
    QLabel,
    QLineEdit,
    QWidget,
)

from lumvak.ui.application import make_window
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.told import told_by
from lumvak.ui.work import Work
from tests.dots import dots
from tests.storms import nobody_asked, on_a_widget

SETTLED_S = 30.0
# So much of what is painted may differ, as a share of the dots.
LEAST_SEEN = 0.006
Array = NDArray[np.uint8]
# Every view of every stage; a stage of one view has none.
EVERY = [(stage.key, view) for stage in STAGES for view in (dict(stage.views) or {"": ""})]


class NotTheSame(Exception):
    """Something of the project before is left."""


def turn_to(window: Window, stage: str, view: str) -> None:
    """Turn to a view of a stage."""
    window.open_stage(stage)
    if view:
        window.stages[stage].show_view(view)
    QApplication.processEvents()


def _works(page: QWidget) -> Iterator[Work]:
    """What works beside the window for a page."""
    for widget in (page, *page.findChildren(QWidget)):
        for value in vars(widget).values():
            found = getattr(value, "_work", value)
            if isinstance(found, Work):
                yield found


def settle(page: QWidget) -> None:
    """Wait until nothing is worked out any more; raises TimeoutError."""
    until = time.monotonic() + SETTLED_S
    quiet = 0
    while quiet < 3:
        QTest.qWait(40)
        quiet = 0 if any(work.busy for work in _works(page)) else quiet + 1
        if time.monotonic() > until:
            raise TimeoutError("something is worked out without an end")


def shown(window: Window) -> list[tuple[str, ...]]:
    """What every widget in view says."""
    found = []
    for widget in window.centralWidget().findChildren(QWidget):  # type: ignore[union-attr]
        if not widget.isVisible():
            continue
        said = [type(widget).__name__, widget.accessibleName()]
        if isinstance(widget, QLabel | QLineEdit):
            said.append(widget.text())
        if isinstance(widget, QLineEdit):
            said.append(widget.placeholderText())
        if isinstance(widget, QAbstractButton):
            said += [widget.text(), str(widget.isChecked()), str(widget.isEnabled())]
        if isinstance(widget, QComboBox):
            said += [widget.itemText(place) for place in range(widget.count())]
            said.append(widget.currentText())
        if isinstance(widget, QAbstractItemView) and (model := widget.model()) is not None:
            said += [
                str(model.index(row, column).data())
                for row in range(min(model.rowCount(), 40))
                for column in range(model.columnCount())
            ]
        if (told := told_by(widget)) is not None:
            said += [" | ".join(row) for row in told.rows]
        found.append(tuple(said))
    return found


def _picture(window: Window) -> Array:
    """(height, width, 4) what is painted, without a ring about what has the focus."""
    if (at := QApplication.focusWidget()) is not None:
        at.clearFocus()
    QApplication.processEvents()
    return dots(window.grab().toImage())


def differs(used: Window, fresh: Window) -> str:
    """In what two windows differ; empty where they look the same."""
    one, two = shown(used), shown(fresh)
    for mine, theirs in zip(one, two, strict=False):
        if mine != theirs:
            return f"{mine} instead of {theirs}"[:400]
    if len(one) != len(two):
        return f"{len(one)} widgets instead of {len(two)}"
    mine, theirs = _picture(used), _picture(fresh)
    # Names on a plot are not moved by a few px alone, so that they do not jump.
    if mine.shape != theirs.shape or np.mean((mine != theirs).any(axis=2)) > LEAST_SEEN:
        return "it is painted otherwise"
    return ""


def second_project(
    first: Path, second: Path, stage: str, view: str, actions: int, seed: int
) -> None:
    """Use a view of one project, open another, and hold it against a window of its own.

    Raises NotTheSame where they differ, and what the hands raise.
    """
    app, draw = QApplication.instance(), random.Random(seed)
    assert isinstance(app, QApplication)
    windows = []
    try:
        used = make_window(app, first)
        windows.append(used)
        used.show()
        turn_to(used, stage, view)
        with nobody_asked(draw) as raised:
            for _ in range(actions):
                said = on_a_widget(used, draw, used.stages[stage])
                QApplication.processEvents()
                if raised:
                    raise NotTheSame(f"{said}: {raised[0]}")
                if used.stage != stage:
                    turn_to(used, stage, view)
            if draw.random() < 0.5:
                QTest.keyClick(used, Qt.Key.Key_F9)
                QApplication.processEvents()
            if raised:
                raise NotTheSame(f"at the bench: {raised[0]}")
        used.commit_pending()
        used.session.refused.clear()
        used.session.undo_stack.setClean()
        used.files.open(second)
        fresh = make_window(app, second)
        windows.append(fresh)
        fresh.session.splits = dict(used.session.splits)
        fresh.resize(used.size())
        fresh.show()
        for window in windows:
            # What is new at a stage is told of what was seen before: they come the same way.
            turn_to(window, "run" if stage == "need" else "need", "")
            turn_to(window, stage, view)
            window.notice.hide()
            settle(window.stages[stage])
        if said := differs(used, fresh):
            raise NotTheSame(f"{stage}/{view}: {said}")
    finally:
        for window in windows:
            window.commit_pending()
            window.session.refused.clear()
            window.session.undo_stack.setClean()
            window.close()
            window.deleteLater()
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
