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
    QResizeEvent,
)
from PyQt6.QtWidgets import QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.cures import LINKS
from lumvak.core.figures.link import Link
from lumvak.ui.speech import in_words, say, say_fixed, spoken, worded
from lumvak.ui.widgets.keys import is_enter, moved, step_of
from lumvak.ui.widgets.marks import draw_mark
from lumvak.ui.widgets.measured import elided, text_width
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Spots, Told

ENDS = {"vehicle": "motor", "tool": "tool", "supply": "equipment", "portable": "rails"}
# The scale ends at this multiple of the largest demand; wider links are drawn open-ended.
SCALE_DEMANDS = 1.8
FULL_HALF = 27
# Heights at 100 %: open, and folded to one line with a small channel at its end.
OPEN, FOLDED = 134, 30
SMALL_HALF, SMALL_WIDE = 9, 190


class PathView(QWidget):
    """Paints the chain; a click or Enter goes to where a link is set."""

    opened = pyqtSignal(str, str)
    unfolded = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._links: tuple[Link, ...] = ()
        self._weakest = ""
        self._end = "motor"
        self._current = 0
        self._folded = False
        self._spots = Spots(self, self._take)
        self.setAccessibleName(in_words("Current path"))
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setObjectName("sheet")

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the chain of an evaluation."""
        if evaluation.path.links is self._links and ENDS[evaluation.project.need.kind] == self._end:
            return
        self._links = evaluation.path.links
        self._weakest = evaluation.path.weakest.key if evaluation.path.weakest is not None else ""
        self._end = ENDS[evaluation.project.need.kind]
        self._current = min(self._current, len(self._links) - 1)
        self._tell()
        self.update()

    def _tell(self) -> None:
        names = [
            worded(
                "Current path, {}: carries {}, {} drawn{}",
                spoken(link.name),
                say(link.continuous_a, "A"),
                say(link.demand_a, "A"),
                ", too narrow" if link.bursts else "",
            )
            for link in self._links
        ]
        self._spots.show(names, self._current)
        self._spots.lay(self.sections())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._spots.lay(self.sections())

    def told(self) -> Told:
        """The links as rows."""
        rows = [
            (
                spoken(link.name),
                in_words("no limit")
                if math.isinf(link.continuous_a)
                else say(link.continuous_a, "A"),
                say(link.demand_a, "A"),
                in_words("too narrow") if link.bursts else say(link.headroom, "%"),
                spoken(link.detail),
            )
            for link in self._links
        ]
        return Told("Current path", ("link", "carries", "drawn", "margin", "part"), rows)

    def fold(self, folded: bool) -> None:
        """Fold to one line, or show the whole channel."""
        self._folded = folded
        self.setFixedHeight(THEME.px(FOLDED if folded else OPEN))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(500), THEME.px(FOLDED if self._folded else OPEN))

    def _span(self) -> tuple[float, float]:
        if self._folded:
            right = self.width() - THEME.px(20)
            return right - min(THEME.px(SMALL_WIDE), self.width() / 4), right
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
        full = SMALL_HALF if self._folded else FULL_HALF
        return THEME.px(full) * min(1.0, current_a / top)

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
        rects = self.sections()
        if self._folded:
            self._paint_line(painter)
            self._paint_channel(painter, rects, self.height() / 2)
            return
        middle = THEME.px(78)
        self._paint_heads(painter, rects)
        self._paint_channel(painter, rects, middle)
        self._paint_open(painter, rects, middle)
        self._paint_ends(painter, middle)
        self._paint_limits(painter, rects)

    def _paint_channel(self, painter: QPainter, rects: list[QRectF], middle: float) -> None:
        """What each link carries, for long and for its peak, and the stream through it."""
        peaks = [self._half(max(link.peak_a, link.continuous_a)) for link in self._links]
        steady = [self._half(link.continuous_a) for link in self._links]
        painter.fillPath(self._channel(peaks, middle), THEME.colour("rule"))
        channel = self._channel(steady, middle)
        painter.fillPath(channel, THEME.colour("grey_wash"))
        self._paint_stream(painter, rects, middle)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(THEME.colour("ink"), 1.3))
        painter.drawPath(channel)

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

    def words(self) -> tuple[tuple[str, str], ...]:
        """The path in one line, as texts with the colour of each."""
        first = self._links[0]
        weakest = next(link for link in self._links if link.key == self._weakest)
        role = "crimson" if weakest.bursts else "amber"
        verb = in_words("too narrow" if weakest.bursts else "sets the rating")
        return (
            (f"{spoken(weakest.name)} {verb}: {say_fixed(weakest.continuous_a, 'A')}", role),
            (worded("{} draws {}", self._end, say_fixed(first.demand_a, "A")), "copper"),
            (worded("{} for {}", say(first.peak_demand_a, "A"), say(first.peak_s, "s")), "soft"),
        )

    def _paint_line(self, painter: QPainter) -> None:
        """The path in one line: the weakest link, what it carries, and what is drawn."""
        x, middle, end = THEME.px(26), self.height() / 2, self._span()[0] - THEME.px(12)
        if not self._weakest:
            return
        weakest = next(link for link in self._links if link.key == self._weakest)
        draw_mark(painter, x, middle, "stop" if weakest.bursts else "warn")
        x += THEME.px(16)
        for place, (text, role) in enumerate(self.words()):
            room = int(end - x)
            if room < THEME.px(40):
                break
            font, strong = ("note", False) if place == 2 else ("table", True)
            painter.setFont(THEME.font(font, strong=strong, table=True))
            painter.setPen(THEME.colour(role))
            shown = elided(text, room, font, strong=strong, table=True)
            box = QRectF(x, 0, room, self.height())
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, shown)
            x += text_width(shown, font, strong=strong, table=True) + THEME.px(18)
        if self.hasFocus():
            painter.setPen(THEME.colour("verdigris"))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))

    def heads(self) -> list[tuple[str, str, QRectF]]:
        """Name, word below it and room of each link's head.

        Where names are longer than their sections, every other one stands a line lower, and the
        word of the weakest link alone is kept.
        """
        rects, gap, line = self.sections(), THEME.px(4), THEME.px(18)
        wanted = max(
            text_width(spoken(link.name), "table", strong=True, table=True) for link in self._links
        )
        staggered = wanted > rects[0].width() - 2 * gap
        heads = []
        for place, (rect, link) in enumerate(zip(rects, self._links, strict=True)):
            narrow = link.key == self._weakest
            note = (
                in_words("too narrow")
                if link.bursts
                else in_words("sets the rating")
                if narrow
                else spoken(link.detail)
            )
            box = QRectF(rect.left() + gap, THEME.px(6), rect.width() - 2 * gap, THEME.px(20))
            if staggered:
                note = ""
                reach = rect.width() / 2 - gap if 0 < place < len(rects) - 1 else THEME.px(30)
                box = QRectF(
                    rect.left() - reach,
                    THEME.px(5) + place % 2 * line,
                    rect.width() + 2 * reach,
                    line,
                )
            heads.append((spoken(link.name), note, box))
        return heads

    def _paint_heads(self, painter: QPainter, rects: list[QRectF]) -> None:
        for place, ((name, note, box), link) in enumerate(
            zip(self.heads(), self._links, strict=True)
        ):
            narrow = link.key == self._weakest
            strong = narrow or link.bursts
            role = "crimson" if link.bursts else "amber" if narrow else "soft"
            shown = elided(name, int(box.width()), "table", strong=strong, table=True)
            wide = text_width(shown, "table", strong=strong, table=True) + THEME.px(8)
            around = QRectF(box.center().x() - wide / 2, box.top(), wide, box.height())
            if narrow:
                painter.fillRect(box if note else around, THEME.colour("amber_wash"))
            if place == self._current and self.hasFocus():
                painter.setPen(THEME.colour("verdigris"))
                painter.drawRect(box if note else around)
            painter.setFont(THEME.font("table", strong=strong, table=True))
            painter.setPen(THEME.colour(role))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, shown)
            painter.setFont(THEME.font("note", strong=strong, table=True))
            below = QRectF(box.left(), box.bottom(), box.width(), THEME.px(16))
            said = elided(note, int(below.width()), "note", strong=strong, table=True)
            painter.drawText(below, Qt.AlignmentFlag.AlignCenter, said)

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
            in_words("cells"),
        )
        link = self._links[0]
        left = self.width() - THEME.px(100)
        lines = (
            (in_words(self._end), "ink", True),
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
                in_words("no limit")
                if math.isinf(link.continuous_a)
                else say_fixed(link.continuous_a, "A")
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
        if self._folded:
            self.unfolded.emit()
            return
        for place, rect in enumerate(self.sections()):
            if rect.contains(event.position()):
                self._take(place)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        if step and self._links:
            self._current = moved(self._current, step, len(self._links))
            self._tell()
            self.update()
        elif is_enter(event) and self._links:
            if self._folded:
                self.unfolded.emit()
            else:
                self._open()
        else:
            super().keyPressEvent(event)

    def _take(self, place: int) -> None:
        self._current = place
        self._tell()
        self._open()

    def _open(self) -> None:
        link = self._links[self._current]
        self.opened.emit(LINKS.get(link.key, ""), link.limit.key)
