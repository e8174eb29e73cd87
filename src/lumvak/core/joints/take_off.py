"""Where the main leads leave, and what is wrong with the joints: shorts, loose cells."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct

from lumvak.core.arrangement.layout import Layout
from lumvak.core.arrangement.outline import Flaw
from lumvak.core.document.joints import LeadPoint, TakeOff
from lumvak.core.joints.pieces import TIE, WIRE, Pieces
from lumvak.core.said import phrase

# What is reached by no piece counts as so far away, in mm.
UNREACHED_MM = 1e5


class Lead(Struct, frozen=True):
    """Where one main lead leaves: the pole, a terminal, and how far it lies towards another."""

    pole: str
    terminal: int
    toward: int | None
    share: float


class PlacedLeads(NamedTuple):
    """The main leads, and what is wrong with their places."""

    leads: tuple[Lead, ...]
    flaws: tuple[Flaw, ...]


def leads_of(pieces: Pieces, take_off: TakeOff, points: Sequence[LeadPoint]) -> PlacedLeads:
    """The main leads: as the builder set them for each pole, else by the rule in words."""
    layout = pieces.layout
    found: list[Lead] = []
    flaws: list[Flaw] = []
    for pole in ("-", "+"):
        own = [point for point in points if point.pole == pole]
        ends = end_terminals(layout, pole)
        for point in own:
            if max(point.cell, point.toward or 1) > layout.parallel:
                flaws.append(
                    Flaw(
                        "lead-nowhere",
                        phrase(
                            "A lead of the {} pole leaves at cell {}, and the group has {}",
                            pole,
                            point.cell,
                            layout.parallel,
                        ),
                        "Drag it onto a strip of the end group.",
                        float(layout.x_mm[ends[0] // 2]),
                        float(layout.y_mm[ends[0] // 2]),
                    )
                )
                continue
            toward = None if point.toward is None else ends[point.toward - 1]
            found.append(Lead(pole, ends[point.cell - 1], toward, point.share))
        if own:
            continue
        if take_off == "end" or layout.parallel == 1:
            found.append(Lead(pole, ends[0], None, 0.0))
        elif take_off == "spread":
            found.extend(Lead(pole, end, None, 0.0) for end in ends)
        else:
            found.append(middle_lead(pieces, pole))
    return PlacedLeads(tuple(found), tuple(flaws))


def end_terminals(layout: Layout, pole: str) -> list[int]:
    """The terminals of the end group of a pole, in the order of its cells."""
    group, bit = (0, 1) if pole == "-" else (layout.series - 1, 0)
    return [
        2 * cell + bit for cell in range(group * layout.parallel, (group + 1) * layout.parallel)
    ]


def middle_lead(pieces: Pieces, pole: str) -> Lead:
    """A lead in the middle of the current of an end group, on a cell or half way along a piece.

    From there the ways along the pieces to all its cells are shortest together; of such places the
    one with the shortest longest way. What hangs on wires alone is not counted.
    """
    layout = pieces.layout
    ends = end_terminals(layout, pole)
    place = {end: k for k, end in enumerate(ends)}
    flat = (pieces.kind != WIRE) & (pieces.kind != TIE)
    own = [
        (place[int(pieces.a[k])], place[int(pieces.b[k])], float(pieces.length_mm[k]))
        for k in np.flatnonzero(flat & np.isin(pieces.a, ends) & np.isin(pieces.b, ends))
    ]
    ways = np.full((len(ends), len(ends)), np.inf)
    np.fill_diagonal(ways, 0.0)
    for one, two, length in own:
        ways[one, two] = ways[two, one] = min(ways[one, two], length)
    for via in range(len(ends)):
        ways = np.minimum(ways, ways[:, via, None] + ways[None, via, :])
    far = np.where(np.isfinite(ways), ways, UNREACHED_MM)
    best = Lead(pole, ends[0], None, 0.0)
    least = (float(far[0].sum()), float(far[0].max()))
    for k, end in enumerate(ends[1:], 1):
        cost = (float(far[k].sum()), float(far[k].max()))
        if _under(cost, least):
            best, least = Lead(pole, end, None, 0.0), cost
    for one, two, length in own:
        to_all = np.minimum(far[one], far[two]) + length / 2.0
        cost = (float(to_all.sum()), float(to_all.max()))
        if _under(cost, least):
            best, least = Lead(pole, ends[one], ends[two], 0.5), cost
    return best


def _under(cost: tuple[float, float], other: tuple[float, float]) -> bool:
    """Whether a cost is less by more than rounding, its first part before its second."""
    if abs(cost[0] - other[0]) > 1e-6:
        return cost[0] < other[0]
    return cost[1] < other[1] - 1e-6


def stepped_lead(layout: Layout, lead: Lead, towards: tuple[float, float]) -> Lead | None:
    """A lead moved to the next cell of its end group in a direction.

    ``towards`` is a direction of length 1, right and down. The cell ahead that lies nearest to
    the line is taken; ``None`` where no cell lies ahead by more than a millimetre.
    """
    places = layout.terminal_mm[:, :2]
    here = places[lead.terminal]
    if lead.toward is not None:
        here = here + lead.share * (places[lead.toward] - here)
    group = layout.group[lead.terminal // 2]
    ends = 2 * np.flatnonzero(layout.group == group) + lead.terminal % 2
    across, down = towards
    ahead = (places[ends] - here) @ np.array([across, down])
    beside = np.abs((places[ends] - here) @ np.array([down, across]))
    fitting = ahead > 1.0
    if not fitting.any():
        return None
    cost = np.where(fitting, ahead + 4.0 * beside, np.inf)
    return Lead(lead.pole, int(ends[np.argmin(cost)]), None, 0.0)


def joint_flaws(pieces: Pieces, leads: Sequence[Lead]) -> tuple[Flaw, ...]:
    """Shorts, cells that are left out, groups that are not joined, leads on no strip.

    It is long, for there is a sentence or two for each thing to say.
    """
    layout = pieces.layout
    levels = layout.level
    flaws: list[Flaw] = []
    for piece in np.flatnonzero(levels[pieces.a] != levels[pieces.b]):
        low, high = sorted((int(levels[pieces.a[piece]]), int(levels[pieces.b[piece]])))
        x, y = pieces.middle_mm(int(piece))
        flaws.append(
            Flaw(
                "joint-shorts",
                phrase(
                    "The {} joins two potentials, {} group apart: a short"
                    if high - low == 1
                    else "The {} joins two potentials, {} groups apart: a short",
                    pieces.name(int(piece)),
                    high - low,
                ),
                "Take the piece out, or turn the cell back.",
                x,
                y,
                int(pieces.face[piece]),
            )
        )
    ends = (levels.min(), levels.max())
    used = np.zeros(2 * len(layout), dtype=bool)
    used[pieces.a] = True
    used[pieces.b] = True
    for lead in leads:
        used[lead.terminal] = True
    for terminal in np.flatnonzero(~used):
        flaws.append(
            Flaw(
                "cell-unconnected",
                phrase(
                    "Nothing joins the {} end of {}",
                    ("positive", "negative")[terminal % 2],
                    layout.name[terminal // 2],
                ),
                "Give it a strip, or bring back the piece that was taken out.",
                x_mm=float(layout.terminal_mm[terminal, 0]),
                y_mm=float(layout.terminal_mm[terminal, 1]),
                face=int(layout.face[terminal]),
                # At the ends of the pack it is the main leads that are lacking.
                cure="joints.lead_points" if levels[terminal] in ends else "joints.changes",
            )
        )
    pairs = set(zip(pieces.a.tolist(), pieces.b.tolist(), strict=True))
    for lead in leads:
        pair = (lead.terminal, lead.terminal if lead.toward is None else lead.toward)
        if pair[0] != pair[1] and (min(pair), max(pair)) not in pairs:
            place = layout.terminal_mm[list(pair), :2].mean(axis=0)
            flaws.append(
                Flaw(
                    "lead-off-strip",
                    phrase(
                        "A lead of the {} pole lies on no strip, between {} and {}",
                        lead.pole,
                        layout.name[pair[0] // 2],
                        layout.name[pair[1] // 2],
                    ),
                    "Drag it onto a strip of the end group.",
                    float(place[0]),
                    float(place[1]),
                    int(layout.face[lead.terminal]),
                )
            )
    return tuple(flaws)
