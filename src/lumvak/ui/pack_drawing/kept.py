"""The metal and cells of a side as they were painted, for as long as they look the same."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QPainter, QPixmap

from lumvak.ui.pack_drawing.paint import paint_pack
from lumvak.ui.pack_drawing.side import OVER, SideShown, Spread
from lumvak.ui.widgets.theme import THEME


class Kept:
    """One picture: a pack of thousands of cells is painted once, not at every turn of the hand."""

    def __init__(self) -> None:
        self._drawn: SideShown | None = None
        self._look: tuple[object, ...] = ()
        self._picture = QPixmap()

    def picture(self, drawn: SideShown, spread: Spread, size: QSize, ratio: float) -> QPixmap:
        """Metal and cells on nothing; painted anew where something of them, or the sheet, changed.

        ``size`` is in px at 100 %, ``ratio`` how many dots of the screen make one.
        """
        look = (spread, size, ratio, THEME.name, THEME.percent)
        before = self._drawn
        if before is None or look != self._look or not drawn.looks_like(before, OVER):
            self._drawn, self._look = drawn, look
            self._picture = QPixmap(size * ratio)
            self._picture.setDevicePixelRatio(ratio)
            self._picture.fill(Qt.GlobalColor.transparent)
            painter = QPainter(self._picture)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint_pack(painter, drawn, spread, ratio)
            painter.end()
        return self._picture
