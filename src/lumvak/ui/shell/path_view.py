"""The current path: a channel from the cells to the motor, as wide as each link can carry."""

from __future__ import annotations

import math
from itertools import pairwise

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QBrush,
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PyQt6.QtWidgets import QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.link import Link
from lumvak.core.units import say, say_fixed
from lumvak.ui.widgets.keys import is_enter, moved, step_of
from lumvak.ui.widgets.marks import draw_mark
from lumvak.ui.widgets.measured import elided
from lumvak.ui.widgets.theme import THEME

ENDS = {"vehicle": "motor", "tool": "tool", "supply": "equipment", "portable": "rails"}
# The scale ends at this multiple of the largest demand; wider links are drawn open-ended.
SCALE_DEMANDS = 1.8
FULL_HALF = 27


class PathView(QWidget):
    """Paints the chain; a click or Enter goes to where a link is set."""

    opened = pyqtSignal(str, str)

    def __init__(self) -> None:
        super().__init__()
        self._links: tuple[Link, ...] = ()
        self._weakest = ""
        self._end = "motor"
        self._current = 0
        self.setAccessibleName("Current path")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setObjectName("sheet")

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show the chain of an evaluation."""
        if seen.links is self._links and ENDS[seen.project.need.kind] == self._end:
            return
        self._links = seen.links
        self._weakest = seen.weakest.key if seen.weakest is not None else ""
        self._end = ENDS[seen.project.need.kind]
        self._current = min(self._current, len(self._links) - 1)
        self.setAccessibleDescription(
            "; ".join(
                f"{link.name} {say(link.continuous_a, 'A')}{', exceeded' if link.bursts else ''}"
                for link in self._links
            )
        )
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(900), THEME.px(134))

    def minimumSizeHint(self) -> QSize:
        return QSize(THEME.px(500), THEME.px(134))

    def _span(self) -> tuple[float, float]:
        return THEME.px(84), self.width() - THEME.px(112)

    def sections(self) -> list[QRectF]:
        """Where each link lies, from top to bottom of the view."""
        left, right = self._span()
        width = (right - left) / max(1, len(self._links))
        return [
            QRectF(left + place * width, 0, width, self.height())
            for place in range(len(self._links))
        ]

    def _half(self, current_a: float) -> float:
        """Half the width in px that a current takes on the common scale."""
        link = self._links[0]
        top = SCALE_DEMANDS * max(link.demand_a, link.peak_demand_a)
        return THEME.px(FULL_HALF) * min(1.0, current_a / top)

    def _channel(self, halves: list[float], middle: float) -> QPainterPath:
        """A closed channel of these half widths, flowing smoothly from section to section."""
        rects = self.sections()
        blend = min(THEME.px(22), rects[0].width() * 0.3)
        upper: list[tuple[float, float]] = []
        for rect, half in zip(rects, halves, strict=True):
            upper.append((rect.left() + blend, half))
            upper.append((rect.right() - blend, half))
        upper[0] = (rects[0].left(), halves[0])
        upper[-1] = (rects[-1].right(), halves[-1])
        path = QPainterPath(QPointF(upper[0][0], middle - upper[0][1]))
        self._side(path, upper, middle, -1.0)
        path.lineTo(upper[-1][0], middle + upper[-1][1])
        self._side(path, upper[::-1], middle, 1.0)
        path.closeSubpath()
        return path

    def _side(
        self, path: QPainterPath, points: list[tuple[float, float]], middle: float, sign: float
    ) -> None:
        for (x0, h0), (x1, h1) in pairwise(points):
            bend = (x0 + x1) / 2.0
            path.cubicTo(
                QPointF(bend, middle + sign * h0),
                QPointF(bend, middle + sign * h1),
                QPointF(x1, middle + sign * h1),
            )

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._links:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), THEME.colour("sheet"))
        painter.setPen(THEME.colour("line"))
        painter.drawLine(0, 0, self.width(), 0)
        middle = THEME.px(78)
        rects = self.sections()
        self._paint_heads(painter, rects)
        peaks = [self._half(max(link.peak_a, link.continuous_a)) for link in self._links]
        steady = [self._half(link.continuous_a) for link in self._links]
        painter.fillPath(self._channel(peaks, middle), THEME.colour("rule"))
        channel = self._channel(steady, middle)
        painter.fillPath(channel, THEME.colour("grey_wash"))
        self._paint_stream(painter, rects, middle)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(THEME.colour("ink"), 1.3))
        painter.drawPath(channel)
        self._paint_open(painter, rects, middle)
        self._paint_ends(painter, middle)
        self._paint_limits(painter, rects)

    def _paint_stream(self, painter: QPainter, rects: list[QRectF], middle: float) -> None:
        first = self._links[0]
        left, right = rects[0].left(), rects[-1].right()
        load, peak = self._half(first.demand_a), self._half(first.peak_demand_a)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(THEME.colour("copper_wash"))
        painter.drawRect(QRectF(left, middle - peak, right - left, 2 * peak))
        painter.setBrush(THEME.colour("copper"))
        painter.drawRect(QRectF(left, middle - load, right - left, 2 * load))
        for rect, link in zip(rects, self._links, strict=True):
            if not link.bursts:
                continue
            steady = link.demand_a > link.continuous_a
            half = load if steady else peak
            box = QRectF(rect.left(), middle - half, rect.width(), 2 * half)
            painter.setPen(Qt.PenStyle.NoPen)
            if steady:
                painter.setBrush(THEME.colour("crimson"))
                painter.drawRect(box)
            painter.setBrush(QBrush(THEME.colour("crimson"), Qt.BrushStyle.BDiagPattern))
            painter.drawRect(QRectF(rect.left(), middle - peak, rect.width(), 2 * peak))
            self._teeth(painter, box, THEME.px(6))

    def _teeth(self, painter: QPainter, box: QRectF, size: float) -> None:
        """A torn edge above and below: where the stream bursts its channel."""
        count = max(2, int(box.width() // (2.5 * size)))
        step = box.width() / count
        painter.setBrush(THEME.colour("crimson"))
        painter.setPen(Qt.PenStyle.NoPen)
        for edge, sign in ((box.top(), -1.0), (box.bottom(), 1.0)):
            for place in range(count):
                x = box.left() + place * step
                painter.drawPolygon(
                    QPolygonF(
                        [
                            QPointF(x + step * 0.2, edge),
                            QPointF(x + step * 0.5, edge + sign * size),
                            QPointF(x + step * 0.8, edge),
                        ]
                    )
                )

    def _paint_heads(self, painter: QPainter, rects: list[QRectF]) -> None:
        for place, (rect, link) in enumerate(zip(rects, self._links, strict=True)):
            narrow = link.key == self._weakest
            strong = narrow or link.bursts
            role = "crimson" if link.bursts else "amber" if narrow else "soft"
            box = QRectF(rect.left() + 4, THEME.px(6), rect.width() - 8, THEME.px(20))
            if narrow:
                painter.fillRect(box, THEME.colour("amber_wash"))
            if place == self._current and self.hasFocus():
                painter.setPen(THEME.colour("verdigris"))
                painter.drawRect(box)
            font = THEME.font("table", strong=strong, table=True)
            painter.setFont(font)
            painter.setPen(THEME.colour(role))
            name = elided(
                link.name, int(box.width()), "table", strong=narrow or link.bursts, table=True
            )
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, name)
            note = "too narrow" if link.bursts else "sets the rating" if narrow else link.detail
            font = THEME.font("note", strong=strong, table=True)
            painter.setFont(font)
            below = QRectF(box.left(), box.bottom(), box.width(), THEME.px(16))
            shown = elided(
                note, int(below.width()), "note", strong=narrow or link.bursts, table=True
            )
            painter.drawText(below, Qt.AlignmentFlag.AlignCenter, shown)

    def _paint_open(self, painter: QPainter, rects: list[QRectF], middle: float) -> None:
        """Two short strokes where a link is wider than the scale shows."""
        painter.setPen(QPen(THEME.colour("ink"), 1.3))
        full = THEME.px(FULL_HALF)
        for rect, link in zip(rects, self._links, strict=True):
            if self._half(link.continuous_a) < full:
                continue
            x = rect.center().x()
            for sign in (-1, 1):
                y = middle + sign * full
                for shift in (-3, 3):
                    painter.drawLine(QPointF(x + shift - 3, y + 4), QPointF(x + shift + 3, y - 4))

    def _paint_ends(self, painter: QPainter, middle: float) -> None:
        painter.setFont(THEME.font("table", strong=True))
        painter.setPen(THEME.colour("ink"))
        height = THEME.px(20)
        painter.drawText(
            QRectF(THEME.px(20), middle - height / 2, THEME.px(60), height),
            Qt.AlignmentFlag.AlignVCenter,
            "cells",
        )
        link = self._links[0]
        left = self.width() - THEME.px(100)
        lines = (
            (self._end, "ink", True),
            (say_fixed(link.demand_a, "A"), "copper", True),
            (f"{say(link.peak_demand_a, 'A')}, {say(link.peak_s, 's')}", "soft", False),
        )
        for place, (text, role, strong) in enumerate(lines):
            painter.setFont(THEME.font("table" if strong else "note", strong=strong, table=True))
            painter.setPen(THEME.colour(role))
            painter.drawText(
                QRectF(left, middle - THEME.px(28) + place * THEME.px(18), THEME.px(98), height),
                Qt.AlignmentFlag.AlignVCenter,
                text,
            )

    def _paint_limits(self, painter: QPainter, rects: list[QRectF]) -> None:
        for rect, link in zip(rects, self._links, strict=True):
            narrow = link.key == self._weakest
            role = "crimson" if link.bursts else "amber" if narrow else "ink"
            font = THEME.font("table", strong=True, table=True)
            painter.setFont(font)
            painter.setPen(THEME.colour(role))
            text = (
                "no limit" if math.isinf(link.continuous_a) else say_fixed(link.continuous_a, "A")
            )
            box = QRectF(rect.left(), self.height() - THEME.px(26), rect.width(), THEME.px(20))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
            if link.bursts or narrow:
                width = QFontMetrics(font).horizontalAdvance(text)
                severity = "stop" if link.bursts else "warn"
                x = rect.center().x() - width / 2 - THEME.px(12)
                draw_mark(painter, x, box.center().y(), severity)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        for place, rect in enumerate(self.sections()):
            if rect.contains(event.position()):
                self._current = place
                self._open()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        if step and self._links:
            self._current = moved(self._current, step, len(self._links))
            self.update()
        elif is_enter(event) and self._links:
            self._open()
        else:
            super().keyPressEvent(event)

    def _open(self) -> None:
        link = self._links[self._current]
        self.opened.emit(link.stage, link.limit.key)
