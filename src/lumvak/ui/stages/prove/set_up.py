"""What is connected to what in a test: the path of the current, and what hangs on it."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy

from lumvak.core.proving.guide import TestGuide
from lumvak.ui.speech import in_words
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing, Told

HIGH_PX, BOX_PX = 100, 24
# The path in the order of the current, and where along it things hang, as shares of the width.
PATH = ("cells", "fuse", "BMS", "connector")
AT = {"pack": 0.22, "output": 0.86, "case": 0.05, "group": 0.12, "part": 0.5}
# The parts of a path that are read one by one, by their place in it.
PARTS_DRAWN = {"fuse": 1, "bms": 2, "connector": 3}
PLACE_WORDS = {
    "pack": "at the ends of the cells",
    "output": "at the output",
    "case": "on the case",
    "group": "on the groups",
    "part": "across the parts",
}


class SetUpDrawing(Drawing):
    """A row of boxes along the current, and below it the instruments with lines to their places.

    Where it is ``large`` it takes the room that it has, read at arm's length.
    """

    def __init__(self, large: bool = False) -> None:
        super().__init__()
        self.guide: TestGuide | None = None
        self.large, self.part = large, ""
        high = QSizePolicy.Policy.Expanding if large else QSizePolicy.Policy.Fixed
        self.setSizePolicy(QSizePolicy.Policy.Expanding, high)

    def show_test(self, guide: TestGuide, part: str = "") -> None:
        """Show what a test connects; a ``part`` of the path is the one that is read."""
        self.guide, self.part = guide, part
        self.setAccessibleName(self.told().heard)
        self.update()

    def told(self) -> Told:
        """The same in words."""
        drawn = () if self.guide is None else self.guide.drawn
        return Told(
            "What is connected",
            ("instrument", "where"),
            [(name, PLACE_WORDS[place]) for name, place in drawn],
        )

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(360), THEME.px(HIGH_PX))

    def minimumSizeHint(self) -> QSize:
        return QSize(THEME.px(240), THEME.px(HIGH_PX))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self.guide is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(THEME.font("note", table=True))
        scale = 1.0
        if self.large:
            room = self.sizeHint()
            scale = min(self.width() / room.width(), self.height() / room.height())
            painter.translate(0.0, 0.5 * (self.height() - scale * room.height()))
            painter.scale(scale, scale)
        width, top, high = self.width() / scale, THEME.px(8), THEME.px(BOX_PX)
        middle = top + high / 2.0
        painter.setPen(QPen(THEME.colour("copper"), 2))
        painter.drawLine(QPointF(0.02 * width, middle), QPointF(0.97 * width, middle))
        share = 0.84 / len(PATH)
        for place, name in enumerate(PATH):
            box = QRectF((0.04 + place * share) * width, top, 0.72 * share * width, high)
            self._box(painter, box, name, "copper" if name == "cells" else "line")
        if any(where == "case" for _, where in self.guide.drawn):
            painter.setPen(QPen(THEME.colour("soft"), 1.0, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(0.01 * width, 1, 0.97 * width, high + THEME.px(13)))
            painter.drawText(
                QRectF(0.8 * width, high + THEME.px(2), 0.17 * width, THEME.px(12)),
                Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                in_words("case"),
            )
        below, count = top + high + THEME.px(36), len(self.guide.drawn)
        along = dict(AT)
        if self.part in PARTS_DRAWN:
            along["part"] = 0.04 + (PARTS_DRAWN[self.part] + 0.36) * share
        # In the order of their places, so that their lines do not cross.
        drawn = sorted(self.guide.drawn, key=lambda it: along[it[1]])
        for place, (instrument, where) in enumerate(drawn):
            middle_x = (place + 0.5) / count * 0.84 * width + 0.08 * width
            box = QRectF(0, below, 0.24 * width, high)
            box.moveCenter(QPointF(middle_x, box.center().y()))
            painter.setPen(QPen(THEME.colour("verdigris"), 1.4))
            at = along[where] * width
            for side in (-1.0, 1.0):
                foot = QPointF(at + side * THEME.px(7), middle + high / 2.0)
                painter.drawLine(QPointF(box.center().x() + side * THEME.px(7), box.top()), foot)
                painter.setBrush(THEME.colour("verdigris"))
                painter.drawEllipse(foot, 2.5, 2.5)
            self._box(painter, box, instrument, "verdigris")

    def _box(self, painter: QPainter, box: QRectF, name: str, role: str) -> None:
        painter.setPen(QPen(THEME.colour(role), 1.4))
        painter.setBrush(THEME.colour("sheet"))
        painter.drawRect(box)
        painter.setPen(THEME.colour("ink"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, name)
