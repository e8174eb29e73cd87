"""What lies over the window while it is asked for: a sheet with a frame, that Escape takes away."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lumvak.ui.language import turn
from lumvak.ui.widgets.theme import THEME


class Over(QWidget):
    """A sheet in the upper middle of a window; the focus goes back to where it was."""

    def __init__(self, over: QWidget, name: str, wide: int, high: int) -> None:
        super().__init__(over)
        self.setObjectName("paper")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setAccessibleName(name)
        self._size = (wide, high)
        self._before: QWidget | None = None
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(*(THEME.px(edge) for edge in (16, 12, 16, 12)))
        self.hide()

    def lie_over(self) -> None:
        """Come to lie over the window."""
        turn(self)
        over = self.parentWidget()
        assert over is not None
        self._before = over.focusWidget()
        wide = min(THEME.px(self._size[0]), over.width() - THEME.px(40))
        high = min(THEME.px(self._size[1]), over.height() - THEME.px(60))
        self.setGeometry((over.width() - wide) // 2, THEME.px(40), wide, high)
        self.show()
        self.raise_()

    def leave(self) -> None:
        """Go away, and give the focus back."""
        self.hide()
        if self._before is not None:
            self._before.setFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.leave()
            return
        super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setPen(THEME.colour("soft"))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
