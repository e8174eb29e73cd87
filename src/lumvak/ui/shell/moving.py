"""Moving about the window by keys: to the first field, between views and parts, splitters."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QApplication,
    QComboBox,
    QLineEdit,
    QSplitter,
    QTableWidget,
    QWidget,
)

from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.theme import THEME

STEP_PX = 24
# Keys that move the line between two panes, and the way they move it.
SPLITS = (
    ("Ctrl+Alt+Left", -1, 0), ("Ctrl+Alt+Right", 1, 0),
    ("Ctrl+Alt+Up", 0, -1), ("Ctrl+Alt+Down", 0, 1),
)  # fmt: skip


def _reached(widget: QWidget) -> bool:
    tab = bool(widget.focusPolicy() & Qt.FocusPolicy.TabFocus)
    return tab and widget.isVisible() and widget.isEnabled()


def first_field(page: QWidget) -> QWidget | None:
    """What a hand on the keys wants first in a page: a field, else whatever Tab reaches.

    Of several it is the one that stands first, from the top left.
    """
    reached = [widget for widget in page.findChildren(QWidget) if _reached(widget)]
    fields = [widget for widget in reached if isinstance(widget, QLineEdit | QComboBox)]

    return min(fields or reached, key=lambda it: _corner(it, page), default=None)


def _corner(widget: QWidget, page: QWidget) -> tuple[int, int]:
    corner = widget.mapTo(page, widget.rect().topLeft())
    return corner.y(), corner.x()


def next_rows(page: QWidget) -> QWidget | None:
    """The rows after those in hand, from the top left; none after the last."""
    focus = QApplication.focusWidget()
    rows = [
        it
        for it in page.findChildren(QAbstractItemView)
        if _reached(it) and (model := it.model()) is not None and model.rowCount()
    ]
    rows.sort(key=lambda it: _corner(it, page))
    place = rows.index(focus) + 1 if isinstance(focus, QAbstractItemView) and focus in rows else 0
    return rows[place] if place < len(rows) else None


def view_by(page: Page, *, number: int | None = None, step: int = 0) -> bool:
    """Turn a stage to its view of a number, from 0, or to the next; whether there is one."""
    choice = getattr(page, "view", None)
    if not isinstance(choice, ChoiceRow):
        return False
    offered = choice.offered
    place = number if number is not None else (offered.index(choice.value) + step) % len(offered)
    if not 0 <= place < len(offered):
        return False
    if offered[place] != choice.value:
        choice.picked.emit(offered[place])
    return True


def stops(parts: Sequence[QWidget]) -> list[QWidget]:
    """All that Tab reaches in these parts of a window: one part after the other, as they stand."""
    found: list[QWidget] = []
    for part in parts:
        inner = part if _reached(part) else None
        widget = part.nextInFocusChain()
        while widget is not None and widget is not part:
            if part.isAncestorOf(widget) and _reached(widget):
                found.append(widget)
            widget = widget.nextInFocusChain()
        if inner is not None and inner.focusProxy() is None:
            found.append(inner)
    return found


def next_stop(parts: Sequence[QWidget], step: int) -> bool:
    """Give the focus to the next of what Tab reaches, or the one before; whether it stood in any.

    Pages are made when they are first opened, so that Qt's own order has them behind all else.
    """
    focus, found = QApplication.focusWidget(), stops(parts)
    if focus not in found:
        return False
    reason = Qt.FocusReason.TabFocusReason if step > 0 else Qt.FocusReason.BacktabFocusReason
    found[(found.index(focus) + step) % len(found)].setFocus(reason)
    return True


def next_part(parts: Sequence[QWidget], step: int) -> None:
    """Give the focus to the next part of the window that is seen, or the one before."""
    shown = [part for part in parts if part.isVisible()]
    focus = QApplication.focusWidget()
    here = next(
        (place for place, part in enumerate(shown) if focus is part or part.isAncestorOf(focus)),
        0,
    )
    part = shown[(here + step) % len(shown)]
    wanted = part if _reached(part) else first_field(part)
    if wanted is not None:
        wanted.setFocus(Qt.FocusReason.TabFocusReason)


def move_splitter(across: int, down: int) -> None:
    """Move the line between two panes around what has the focus, by steps across or down."""
    wanted = Qt.Orientation.Horizontal if across else Qt.Orientation.Vertical
    inner, splitter = QApplication.focusWidget(), None
    while inner is not None:
        splitter = inner.parentWidget()
        if isinstance(splitter, QSplitter) and splitter.orientation() == wanted:
            break
        inner = splitter
    if inner is None or not isinstance(splitter, QSplitter):
        return
    sizes, place = splitter.sizes(), splitter.indexOf(inner)
    left = max(place - 1, 0) if place == len(sizes) - 1 else place
    by = THEME.px(STEP_PX) * (across + down)
    sizes[left] += by
    sizes[left + 1] -= by
    splitter.setSizes(sizes)
    splitter.splitterMoved.emit(sizes[left], left + 1)


def commit_pending(window: QWidget) -> None:
    """Take what is typed but not yet entered in the field of a window that has the focus."""
    focus = QApplication.focusWidget()
    if not isinstance(focus, QLineEdit) or not window.isAncestorOf(focus):
        return
    viewport = focus.parentWidget()
    table = viewport.parentWidget() if viewport is not None else None
    if isinstance(table, QTableWidget):
        # An editor in a table hands over what is typed when the focus leaves it.
        table.setFocus()
    else:
        focus.editingFinished.emit()
