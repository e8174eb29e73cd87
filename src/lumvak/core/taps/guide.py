"""Where each balance lead goes: joint, side, route, colour, pin and what it reads."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrangement.layout import FACE_A, FACE_B, Layout
from lumvak.core.catalogue.boards import Board, Plug
from lumvak.core.document.taps import BalanceLeads
from lumvak.core.joints.pieces import terminal_name
from lumvak.core.taps.routes import Taps

Array = NDArray[np.float64]
# A board of which nothing is said takes one lead more than groups, in the usual order.
USUAL = Plug()
ORDER = "Main minus first, then the balance plug, then main plus."
SIDES = {FACE_A: "side A", FACE_B: "side B"}


class TapGuide(Struct, frozen=True, eq=False):
    """One balance lead: ``number`` from 0 at the most negative joint.

    ``place`` names its terminal, ``side`` the side of the pack, ``route_mm`` the corners of its way
    to the board, (k, 2). ``pin`` is empty where it has none on the plug. ``across_v`` is the most
    that lies under its way against its own joint, in V; ``expected_v`` its running total.
    """

    number: int
    terminal: int
    place: str
    side: str
    route_mm: Array
    length_mm: float
    colour: str
    pin: str
    plug: int
    across_v: float
    across: int | None
    expected_v: float


def guide_of(
    leads: BalanceLeads, taps: Taps, layout: Layout, board: Board | None, level_v: Array
) -> tuple[TapGuide, ...]:
    """Every balance lead from the most negative joint upwards (methods 31).

    ``level_v`` is the volts of each joint over the lowest, (series + 1,).
    """
    plug = USUAL if board is None or board.plug is None else board.plug
    pins = pins_of(plug, layout.series)
    found = []
    for number, terminal in enumerate(taps.terminal.tolist()):
        route = _route(layout.terminal_mm[terminal], taps.board_mm, taps.ways.get(number))
        under, volts = _crossed(layout, route, terminal, number, level_v)
        pin, place = pins[number]
        found.append(
            TapGuide(
                number,
                terminal,
                place=terminal_name(layout, terminal),
                side=SIDES.get(int(layout.face[terminal]), "an end"),
                route_mm=route,
                length_mm=float(taps.length_mm[number]),
                colour=leads.colours[number % len(leads.colours)],
                pin=pin,
                plug=place,
                across_v=volts,
                across=under,
                expected_v=float(level_v[number]),
            )
        )
    return tuple(found)


def pins_of(plug: Plug, series: int) -> list[tuple[str, int]]:
    """The pin of each lead and which plug it is on, from 1; empty where it has none."""
    found: list[tuple[str, int]] = []
    ends = np.cumsum(plug.sizes).tolist() if plug.sizes else []
    taken = 0
    for number in range(series + 1):
        none = (number == 0 and plug.first == "positive") or (
            number == series and plug.last == "main"
        )
        if none:
            found.append(("", 0))
            continue
        name = plug.pins[taken] if taken < len(plug.pins) else f"B{number}"
        on = next((at for at, end in enumerate(ends, 1) if taken < end), len(ends) or 1)
        found.append((name, on))
        taken += 1
    return found


def unused_pins(plug: Plug, board_series: int, series: int) -> tuple[str, ...]:
    """Pins of a board that takes more groups than there are."""
    every = [pin for pin, _ in pins_of(plug, board_series) if pin]
    used = sum(bool(pin) for pin, _ in pins_of(plug, series))
    return tuple(every[used:])


def _route(start: Array, board: Array, corners: Sequence[tuple[float, float]] | None) -> Array:
    """By the builder's corners, else along the rows to the board's side and along that, (k, 2)."""
    between = [(board[0], start[1])] if corners is None else corners
    return np.array([start[:2], *between, board[:2]], dtype=float)


def _crossed(
    layout: Layout, route: Array, terminal: int, number: int, level_v: Array
) -> tuple[int | None, float]:
    """The joint under a way that differs most from its own, and by how many V."""
    same = np.flatnonzero(layout.face == layout.face[terminal])
    under = same[_over(route, layout.terminal_mm[same][:, :2], layout.half_mm[same // 2, :2])]
    if not len(under):
        return None, 0.0
    joints = layout.level[under]
    volts = np.abs(level_v[joints] - level_v[number])
    worst = int(np.argmax(volts))
    return (int(joints[worst]), float(volts[worst])) if volts[worst] > 0.0 else (None, 0.0)


def _over(route: Array, places: Array, half: Array) -> NDArray[np.bool_]:
    """Which rectangles a way (k, 2) touches: about ``places`` (m, 2), ``half`` as wide each way."""
    found = np.zeros(len(places), dtype=bool)
    low, high = places - half, places + half
    for start, end in pairwise(route):
        # A piece that follows rows and columns is a thin box, which few rectangles touch.
        least, most = np.minimum(start, end), np.maximum(start, end)
        near = (low[:, 0] <= most[0]) & (high[:, 0] >= least[0])
        near = np.flatnonzero(near & (low[:, 1] <= most[1]) & (high[:, 1] >= least[1]))
        found[near] |= _over_one(start, end, low[near], high[near])
    return found


def _over_one(start: Array, end: Array, low: Array, high: Array) -> NDArray[np.bool_]:
    """Which rectangles from ``low`` to ``high``, (m, 2), a straight piece touches."""
    along = end - start
    low, high = low - start, high - start
    still = along == 0.0
    by = np.where(still, 1.0, along)
    # From which share of a piece it is within each side's bounds, and to which.
    enters = np.where(
        still, np.where((low <= 0.0) & (high >= 0.0), 0.0, 2.0), np.minimum(low / by, high / by)
    )
    leaves = np.where(still, 1.0, np.maximum(low / by, high / by))
    first, last = enters.max(axis=1).clip(min=0.0), leaves.min(axis=1).clip(max=1.0)
    return np.asarray(first <= last)


def order_said(board: Board | None) -> str:
    """In which order a board is plugged in."""
    if board is not None and board.plug is not None and board.plug.order:
        return board.plug.order
    return ORDER


def by_side(guides: Sequence[TapGuide]) -> list[TapGuide]:
    """The leads as they are worked: all of one side, then all of the other."""
    return sorted(guides, key=lambda item: (item.side, item.number))
