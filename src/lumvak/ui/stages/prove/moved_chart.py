"""A figure as designed and as proven: two bands on one scale."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy

from lumvak.core.proving.correction import Proven
from lumvak.ui.speech import say, worded
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing, Told

ROW_PX, BAR_PX, NAME_PX, VALUE_PX = 62, 12, 110, 190


class Moved(Struct, frozen=True):
    """A figure before and after, each with its band."""

    name: str
    unit: str
    before: Proven
    after: Proven


class MovedChart(Drawing):
    """A pair of bars a figure: soft as designed, copper as proven."""

    def __init__(self) -> None:
        super().__init__()
        self.moved: tuple[Moved, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_moved(self, moved: Sequence[Moved]) -> None:
        """Show figures."""
        self.moved = tuple(moved)
        self.setAccessibleName(self.told().heard)
        self.updateGeometry()
        self.update()

    def told(self) -> Told:
        """The same in words."""
        rows = [
            (item.name, way, say(it.value, item.unit), _band(it, item.unit))
            for item in self.moved
            for way, it in (("as designed", item.before), ("as proven", item.after))
        ]
        return Told("As designed and as proven", ("figure", "which", "value", "nine in ten"), rows)

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(480), len(self.moved) * THEME.px(ROW_PX))

    def minimumSizeHint(self) -> QSize:
        return QSize(THEME.px(360), self.sizeHint().height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for place, item in enumerate(self.moved):
            room = QRectF(0, place * THEME.px(ROW_PX), self.width(), THEME.px(ROW_PX))
            self._draw(painter, item, room)

    def _draw(self, painter: QPainter, item: Moved, room: QRectF) -> None:
        lows = min(item.before.low, item.after.low)
        highs = max(item.before.high, item.after.high)
        span = max(highs - lows, 1e-9)
        left, right = THEME.px(NAME_PX), self.width() - THEME.px(VALUE_PX)

        def x(value: float) -> float:
            return left + THEME.px(12) + (value - lows) / span * (right - left - THEME.px(24))

        align = Qt.AlignmentFlag
        painter.setFont(THEME.font("table", strong=True, table=True))
        painter.setPen(THEME.colour("ink"))
        painter.drawText(
            QRectF(0, room.top(), left, room.height()),
            align.AlignLeft | align.AlignVCenter,
            item.name,
        )
        half = room.height() / 2.0
        for place, (way, it, role) in enumerate(
            (("as designed", item.before, "soft"), ("as proven", item.after, "copper"))
        ):
            top = room.top() + place * half
            bar = QRectF(
                QPointF(x(it.low), top + 0.5 * (half - THEME.px(BAR_PX))),
                QPointF(x(it.high), top + 0.5 * (half + THEME.px(BAR_PX))),
            )
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(THEME.colour(role))
            painter.setOpacity(0.4)
            painter.drawRect(bar)
            painter.setOpacity(1.0)
            painter.setPen(QPen(THEME.colour(role), 2.5))
            at = x(it.value)
            painter.drawLine(QPointF(at, bar.top() - 3), QPointF(at, bar.bottom() + 3))
            painter.setFont(THEME.font("note", table=True))
            painter.setPen(THEME.colour("ink" if place else "soft"))
            painter.drawText(
                QRectF(right, top, self.width() - right, half),
                align.AlignLeft | align.AlignVCenter,
                f"{way} {say(it.value, item.unit)}, {_band(it, item.unit)}",
            )


def _band(it: Proven, unit: str) -> str:
    return worded("{} to {}", say(it.low, unit), say(it.high, unit))
