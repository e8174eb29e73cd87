"""A side of the pack on which the way of the balance lead in hand is laid by its corners."""

from __future__ import annotations

from itertools import pairwise

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent

from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.widgets.theme import THEME

Corners = tuple[tuple[float, float], ...]
REACH_PX = 9


class WayView(PackView):
    """Drag a corner of the way; a press on the way between two makes one there.

    ``way_laid`` tells the corners between the joint and the board, in mm, once the drag ends.
    """

    way_laid = pyqtSignal(tuple)

    def __init__(self, name: str) -> None:
        super().__init__(name)
        self._corners: list[tuple[float, float]] | None = None
        self._held = -1

    @property
    def _way(self) -> list[tuple[float, float]]:
        """The corners of the way that is seen from this side, both ends too."""
        drawn = self.drawn
        if drawn is None or drawn.route is None or drawn.tap is None or drawn.taps is None:
            return []
        if drawn.layout.face[int(drawn.taps[drawn.tap])] == drawn.hidden:
            return []
        return [(float(x), float(y)) for x, y in drawn.route]

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            way = self._way
            held = self._grasped(way, event.position())
            if held is not None:
                self._corners, self._held = way[1:-1], held
                return
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if self._corners is None or event is None:
            super().mouseMoveEvent(event)
            return
        x, y = self.spread.to_mm(event.position())
        self._corners[self._held] = (float(round(x)), float(round(y)))
        way = self._way
        self.sketch = [way[0], *self._corners, way[-1]]
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._corners is None:
            super().mouseReleaseEvent(event)
            return
        corners, self._corners = tuple(self._corners), None
        self.end_sketch()
        self.way_laid.emit(corners)

    def _grasped(self, way: list[tuple[float, float]], point: QPointF) -> int | None:
        """The corner under a point, from 0 behind the joint; a new one where the way lies there."""
        reach = THEME.px(REACH_PX)
        spots = [self.to_px(x, y) for x, y in way]
        for at, spot in enumerate(spots[1:-1]):
            if (spot - point).manhattanLength() <= reach:
                return at
        for at, (one, other) in enumerate(pairwise(spots)):
            if _beside(point, one, other) <= reach / 2.0:
                way.insert(at + 1, self.spread.to_mm(point))
                return at
        return None


def _beside(point: QPointF, one: QPointF, other: QPointF) -> float:
    """How far a point is from a line between two, in px."""
    along, away = other - one, point - one
    length = QPointF.dotProduct(along, along)
    share = QPointF.dotProduct(away, along) / length if length else 0.0
    near = one + along * min(max(share, 0.0), 1.0)
    rest = point - near
    return float((rest.x() ** 2 + rest.y() ** 2) ** 0.5)
