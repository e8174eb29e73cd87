"""The chart of packs by keys: the arrows move a cross, Space draws a rectangle from it."""

from __future__ import annotations

from typing import Any

import pyqtgraph as pg
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent

from lumvak.ui.widgets.keys import is_return, step_of
from lumvak.ui.widgets.plots import Plot
from lumvak.ui.widgets.theme import THEME

# Steps from edge to edge of the chart; with Shift five at once.
STEPS, FAST = 40, 5


class KeyedPlot(Plot):
    """A plot whose rectangle can be drawn and whose dots can be taken without a mouse.

    ``drawing`` tells the rectangle while it grows, ``brushed`` when it is done, ``taken`` the place
    that Enter takes, ``moved`` the one that the cross has come to, ``dropped`` that the rectangle
    is to go.
    """

    drawing = pyqtSignal(QRectF)
    brushed = pyqtSignal(QRectF)
    taken = pyqtSignal(QPointF)
    moved = pyqtSignal(QPointF)
    dropped = pyqtSignal()

    def __init__(self, **wanted: Any) -> None:
        super().__init__(**wanted)
        # Shares of the chart from its lower left corner, and the corner that a rectangle began at.
        self._at = (STEPS // 2, STEPS // 2)
        self._began: QPointF | None = None
        self.cross = pg.ScatterPlotItem(
            symbol="+", size=THEME.px(20), pen=pg.mkPen(THEME.colour("verdigris"), width=2)
        )
        self.addItem(self.cross)
        self.cross.hide()
        self.seen.came.connect(self._come)
        self.seen.left.connect(self.cross.hide)

    @property
    def place(self) -> QPointF:
        """Where the cross is, on the axes."""
        rect = self.getPlotItem().vb.viewRect()
        across, up = (share / STEPS for share in self._at)
        return QPointF(rect.left() + across * rect.width(), rect.top() + up * rect.height())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        across = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        up = step_of(event, Qt.Key.Key_Down, Qt.Key.Key_Up)
        if event is None:
            return
        if across or up:
            fast = FAST if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
            x, y = self._at
            self._at = (
                min(max(x + across * fast, 0), STEPS),
                min(max(y + up * fast, 0), STEPS),
            )
            self._show()
            if self._began is not None:
                self.drawing.emit(QRectF(self._began, self.place).normalized())
        elif event.key() == Qt.Key.Key_Space:
            self._turn_corner()
        elif is_return(event):
            self.taken.emit(self.place)
        elif event.key() == Qt.Key.Key_Escape:
            self._began = None
            self.dropped.emit()
        else:
            super().keyPressEvent(event)

    def _turn_corner(self) -> None:
        """Begin a rectangle, or end the one that was begun."""
        if self._began is None:
            self._began = self.place
        else:
            began, self._began = self._began, None
            self.brushed.emit(QRectF(began, self.place).normalized())

    def _show(self) -> None:
        place = self.place
        self.cross.setData([place.x()], [place.y()])
        self.cross.show()
        self.moved.emit(place)

    def _come(self, reason: Qt.FocusReason) -> None:
        if reason != Qt.FocusReason.MouseFocusReason:
            self._show()
