"""The need drawn: the voltage window with the pack in it, and the load or the duty."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen

from lumvak.core.evaluation import Evaluation
from lumvak.core.said import capital
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing, Told


class NeedDrawing(Drawing):
    """The need drawn: the voltage window with the pack in it, and the load with its peak."""

    def __init__(self) -> None:
        super().__init__()
        self._seen: Evaluation | None = None
        self.setMinimumHeight(THEME.px(118))
        self.setMaximumHeight(THEME.px(210))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Draw this need."""
        self._seen = evaluation
        demand = evaluation.sized.demand
        self.setAccessibleName(
            worded(
                "{} {}, max. {}; pack from {} to {}",
                spoken(capital(demand.window.stop_words)),
                say(demand.window.stop.value, "V"),
                say(demand.window.highest.value, "V"),
                say(evaluation.figures["pack.voltage_empty_v"].value, "V"),
                say(evaluation.sized.pack.full.value, "V"),
            )
        )
        self.update()

    def told(self) -> Told:
        """The window, the pack in it and the load as rows."""
        seen = self._seen
        if seen is None:
            return Told("Need", (), ())
        window, demand = seen.sized.demand.window, seen.sized.demand
        figures = (
            (window.stop_words, window.stop),
            ("pack empty", seen.figures["pack.voltage_empty_v"]),
            ("pack nominal", seen.figures["pack.voltage_nominal_v"]),
            ("pack full", seen.sized.pack.full),
            ("survives", window.highest),
            ("load", demand.load_figure),
            ("peak", demand.peak),
            ("peak lasts", demand.peak_duration),
        )
        rows = [(name, say(figure.value, figure.unit)) for name, figure in figures]
        return Told("Need", ("what", "value"), rows)

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(600), THEME.px(118))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._seen is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(THEME.font("note", table=True))
        half = self.width() / 2
        self._paint_window(painter, QRectF(0, 0, half - THEME.px(28), self.height()), self._seen)
        self._paint_load(
            painter, QRectF(half + THEME.px(12), 0, half - THEME.px(12), self.height()), self._seen
        )

    def _paint_window(self, painter: QPainter, rect: QRectF, evaluation: Evaluation) -> None:
        window, pack = evaluation.sized.demand.window, evaluation.sized.pack
        empty = evaluation.figures["pack.voltage_empty_v"].number
        stop, highest, full = window.stop.number, window.highest.number, pack.full.number
        low, high = min(stop, empty), max(highest, full)
        margin = 0.12 * (high - low)
        low, high = low - margin, high + margin

        def x(volts: float) -> float:
            return rect.left() + (volts - low) / (high - low) * rect.width()

        top, base = THEME.px(26), self.height() - THEME.px(30)
        box = QRectF(x(stop), top, x(highest) - x(stop), base - top)
        painter.fillRect(box, THEME.colour("tint"))
        painter.setPen(QPen(THEME.colour("verdigris"), 1.5))
        painter.drawLine(box.topLeft(), box.bottomLeft())
        painter.drawLine(box.topRight(), box.bottomRight())
        painter.setPen(THEME.colour("verdigris"))
        left = Qt.AlignmentFlag.AlignLeft
        words = (
            f"{in_words(window.stop_words)} {say(stop, 'V')}",
            worded("max. {}", say(highest, "V")),
        )
        painter.drawText(QRectF(box.left() + 4, top + 2, 200, 20), left, words[0])
        metrics = painter.fontMetrics()
        crowded = sum(map(metrics.horizontalAdvance, words)) + THEME.px(16) > box.width()
        second = top + 2 + (THEME.px(16) if crowded else 0)
        painter.drawText(
            QRectF(box.right() - 204, second, 200, 20), Qt.AlignmentFlag.AlignRight, words[1]
        )
        thick = THEME.px(14)
        middle = (top + THEME.px(20) + base) / 2
        bar = QRectF(x(empty), middle - thick / 2, x(full) - x(empty), thick)
        painter.fillRect(bar, THEME.colour("copper_wash"))
        painter.setPen(QPen(THEME.colour("copper"), 2))
        nominal, choice = x(pack.nominal.number), evaluation.sized.choice
        painter.drawLine(
            round(nominal), round(bar.top() - 4), round(nominal), round(bar.bottom() + 4)
        )
        painter.setPen(THEME.colour("soft"))
        painter.drawText(
            QRectF(rect.left(), 0, rect.width(), 20),
            left,
            worded("voltage window, and {} in series of {} in it", choice.series, choice.cell.name),
        )
        painter.setPen(THEME.colour("line"))
        painter.drawLine(round(rect.left()), base, round(rect.right()), base)
        painter.setPen(THEME.colour("soft"))
        for volts, word in ((empty, "empty"), (pack.nominal.number, "nominal"), (full, "full")):
            painter.drawText(
                QRectF(x(volts) - 60, base + 4, 120, 20),
                Qt.AlignmentFlag.AlignHCenter,
                worded("{} {}", word, say(volts, "V")),
            )

    def _paint_load(self, painter: QPainter, rect: QRectF, evaluation: Evaluation) -> None:
        load, peak = evaluation.sized.pack.current.number, evaluation.sized.demand.peak.number
        seconds = evaluation.sized.demand.peak_duration.number
        painter.setPen(THEME.colour("soft"))
        painter.drawText(
            QRectF(rect.left(), 0, rect.width(), 20),
            Qt.AlignmentFlag.AlignLeft,
            in_words("current drawn from the pack"),
        )
        base, top = self.height() - THEME.px(30), THEME.px(30)
        if evaluation.sized.demand.duty:
            self._paint_duty(painter, rect, evaluation, base - top)
            return
        right = rect.right() - THEME.px(64)
        scale = (base - top) / max(load, peak)
        width = right - rect.left()
        start, stop = rect.left() + width * 0.34, rect.left() + width * 0.52
        painter.fillRect(
            QRectF(rect.left(), base - load * scale, width, load * scale), THEME.colour("copper")
        )
        painter.fillRect(
            QRectF(start, base - peak * scale, stop - start, (peak - load) * scale),
            THEME.colour("copper_wash"),
        )
        painter.setPen(THEME.colour("line"))
        painter.drawLine(round(rect.left()), base, round(right), base)
        painter.setPen(THEME.colour("ink"))
        painter.drawText(
            QRectF(right + THEME.px(6), base - load * scale - THEME.px(9), THEME.px(64), 20),
            Qt.AlignmentFlag.AlignLeft,
            say(load, "A"),
        )
        if peak > load * 1.02:
            painter.drawText(
                QRectF(stop + THEME.px(6), top - 2, 160, 20),
                Qt.AlignmentFlag.AlignLeft,
                worded("{} for {}", say(peak, "A"), say(seconds, "s")),
            )
        painter.setPen(THEME.colour("soft"))
        painter.drawText(
            QRectF(rect.left(), base + 4, width, 20), Qt.AlignmentFlag.AlignRight, in_words("time")
        )

    def _paint_duty(
        self, painter: QPainter, rect: QRectF, evaluation: Evaluation, height: float
    ) -> None:
        duty, unit = evaluation.sized.demand.duty, evaluation.project.need.duty_unit
        base = rect.bottom() - THEME.px(30)
        right = rect.right() - THEME.px(64)
        whole = sum(seconds for _, seconds in duty)
        scale = height / max(amount for amount, _ in duty)
        x = rect.left()
        for amount, seconds in duty:
            width = seconds / whole * (right - rect.left())
            bar = QRectF(x, base - amount * scale, width, amount * scale)
            painter.fillRect(bar, THEME.colour("copper_wash"))
            x += width
        heat = evaluation.sized.demand.load_figure.number
        mean = heat * evaluation.sized.demand.mean_share
        for value, role, word in ((heat, "copper", "heat"), (mean, "verdigris", "mean")):
            y = base - value * scale
            painter.setPen(QPen(THEME.colour(role), 1.5))
            painter.drawLine(round(rect.left()), round(y), round(right), round(y))
            shift = -THEME.px(17) if word == "heat" else THEME.px(1)
            painter.drawText(
                QRectF(right - THEME.px(30), y + shift, THEME.px(94), 20),
                Qt.AlignmentFlag.AlignRight,
                f"{in_words(word)} {say(value, unit)}",
            )
        painter.setPen(THEME.colour("line"))
        painter.drawLine(round(rect.left()), round(base), round(right), round(base))
        painter.setPen(THEME.colour("soft"))
        painter.drawText(
            QRectF(rect.left(), base + 4, right - rect.left(), 20),
            Qt.AlignmentFlag.AlignRight,
            worded("one round, {}", say(whole, "s")),
        )
