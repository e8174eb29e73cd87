"""The pack drawn true to scale from above or turned over; clicked, dragged, zoomed and sketched."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF, QWheelEvent
from PyQt6.QtWidgets import QToolTip

from lumvak.core.arrangement.layout import FACE_B
from lumvak.core.joints.pieces import Pieces
from lumvak.ui.pack_drawing.by_keys import next_cell, next_piece
from lumvak.ui.pack_drawing.kept import Kept
from lumvak.ui.pack_drawing.paint import lead_radius_px, paint_over
from lumvak.ui.pack_drawing.side import SideShown, Spread
from lumvak.ui.speech import say_sides
from lumvak.ui.widgets.keys import is_enter, step_of
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing, Told

Array = NDArray[np.float64]
Index = NDArray[np.intp]
PICK_PX = 7
MOST_ZOOM = 12.0
# Room about the pack while an outline is drawn, as a share of its larger side.
SKETCH_ROOM = 0.35


class PackView(Drawing):
    """Paints one side of a pack; emits what is pointed at, clicked and dragged, in mm."""

    cell_clicked = pyqtSignal(int, bool)
    piece_clicked = pyqtSignal(int)
    lead_dragged = pyqtSignal(int, float, float, bool)
    cells_dragged = pyqtSignal(float, float, bool)
    block_dragged = pyqtSignal(int, float, float, bool)
    stepped = pyqtSignal(float, float)
    pole_keyed = pyqtSignal(str)
    nothing_clicked = pyqtSignal()
    outline_drawn = pyqtSignal(tuple)

    def __init__(self, name: str) -> None:
        super().__init__()
        self._drawn: SideShown | None = None
        self._kept = Kept()
        self._name = name
        self.spread = Spread(QRectF(0, 0, 1, 1), 1.0, 0.0, 0.0, False)
        self._zoom, self._pan = 1.0, QPointF()
        # What is kept in the middle while the view grows.
        self._near: tuple[float, float, float] | None = None
        self._grip: tuple[str, int] | None = None
        self._grip_at = QPointF()
        self._moved = False
        self.describe: Callable[[str, int], str] = lambda kind, number: ""
        self.movable = False
        self.sketch: list[tuple[float, float]] | None = None
        # The cell that the arrows have come to.
        self.mark: int | None = None
        self.setAccessibleName(name)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(THEME.px(180), THEME.px(120))

    def told(self) -> Told:
        """The cells of the side that is seen as rows."""
        drawn = self._drawn
        if drawn is None:
            return Told(self._name, (), ())
        layout = drawn.layout
        rows = [
            (
                str(layout.name[cell]),
                str(int(layout.group[cell]) + 1),
                say_sides((layout.x_mm[cell], layout.y_mm[cell]), ".1f"),
                self.describe("cell", cell),
            )
            for cell in np.flatnonzero(drawn.on_layer).tolist()
        ]
        return Told(self._name, ("cell", "group", "at", "what it is"), rows)

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(360), THEME.px(220))

    def show_drawn(self, drawn: SideShown) -> None:
        """Show this side of a pack."""
        if self._drawn is not None and drawn.looks_like(self._drawn):
            return
        self._drawn = drawn
        self._measure()
        self.update()

    @property
    def drawn(self) -> SideShown | None:
        """What is shown."""
        return self._drawn

    # Between millimetres and pixels.

    def resizeEvent(self, event: QEvent | None) -> None:
        self._measure()
        if self._near is not None:
            self.look_at(*self._near)

    def _measure(self) -> None:
        drawn = self._drawn
        if drawn is None or not len(drawn.layout):
            return
        bounds = drawn.extent(0.0 if self.sketch is None else SKETCH_ROOM)
        margin, top_margin = THEME.px(14), THEME.px(24)
        room_x = max(10.0, self.width() - 2.0 * margin)
        room_y = max(10.0, self.height() - top_margin - margin)
        wide, high = max(bounds.width(), 1.0), max(bounds.height(), 1.0)
        scale = min(room_x / wide, room_y / high, THEME.px(5)) * self._zoom
        self.spread = Spread(
            bounds,
            scale,
            margin + (room_x - wide * scale) / 2.0 + self._pan.x(),
            top_margin + (room_y - high * scale) / 2.0 + self._pan.y(),
            drawn.side == FACE_B,
        )

    def look_at(self, x_mm: float, y_mm: float, times: float) -> None:
        """Show a place of the pack in the middle, so many times as large as the whole."""
        self._near = (x_mm, y_mm, times)
        self._zoom, self._pan = min(max(times, 1.0), MOST_ZOOM), QPointF()
        self._measure()
        middle = QPointF(self.width() / 2.0, self.height() / 2.0)
        self._pan = middle - self.to_px(x_mm, y_mm)
        self._measure()
        self.update()

    def to_px(self, x_mm: float, y_mm: float) -> QPointF:
        """Where a place of the pack is drawn."""
        return self.spread.to_px(x_mm, y_mm)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._drawn is None or not len(self._drawn.layout):
            return
        ratio = self.devicePixelRatioF()
        metal = self._kept.picture(self._drawn, self.spread, self.size(), ratio)
        painter.drawPixmap(0, 0, metal)
        paint_over(painter, self._drawn, self.spread)
        self._paint_sketch(painter)
        if self.hasFocus():
            painter.setPen(QPen(THEME.colour("verdigris"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(0.5, 0.5, self.width() - 1, self.height() - 1))
            self._paint_mark(painter)

    def _paint_mark(self, painter: QPainter) -> None:
        """A ring around the cell that the arrows have come to."""
        drawn, cell = self._drawn, self.mark
        if drawn is None or cell is None or cell >= len(drawn.layout):
            return
        layout = drawn.layout
        half = layout.half_mm[cell] * self.spread.scale
        painter.setPen(QPen(THEME.colour("verdigris"), THEME.px(3)))
        painter.drawEllipse(
            self.to_px(layout.x_mm[cell], layout.y_mm[cell]), half[0] + 1.0, half[1] + 1.0
        )

    # An outline drawn corner by corner.

    def begin_sketch(self) -> None:
        """Take the corners of an outline from clicks; one on the first corner closes it."""
        self.sketch = []
        self.setFocus()
        self._measure()
        self.update()

    def end_sketch(self) -> None:
        """Draw no more."""
        self.sketch = None
        self._measure()
        self.update()

    def _paint_sketch(self, painter: QPainter) -> None:
        if self.sketch is None:
            return
        points = [self.to_px(x, y) for x, y in self.sketch]
        painter.setPen(QPen(THEME.colour("verdigris"), THEME.px(2)))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF(points))
        painter.setBrush(THEME.colour("verdigris"))
        for point in points:
            painter.drawEllipse(point, THEME.px(4), THEME.px(4))

    def _sketch_at(self, point: QPointF) -> None:
        assert self.sketch is not None
        if len(self.sketch) >= 3:
            away = self.to_px(*self.sketch[0]) - point
            if np.hypot(away.x(), away.y()) < THEME.px(10):
                corners = tuple(self.sketch)
                self.end_sketch()
                self.outline_drawn.emit(corners)
                return
        x, y = self.spread.to_mm(point)
        self.sketch.append((float(round(x)), float(round(y))))
        self.update()

    # Pointing, clicking, dragging.

    def cell_at(self, point: QPointF) -> int | None:
        """The cell under a point."""
        drawn = self._drawn
        if drawn is None:
            return None
        x, y = self.spread.to_mm(point)
        layout = drawn.layout
        inside = (
            (np.abs(layout.x_mm - x) <= layout.half_mm[:, 0])
            & (np.abs(layout.y_mm - y) <= layout.half_mm[:, 1])
            & drawn.on_layer
        )
        found = np.flatnonzero(inside)
        if not len(found):
            return None
        away = np.hypot(layout.x_mm[found] - x, layout.y_mm[found] - y)
        return int(found[np.argmin(away)])

    def piece_at(self, point: QPointF) -> int | None:
        """The piece under a point, the nearest to its middle line."""
        drawn = self._drawn
        if drawn is None or drawn.pieces is None:
            return None
        seen = drawn.pieces_here
        if not len(seen):
            return None
        x, y = self.spread.to_mm(point)
        away, _ = self._beside(drawn.pieces, seen, x, y)
        near = int(np.argmin(away))
        reach = max(PICK_PX / self.spread.scale, 0.16 * drawn.layout.cell.pitch_mm)
        return int(seen[near]) if away[near] <= reach else None

    def _beside(self, pieces: Pieces, which: Index, x: float, y: float) -> tuple[Array, Array]:
        """Distance in mm of a place from pieces, and how far along each it lies, 0 to 1."""
        one = pieces.layout.terminal_mm[pieces.a[which], :2]
        way = pieces.layout.terminal_mm[pieces.b[which], :2] - one
        square = np.maximum((way**2).sum(axis=1), 1e-9)
        along = np.clip(((np.array([x, y]) - one) * way).sum(axis=1) / square, 0.0, 1.0)
        nearest = one + along[:, None] * way
        return np.hypot(nearest[:, 0] - x, nearest[:, 1] - y), along

    def _lead_at(self, point: QPointF) -> int | None:
        drawn = self._drawn
        if drawn is None:
            return None
        reach = lead_radius_px(drawn.layout.cell.pitch_mm * self.spread.scale) + THEME.px(2)
        for place in drawn.leads_here:
            away = self.spread.lead_px(drawn, drawn.leads[place]) - point
            if np.hypot(away.x(), away.y()) <= reach:
                return place
        return None

    def _block_at(self, point: QPointF) -> int | None:
        drawn = self._drawn
        if drawn is None:
            return None
        x, y = self.spread.to_mm(point)
        rim = THEME.px(7) / self.spread.scale
        for place, part in enumerate(drawn.kept_free):
            if part.holds(x, y, rim):
                return place
        return None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._drawn is None:
            return
        point = event.position()
        if self.sketch is not None:
            self._sketch_at(point)
            return
        self._grip, self._grip_at, self._moved = None, point, False
        lead = self._lead_at(point)
        if lead is not None:
            self._grip = ("lead", lead)
            return
        block = self._block_at(point)
        if self.movable and block is not None:
            self._grip = ("block", block)
            return
        piece, cell = self.piece_at(point), self.cell_at(point)
        if piece is not None:
            self._grip = ("piece", piece)
        elif cell is not None:
            self._grip = ("cell", cell)
            more = bool(
                event.modifiers()
                & (Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.ControlModifier)
            )
            if more or cell not in self._drawn.chosen_cells:
                self.cell_clicked.emit(cell, more)
        else:
            self.nothing_clicked.emit()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._drawn is None:
            return
        point = event.position()
        if not event.buttons() & Qt.MouseButton.LeftButton:
            self._point_at(event)
            return
        if self._grip is None:
            if self._zoom > 1.0:
                self._pan += point - self._grip_at
                self._grip_at = point
                self._measure()
                self.update()
            return
        away = point - self._grip_at
        if not self._moved and np.hypot(away.x(), away.y()) < THEME.px(4):
            return
        self._moved = True
        self._drag(point, done=False)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._grip is None:
            return
        kind, number = self._grip
        if self._moved:
            self._drag(event.position(), done=True)
        elif kind == "piece":
            self.piece_clicked.emit(number)
        self._grip = None

    def _drag(self, point: QPointF, done: bool) -> None:
        assert self._grip is not None
        kind, number = self._grip
        x, y = self.spread.to_mm(point)
        was_x, was_y = self.spread.to_mm(self._grip_at)
        if kind == "lead":
            self.lead_dragged.emit(number, x, y, done)
        elif kind == "block" and self.movable:
            self.block_dragged.emit(number, x - was_x, y - was_y, done)
        elif kind == "cell" and self.movable:
            self.cells_dragged.emit(x - was_x, y - was_y, done)

    def _point_at(self, event: QMouseEvent) -> None:
        point = event.position()
        lead, piece, cell = self._lead_at(point), self.piece_at(point), self.cell_at(point)
        if lead is not None:
            text = self.describe("lead", lead)
        elif piece is not None:
            text = self.describe("piece", piece)
        elif cell is not None:
            text = self.describe("cell", cell)
        else:
            text = ""
        self.setCursor(
            Qt.CursorShape.OpenHandCursor if lead is not None else Qt.CursorShape.ArrowCursor
        )
        if text:
            QToolTip.showText(event.globalPosition().toPoint(), text, self)
        else:
            QToolTip.hideText()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Zoom about the pointer; a double click shows all again."""
        if event is not None and self._drawn is not None:
            self._look_closer(event.angleDelta().y() / 120.0, event.position())

    def _look_closer(self, steps: float, at: QPointF) -> None:
        """Zoom so that what is under a place stays there."""
        zoom = min(max(self._zoom * 1.2**steps, 1.0), MOST_ZOOM)
        held = self.spread.to_mm(at)
        self._zoom = zoom
        self._measure()
        if zoom == 1.0:
            self._pan = QPointF()
        else:
            self._pan += at - self.to_px(*held)
        self._measure()
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        self._show_all()

    def _show_all(self) -> None:
        self._near = None
        self._zoom, self._pan = 1.0, QPointF()
        self._measure()
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if self.sketch is not None and event is not None:
            if event.key() == Qt.Key.Key_Escape:
                self.end_sketch()
                return
            if event.key() == Qt.Key.Key_Backspace and self.sketch:
                self.sketch.pop()
                self.update()
                return
        if event is None or self._drawn is None or not self._key(event, self._drawn):
            super().keyPressEvent(event)

    def _key(self, event: QKeyEvent, drawn: SideShown) -> bool:
        """Take a key of the drawing's own; whether it is one."""
        across = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        down = step_of(event, Qt.Key.Key_Up, Qt.Key.Key_Down)
        mirrored = -across if self.spread.mirrored else across
        if event.text() in ("+", "-"):
            self.pole_keyed.emit(event.text())
        elif (across or down) and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.stepped.emit(float(mirrored), float(down))
        elif across or down:
            self.mark = next_cell(drawn, self.mark, mirrored, down)
            self._say_mark()
            self.update()
        elif event.text() in ("[", "]"):
            piece = next_piece(drawn, drawn.chosen_piece, 1 if event.text() == "]" else -1)
            if piece is not None:
                self.piece_clicked.emit(piece)
        elif event.key() in (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
            middle = QPointF(self.width() / 2.0, self.height() / 2.0)
            self._look_closer(1.0 if event.key() == Qt.Key.Key_PageUp else -1.0, middle)
        elif event.key() == Qt.Key.Key_Home:
            self._show_all()
        elif is_enter(event) and self.mark is not None:
            self.cell_clicked.emit(self.mark, event.key() == Qt.Key.Key_Space)
        elif is_enter(event) and drawn.chosen_piece is not None:
            self.piece_clicked.emit(drawn.chosen_piece)
        else:
            return False
        return True

    def _say_mark(self) -> None:
        """What the arrows have come to, in words."""
        if self.mark is not None:
            self.setAccessibleDescription(self.describe("cell", self.mark))
