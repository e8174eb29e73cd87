"""The same pack otherwise: other places for the leads, something broken, a variant held beside."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.joints.joined_pack import JoinedPack, pack_limits_a, with_leads
from lumvak.core.joints.network import Flow, Solved, solve, without
from lumvak.core.joints.piece_sections import rise_per_square, rises_k
from lumvak.core.joints.take_off import Lead, end_terminals, middle_lead
from lumvak.core.said import Text

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]
# Places that differ by less than this in the busiest cell count as equal; fewer leads then win.
SAME = 0.02


class Variant(Struct, frozen=True, eq=False):
    """How a network shares the pack current: the pack as laid, its ``flow``, and the sum of it.

    ``piece`` and ``cell`` (of the pack as drawn) are the busiest; limits are pack currents in A.
    """

    name: str
    joined_pack: JoinedPack
    flow: Flow
    leads: tuple[Lead, ...]
    busiest_cell_a: float
    least_cell_a: float
    excess: float
    busiest_piece_a: float
    hottest_k: float
    loss_w: float
    joint_ohm: float
    limit_a: float
    cell: int
    piece: int
    piece_name: Text

    @property
    def times_fair(self) -> float:
        """The busiest cell's share over the fair share."""
        return 1.0 + self.excess

    @property
    def lines(self) -> tuple[tuple[str, float, str], ...]:
        """What is compared: name, value and unit."""
        return (
            ("busiest cell", self.busiest_cell_a, "A"),
            ("least used cell", self.least_cell_a, "A"),
            ("most in one piece", self.busiest_piece_a, "A"),
            ("hottest piece", self.hottest_k, "K"),
            ("heat in strips and wires", self.loss_w, "W"),
            ("all joints together", self.joint_ohm, "ohm"),
            ("strips carry", self.limit_a, "A"),
        )


class Broken(Struct, frozen=True, eq=False):
    """What is taken as broken: pieces of the pack as drawn, cells or the joints on them."""

    pieces: frozenset[int] = frozenset()
    cells: frozenset[int] = frozenset()

    @property
    def nothing(self) -> bool:
        """Whether all is whole."""
        return not self.pieces and not self.cells


def variant_of(
    joined_pack: JoinedPack, solved: Solved, name: str, kept: Mask | None = None
) -> Variant:
    """Sum up a solved network of the pack on the table; ``kept`` (K,) are the pieces it still
    has.
    """
    flow = solved.at(joined_pack.current_a)
    sections = joined_pack.sections
    count = len(joined_pack.pieces)
    whole = np.ones(count, dtype=bool) if kept is None else kept
    piece_a, piece_w, share = np.zeros(count), np.zeros(count), np.zeros(count)
    piece_a[whole], piece_w[whole] = flow.piece_a, flow.piece_w
    share[whole] = solved.share.piece_a
    rises = rises_k(sections, rise_per_square(sections), piece_a, joined_pack.around_c)
    limit = math.inf
    if joined_pack.carried is not None and joined_pack.solved is not None:
        # What a piece carries does not change; its share of the pack current does.
        limit = float(pack_limits_a(joined_pack.carried.limit_a, share).min(initial=np.inf))
    layout = joined_pack.layout
    cell_share = np.abs(solved.share.cell_a)
    busy = int(np.argmax(flow.cell_a))
    live = solved.network.live
    piece = int(np.argmax(np.abs(piece_a))) if count else 0
    return Variant(
        name=name,
        joined_pack=joined_pack,
        flow=replace(flow, piece_a=piece_a, piece_w=piece_w),
        leads=solved.network.leads,
        busiest_cell_a=float(flow.cell_a[busy]),
        least_cell_a=float(flow.cell_a[live].min()) + 0.0,
        excess=round(float(cell_share.max()) * layout.parallel - 1.0, 9) + 0.0,
        busiest_piece_a=float(np.abs(piece_a).max(initial=0.0)),
        hottest_k=float(rises.max(initial=0.0)),
        loss_w=float(piece_w.sum()),
        joint_ohm=solved.effective_ohm - joined_pack.cells_ohm,
        limit_a=limit,
        cell=busy,
        piece=piece,
        piece_name=joined_pack.pieces.name(piece) if count else "no piece",
    )


def as_it_is(joined_pack: JoinedPack) -> Variant | None:
    """The pack as drawn; ``None`` where it is not solved."""
    if joined_pack.solved is None:
        return None
    return variant_of(joined_pack, joined_pack.solved, "as drawn")


def what_if(joined_pack: JoinedPack, broken: Broken) -> Variant | None:
    """The pack with something broken; ``None`` where no current passes any more."""
    network = joined_pack.network
    if network is None:
        return None
    solved = solve(without(network, sorted(broken.cells), sorted(broken.pieces)))
    if solved is None:
        return None
    kept = np.ones(len(joined_pack.pieces), dtype=bool)
    kept[sorted(broken.pieces)] = False
    return variant_of(joined_pack, solved, "with what is broken", kept)


class TakeOffPlace(Struct, frozen=True, eq=False):
    """One way to let the main leads leave, and whether it is the one proposed."""

    variant: Variant
    proposed: bool


def take_off_places(joined_pack: JoinedPack) -> tuple[TakeOffPlace, ...]:
    """Several places for the main leads, compared; the best has the least excess, then few leads.

    Corners, middles, both ends with two leads a pole, and every cell of the end groups.
    """
    found = []
    for name, cells_minus, cells_plus in _places(joined_pack):
        leads = [*_leads(joined_pack, "-", cells_minus), *_leads(joined_pack, "+", cells_plus)]
        solved = with_leads(joined_pack, leads)
        if solved is not None:
            found.append(variant_of(joined_pack, solved, name))
    if not found:
        return ()
    least = min(item.excess for item in found)
    good = [item for item in found if item.excess <= least + SAME]
    best = min(good, key=lambda item: (len(item.leads), item.loss_w))
    return tuple(TakeOffPlace(item, item is best) for item in found)


# Cells of an end group, by number from 0; ``None`` is the middle of its current.
Places = Sequence[int] | None


def _places(joined_pack: JoinedPack) -> list[tuple[str, Places, Places]]:
    """Names, and at which cells of the two end groups leads leave."""
    last = joined_pack.layout.parallel - 1
    if last == 0:
        return [("at the end cells", (0,), (0,))]
    every = tuple(range(last + 1))
    return [
        ("corners on one edge", (0,), (0,)),
        ("corners on the other edge", (last,), (last,)),
        ("opposite corners", (0,), (last,)),
        ("middle of both end groups", None, None),
        ("two leads a pole, at both ends", (0, last), (0, last)),
        ("a lead at every end cell", every, every),
    ]


def _leads(joined_pack: JoinedPack, pole: str, cells: Places) -> list[Lead]:
    if cells is None:
        return [middle_lead(joined_pack.pieces, pole)]
    ends = end_terminals(joined_pack.layout, pole)
    return [Lead(pole, ends[cell], None, 0.0) for cell in cells]


def hot_spots(joined_pack: JoinedPack, most: int = 12) -> list[int]:
    """The pieces nearest to their limits, the first at its limit first."""
    if joined_pack.carried is None:
        return []
    order = np.argsort(joined_pack.carried.pack_limit_a, kind="stable")
    return [
        int(piece) for piece in order[:most] if np.isfinite(joined_pack.carried.pack_limit_a[piece])
    ]


def nearest_lead(joined_pack: JoinedPack, pole: str, x_mm: float, y_mm: float) -> Lead:
    """The place on the strips of an end group nearest to a point: a cell, or between two.

    Within a fifth of a span from a cell it is taken to be at the cell.
    """
    layout = joined_pack.layout
    ends = np.array(end_terminals(layout, pole), dtype=np.intp)
    places = layout.terminal_mm[ends, :2]
    near = int(np.argmin(np.hypot(places[:, 0] - x_mm, places[:, 1] - y_mm)))
    best = Lead(pole, int(ends[near]), None, 0.0)
    on = np.isin(joined_pack.pieces.a, ends) & np.isin(joined_pack.pieces.b, ends)
    away = math.inf
    for piece in np.flatnonzero(on).tolist():
        one = layout.terminal_mm[joined_pack.pieces.a[piece], :2]
        way = layout.terminal_mm[joined_pack.pieces.b[piece], :2] - one
        square = float((way**2).sum())
        if square <= 0.0:
            continue
        along = min(max(float(((np.array([x_mm, y_mm]) - one) * way).sum()) / square, 0.0), 1.0)
        there = one + along * way
        distance = float(np.hypot(there[0] - x_mm, there[1] - y_mm))
        if distance < away and 0.2 < along < 0.8:
            away = distance
            best = Lead(
                pole, int(joined_pack.pieces.a[piece]), int(joined_pack.pieces.b[piece]), along
            )
        elif distance < away:
            away = distance
            end = joined_pack.pieces.a[piece] if along <= 0.2 else joined_pack.pieces.b[piece]
            best = Lead(pole, int(end), None, 0.0)
    return best
