"""Balance leads: where each goes and how long it is."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrangement.layout import Barriers, Layout
from lumvak.core.arrays import distinct
from lumvak.core.document.arrangement import KeptFree
from lumvak.core.document.taps import TapWay
from lumvak.core.joints.take_off import Lead

Array = NDArray[np.float64]
Index = NDArray[np.intp]
ROUTE_SLACK = 1.15
# So much longer a lead is laid to keep off cans of far other potential.
EDGE_MM = 40.0
# A corner of a way lies no farther outside than the pack is long, or than this.
LEAST_REACH_MM = 200.0
Corners = tuple[tuple[float, float], ...]


class Taps(Struct, frozen=True, eq=False):
    """The balance leads, from level 0 upwards: the ``terminal`` of each and its ``length_mm``.

    Arrays of length series + 1. ``board_mm`` is where all end, (3,). ``ways`` are those of the
    builder that are followed, by lead; ``astray`` the leads of those that lie too far out.
    """

    terminal: Index
    length_mm: Array
    board_mm: Array
    ways: dict[int, Corners]
    astray: tuple[int, ...]


def reach_mm(layout: Layout) -> float:
    """How far outside the pack a corner of a way may lie, in mm."""
    return max(LEAST_REACH_MM, *layout.size_mm[:2])


def strays(corners: Corners, layout: Layout) -> bool:
    """Whether a way has a corner that lies farther out."""
    at, reach = np.array(corners, dtype=float).reshape(-1, 2), reach_mm(layout)
    return bool((at < -reach).any() or (at > np.array(layout.size_mm[:2]) + reach).any())


def taps_of(
    kept_free: Sequence[KeptFree],
    layout: Layout,
    leads: Sequence[Lead],
    spare_mm: float,
    ways: Sequence[TapWay] = (),
    barriers: Barriers | None = None,
) -> Taps:
    """Where each balance lead goes and its length (methods 18).

    Along the edges to the nearest terminal of the level, one at which no main lead leaves where
    there is one, over the edge of the pack where that is on the other side, with slack and
    ``spare_mm`` for both ends. The board is the first block named so, or BMS, else it lies where
    the negative lead leaves. A terminal beside one of ``barriers`` counts as EDGE_MM farther. A
    lead that has one of ``ways`` goes by its corners, where they lie within ``reach_mm``.
    """
    board = next((item for item in kept_free if item.is_board), None)
    if board is not None:
        place = np.array(
            [
                board.x_mm + board.length_mm / 2.0,
                board.y_mm + board.width_mm / 2.0,
                _board_height_mm(board, layout),
            ]
        )
    else:
        start = next((lead for lead in leads if lead.pole == "-"), None)
        place = layout.terminal_mm[start.terminal if start is not None else 1].copy()
        place[2] = layout.size_mm[2]
    away = np.abs(layout.terminal_mm - place).sum(axis=1)
    # Where a main lead leaves it is warm and pulled at: another cell of the joint is better.
    busy = np.zeros(len(away), dtype=bool)
    busy[[lead.terminal for lead in leads]] = True
    # Beside a can of far other potential a slip of the iron shorts the two.
    edge = np.zeros(len(away), dtype=bool)
    if barriers is not None:
        cells = distinct(barriers.pairs)
        edge[np.concatenate([2 * cells, 2 * cells + 1])] = True
    order = np.lexsort((away + EDGE_MM * edge, busy, layout.level))
    first = np.searchsorted(layout.level[order], np.arange(layout.series + 1))
    terminals = order[first]
    length = away[terminals]
    laid = {way.lead: way.corners for way in ways if way.lead < len(terminals) and way.corners}
    astray = tuple(lead for lead, corners in laid.items() if strays(corners, layout))
    followed = {lead: corners for lead, corners in laid.items() if lead not in astray}
    for lead, corners in followed.items():
        at = layout.terminal_mm[terminals[lead]]
        route = np.array([at[:2], *corners, place[:2]], dtype=float)
        flat = float(np.hypot(*np.diff(route, axis=0).T).sum())
        length[lead] = flat + abs(float(at[2] - place[2]))
    return Taps(terminals, length * ROUTE_SLACK + spare_mm, place, followed, astray)


def _board_height_mm(board: KeptFree, layout: Layout) -> float:
    """Height in mm over the floor at which the leads end on the board."""
    on_floor = board.stands == "floor" and board.height_mm is not None
    return board.height_mm or 0.0 if on_floor else layout.size_mm[2]
