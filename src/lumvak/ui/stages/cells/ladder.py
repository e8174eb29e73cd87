"""The ladder of counts: spans from empty to full against the equipment's window."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import QWidget

from lumvak.core.comparison.series_ladder import Rung
from lumvak.core.evaluation import Evaluation, rungs_in_hand
from lumvak.ui.speech import digits, in_words, say, spoken, worded
from lumvak.ui.widgets.keys import is_enter, moved, step_of
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Spots, Told

ROW, HEAD, FOOT = 22, 22, 24


class LadderView(QWidget):
    """Paints the rungs; a click on one that serves picks its best option."""

    picked = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self._rungs: tuple[Rung, ...] = ()
        self._stop = self._highest = 0.0
        self._stop_words = ""
        self._current = 0
        self._spots = Spots(self, lambda place: self.picked.emit(self._rungs[place]))
        self.setAccessibleName(in_words("Ladder of counts"))
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the ladder of an evaluation."""
        window = evaluation.sized.demand.window
        rungs = rungs_in_hand(evaluation)
        if len(rungs) != len(self._rungs):
            self.setMinimumHeight(THEME.px(HEAD + FOOT + ROW * len(rungs)))
        self._rungs = rungs
        self._stop, self._highest = window.stop.number, window.highest.number
        self._stop_words = window.stop_words
        self._current = min(self._current, max(0, len(rungs) - 1))
        self._tell()
        self.update()

    def _tell(self) -> None:
        names = [
            worded("{} {}S {}", rung.family, rung.series, spoken(rung.says)) for rung in self._rungs
        ]
        self._spots.show(names, self._current)
        self._spots.lay([self.row_rect(place) for place in range(len(names))])

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._spots.lay([self.row_rect(place) for place in range(len(self._rungs))])

    def told(self) -> Told:
        """The rungs as rows."""
        rows = [
            (
                rung.family,
                f"{rung.series}S",
                say(rung.empty_v, "V"),
                say(rung.full_v, "V"),
                spoken(rung.says),
            )
            for rung in self._rungs
        ]
        return Told("Ladder of counts", ("family", "count", "empty", "full", "what it means"), rows)

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(600), THEME.px(HEAD + FOOT + ROW * len(self._rungs)))

    def _columns(self) -> tuple[float, float]:
        return THEME.px(168), self.width() - self._words_width() - THEME.px(16)

    def _words_width(self) -> int:
        """Room for the longest of what is said at the right."""
        metrics = QFontMetrics(THEME.font("note", strong=True, table=True))
        return max(
            (metrics.horizontalAdvance(spoken(rung.says)) for rung in self._rungs), default=0
        )

    def row_rect(self, place: int) -> QRectF:
        return QRectF(0, THEME.px(HEAD + ROW * place), self.width(), THEME.px(ROW))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._rungs:
            return
        painter = QPainter(self)
        left, right = self._columns()
        usual = [rung for rung in self._rungs if rung.full_v < 1.6 * self._highest]
        low = min([self._stop, *(rung.empty_v for rung in usual)])
        high = max([self._highest, *(rung.full_v for rung in usual)])
        low = max(low, self._stop - 0.8 * (self._highest - self._stop) - 0.1 * self._stop)
        low, high = low - 0.03 * (high - low), high + 0.03 * (high - low)

        def x(volts: float) -> float:
            return left + (max(volts, low) - low) / (high - low) * (right - left)

        bottom = self.row_rect(len(self._rungs) - 1).bottom()
        box = QRectF(x(self._stop), THEME.px(2), x(self._highest) - x(self._stop), bottom)
        painter.fillRect(box, THEME.colour("tint"))
        self._paint_rungs(painter, x)
        painter.setPen(QPen(THEME.colour("verdigris"), 1.5))
        painter.drawLine(box.topLeft(), box.bottomLeft())
        painter.drawLine(box.topRight(), box.bottomRight())
        self._paint_window_words(painter, box)
        self._paint_axis(painter, x, low, high, bottom + THEME.px(3))

    def _paint_window_words(self, painter: QPainter, box: QRectF) -> None:
        painter.setFont(THEME.font("note", strong=True, table=True))
        stop, highest = (
            f"{in_words(self._stop_words)} {say(self._stop, 'V')}",
            worded("max. {}", say(self._highest, "V")),
        )
        metrics = QFontMetrics(painter.font())
        height = THEME.px(18)
        room = metrics.horizontalAdvance(stop + highest) + THEME.px(24) < box.width()
        pad = THEME.px(5)
        if room:
            left = QRectF(box.left() + pad, box.top(), box.width(), height)
            right = QRectF(box.left(), box.top(), box.width() - pad, height)
            sides = Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignRight
        else:
            left = QRectF(box.left() - 200 - pad, box.top(), 200, height)
            right = QRectF(box.right() + pad, box.top(), 200, height)
            sides = Qt.AlignmentFlag.AlignRight, Qt.AlignmentFlag.AlignLeft
        painter.setPen(THEME.colour("verdigris"))
        painter.drawText(left, sides[0] | Qt.AlignmentFlag.AlignVCenter, stop)
        painter.drawText(right, sides[1] | Qt.AlignmentFlag.AlignVCenter, highest)

    def _paint_rungs(self, painter: QPainter, x: object) -> None:
        assert callable(x)
        family = ""
        for place, rung in enumerate(self._rungs):
            rect = self.row_rect(place)
            if rung.chosen:
                mark = QRectF(0, rect.top(), THEME.px(3), rect.height())
                painter.fillRect(rect, THEME.colour("tint"))
                painter.fillRect(mark, THEME.colour("copper"))
            if place == self._current and self.hasFocus():
                painter.setPen(THEME.colour("verdigris"))
                painter.drawRect(rect.adjusted(0, 0, -1, -1))
            ink = "copper" if rung.chosen else "ink" if rung.serves else "soft"
            painter.setPen(THEME.colour("ink" if rung.serves else "soft"))
            painter.setFont(THEME.font("note", table=True))
            middle = Qt.AlignmentFlag.AlignVCenter
            if rung.family != family:
                painter.drawText(
                    QRectF(THEME.px(10), rect.top(), THEME.px(110), rect.height()),
                    middle,
                    in_words(rung.family),
                )
                family = rung.family
            painter.setFont(THEME.font("table", strong=rung.serves, table=True))
            painter.setPen(THEME.colour(ink))
            painter.drawText(
                QRectF(THEME.px(110), rect.top(), THEME.px(44), rect.height()),
                middle | Qt.AlignmentFlag.AlignRight,
                f"{rung.series}S",
            )
            self._paint_span(painter, rect, rung, x)
            painter.setFont(THEME.font("note", strong=rung.chosen, table=True))
            painter.setPen(THEME.colour("ink" if rung.serves else "soft"))
            painter.drawText(
                QRectF(0, rect.top(), self.width() - THEME.px(8), rect.height()),
                middle | Qt.AlignmentFlag.AlignRight,
                spoken(rung.says),
            )

    def _paint_span(self, painter: QPainter, rect: QRectF, rung: Rung, x: object) -> None:
        assert callable(x)
        height = THEME.px(10)
        top = rect.center().y() - height / 2
        wash = "copper_wash" if rung.chosen else "verdigris_wash" if rung.serves else "grey_wash"
        end = min(max(rung.end_v, rung.empty_v), rung.full_v)
        painter.fillRect(QRectF(x(end), top, x(rung.full_v) - x(end), height), THEME.colour(wash))
        pen = QPen(THEME.colour("soft"), 1.2)
        pen.setStyle(Qt.PenStyle.DotLine)
        painter.setPen(pen)
        y = rect.center().y()
        painter.drawLine(round(x(rung.empty_v)), round(y), round(x(end)), round(y))
        role = "copper" if rung.chosen else "verdigris" if rung.serves else "soft"
        painter.setPen(QPen(THEME.colour(role), 2))
        nominal = round(x(rung.nominal_v))
        painter.drawLine(nominal, round(top - 2), nominal, round(top + height + 2))
        if rung.full_v > self._highest + 1e-9:
            painter.setPen(QPen(THEME.colour("crimson"), 1.4))
            over = QRectF(x(self._highest), top, x(rung.full_v) - x(self._highest), height)
            painter.drawLine(over.topLeft(), over.bottomRight())
            painter.drawLine(over.bottomLeft(), over.topRight())

    def _paint_axis(
        self, painter: QPainter, x: object, low: float, high: float, top: float
    ) -> None:
        assert callable(x)
        painter.setPen(THEME.colour("line"))
        painter.drawLine(round(x(low)), round(top), round(x(high)), round(top))
        step = next(
            size for size in (0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500) if (high - low) / size <= 9
        )
        painter.setFont(THEME.font("note", table=True))
        tick = -(-low // step) * step
        while tick <= high:
            painter.setPen(THEME.colour("line"))
            painter.drawLine(round(x(tick)), round(top), round(x(tick)), round(top + 4))
            painter.setPen(THEME.colour("soft"))
            painter.drawText(
                QRectF(x(tick) - 30, top + 3, 60, THEME.px(18)),
                Qt.AlignmentFlag.AlignCenter,
                f"{digits(tick, 'g')}",
            )
            tick += step
        painter.drawText(
            QRectF(x(high) + 2, top + 3, 40, THEME.px(18)), Qt.AlignmentFlag.AlignLeft, "V"
        )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        for place, rung in enumerate(self._rungs):
            if self.row_rect(place).contains(event.position()):
                self._current = place
                self._tell()
                self.picked.emit(rung)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Up, Qt.Key.Key_Down)
        if step and self._rungs:
            self._current = moved(self._current, step, len(self._rungs))
            self._tell()
            self.update()
        elif is_enter(event) and self._rungs:
            self.picked.emit(self._rungs[self._current])
        else:
            super().keyPressEvent(event)
