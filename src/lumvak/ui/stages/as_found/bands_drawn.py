"""What each part of a found pack carries, as bars on one scale, against what it was sold as."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy

from lumvak.core.as_found.audit import Audit
from lumvak.core.as_found.limits import FoundLink
from lumvak.ui.speech import in_words, say, spoken
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing, Told

ROW_PX, BAR_PX, NAME_PX, DETAIL_PX, AXIS_PX = 24, 9, 128, 180, 22
HEADS = ("part", "as seen", "at least", "likely", "at most")
# The scale ends so far past what is promised or likely of the weakest parts.
PAST = 1.6
STEPS = (1.0, 2.0, 5.0)


class BandsDrawn(Drawing):
    """A line a part: a bar from the least to the most that it may carry, a mark where it likely is.

    The weakest stands on top; what it was sold as is a line through all of them.
    """

    def __init__(self) -> None:
        super().__init__()
        self.links: tuple[FoundLink, ...] = ()
        self.promised_a: float | None = None
        self.weakest = ""
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_audit(self, audit: Audit) -> None:
        """Show the parts of a pack."""
        self.links = tuple(sorted(audit.links, key=lambda it: it.continuous.value))
        self.promised_a, self.weakest = audit.found.promised_a, audit.set_by.key
        self.setAccessibleName(self.told().heard)
        self.updateGeometry()
        self.update()

    def told(self) -> Told:
        """The same in words."""
        rows = [
            (it.name, spoken(it.detail), *(_amps(end) for end in _ends(it))) for it in self.links
        ]
        return Told("What each part carries", HEADS, rows)

    def sizeHint(self) -> QSize:
        high = max(len(self.links), 1) * THEME.px(ROW_PX) + THEME.px(AXIS_PX)
        return QSize(THEME.px(520), high)

    def minimumSizeHint(self) -> QSize:
        return QSize(THEME.px(380), self.sizeHint().height())

    @property
    def top_a(self) -> float:
        """Where the scale ends, in A."""
        likely = [it.continuous.value for it in self.links if math.isfinite(it.continuous.value)]
        likely.sort()
        most = max([*likely[: max(len(likely) // 2 + 1, 1)], self.promised_a or 0.0], default=1.0)
        return most * PAST

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(THEME.font("note", table=True))
        left = float(THEME.px(NAME_PX + min(DETAIL_PX, max(0, self.width() // 4))))
        room = QRectF(left, 0.0, self.width() - left - THEME.px(64), 0.0)
        top = self.top_a

        def x(amps: float) -> float:
            return room.left() + min(amps / top, 1.0) * room.width()

        self._scale(painter, room, top)
        for place, link in enumerate(self.links):
            row = QRectF(0.0, place * THEME.px(ROW_PX), self.width(), THEME.px(ROW_PX))
            self._row(painter, link, row, room, x)
        if self.promised_a is not None:
            painter.setPen(QPen(THEME.colour("copper"), 2, Qt.PenStyle.DashLine))
            at = x(self.promised_a)
            foot = len(self.links) * THEME.px(ROW_PX)
            painter.drawLine(QPointF(at, 0.0), QPointF(at, foot))

    def _scale(self, painter: QPainter, room: QRectF, top: float) -> None:
        power = 10.0 ** math.floor(math.log10(max(top, 1e-3)))
        step = next((power * it / 2.0 for it in STEPS if top / (power * it / 2.0) <= 6), power)
        foot = len(self.links) * THEME.px(ROW_PX)
        for number in range(int(top / step) + 1):
            at = room.left() + number * step / top * room.width()
            painter.setPen(QPen(THEME.colour("line"), 1))
            painter.drawLine(QPointF(at, 0.0), QPointF(at, foot))
            painter.setPen(THEME.colour("soft"))
            words = say(number * step, "A")
            box = QRectF(at - THEME.px(30), foot + 2, THEME.px(60), THEME.px(18))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    def _row(
        self, painter: QPainter, link: FoundLink, row: QRectF, room: QRectF, x: object
    ) -> None:
        assert callable(x)
        weak = link.key == self.weakest
        align = Qt.AlignmentFlag
        painter.setFont(THEME.font("note", table=True, strong=weak))
        painter.setPen(THEME.colour("ink"))
        name = QRectF(row.left(), row.top(), THEME.px(NAME_PX), row.height())
        painter.drawText(name, align.AlignLeft | align.AlignVCenter, in_words(link.name))
        painter.setFont(THEME.font("note", table=True))
        painter.setPen(THEME.colour("soft"))
        wide = room.left() - name.right() - THEME.px(10)
        told = QRectF(name.right(), row.top(), wide, row.height())
        metrics = painter.fontMetrics()
        words = metrics.elidedText(spoken(link.detail), Qt.TextElideMode.ElideRight, int(wide))
        painter.drawText(told, align.AlignLeft | align.AlignVCenter, words)
        low, value, high = _ends(link)
        middle = row.center().y()
        end = QRectF(room.right() + THEME.px(6), row.top(), THEME.px(58), row.height())
        painter.setPen(THEME.colour("crimson" if weak else "ink"))
        painter.drawText(end, align.AlignLeft | align.AlignVCenter, _amps(value))
        if math.isinf(low):
            return
        half = THEME.px(BAR_PX) / 2.0
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setOpacity(0.4)
        painter.setBrush(THEME.colour("crimson" if weak else "verdigris"))
        painter.drawRect(QRectF(QPointF(x(low), middle - half), QPointF(x(high), middle + half)))
        painter.setOpacity(1.0)
        if value <= self.top_a:
            painter.drawRect(QRectF(x(value) - 1.5, middle - half - 2, 3.0, 2.0 * half + 4))


def _ends(link: FoundLink) -> tuple[float, float, float]:
    return link.continuous.low, link.continuous.value, link.continuous.high


def _amps(value: float) -> str:
    return say(value, "A") if math.isfinite(value) else in_words("no limit")
