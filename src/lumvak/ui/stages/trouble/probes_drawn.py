"""Where the two probes go: the pack as a line of parts, with a mark on each of the two points."""

from __future__ import annotations

from math import ceil

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFontInfo, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy

from lumvak.core.trouble.how import place_said
from lumvak.ui.speech import in_words, spoken, worded
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing, Told

HIGH_PX, DOT_PX, HIGHEST = 150, 6, 0.36
# The parts along the way, as shares of the width: cells, then BMS below, fuse above, plug, charger.
CELLS, FUSE, PLUG, CHARGER = (0.03, 0.6), (0.64, 0.73), (0.77, 0.86), (0.83, 0.99)
UP, MIDDLE, LOW, HALF = 0.16, 0.5, 0.84, 0.16


class ProbesDrawn(Drawing):
    """Groups in a row from − to +, the BMS in the lower line, the fuse in the upper one."""

    def __init__(self) -> None:
        super().__init__()
        self.place, self.series = "", 1
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_place(self, place: str, series: int) -> None:
        """Show where a reading is taken in a pack of so many groups."""
        self.place, self.series = place, series
        self.setAccessibleName(
            worded("Probes: {}", spoken(place_said(place))) if place else in_words("no reading")
        )
        self.update()

    def told(self) -> Told:
        """The same in words."""
        return Told("Where the probes go", ("at",), [(spoken(place_said(self.place)),)])

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(420), THEME.px(HIGH_PX))

    def minimumSizeHint(self) -> QSize:
        return QSize(THEME.px(300), THEME.px(HIGH_PX))

    def _x(self, share: float) -> float:
        return share * self.width()

    def group_x(self, edge: int) -> float:
        """Where the edge of a group lies: 0 is the − end, ``series`` the + end."""
        left, right = CELLS
        return self._x(left + (right - left) * edge / self.series)

    @property
    def high(self) -> float:
        """How high the drawing is within its widget, in pixels: never out of proportion."""
        return min(float(self.height()), max(HIGHEST * self.width(), THEME.px(HIGH_PX)))

    @property
    def scale(self) -> float:
        """How much larger than in the window it is drawn."""
        return self.high / THEME.px(HIGH_PX)

    def _y(self, share: float) -> float:
        return 0.5 * (self.height() - self.high) + share * self.high

    def probes(self) -> tuple[QPointF, ...]:
        """The two points, or none where nothing is measured by probes."""
        kind, _, text = self.place.partition(":")
        number, middle = int(text or 0), 0.5 * sum(CHARGER)
        cells_y, low_y, up_y = self._y(MIDDLE), self._y(LOW), self._y(UP)
        half = HALF * self.high
        at: dict[str, tuple[QPointF, QPointF]] = {
            "terminals": (QPointF(self._x(PLUG[1]), low_y), QPointF(self._x(PLUG[1]), up_y)),
            "pack": (
                QPointF(self.group_x(0), cells_y),
                QPointF(self.group_x(self.series), cells_y),
            ),
            "bms": (QPointF(self.group_x(0), low_y), QPointF(self._x(FUSE[1]), low_y)),
            "fuse": (QPointF(self._x(FUSE[0]), up_y), QPointF(self._x(FUSE[1]), up_y)),
            "connector": (QPointF(self._x(PLUG[0]), up_y), QPointF(self._x(PLUG[1]), up_y)),
            "charger": (QPointF(self._x(middle), low_y), QPointF(self._x(middle), up_y)),
        }
        if kind in at:
            return at[kind]
        leads_y = cells_y + half + 6.0
        if kind in ("group", "groups"):
            number = number or 1
            return (
                QPointF(self.group_x(number - 1), leads_y),
                QPointF(self.group_x(number), leads_y),
            )
        if kind == "tap":
            return QPointF(self.group_x(0), leads_y), QPointF(self.group_x(number), leads_y)
        if kind == "joint":
            edge, gap = self.group_x(number), 0.25 * (self.group_x(1) - self.group_x(0))
            return QPointF(edge - gap, cells_y - half), QPointF(edge + gap, cells_y - half)
        return ()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        cells_y, low_y, up_y = self._y(MIDDLE), self._y(LOW), self._y(UP)
        half, scale = HALF * self.high, self.scale
        ink, soft = QPen(THEME.colour("ink"), 1.6), QPen(THEME.colour("soft"), 1.2)
        painter.setPen(ink)
        # From the + of the cells up and along to the plug, from the − down and along.
        for x, y in ((self.group_x(self.series), up_y), (self.group_x(0), low_y)):
            painter.drawLine(QPointF(x, cells_y), QPointF(x, y))
            painter.drawLine(QPointF(x, y), QPointF(self._x(PLUG[1]), y))
        painter.setPen(soft)
        for edge in range(self.series + 1):
            x = self.group_x(edge)
            painter.drawLine(QPointF(x, cells_y + half), QPointF(x, cells_y + half + 6.0))
        font = THEME.font("note", table=True)
        font.setPixelSize(round(QFontInfo(font).pixelSize() * scale))
        painter.setFont(font)
        # Numbers that do not fit into their group stand above, as many as have room.
        high = painter.fontMetrics().height()
        widest = painter.fontMetrics().horizontalAdvance(str(self.series)) + THEME.px(4)
        for group in range(self.series):
            left, right = self.group_x(group), self.group_x(group + 1)
            gap = min(3.0, 0.12 * (right - left))
            box = QRectF(left + gap, cells_y - half, right - left - 2.0 * gap, 2.0 * half)
            painter.setPen(ink)
            painter.setBrush(THEME.colour("tint"))
            painter.drawRect(box)
            if box.width() > widest:
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(group + 1))
            elif group % ceil(widest / (right - left)) == 0:
                above = QRectF(box.center().x() - widest, box.top() - high, 2.0 * widest, high)
                painter.drawText(above, Qt.AlignmentFlag.AlignCenter, str(group + 1))
        middle = 0.5 * (self.group_x(0) + self._x(FUSE[1]))
        charger = 0.5 * sum(CHARGER)
        painter.setPen(soft)
        painter.drawLine(QPointF(self._x(charger), up_y), QPointF(self._x(charger), low_y))
        boxes = (
            ("BMS", middle, low_y, 0.12),
            ("fuse", self._x(0.5 * sum(FUSE)), up_y, FUSE[1] - FUSE[0]),
            ("plug", self._x(0.5 * sum(PLUG)), up_y, PLUG[1] - PLUG[0]),
            ("charger", self._x(charger), cells_y, CHARGER[1] - CHARGER[0]),
        )
        tall = 1.15 * high
        for ours, x, y, wide in boxes:
            name = in_words(ours)
            box = QRectF(x - self._x(wide) / 2, y - tall / 2, self._x(wide), tall)
            painter.setPen(ink if ours != "charger" else soft)
            painter.setBrush(THEME.colour("sheet"))
            painter.drawRect(box)
            # A word that is wider than its box stands above it.
            words = painter.fontMetrics().horizontalAdvance(name)
            over = (words - box.width()) / 2 + THEME.px(2)
            if over > 0.0:
                box = box.adjusted(-over, -tall, over, -tall)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, name)
        for point, role in zip(self.probes(), ("ink", "crimson"), strict=False):
            painter.setPen(QPen(THEME.colour("sheet"), 1.5))
            painter.setBrush(THEME.colour(role))
            painter.drawEllipse(point, THEME.px(DOT_PX) * scale, THEME.px(DOT_PX) * scale)
