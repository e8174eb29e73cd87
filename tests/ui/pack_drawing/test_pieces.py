"""Pieces are painted where they lie, thick by their current, and not where they are absent."""

import numpy as np
from msgspec.structs import replace
from PyQt6.QtCore import QSize
from PyQt6.QtGui import QColor, QImage, QPainter

from lumvak.core.arrangement.layout import FACE_A
from lumvak.ui.pack_drawing.pieces import paint_pieces
from lumvak.ui.pack_drawing.side import SideShown, Spread
from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.shell.window import Window
from tests.dots import dots

SIZE = QSize(400, 260)


def painted(drawn: SideShown, spread: Spread) -> np.ndarray:
    """(height, width) how opaque each dot is once the pieces alone are painted."""
    made = QImage(SIZE, QImage.Format.Format_ARGB32)
    made.fill(QColor(0, 0, 0, 0))
    painter = QPainter(made)
    paint_pieces(painter, drawn, spread, spread.all_px(drawn.layout.terminal_mm))
    painter.end()
    return dots(made)[:, :, 3]


def test_pieces_lie_between_their_ends_and_are_as_thick_as_their_current(window: Window) -> None:
    joined_pack = window.session.evaluation.laid_out.joined_pack
    drawn = SideShown(
        layout=joined_pack.layout,
        side=FACE_A,
        pieces=joined_pack.pieces,
        width_mm=joined_pack.sections.width_mm,
    )
    view = PackView("a side")
    view.resize(SIZE)
    view.show_drawn(drawn)
    spread, pieces = view.spread, joined_pack.pieces
    opaque = painted(drawn, spread)
    places = spread.all_px(joined_pack.layout.terminal_mm)
    here = drawn.pieces_here.tolist()
    assert here
    for piece in here:
        middle = (np.array(places[pieces.a[piece]]) + np.array(places[pieces.b[piece]])) / 2.0
        x, y = np.rint(middle).astype(int)
        assert opaque[y, x] > 0
    assert not painted(replace(drawn, absent=frozenset(here)), spread).any()
    weak = painted(replace(drawn, strength=np.full(len(pieces), 0.1)), spread)
    strong = painted(replace(drawn, strength=np.full(len(pieces), 1.0)), spread)
    assert np.count_nonzero(strong) > 1.5 * np.count_nonzero(weak)
    chosen = painted(replace(drawn, chosen_piece=here[0]), spread)
    assert np.count_nonzero(chosen) > np.count_nonzero(opaque)
