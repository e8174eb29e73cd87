"""Painting strips, wires and plates of one side, as metal or by the current that they carry."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from lumvak.core.arrangement.folds import fold_between
from lumvak.core.joints.pieces import FOLD, TIE, WIRE
from lumvak.ui.pack_drawing.side import SideShown, Spread
from lumvak.ui.widgets.measured import text_width
from lumvak.ui.widgets.theme import THEME

Places = list[tuple[float, float]]
ROUND, FLAT = Qt.PenCapStyle.RoundCap, Qt.PenCapStyle.FlatCap
CENTRE = Qt.AlignmentFlag.AlignCenter
# So many shades of the current that a piece carries are told apart.
SHADES = 255


def paint_pieces(painter: QPainter, drawn: SideShown, spread: Spread, terminals: Places) -> None:
    """Paint the pieces of a side over its cells; ``terminals`` are where those of all are drawn."""
    pieces, strength = drawn.pieces, drawn.strength
    if pieces is None:
        return
    seen = drawn.pieces_here
    if strength is not None:
        seen = seen[np.argsort(strength[seen], kind="stable")]
    pens = _Pens(drawn, drawn.layout.cell.pitch_mm * spread.scale, spread.scale)
    folded = (pieces.kind == FOLD).tolist()
    one, other = pieces.a.tolist(), pieces.b.tolist()
    for piece in seen.tolist():
        if piece in drawn.absent:
            continue
        if folded[piece]:
            start, end = _fold_ends(drawn, spread, piece)
        else:
            start, end = QPointF(*terminals[one[piece]]), QPointF(*terminals[other[piece]])
        if piece == drawn.chosen_piece and piece not in drawn.gone:
            painter.setPen(pens.around(piece))
            painter.drawLine(start, end)
        painter.setPen(pens.of(piece))
        painter.drawLine(start, end)
    _layers(painter, drawn, seen[pieces.layers[seen] > 1].tolist(), terminals)


class _Pens:
    """The pen of each piece; thousands share a few."""

    def __init__(self, drawn: SideShown, pitch: float, scale: float) -> None:
        pieces, strength = drawn.pieces, drawn.strength
        assert pieces is not None
        self._drawn, self._shades = drawn, None
        if strength is not None:
            self._shades = np.round(strength * SHADES).astype(int).tolist()
            widths = np.array(self._shades) / SHADES * 0.62 * pitch
            widths = np.clip(widths, THEME.px(2), None)
        elif drawn.width_mm is not None:
            widths = np.clip(drawn.width_mm * scale, 1.5, 0.9 * pitch)
        else:
            widths = np.full(len(pieces), 3.0)
        self._widths: list[float] = widths.tolist()
        self._wired = np.isin(pieces.kind, (WIRE, TIE)).tolist()
        self._wash = QColor(THEME.colour("copper_wash"))
        self._wash.setAlphaF(0.85)
        self._made: dict[tuple[str | int, float], QPen] = {}

    def of(self, piece: int) -> QPen:
        """The pen of a piece; of one that is gone a dotted one."""
        if piece in self._drawn.gone:
            return QPen(THEME.colour("crimson"), 1.6, Qt.PenStyle.DotLine)
        role: str | int = "soft" if self._wired[piece] else "wash"
        if piece in self._drawn.marked:
            role = "copper"
        elif self._shades is not None:
            role = self._shades[piece]
        width = self._widths[piece]
        if (role, width) not in self._made:
            cap = FLAT if self._shades is None else ROUND
            self._made[role, width] = QPen(self._colour(role), width, cap=cap)
        return self._made[role, width]

    def around(self, piece: int) -> QPen:
        """The pen of the rim of a piece that is chosen."""
        return QPen(THEME.colour("verdigris"), self._widths[piece] + THEME.px(5), cap=ROUND)

    def _colour(self, role: str | int) -> QColor:
        if isinstance(role, int):
            return THEME.ramp("current", role / SHADES)
        return self._wash if role == "wash" else THEME.colour(role)


def _layers(painter: QPainter, drawn: SideShown, stacked: list[int], terminals: Places) -> None:
    """How many strips lie on each other, in the middle of each such piece."""
    pieces = drawn.pieces
    assert pieces is not None
    painter.setPen(THEME.colour("ink"))
    painter.setFont(THEME.font("note", strong=True, table=True))
    for piece in stacked:
        (x, y), (far_x, far_y) = terminals[pieces.a[piece]], terminals[pieces.b[piece]]
        text = f"{pieces.layers[piece]}×"
        # On a plate, for the strip under it may be as dark as the ink.
        wide = text_width(text, "note", strong=True, table=True) + THEME.px(4)
        place = QRectF(0.0, 0.0, wide, THEME.px(15))
        place.moveCenter(QPointF((x + far_x) / 2.0, (y + far_y) / 2.0))
        painter.fillRect(place, THEME.colour("sheet"))
        painter.drawText(place, CENTRE, text)


def _fold_ends(drawn: SideShown, spread: Spread, piece: int) -> tuple[QPointF, QPointF]:
    """The ends of a folded strip: its own on this side and layer, and the edge."""
    pieces, layout = drawn.pieces, drawn.layout
    assert pieces is not None
    one, other = int(pieces.a[piece]), int(pieces.b[piece])
    here = layout.face[one] != drawn.hidden and layout.layer[one // 2] == drawn.layer
    ends = (one, other) if here else (other, one)
    fold = fold_between(layout, *ends)
    at, edge = (layout.terminal_mm[one],) * 2 if fold is None else fold.points_mm[:2]
    return spread.to_px(float(at[0]), float(at[1])), spread.to_px(float(edge[0]), float(edge[1]))
