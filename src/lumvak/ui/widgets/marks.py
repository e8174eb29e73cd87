"""Marks of state: each is a shape as well as a colour."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from lumvak.ui.widgets.theme import THEME

SEVERITY_ROLES = {
    "stop": "crimson",
    "warn": "amber",
    "note": "soft",
    "fine": "verdigris",
    "to do": "soft",
    "none": "soft",
}


def draw_mark(painter: QPainter, x: float, y: float, severity: str, size: float = 0) -> None:
    """A mark centred at (x, y).

    Disc fine, bar note, triangle warn, diamond stop, dash none, empty circle to do.
    """
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    colour = THEME.colour(SEVERITY_ROLES[severity])
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour)
    size = size or THEME.px(6)
    if severity == "stop":
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(x, y - size * 1.15),
                    QPointF(x + size * 1.15, y),
                    QPointF(x, y + size * 1.15),
                    QPointF(x - size * 1.15, y),
                ]
            )
        )
    elif severity == "warn":
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(x, y - size),
                    QPointF(x + size * 1.1, y + size * 0.85),
                    QPointF(x - size * 1.1, y + size * 0.85),
                ]
            )
        )
    elif severity == "none":
        painter.drawRect(QRectF(x - size * 0.7, y - size * 0.15, size * 1.4, size * 0.3))
    elif severity == "to do":
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour, THEME.px(1.5)))
        painter.drawEllipse(QPointF(x, y), size * 0.75, size * 0.75)
    elif severity == "note":
        painter.drawRect(QRectF(x - size * 0.3, y - size, size * 0.6, size * 2))
    else:
        painter.drawEllipse(QPointF(x, y), size * 0.85, size * 0.85)
    painter.restore()


class DrawnMark(QWidget):
    """A mark as a widget, to stand before a line of text."""

    def __init__(self) -> None:
        super().__init__()
        self._severity = "note"
        self.setFixedSize(THEME.px(22), THEME.px(20))

    def show_severity(self, severity: str) -> None:
        """Show the mark of a severity."""
        self._severity = severity
        self.setAccessibleName(severity)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        draw_mark(QPainter(self), self.width() / 2, self.height() / 2, self._severity)


def draw_ring(painter: QPainter, x: float, y: float) -> None:
    """The ring around the stage that is open."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(THEME.colour("copper"), THEME.px(2)))
    radius = THEME.px(9)
    painter.drawEllipse(QPointF(x, y), radius, radius)
    painter.restore()
