"""The pack drawn true to scale from above or turned over: room, cells, pieces and leads."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QBrush,
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)
from PyQt6.QtWidgets import QToolTip, QWidget
from shapely.geometry.base import BaseGeometry

from lumvak.core.layout import FACE_A, FACE_B, Layout
from lumvak.core.outline import Flaw
from lumvak.core.pieces import TIE, WIRE, Pieces
from lumvak.core.takeoff import Lead
from lumvak.ui.keys import is_enter, step_of
from lumvak.ui.theme import THEME

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Mask = NDArray[np.bool_]
PICK_PX = 7
LEAST_POLE_PX = 11
MOST_ZOOM = 12.0


@dataclass(frozen=True, eq=False)
class Drawn:
    """What a pack view shows of one side.

    ``strength`` (M,) are shares of the strongest piece, 0 to 1, or ``None`` where strips are drawn
    true to width; ``cell_over`` (N,) from -1 to 1 is how far a cell works over its fair share;
    ``gone`` and ``broken_cells`` are broken, ``absent`` pieces not laid, ``marked`` ones stand out,
    ``covered`` cells lie under a cover; ``taps`` are the terminals of the balance leads.
    """

    layout: Layout
    side: int = FACE_A
    layer: int = 0
    room: BaseGeometry | None = None
    kept_free: tuple[tuple[str, float, float, float, float], ...] = ()
    pieces: Pieces | None = None
    width_mm: Array | None = None
    strength: Array | None = None
    cell_over: Array | None = None
    leads: tuple[Lead, ...] = ()
    taps: Index | None = None
    flaws: tuple[Flaw, ...] = ()
    barriers: Index = field(default_factory=lambda: np.zeros((0, 2), dtype=np.intp))
    chosen_cells: frozenset[int] = frozenset()
    chosen_piece: int | None = None
    broken_cells: frozenset[int] = frozenset()
    gone: frozenset[int] = frozenset()
    absent: frozenset[int] = frozenset()
    marked: frozenset[int] = frozenset()
    covered: frozenset[int] = frozenset()


class PackView(QWidget):
    """Paints one side of a pack; emits what is pointed at, clicked and dragged, in mm."""

    cell_clicked = pyqtSignal(int, bool)
    piece_clicked = pyqtSignal(int)
    lead_dragged = pyqtSignal(int, float, float, bool)
    cells_dragged = pyqtSignal(float, float, bool)
    block_dragged = pyqtSignal(int, float, float, bool)
    stepped = pyqtSignal(float, float)
    nothing_clicked = pyqtSignal()
    outline_drawn = pyqtSignal(tuple)

    def __init__(self, name: str) -> None:
        super().__init__()
        self._drawn: Drawn | None = None
        self._name = name
        self._scale, self._left, self._top = 1.0, 0.0, 0.0
        self._zoom, self._pan = 1.0, QPointF()
        self._bounds = QRectF()
        self._pitch_px = 1.0
        self._grip: tuple[str, int] | None = None
        self._grip_at = QPointF()
        self._moved = False
        self.describe: Callable[[str, int], str] = lambda kind, number: ""
        self.movable = False
        self.sketch: list[tuple[float, float]] | None = None
        self.setAccessibleName(name)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(THEME.px(180), THEME.px(120))

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(360), THEME.px(220))

    def show_drawn(self, drawn: Drawn) -> None:
        """Show this side of a pack."""
        self._drawn = drawn
        self._measure()
        self.update()

    @property
    def drawn(self) -> Drawn | None:
        """What is shown."""
        return self._drawn

    # Between millimetres and pixels.

    def resizeEvent(self, event: QEvent | None) -> None:
        self._measure()

    def _measure(self) -> None:
        drawn = self._drawn
        if drawn is None or not len(drawn.layout):
            return
        layout = drawn.layout
        low_x = float((layout.x_mm - layout.half_mm[:, 0]).min())
        low_y = float((layout.y_mm - layout.half_mm[:, 1]).min())
        high_x = float((layout.x_mm + layout.half_mm[:, 0]).max())
        high_y = float((layout.y_mm + layout.half_mm[:, 1]).max())
        if drawn.room is not None:
            left, top, right, bottom = drawn.room.bounds
            low_x, low_y = min(low_x, left), min(low_y, top)
            high_x, high_y = max(high_x, right), max(high_y, bottom)
        for _, x, y, length, width in drawn.kept_free:
            low_x, low_y = min(low_x, x), min(low_y, y)
            high_x, high_y = max(high_x, x + length), max(high_y, y + width)
        if self.sketch is not None:
            reach = 0.35 * max(high_x - low_x, high_y - low_y)
            low_x, low_y, high_x, high_y = (
                low_x - reach, low_y - reach, high_x + reach, high_y + reach,
            )  # fmt: skip
        self._bounds = QRectF(low_x, low_y, high_x - low_x, high_y - low_y)
        margin, top_margin = THEME.px(14), THEME.px(24)
        room_x = max(10.0, self.width() - 2.0 * margin)
        room_y = max(10.0, self.height() - top_margin - margin)
        wide, high = max(self._bounds.width(), 1.0), max(self._bounds.height(), 1.0)
        self._scale = min(room_x / wide, room_y / high, THEME.px(5))
        self._scale *= self._zoom
        self._left = margin + (room_x - wide * self._scale) / 2.0 + self._pan.x()
        self._top = top_margin + (room_y - high * self._scale) / 2.0 + self._pan.y()
        self._pitch_px = drawn.layout.cell.pitch_mm * self._scale

    @property
    def _mirrored(self) -> bool:
        return self._drawn is not None and self._drawn.side == FACE_B

    def to_px(self, x_mm: float, y_mm: float) -> QPointF:
        """Where a place of the pack is drawn; side B is mirrored, as the pack is turned over."""
        x = self._bounds.right() - x_mm if self._mirrored else x_mm - self._bounds.left()
        return QPointF(
            self._left + x * self._scale, self._top + (y_mm - self._bounds.top()) * self._scale
        )

    def to_mm(self, point: QPointF) -> tuple[float, float]:
        """The place of the pack that lies at a point of the drawing."""
        x = (point.x() - self._left) / self._scale
        y = (point.y() - self._top) / self._scale + self._bounds.top()
        return (self._bounds.right() - x if self._mirrored else x + self._bounds.left()), y

    # Painting.

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        drawn = self._drawn
        if drawn is None or not len(drawn.layout):
            return
        self._paint_room(painter, drawn)
        self._paint_cells(painter, drawn)
        if drawn.pieces is not None:
            self._paint_pieces(painter, drawn)
        self._paint_poles(painter, drawn)
        self._paint_cover(painter, drawn)
        self._paint_barriers(painter, drawn)
        self._paint_groups(painter, drawn)
        self._paint_taps(painter, drawn)
        self._paint_leads(painter, drawn)
        self._paint_flaws(painter, drawn)
        self._paint_sketch(painter)
        if self.hasFocus():
            painter.setPen(QPen(THEME.colour("verdigris"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(0.5, 0.5, self.width() - 1, self.height() - 1))

    def _ring(self, coords: object) -> QPolygonF:
        return QPolygonF([self.to_px(x, y) for x, y, *_ in coords])  # type: ignore[attr-defined]

    def _paint_room(self, painter: QPainter, drawn: Drawn) -> None:
        if drawn.room is not None:
            painter.setPen(QPen(THEME.colour("soft"), 1.4))
            shapes = getattr(drawn.room, "geoms", [drawn.room])
            for shape in shapes:
                painter.setBrush(THEME.colour("paper"))
                painter.drawPolygon(self._ring(shape.exterior.coords))
                painter.setBrush(THEME.colour("sheet"))
                for inner in shape.interiors:
                    painter.drawPolygon(self._ring(inner.coords))
        painter.setFont(THEME.font("note", table=True))
        for name, x, y, length, width in drawn.kept_free:
            box = QRectF(self.to_px(x, y), self.to_px(x + length, y + width)).normalized()
            painter.setPen(QPen(THEME.colour("soft"), 1.2, Qt.PenStyle.DashLine))
            painter.setBrush(THEME.colour("grey_wash"))
            painter.drawRect(box)
            painter.setPen(THEME.colour("ink"))
            painter.save()
            painter.translate(box.center())
            if box.height() > 1.5 * box.width():
                painter.rotate(-90)
                box = QRectF(0, 0, box.height(), box.width())
            box.moveCenter(QPointF())
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, name)
            painter.restore()

    def _on_layer(self, drawn: Drawn) -> Mask:
        return np.asarray(drawn.layout.layer == drawn.layer)

    def _cell_box(self, layout: Layout, cell: int) -> QRectF:
        centre = self.to_px(float(layout.x_mm[cell]), float(layout.y_mm[cell]))
        wide = 2.0 * float(layout.half_mm[cell, 0]) * self._scale
        high = 2.0 * float(layout.half_mm[cell, 1]) * self._scale
        return QRectF(centre.x() - wide / 2.0, centre.y() - high / 2.0, wide, high)

    def _paint_cells(self, painter: QPainter, drawn: Drawn) -> None:
        layout = drawn.layout
        plain, chosen_pen = QPen(THEME.colour("soft"), 1.0), QPen(THEME.colour("copper"), 2.4)
        last = max(1, layout.series - 1)
        for cell in np.flatnonzero(self._on_layer(drawn)).tolist():
            box = self._cell_box(layout, cell)
            if drawn.cell_over is not None:
                over = float(drawn.cell_over[cell])
                painter.setBrush(THEME.ramp("over", 0.5 + over / 2.0))
            else:
                painter.setBrush(THEME.ramp("potential", int(layout.group[cell]) / last))
            painter.setPen(chosen_pen if cell in drawn.chosen_cells else plain)
            round_above = layout.cell.diameter_mm is not None and layout.axis[cell] == 0
            if round_above:
                painter.drawEllipse(box)
            else:
                painter.drawRoundedRect(box, THEME.px(3), THEME.px(3))
            if cell in drawn.broken_cells:
                painter.setPen(QPen(THEME.colour("crimson"), 2.2))
                painter.drawLine(box.topLeft(), box.bottomRight())
                painter.drawLine(box.topRight(), box.bottomLeft())

    def _piece_seen(self, drawn: Drawn) -> Mask:
        pieces = drawn.pieces
        assert pieces is not None
        face_a, face_b = drawn.layout.face[pieces.a], drawn.layout.face[pieces.b]
        hidden = FACE_B if drawn.side == FACE_A else FACE_A
        here = drawn.layout.layer[pieces.a // 2] == drawn.layer
        return np.asarray(((face_a != hidden) | (face_b != hidden)) & here)

    def _paint_pieces(self, painter: QPainter, drawn: Drawn) -> None:
        pieces = drawn.pieces
        assert pieces is not None
        places = drawn.layout.terminal_mm
        seen = np.flatnonzero(self._piece_seen(drawn))
        strength, widths = drawn.strength, drawn.width_mm
        if strength is not None:
            seen = seen[np.argsort(strength[seen], kind="stable")]
        most = 0.62 * drawn.layout.cell.pitch_mm * self._scale
        wash = QColor(THEME.colour("copper_wash"))
        wash.setAlphaF(0.85)
        for piece in seen.tolist():
            one, two = places[pieces.a[piece]], places[pieces.b[piece]]
            start, end = self.to_px(one[0], one[1]), self.to_px(two[0], two[1])
            if piece in drawn.absent:
                continue
            if piece in drawn.gone:
                painter.setPen(QPen(THEME.colour("crimson"), 1.6, Qt.PenStyle.DotLine))
                painter.drawLine(start, end)
                continue
            if strength is None:
                width = float(widths[piece]) * self._scale if widths is not None else 3.0
                width = min(width, 0.9 * drawn.layout.cell.pitch_mm * self._scale)
                wired = pieces.kind[piece] in (WIRE, TIE)
                colour = THEME.colour("soft") if wired else wash
            else:
                share = float(strength[piece])
                width = max(THEME.px(2), min(most, share * most))
                colour = THEME.ramp("current", share)
            if piece in drawn.marked:
                colour = THEME.colour("copper")
            if piece == drawn.chosen_piece:
                painter.setPen(QPen(THEME.colour("verdigris"), width + THEME.px(5), cap=ROUND))
                painter.drawLine(start, end)
            painter.setPen(QPen(colour, max(1.5, width), cap=FLAT if strength is None else ROUND))
            painter.drawLine(start, end)
            layers = int(pieces.layers[piece])
            if layers > 1:
                painter.setPen(QPen(THEME.colour("ink"), 1.0))
                painter.setFont(THEME.font("note", strong=True, table=True))
                middle = QPointF((start.x() + end.x()) / 2.0, (start.y() + end.y()) / 2.0)
                painter.drawText(
                    QRectF(middle.x() - 20, middle.y() - 10, 40, 20),
                    Qt.AlignmentFlag.AlignCenter,
                    f"{layers}×",
                )

    def _paint_poles(self, painter: QPainter, drawn: Drawn) -> None:
        """A cross for a positive end, a bar for a negative one, on the side that is seen."""
        layout = drawn.layout
        hidden = FACE_B if drawn.side == FACE_A else FACE_A
        if self._pitch_px < LEAST_POLE_PX:
            return
        arm = max(2.0, min(THEME.px(5), 0.16 * self._pitch_px))
        ink = QPen(THEME.colour("ink"), max(1.2, arm / 3.2))
        ground = QColor(THEME.colour("sheet"))
        ground.setAlphaF(0.8)
        painter.setBrush(ground)
        here = np.repeat(self._on_layer(drawn), 2) & (layout.face != hidden)
        for terminal in np.flatnonzero(here).tolist():
            at = layout.terminal_mm[terminal]
            centre = self.to_px(at[0], at[1])
            painter.setPen(Qt.PenStyle.NoPen)
            painter.drawEllipse(centre, 1.5 * arm, 1.5 * arm)
            painter.setPen(ink)
            painter.drawLine(centre - QPointF(arm, 0), centre + QPointF(arm, 0))
            if terminal % 2 == 0:
                painter.drawLine(centre - QPointF(0, arm), centre + QPointF(0, arm))

    def _paint_cover(self, painter: QPainter, drawn: Drawn) -> None:
        """A hatched sheet over the cells that are covered."""
        if not drawn.covered:
            return
        ground = QColor(THEME.colour("grey_wash"))
        ground.setAlphaF(0.75)
        painter.setPen(Qt.PenStyle.NoPen)
        here = self._on_layer(drawn)
        boxes = [self._cell_box(drawn.layout, cell) for cell in drawn.covered if here[cell]]
        reach = drawn.layout.gap_mm / 2.0 * self._scale + 0.5
        for brush in (QBrush(ground), QBrush(THEME.colour("soft"), Qt.BrushStyle.BDiagPattern)):
            painter.setBrush(brush)
            for box in boxes:
                painter.drawRect(box.adjusted(-reach, -reach, reach, reach))

    def _paint_barriers(self, painter: QPainter, drawn: Drawn) -> None:
        layout = drawn.layout
        painter.setPen(QPen(THEME.colour("amber"), THEME.px(3), cap=ROUND))
        for one, other in drawn.barriers.tolist():
            if layout.layer[one] != drawn.layer:
                continue
            middle = self.to_px(
                float(layout.x_mm[[one, other]].mean()), float(layout.y_mm[[one, other]].mean())
            )
            way = self.to_px(float(layout.x_mm[other]), float(layout.y_mm[other])) - self.to_px(
                float(layout.x_mm[one]), float(layout.y_mm[one])
            )
            length = max(1e-6, float(np.hypot(way.x(), way.y())))
            across = QPointF(-way.y(), way.x()) * (
                0.36 * layout.cell.pitch_mm * self._scale / length
            )
            painter.drawLine(middle - across, middle + across)

    def _paint_groups(self, painter: QPainter, drawn: Drawn) -> None:
        """The number of each group at its uppermost cell."""
        layout = drawn.layout
        painter.setFont(THEME.font("note", table=True))
        painter.setPen(THEME.colour("soft"))
        here = self._on_layer(drawn)
        # Where cells are small only some numbers have room.
        every = max(1, round(THEME.px(19) / max(self._pitch_px, 1.0) + 0.4))
        for group in range(layout.series):
            if group % every:
                continue
            cells = np.arange(group * layout.parallel, (group + 1) * layout.parallel)
            cells = cells[here[cells]]
            if not len(cells):
                continue
            top = int(cells[np.argmin(layout.y_mm[cells] * 1000.0 + layout.x_mm[cells])])
            box = self._cell_box(layout, top)
            clear = box.top() - self._top < THEME.px(4)
            flat = layout.cell.diameter_mm is None or layout.axis[top] != 0
            if flat:
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(group + 1))
            elif clear:
                place = QRectF(box.center().x() - 30, box.top() - THEME.px(17), 60, THEME.px(16))
                painter.drawText(place, Qt.AlignmentFlag.AlignCenter, str(group + 1))
            elif self._pitch_px > THEME.px(14):
                # In the gap between four round cells.
                corner = QRectF(box.left() - 12, box.top() - 9, 24, 18)
                painter.drawText(corner, Qt.AlignmentFlag.AlignCenter, str(group + 1))

    def _paint_taps(self, painter: QPainter, drawn: Drawn) -> None:
        """The number of each balance lead where it is taken off."""
        if drawn.taps is None:
            return
        layout = drawn.layout
        hidden = FACE_B if drawn.side == FACE_A else FACE_A
        painter.setFont(THEME.font("note", strong=True, table=True))
        for level, terminal in enumerate(drawn.taps.tolist()):
            if layout.face[terminal] == hidden or layout.layer[terminal // 2] != drawn.layer:
                continue
            at = self.to_px(*layout.terminal_mm[terminal, :2].tolist())
            box = QRectF(at.x() - THEME.px(11), at.y() - THEME.px(8), THEME.px(22), THEME.px(16))
            painter.setPen(QPen(THEME.colour("sheet"), 1.4))
            painter.setBrush(THEME.colour("verdigris"))
            painter.drawRect(box)
            painter.setPen(THEME.colour("sheet"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(level))

    def lead_px(self, lead: Lead) -> QPointF:
        """Where a main lead leaves, on the drawing."""
        assert self._drawn is not None
        places = self._drawn.layout.terminal_mm
        at = places[lead.terminal]
        if lead.toward is not None:
            at = at + lead.share * (places[lead.toward] - at)
        return self.to_px(float(at[0]), float(at[1]))

    def leads_here(self) -> list[int]:
        """Which main leads leave on the side and layer that is seen."""
        drawn = self._drawn
        if drawn is None:
            return []
        hidden = FACE_B if drawn.side == FACE_A else FACE_A
        return [
            place
            for place, lead in enumerate(drawn.leads)
            if drawn.layout.face[lead.terminal] != hidden
            and drawn.layout.layer[lead.terminal // 2] == drawn.layer
        ]

    def _lead_px(self) -> float:
        """Radius of a lead's mark in pixels."""
        return float(min(THEME.px(9), max(THEME.px(6), 0.5 * self._pitch_px)))

    def _paint_leads(self, painter: QPainter, drawn: Drawn) -> None:
        radius = self._lead_px()
        painter.setFont(THEME.font("note" if radius < THEME.px(8) else "stage", strong=True))
        for place in self.leads_here():
            lead = drawn.leads[place]
            at = self.lead_px(lead)
            painter.setPen(QPen(THEME.colour("sheet"), THEME.px(2)))
            painter.setBrush(THEME.colour("copper" if lead.pole == "+" else "ink"))
            painter.drawEllipse(at, radius, radius)
            painter.setPen(THEME.colour("sheet"))
            sign = "+" if lead.pole == "+" else "−"
            painter.drawText(
                QRectF(at.x() - radius, at.y() - radius, 2 * radius, 2 * radius),
                Qt.AlignmentFlag.AlignCenter,
                sign,
            )

    def _paint_flaws(self, painter: QPainter, drawn: Drawn) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        hidden = FACE_B if drawn.side == FACE_A else FACE_A
        for flaw in drawn.flaws:
            if flaw.face == hidden:
                continue
            at = self.to_px(flaw.x_mm, flaw.y_mm)
            painter.setPen(QPen(THEME.colour("crimson"), THEME.px(3)))
            reach = THEME.px(11)
            painter.drawPolygon(
                QPolygonF([
                    at + QPointF(0, -reach), at + QPointF(reach, 0),
                    at + QPointF(0, reach), at + QPointF(-reach, 0),
                ])
            )  # fmt: skip

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
        x, y = self.to_mm(point)
        self.sketch.append((float(round(x)), float(round(y))))
        self.update()

    # Pointing, clicking, dragging.

    def cell_at(self, point: QPointF) -> int | None:
        """The cell under a point."""
        drawn = self._drawn
        if drawn is None:
            return None
        x, y = self.to_mm(point)
        layout = drawn.layout
        inside = (
            (np.abs(layout.x_mm - x) <= layout.half_mm[:, 0])
            & (np.abs(layout.y_mm - y) <= layout.half_mm[:, 1])
            & self._on_layer(drawn)
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
        seen = np.flatnonzero(self._piece_seen(drawn))
        if not len(seen):
            return None
        x, y = self.to_mm(point)
        away, _ = self._beside(drawn.pieces, seen, x, y)
        near = int(np.argmin(away))
        reach = max(PICK_PX / self._scale, 0.16 * drawn.layout.cell.pitch_mm)
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
        for place in self.leads_here():
            away = self.lead_px(drawn.leads[place]) - point
            if np.hypot(away.x(), away.y()) <= self._lead_px() + THEME.px(2):
                return place
        return None

    def _block_at(self, point: QPointF) -> int | None:
        drawn = self._drawn
        if drawn is None:
            return None
        x, y = self.to_mm(point)
        for place, (_, left, top, length, width) in enumerate(drawn.kept_free):
            if left <= x <= left + length and top <= y <= top + width:
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
        x, y = self.to_mm(point)
        was_x, was_y = self.to_mm(self._grip_at)
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
        if event is None or self._drawn is None:
            return
        zoom = min(max(self._zoom * 1.2 ** (event.angleDelta().y() / 120.0), 1.0), MOST_ZOOM)
        at, held = event.position(), self.to_mm(event.position())
        self._zoom = zoom
        self._measure()
        if zoom == 1.0:
            self._pan = QPointF()
        else:
            self._pan += at - self.to_px(*held)
        self._measure()
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
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
        across = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        down = step_of(event, Qt.Key.Key_Up, Qt.Key.Key_Down)
        if across or down:
            self.stepped.emit(float(-across if self._mirrored else across), float(down))
        elif is_enter(event) and self._drawn is not None:
            if self._drawn.chosen_piece is not None:
                self.piece_clicked.emit(self._drawn.chosen_piece)
        else:
            super().keyPressEvent(event)


ROUND, FLAT = Qt.PenCapStyle.RoundCap, Qt.PenCapStyle.FlatCap
