"""A number that can be clicked to see how it came about."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy

from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say_fixed
from lumvak.ui.widgets.keys import is_enter
from lumvak.ui.widgets.measured import text_width
from lumvak.ui.widgets.theme import THEME


class FigureLabel(QAbstractButton):
    """A figure in words: name and value; a click or Enter shows its working in the margin."""

    def __init__(self, session: Session, key: str, name: str, strong: bool = False) -> None:
        super().__init__()
        self.session, self.key, self.strong = session, key, strong
        self.name = in_words(name)
        self.said = ""
        self._assumed = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setToolTip(in_words("Show how this came about"))
        self.clicked.connect(lambda: session.explain(key))

    def show_figure(self, text: str = "") -> None:
        """Show the figure as it is now; ``text`` replaces the plain value."""
        figure = self.session.figure(self.key)
        assumed = figure is not None and figure.origin == "assumed"
        text = text or ("—" if figure is None else say_fixed(figure.value, figure.unit))
        if (text, assumed) == (self.said, self._assumed):
            return
        before = self.sizeHint()
        self.said, self._assumed = text, assumed
        self.setAccessibleName(f"{self.name} {self.said}".strip())
        if self.sizeHint() != before:
            self.updateGeometry()
        self.update()

    def _widths(self) -> tuple[int, int]:
        name = text_width(self.name, "table", table=True) + THEME.px(6) if self.name else 0
        mark = THEME.px(10) if self._assumed else 0
        return name, text_width(self.said, "table", strong=True, table=True) + mark

    def sizeHint(self) -> QSize:
        name, value = self._widths()
        return QSize(name + value + THEME.px(6), THEME.px(24))

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        name, value = self._widths()
        rect = QRectF(0, 0, self.width(), self.height())
        if self.hasFocus() or self.underMouse():
            painter.fillRect(rect, THEME.colour("tint"))
        if self.hasFocus():
            painter.setPen(THEME.colour("verdigris"))
            painter.drawRect(rect.adjusted(0.5, 0.5, -1, -1))
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.setFont(THEME.font("table", table=True))
        painter.setPen(THEME.colour("soft"))
        painter.drawText(QRectF(2, 0, name, rect.height()), middle, self.name)
        painter.setFont(THEME.font("table", strong=True, table=True))
        painter.setPen(THEME.colour("copper" if self.strong else "ink"))
        painter.drawText(QRectF(2 + name, 0, value, rect.height()), middle, self.said)
        if self._assumed:
            draw_assumed(painter, rect.right() - THEME.px(8), rect.center().y())

    def enterEvent(self, event: Any) -> None:
        self.update()

    def leaveEvent(self, event: Any) -> None:
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if is_enter(event):
            self.click()
        else:
            super().keyPressEvent(event)


def draw_assumed(painter: QPainter, x: float, y: float) -> None:
    """The mark of an assumed value: a small open diamond, so that it is not told by colour."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(THEME.colour("amber"), 1.4))
    painter.translate(x, y)
    painter.rotate(45)
    side = THEME.px(5)
    painter.drawRect(QRectF(-side / 2, -side / 2, side, side))
    painter.restore()
