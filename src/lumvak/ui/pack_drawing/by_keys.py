"""Going over a drawing of the pack by keys: from cell to cell, and from strip to strip."""

from __future__ import annotations

import numpy as np

from lumvak.ui.pack_drawing.side import SideShown

# What lies so much farther off the way than along it is not in that direction.
ASIDE = 1.2


def next_cell(drawn: SideShown, cell: int | None, across: int, down: int) -> int | None:
    """The nearest cell of the side that is seen, to the right or left, below or above.

    ``across`` counts as on the drawing, also where that is turned over. The same cell where there
    is none farther that way; the first one where none was marked yet.
    """
    layout, seen = drawn.layout, np.flatnonzero(drawn.on_layer)
    if not len(seen):
        return None
    if cell is None or not drawn.on_layer[cell]:
        return int(seen[0])
    dx, dy = layout.x_mm[seen] - layout.x_mm[cell], layout.y_mm[seen] - layout.y_mm[cell]
    along = dx * across + dy * down
    aside = np.abs(dy if across else dx)
    ahead = (along > 0.1 * layout.cell.pitch_mm) & (aside <= ASIDE * along)
    if not ahead.any():
        return cell
    away = np.where(ahead, along + 2.0 * aside, np.inf)
    return int(seen[np.argmin(away)])


def next_piece(drawn: SideShown, piece: int | None, step: int) -> int | None:
    """The piece after or before one, of those on the side that is seen; around at the ends."""
    if drawn.pieces is None or not len(drawn.pieces_here):
        return None
    here = drawn.pieces_here.tolist()
    if piece not in here:
        return int(here[0 if step > 0 else -1])
    return int(here[(here.index(piece) + step) % len(here)])
