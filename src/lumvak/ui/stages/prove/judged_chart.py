"""What was expected and what was measured: a line a figure, its band, and the reading on it."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy

from lumvak.core.proving.proof import JudgedFigure
from lumvak.ui.speech import in_words, say, worded
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing, Told

# Heights in px at 100 %, and the share of the width that the band of 99 in 100 takes.
ROW_PX, BAR_PX, MARK_PX, WIDE = 46, 12, 7, 0.7
HEADS = ("figure", "expected", "nine in ten", "measured", "verdict")


class JudgedChart(Drawing):
    """Bands of what is expected: nine in ten dark, 99 in 100 light; the reading as a mark.

    Each line has its own scale, so that what is outside lies outside of its band in all of them.
    """

    def __init__(self) -> None:
        super().__init__()
        self.figures: tuple[JudgedFigure, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_figures(self, figures: Sequence[JudgedFigure]) -> None:
        """Show the figures of a test."""
        self.figures = tuple(figures)
        self.setAccessibleName(self.told().heard or in_words("nothing expected"))
        self.updateGeometry()
        self.update()

    def told(self) -> Told:
        """The same in words."""
        return Told("Expected and measured", HEADS, [_row(item) for item in self.figures])

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(360), max(len(self.figures), 1) * THEME.px(ROW_PX))

    def minimumSizeHint(self) -> QSize:
        return QSize(THEME.px(240), self.sizeHint().height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for place, item in enumerate(self.figures):
            top = place * THEME.px(ROW_PX)
            self._draw(painter, item, QRectF(0, top, self.width(), THEME.px(ROW_PX)))

    def _draw(self, painter: QPainter, item: JudgedFigure, room: QRectF) -> None:
        words = QRectF(room.left(), room.top(), room.width(), THEME.px(20))
        bar = QRectF(room.left(), words.bottom() + THEME.px(4), room.width(), THEME.px(BAR_PX))
        painter.setFont(THEME.font("table", table=True))
        painter.setPen(THEME.colour("ink"))
        align = Qt.AlignmentFlag
        painter.drawText(
            words, align.AlignLeft | align.AlignVCenter, in_words(item.observable.label)
        )
        expected, measured = item.expected, item.measured
        colour = {"outside": "crimson", "inside": "verdigris"}.get(item.verdict, "soft")
        unit = item.observable.unit
        said = worded("expected {}", say(expected.value, unit))
        if measured is not None:
            said = f"{say(measured.value, unit)}, {said}: {in_words(item.verdict)}"
        painter.setPen(THEME.colour(colour))
        painter.drawText(words, align.AlignRight | align.AlignVCenter, said)
        left, width = bar.left() + 0.5 * (1.0 - WIDE) * bar.width(), WIDE * bar.width()

        def x(value: float) -> float:
            return left + expected.along(value) * width

        painter.setPen(QPen(THEME.colour("line"), 1))
        painter.drawLine(
            QPointF(bar.left(), bar.center().y()), QPointF(bar.right(), bar.center().y())
        )
        painter.setBrush(THEME.colour("tint"))
        painter.drawRect(QRectF(left, bar.top(), width, bar.height()))
        inner = QRectF(QPointF(x(expected.low), bar.top()), QPointF(x(expected.high), bar.bottom()))
        painter.setPen(Qt.PenStyle.NoPen)
        shade = THEME.colour("verdigris")
        painter.setOpacity(0.35)
        painter.setBrush(shade)
        painter.drawRect(inner)
        painter.setOpacity(1.0)
        if measured is None:
            return
        at = min(max(x(measured.value), bar.left() + THEME.px(8)), bar.right() - THEME.px(8))
        size = THEME.px(MARK_PX)
        painter.setBrush(THEME.colour(colour))
        painter.setPen(QPen(THEME.colour("sheet"), 1.5))
        middle = QPointF(at, bar.center().y())
        if item.verdict == "outside":
            corners = ((0, -size), (size, 0), (0, size), (-size, 0))
            painter.drawPolygon(QPolygonF([middle + QPointF(*corner) for corner in corners]))
        else:
            painter.drawEllipse(middle, size - 1.0, size - 1.0)


def _row(item: JudgedFigure) -> tuple[str, ...]:
    unit, expected = item.observable.unit, item.expected
    return (
        item.observable.label,
        say(expected.value, unit),
        worded("{} to {}", say(expected.low, unit), say(expected.high, unit)),
        "" if item.measured is None else say(item.measured.value, unit),
        item.verdict,
    )
