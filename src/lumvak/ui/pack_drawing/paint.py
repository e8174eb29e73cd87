"""Painting one side of a pack: room, cells, pieces, poles, covers, barriers, leads and flaws."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QFont, QPainter, QPen, QPixmap, QPolygonF
from shapely.geometry.base import BaseGeometry

from lumvak.ui.pack_drawing.pieces import paint_pieces
from lumvak.ui.pack_drawing.side import SideShown, Spread
from lumvak.ui.widgets.theme import SIZES, THEME

LEAST_LABEL_PX = 6.0
LEAST_POLE_PX = 11
ROUND = Qt.PenCapStyle.RoundCap
CENTRE = Qt.AlignmentFlag.AlignCenter
UNCUT = int(CENTRE) | int(Qt.TextFlag.TextDontClip)


def lead_radius_px(pitch_px: float) -> float:
    """Radius of a lead's mark: smaller where cells are small."""
    return float(min(THEME.px(9), max(THEME.px(6), 0.5 * pitch_px)))


def paint_pack(painter: QPainter, drawn: SideShown, spread: Spread, ratio: float) -> None:
    """Paint the metal and cells of a side; ``ratio`` is how many dots of the screen make a pixel.

    What ``paint_over`` paints on it changes while hands work, this does so seldom.
    """
    pitch = drawn.layout.cell.pitch_mm * spread.scale
    boxes = _boxes(drawn, spread)
    _room(painter, drawn.room, spread)
    _parts(painter, drawn, spread, over=False)
    _cells(painter, drawn, boxes)
    terminals = spread.all_px(drawn.layout.terminal_mm)
    paint_pieces(painter, drawn, spread, terminals)
    if drawn.labels:
        _labels(painter, drawn, boxes)
    elif pitch >= LEAST_POLE_PX:
        _poles(painter, drawn, terminals, pitch, ratio)
    _cover(painter, drawn, boxes, spread)
    _barriers(painter, drawn, spread, pitch)
    _groups(painter, drawn, boxes, spread, pitch)


def paint_over(painter: QPainter, drawn: SideShown, spread: Spread) -> None:
    """Paint what lies over the metal: leads, parts and flaws."""
    pitch = drawn.layout.cell.pitch_mm * spread.scale
    _way(painter, drawn, spread)
    _taps(painter, drawn, spread, pitch)
    _parts(painter, drawn, spread, over=True)
    _leads(painter, drawn, spread, pitch)
    _flaws(painter, drawn, spread)


def _boxes(drawn: SideShown, spread: Spread) -> dict[int, QRectF]:
    """The box of every cell on the layer that is shown."""
    layout = drawn.layout
    here = np.flatnonzero(drawn.on_layer)
    places = np.stack([layout.x_mm[here], layout.y_mm[here]], axis=1)
    halves = (layout.half_mm[here, :2] * spread.scale).tolist()
    return {
        cell: QRectF(x - wide, y - high, 2.0 * wide, 2.0 * high)
        for cell, (x, y), (wide, high) in zip(
            here.tolist(), spread.all_px(places), halves, strict=True
        )
    }


def _room(painter: QPainter, room: BaseGeometry | None, spread: Spread) -> None:
    if room is None:
        return
    painter.setPen(QPen(THEME.colour("soft"), 1.4))
    for shape in getattr(room, "geoms", [room]):
        for ring, ground in [(shape.exterior, "paper")] + [(r, "sheet") for r in shape.interiors]:
            painter.setBrush(THEME.colour(ground))
            painter.drawPolygon(QPolygonF([spread.to_px(x, y) for x, y, *_ in ring.coords]))


def _parts(painter: QPainter, drawn: SideShown, spread: Spread, over: bool) -> None:
    """The parts in the room: those beside the cells, or the outlines of those over them."""
    painter.setFont(THEME.font("note", table=True))
    for part in drawn.kept_free:
        if part.over != over:
            continue
        left, top, right, bottom = part.bounds_mm
        box = QRectF(spread.to_px(left, top), spread.to_px(right, bottom)).normalized()
        painter.setPen(QPen(THEME.colour("ink" if over else "soft"), 1.2, Qt.PenStyle.DashLine))
        painter.setBrush(Qt.BrushStyle.NoBrush if over else THEME.colour("grey_wash"))
        painter.drawRect(box)
        _part_name(painter, part.name, box, over)


def _part_name(painter: QPainter, name: str, box: QRectF, over: bool) -> None:
    """The name of a part in its box; on a ground of its own, at the corner, over the cells."""
    painter.save()
    painter.setPen(THEME.colour("ink"))
    if over:
        words = painter.fontMetrics().boundingRect(name).adjusted(-2, -1, 2, 1)
        words.moveTopLeft(box.topLeft().toPoint())
        if words.height() > box.height() or words.width() > box.width():
            words.moveBottomLeft(box.topRight().toPoint())
        painter.fillRect(words, THEME.colour("sheet"))
        painter.drawText(words, CENTRE, name)
    else:
        painter.translate(box.center())
        if box.height() > 1.5 * box.width():
            painter.rotate(-90)
            box = QRectF(0, 0, box.height(), box.width())
        box.moveCenter(QPointF())
        # A name goes over the edge of a part that is too small for it.
        painter.drawText(box, UNCUT, name)
    painter.restore()


def _cells(painter: QPainter, drawn: SideShown, boxes: dict[int, QRectF]) -> None:
    layout = drawn.layout
    plain, chosen_pen = QPen(THEME.colour("soft"), 1.0), QPen(THEME.colour("copper"), 2.4)
    last = max(1, layout.series - 1)
    if drawn.cell_over is not None:
        ramp, shares = "over", (0.5 + drawn.cell_over / 2.0).tolist()
    else:
        ramp, shares = "potential", (layout.group / last).tolist()
    standing = (layout.axis == 0).tolist() if layout.cell.diameter_mm is not None else None
    painter.setPen(plain)
    last_share = None
    for cell, box in boxes.items():
        if shares[cell] != last_share:
            last_share = shares[cell]
            painter.setBrush(THEME.ramp(ramp, last_share))
        if cell in drawn.chosen_cells:
            painter.setPen(chosen_pen)
        if standing is not None and standing[cell]:
            painter.drawEllipse(box)
        else:
            painter.drawRoundedRect(box, THEME.px(3), THEME.px(3))
        if cell in drawn.chosen_cells:
            painter.setPen(plain)
    painter.setPen(QPen(THEME.colour("crimson"), 2.2))
    for cell in drawn.broken_cells & boxes.keys():
        painter.drawLine(boxes[cell].topLeft(), boxes[cell].bottomRight())
        painter.drawLine(boxes[cell].topRight(), boxes[cell].bottomLeft())


@lru_cache(maxsize=64)
def _pole(sheet: str, arm: float, positive: bool, ratio: float) -> QPixmap:
    """A cross or a bar on a pale disc, kept: it is drawn at every terminal."""
    side = 2.0 * np.ceil(1.5 * arm + 1.0)
    made = QPixmap(round(side * ratio), round(side * ratio))
    made.setDevicePixelRatio(ratio)
    made.fill(Qt.GlobalColor.transparent)
    painter = QPainter(made)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    ground = QColor(THEME.colour("sheet"))
    ground.setAlphaF(0.8)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(ground)
    middle = QPointF(side / 2.0, side / 2.0)
    painter.drawEllipse(middle, 1.5 * arm, 1.5 * arm)
    painter.setPen(QPen(THEME.colour("ink"), max(1.2, arm / 3.2)))
    painter.drawLine(middle - QPointF(arm, 0), middle + QPointF(arm, 0))
    if positive:
        painter.drawLine(middle - QPointF(0, arm), middle + QPointF(0, arm))
    painter.end()
    return made


def _poles(
    painter: QPainter,
    drawn: SideShown,
    terminals: list[tuple[float, float]],
    pitch: float,
    ratio: float,
) -> None:
    """A cross for a positive end, a bar for a negative one, on the side that is seen."""
    arm = round(max(2.0, min(THEME.px(5), 0.16 * pitch)) * 4.0) / 4.0
    marks = [_pole(THEME.name, arm, positive, ratio) for positive in (True, False)]
    half = marks[0].deviceIndependentSize().width() / 2.0
    here = np.repeat(drawn.on_layer, 2) & (drawn.layout.face != drawn.hidden)
    for terminal in np.flatnonzero(here).tolist():
        x, y = terminals[terminal]
        painter.drawPixmap(QPointF(x - half, y - half), marks[terminal % 2])


def _labels(painter: QPainter, drawn: SideShown, boxes: dict[int, QRectF]) -> None:
    """A word on every cell that has one, on a pale ground, as large as the cells let it be."""
    longest = max(map(len, drawn.labels))
    side = min(min(box.width(), box.height()) for box in boxes.values())
    size = min(float(THEME.px(SIZES["stage"])), 1.5 * side / max(longest, 2))
    if size < LEAST_LABEL_PX:
        return
    font = QFont(THEME.font("table", strong=True))
    font.setPixelSize(round(size))
    painter.setFont(font)
    ground = QColor(THEME.colour("sheet"))
    ground.setAlphaF(0.8)
    for cell, box in boxes.items():
        if not drawn.labels[cell]:
            continue
        tall = QRectF(box.left(), box.center().y() - 0.62 * size, box.width(), 1.24 * size)
        painter.fillRect(tall, ground)
        painter.setPen(THEME.colour("ink"))
        painter.drawText(tall, CENTRE, drawn.labels[cell])


def _cover(painter: QPainter, drawn: SideShown, boxes: dict[int, QRectF], spread: Spread) -> None:
    """A hatched sheet over the cells that are covered."""
    if not drawn.covered:
        return
    ground = QColor(THEME.colour("grey_wash"))
    ground.setAlphaF(0.75)
    painter.setPen(Qt.PenStyle.NoPen)
    reach = drawn.layout.gap_mm / 2.0 * spread.scale + 0.5
    under = [boxes[cell] for cell in sorted(drawn.covered & boxes.keys())]
    for brush in (QBrush(ground), QBrush(THEME.colour("soft"), Qt.BrushStyle.BDiagPattern)):
        painter.setBrush(brush)
        for box in under:
            painter.drawRect(box.adjusted(-reach, -reach, reach, reach))


def _barriers(painter: QPainter, drawn: SideShown, spread: Spread, pitch: float) -> None:
    layout = drawn.layout
    painter.setPen(QPen(THEME.colour("amber"), THEME.px(3), cap=ROUND))
    for one, other in drawn.barriers.tolist():
        if layout.layer[one] != drawn.layer:
            continue
        start = spread.to_px(float(layout.x_mm[one]), float(layout.y_mm[one]))
        end = spread.to_px(float(layout.x_mm[other]), float(layout.y_mm[other]))
        way, middle = end - start, (start + end) / 2.0
        length = max(1e-6, float(np.hypot(way.x(), way.y())))
        across = QPointF(-way.y(), way.x()) * (0.36 * pitch / length)
        painter.drawLine(middle - across, middle + across)


def _groups(
    painter: QPainter, drawn: SideShown, boxes: dict[int, QRectF], spread: Spread, pitch: float
) -> None:
    """The number of each group at its uppermost cell."""
    layout = drawn.layout
    painter.setFont(THEME.font("note", table=True))
    painter.setPen(THEME.colour("soft"))
    # Where cells are small only some numbers have room.
    every = max(1, round(THEME.px(19) / max(pitch, 1.0) + 0.4))
    here = drawn.on_layer
    for group in range(0, layout.series, every):
        cells = np.arange(group * layout.parallel, (group + 1) * layout.parallel)
        cells = cells[here[cells]]
        if not len(cells):
            continue
        top = int(cells[np.argmin(layout.y_mm[cells] * 1000.0 + layout.x_mm[cells])])
        box = boxes[top]
        if layout.cell.diameter_mm is None or layout.axis[top] != 0:
            painter.drawText(box, CENTRE, str(group + 1))
        elif box.top() - spread.top < THEME.px(4):
            above = QRectF(box.center().x() - 30, box.top() - THEME.px(17), 60, THEME.px(16))
            painter.drawText(above, CENTRE, str(group + 1))
        elif pitch > THEME.px(14):
            # In the gap between four round cells.
            corner = QRectF(box.left() - 12, box.top() - 9, 24, 18)
            painter.drawText(corner, CENTRE, str(group + 1))


def _way(painter: QPainter, drawn: SideShown, spread: Spread) -> None:
    """The way of the balance lead in hand, where it lies on this side."""
    if drawn.route is None or drawn.tap is None or drawn.taps is None:
        return
    if drawn.layout.face[int(drawn.taps[drawn.tap])] == drawn.hidden:
        return
    corners = [QPointF(x, y) for x, y in spread.all_px(drawn.route)]
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for role, width in (("sheet", 5.0), ("copper", 2.4)):
        painter.setPen(QPen(THEME.colour(role), width))
        painter.drawPolyline(QPolygonF(corners))


def _taps(painter: QPainter, drawn: SideShown, spread: Spread, pitch: float) -> None:
    """The number of each balance lead where it is taken off; a dot where cells are small."""
    if drawn.taps is None:
        return
    layout = drawn.layout
    places = spread.all_px(layout.terminal_mm[drawn.taps])
    painter.setFont(THEME.font("note", strong=True, table=True))
    seen = [
        level
        for level, terminal in enumerate(drawn.taps.tolist())
        if layout.face[terminal] != drawn.hidden and layout.layer[terminal // 2] == drawn.layer
    ]
    # The one in hand lies over the others.
    for level in sorted(seen, key=lambda level: level == drawn.tap):
        wrong = level in drawn.taps_wrong
        role = (
            "crimson"
            if wrong
            else "copper"
            if level == drawn.tap
            else ("soft" if level in drawn.taps_done else "verdigris")
        )
        painter.setBrush(THEME.colour(role))
        x, y = places[level]
        if pitch < THEME.px(20):
            painter.setPen(QPen(THEME.colour("sheet"), 1.0))
            painter.drawRect(QRectF(x - 0.25 * pitch, y - 0.25 * pitch, 0.5 * pitch, 0.5 * pitch))
            continue
        box = QRectF(x - THEME.px(11), y - THEME.px(8), THEME.px(22), THEME.px(16))
        painter.setPen(QPen(THEME.colour("sheet"), 1.4))
        painter.drawRect(box)
        painter.setPen(THEME.colour("sheet"))
        painter.drawText(box, CENTRE, f"{level}?" if wrong else str(level))


def _leads(painter: QPainter, drawn: SideShown, spread: Spread, pitch: float) -> None:
    radius = lead_radius_px(pitch)
    painter.setFont(THEME.font("note" if radius < THEME.px(8) else "stage", strong=True))
    for place in drawn.leads_here:
        lead = drawn.leads[place]
        at = spread.lead_px(drawn, lead)
        painter.setPen(QPen(THEME.colour("sheet"), THEME.px(2)))
        painter.setBrush(THEME.colour("copper" if lead.pole == "+" else "ink"))
        painter.drawEllipse(at, radius, radius)
        painter.setPen(THEME.colour("sheet"))
        box = QRectF(at.x() - radius, at.y() - radius, 2 * radius, 2 * radius)
        painter.drawText(box, CENTRE, "+" if lead.pole == "+" else "−")


def _flaws(painter: QPainter, drawn: SideShown, spread: Spread) -> None:
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(THEME.colour("crimson"), THEME.px(3)))
    reach = THEME.px(11)
    corners = (QPointF(0, -reach), QPointF(reach, 0), QPointF(0, reach), QPointF(-reach, 0))
    for flaw in drawn.flaws:
        if flaw.face != drawn.hidden:
            at = spread.to_px(flaw.x_mm, flaw.y_mm)
            painter.drawPolygon(QPolygonF([at + corner for corner in corners]))
