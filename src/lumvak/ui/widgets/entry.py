"""A line to type into, that leaves undo to the window when it has nothing of its own to undo."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QKeySequence, QMouseEvent
from PyQt6.QtWidgets import QLineEdit

from lumvak.ui.widgets.keys import step_of
from lumvak.ui.widgets.theme import THEME

# So much larger than a title is what is read at arm's length.
LARGE = 1.2
# After these the hand goes on where it was.
KEEPS = (
    Qt.FocusReason.ActiveWindowFocusReason,
    Qt.FocusReason.PopupFocusReason,
    Qt.FocusReason.MenuBarFocusReason,
)


class EntryField(QLineEdit):
    """A QLineEdit that keeps Ctrl+Z to itself only while what is typed is not yet taken.

    ``stepped`` tells of Up (-1) and Down (1), where anybody listens: a page that scrolls would take
    these keys else.
    """

    stepped = pyqtSignal(int)

    def __init__(self, text: str = "") -> None:
        super().__init__(text)
        self._fresh = False

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """However it comes by the focus, what is typed takes the place of what stands there."""
        super().focusInEvent(event)
        if event is None or event.reason() in KEEPS:
            return
        self.selectAll()
        self._fresh = event.reason() == Qt.FocusReason.MouseFocusReason

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """The click that gave it the focus selects all; a second one places the cursor."""
        super().mouseReleaseEvent(event)
        if self._fresh and not self.hasSelectedText():
            self.selectAll()
        self._fresh = False

    def _leaves(self, event: QKeyEvent) -> bool:
        """Whether a key is none of this line's business."""
        if event.matches(QKeySequence.StandardKey.Undo):
            return not self.isUndoAvailable()
        return event.matches(QKeySequence.StandardKey.Redo) and not self.isRedoAvailable()

    def event(self, event: QEvent | None) -> bool:
        if (
            isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.ShortcutOverride
            and self._leaves(event)
        ):
            event.ignore()
            return False
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and self._leaves(event):
            event.ignore()
            return
        step = step_of(event, Qt.Key.Key_Up, Qt.Key.Key_Down)
        if step and self.receivers(self.stepped):
            self.stepped.emit(step)
            return
        super().keyPressEvent(event)


def large_entry(name: str, width: int = 170) -> EntryField:
    """A line to type into that is read at arm's length, with the ``name`` that is heard."""
    entry = EntryField()
    entry.setAccessibleName(name)
    entry.setFixedWidth(THEME.px(width))
    font = entry.font()
    font.setPixelSize(round(THEME.font("title").pixelSize() * LARGE))
    entry.setFont(font)
    return entry
