"""Making: is the strip what it was sold as? A milliohm reading tells."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lumvak.core.document.making import Making
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import walk
from lumvak.core.making.strip_check import Reading, check, readings
from lumvak.ui.session import Session
from lumvak.ui.speech import digits, in_words, say, spoken, worded
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.plots import round_range
from lumvak.ui.widgets.quantity_field import QuantityField
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing, Told
from lumvak.ui.widgets.words import soft

ROW, FOOT, TICKS = 34, 26, 4
VERTICAL = Qt.AlignmentFlag.AlignVCenter


class StripRuler(Drawing):
    """What the piece would read of each material, as bands over milliohms, and what was read."""

    def __init__(self) -> None:
        super().__init__()
        self._bands: tuple[Reading, ...] = ()
        self._read: tuple[float, float] | None = None
        self.setMinimumHeight(THEME.px(ROW * 3 + FOOT))

    def show_making(self, making: Making) -> None:
        """Show the bands for a piece, and what was read on it if anything."""
        self._bands = readings(making)
        read = making.check_mohm
        self._read = None if read is None else (read, making.check_meter_mohm)
        said = ", ".join(f"{item.material} {say(item.mohm, 'mΩ')}" for item in self._bands)
        self.setAccessibleName(worded("This piece would read: {}", said))
        self.update()

    def told(self) -> Told:
        """The bands as rows."""
        rows = [
            (item.material, say(item.mohm, "mΩ"), f"± {say(item.within_mohm, 'mΩ')}")
            for item in self._bands
        ]
        return Told("What the piece would read", ("material", "reads", "within"), rows)

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(500), THEME.px(ROW * len(self._bands) + FOOT))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(THEME.font("note", table=True))
        most = max(item.mohm + item.within_mohm for item in self._bands)
        if self._read is not None:
            most = max(most, sum(self._read))
        most = round_range(0.0, most * 1.05)[1]
        left, right = THEME.px(96), self.width() - THEME.px(16)
        row = min(THEME.px(64), (self.height() - THEME.px(FOOT)) / len(self._bands))

        def x(mohm: float) -> float:
            return left + (right - left) * max(mohm, 0.0) / most

        for place, item in enumerate(self._bands):
            top = place * row
            painter.setPen(THEME.colour("ink"))
            label = QRectF(0, top, left - THEME.px(10), row)
            painter.drawText(label, VERTICAL | Qt.AlignmentFlag.AlignRight, item.material)
            low, high = x(item.mohm - item.within_mohm), x(item.mohm + item.within_mohm)
            band = QRectF(low, top + row * 0.2, max(high - low, 2.0), row * 0.6)
            painter.fillRect(band, THEME.colour("verdigris_wash"))
            painter.setPen(QPen(THEME.colour("verdigris"), 2))
            middle = x(item.mohm)
            painter.drawLine(QPointF(middle, band.top()), QPointF(middle, band.bottom()))
            painter.setPen(THEME.colour("soft"))
            words = f"{say(item.mohm, 'mΩ')} ± {say(item.within_mohm, 'mΩ')}"
            self._beside(painter, words, band, right)
        self._paint_axis(painter, x, most, row * len(self._bands))
        if self._read is not None:
            self._paint_read(painter, x, row * len(self._bands))

    def _beside(self, painter: QPainter, words: str, band: QRectF, right: float) -> None:
        """Words right of a band, or left of it where there is no room."""
        wide, gap = painter.fontMetrics().horizontalAdvance(words), THEME.px(6)
        at = band.right() + gap
        if at + wide > right:
            at = band.left() - gap - wide
        painter.drawText(QRectF(at, band.top(), wide + 2, band.height()), VERTICAL, words)

    def _paint_axis(
        self, painter: QPainter, x: Callable[[float], float], most: float, top: float
    ) -> None:
        painter.setPen(THEME.colour("line"))
        painter.drawLine(QPointF(x(0.0), top), QPointF(x(most), top))
        for place in range(TICKS + 1):
            at = most * place / TICKS
            painter.setPen(THEME.colour("line"))
            painter.drawLine(QPointF(x(at), top), QPointF(x(at), top + THEME.px(4)))
            painter.setPen(THEME.colour("soft"))
            unit = " mΩ" if place == TICKS else ""
            box = QRectF(x(at) - THEME.px(40), top + THEME.px(4), THEME.px(80), THEME.px(18))
            if place == TICKS:
                box.moveRight(self.width())
            side = Qt.AlignmentFlag.AlignRight if place == TICKS else Qt.AlignmentFlag.AlignHCenter
            painter.drawText(box, side, f"{digits(at, '.3g')}{unit}")

    def _paint_read(self, painter: QPainter, x: Callable[[float], float], bottom: float) -> None:
        assert self._read is not None
        read, within = self._read
        wash = THEME.colour("copper_wash")
        wash.setAlpha(140)
        painter.fillRect(
            QRectF(x(read - within), 0, x(read + within) - x(read - within), bottom), wash
        )
        painter.setPen(QPen(THEME.colour("copper"), 2))
        painter.drawLine(QPointF(x(read), 0), QPointF(x(read), bottom))


class StripCheck(QWidget):
    """What was measured on a strip, and the verdict."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.checks = [
            QuantityField(session, f"making.check_{name}", label)
            for name, label in (
                ("mohm", "Measured"),
                ("meter_mohm", "Meter within ±"),
                ("length_mm", "Between the probes"),
                ("width_mm", "Width"),
                ("thickness_mm", "Thickness"),
            )
        ]
        self.ruler = StripRuler()
        self.verdict = soft("", wrap=True)
        self.resistivity = FigureLabel(session, "check.resistivity", "resistivity", strong=True)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(
            soft(
                "Send a known current through a strip of known size, and read the drop between "
                "two points on it; or use a meter with four wires.",
                wrap=True,
            )
        )
        for field in self.checks:
            layout.addWidget(field)
        layout.addWidget(self.resistivity)
        self.verdict.setFont(THEME.font("section", strong=True))
        layout.addWidget(self.verdict)
        layout.addWidget(soft("What this piece would read, twice the likely error wide:"))
        layout.addWidget(self.ruler, 1)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what was measured, and what the strip is made of by it."""
        making = evaluation.project.making
        self.ruler.show_making(making)
        found = check(making)
        self.resistivity.setVisible(found is not None)
        if found is None:
            self.verdict.setText(in_words("Enter what the meter reads."))
            return
        self.session.add_figures(walk((found.resistivity,)), self.session.revision)
        self.resistivity.show_figure()
        self.verdict.setText(f"{spoken(found.text)}.")
