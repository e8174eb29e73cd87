"""What the solved network gives, as figures: currents, losses, and what they let a pack draw."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
from msgspec import Struct

from lumvak.core.document.joints import Joints
from lumvak.core.figures.figure import Figure, Rule, typed
from lumvak.core.joints.candidates import ROLE_NOUNS, Role
from lumvak.core.joints.joined_pack import JoinedPack, has_bar
from lumvak.core.said import capital, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
BUSIEST_CELL_A = Rule("network.busiest_cell_a", "Busiest cell", "A", "{}, from the solve",
                      "methods 19")
LEAST_CELL_A = Rule("network.least_cell_a", "Least used cell", "A", "{}, from the solve",
                    "methods 19")
SPREAD_A = Rule("network.spread_a", "Widest spread in a group", "A", "most − least in group {}",
                "methods 19")
EFFECTIVE_OHM = Rule("network.effective_ohm", "Cells and joints together", "ohm",
                     "voltage lost between the leads ÷ current, from the solve", "methods 19")
PIECE_W = Rule("network.piece_w", "Heat in strips and wires", "W",
               "current² × resistance, summed over all pieces", "methods 19")
BALANCE = Rule("network.balance", "Worst sum at a node", "",
               "sum of currents at a node ÷ sum of all; checks the solve", "methods 19")
HOTTEST_K = Rule("network.hottest_k", "Hottest piece", "K",
                 "{}: rise over the cells at its own current", "methods 9 [4]")
BUSIEST_PIECE_A = Rule("network.busiest_piece_a", "Most in one piece", "A", "{}, from the solve",
                       "methods 19")
LEADS_LIMIT_A = Rule("network.leads_limit_a", "Main leads carry together", "A",
                     "what one carries ÷ the largest share, {}", "methods 19")
FAIR_CELL_A = Rule("network.fair_cell_a", "Equal share of a cell", "A", "current ÷ parallel",
                   "methods 19")
CELL_EXCESS = Rule("network.cell_excess", "Busiest cell above its equal share", "%",
                   "share of one ampere × parallel − 1", "methods 19")
JOINT_OHM = Rule("network.joint_ohm", "All joints together", "ohm",
                 "cells and joints − cells alone: strips, welds and what uneven sharing costs",
                 "methods 19")
DROP_V = Rule("network.drop_v", "Lost in joints", "V", "current × resistance of all joints",
              "methods 19")
NODES = Rule("network.nodes", "Nodes solved", "",
             "two ends of every cell, where leads cut a strip, and both outer ends", "methods 19")
CELLS_LIMIT_A = Rule("network.cells_limit_a", "Cells carry, as they share", "A",
                     "what evenly used cells carry ÷ (1 + excess of the busiest)", "methods 19")
PEAK_A = Rule("network.{}_peak_a", "{} carry for the peak", "A",
              "the same with what a piece may do for the length of the peak", "methods 9 and 19")
CELLS_OHM = Rule("network.cells_ohm", "Cells alone, evenly shared", "ohm",
                 "S·R ÷ P; where cells were measured, 1 ÷ Σ(1 ÷ R) of each group, summed",
                 "methods 19")
LIMIT_A = Rule("network.{}_limit_a", "{}", "A",
               "limit of one × parallel ÷ (1 + excess of the busiest cell)", "methods 19")
TAKEOFF_LIMIT_A = Rule("network.takeoff_limit_a", "Strips at the main leads carry", "A",
                       "what the {}, where a main lead leaves, carries ÷ its share of the pack "
                       "current", "methods 19")
NETWORK_LIMIT_A = Rule("network.{}_limit_a", "{} carry", "A",
                       "what the {} carries ÷ its share of the pack current, {}", "methods 19")
# fmt: on


class NetworkFigures(Struct, frozen=True):
    """What the solve gives, as figures; a limit is ``None`` where nothing sets it.

    ``takeoff_limit`` is that of the strips where the main leads leave, ``link_limit`` that of
    fusible links, ``leads_limit`` that of several leads together.
    """

    nodes: Figure
    busiest_cell: Figure
    busiest_name: str
    least_cell: Figure
    excess: Figure
    effective_ohm: Figure
    joint_ohm: Figure
    hottest: Figure | None
    cells_limit: Figure
    limits: Mapping[Role, Figure]
    peak_limits: Mapping[Role, Figure]
    takeoff_limit: Figure | None
    contact_limit: Figure | None
    link_limit: Figure | None
    leads_limit: Figure | None
    every: tuple[Figure, ...]


class _Shares(Struct, frozen=True):
    """How the cells share the current."""

    busiest: Figure
    least: Figure
    excess: Figure
    every: tuple[Figure, ...]


def _shares(
    joined_pack: JoinedPack, current: Figure, parallel: Figure, base: tuple[Figure, ...]
) -> _Shares:
    """The busiest and the least used cell, and how far they are from a fair share."""
    assert joined_pack.solved is not None and joined_pack.flow is not None
    solved, flow, layout = joined_pack.solved, joined_pack.flow, joined_pack.layout
    busy = int(np.argmax(flow.cell_a))
    shares = np.abs(solved.share.cell_a)
    group = flow.cell_a.reshape(layout.series, layout.parallel)
    busiest = BUSIEST_CELL_A.of(float(flow.cell_a[busy]), *base, rule=layout.name[busy])
    least = LEAST_CELL_A.of(
        float(flow.cell_a.min()), *base, rule=layout.name[int(np.argmin(flow.cell_a))]
    )
    fair = FAIR_CELL_A.of(current.number / layout.parallel, current, parallel)
    over = CELL_EXCESS.of(
        round(float(shares.max()) * layout.parallel - 1.0, 9) + 0.0, busiest, fair
    )
    spread = SPREAD_A.of(
        float(np.ptp(group, axis=1).max()), *base, rule=int(np.argmax(np.ptp(group, axis=1))) + 1
    )
    return _Shares(busiest, least, over, (busiest, least, fair, over, spread))


class _Resistances(Struct, frozen=True):
    """Cells and joints as resistances, and what they lose."""

    whole: Figure
    joints: Figure
    drop: Figure
    loss: Figure


def _resistances(
    joined_pack: JoinedPack,
    current: Figure,
    series: Figure,
    parallel: Figure,
    base: tuple[Figure, ...],
) -> _Resistances:
    """What lies between the leads, what of it the joints are, and what is lost in them."""
    assert joined_pack.solved is not None and joined_pack.flow is not None
    solved, flow, given = joined_pack.solved, joined_pack.flow, joined_pack.given
    whole = EFFECTIVE_OHM.of(solved.effective_ohm, *base[1:])
    ideal = CELLS_OHM.of(joined_pack.cells_ohm, given.cell_ohm, series, parallel)
    joint = JOINT_OHM.of(whole.number - ideal.number, whole, ideal)
    drop = DROP_V.of(joint.number * current.number, current, joint)
    loss = PIECE_W.of(float(flow.piece_w.sum()), *base)
    return _Resistances(whole, joint, drop, loss)


def network_figures(
    joined_pack: JoinedPack,
    joints: Joints,
    current: Figure,
    series: Figure,
    parallel: Figure,
    cells_carry: Figure,
    peak_duration: Figure,
    wire_limit: Figure,
    group_part: Figure,
    series_part: Figure,
) -> NetworkFigures | None:
    """What the solved network gives (methods 19); ``None`` where it is not solved.

    ``cells_carry`` is what evenly used cells carry, ``wire_limit`` what one pair of leads does,
    ``group_part`` and ``series_part`` are the conductors of the joints.
    It is long, for it lists figures one after the other, each made from those above it.
    """
    if joined_pack.solved is None or joined_pack.flow is None:
        return None
    solved, flow, given = joined_pack.solved, joined_pack.flow, joined_pack.given
    nodes = NODES.of(solved.branches.nodes, series, parallel)
    balance = BALANCE.of(flow.balance, nodes)
    base: tuple[Figure, ...] = (
        current,
        given.cell_ohm,
        given.rest_v,
        given.contact_mohm,
        nodes,
    )
    if given.link_mohm is not None:
        base += (given.link_mohm,)
    cells = _shares(joined_pack, current, parallel, base)
    ohms = _resistances(joined_pack, current, series, parallel, base)
    hottest, most = _hot(joined_pack, base) if len(joined_pack.pieces) else (None, None)
    limits, peak_limits = _joint_limits(joined_pack, peak_duration, (group_part, series_part), base)
    takeoff = _takeoff_limit(joined_pack, joints, base)
    carried = CELLS_LIMIT_A.of(
        cells_carry.number / (1.0 + cells.excess.number), cells_carry, cells.excess
    )
    contact = _each_limit(
        "contact", "Joints on the cells carry", given.contact_limit_a, parallel, cells.excess
    )
    link = _each_limit("link", "Fusible links carry", given.link_a, parallel, cells.excess)
    leads = _leads_limit(joined_pack, joints, wire_limit)
    by_role = [item for role in limits for item in (limits[role], peak_limits[role])]
    made = (
        balance,
        *cells.every,
        ohms.whole,
        ohms.joints,
        ohms.drop,
        ohms.loss,
        hottest,
        most,
        *by_role,
        takeoff,
        carried,
        contact,
        link,
        leads,
    )
    return NetworkFigures(
        nodes=nodes,
        busiest_cell=cells.busiest,
        busiest_name=joined_pack.layout.name[int(np.argmax(joined_pack.flow.cell_a))],
        least_cell=cells.least,
        excess=cells.excess,
        effective_ohm=ohms.whole,
        joint_ohm=ohms.joints,
        hottest=hottest,
        cells_limit=carried,
        limits=limits,
        peak_limits=peak_limits,
        takeoff_limit=takeoff,
        contact_limit=contact,
        link_limit=link,
        leads_limit=leads,
        every=tuple(item for item in made if item is not None),
    )


class _Hot(NamedTuple):
    """The hottest piece, and the one with the most current."""

    rise: Figure
    most: Figure


def _hot(joined_pack: JoinedPack, base: tuple[Figure, ...]) -> _Hot:
    assert joined_pack.flow is not None and joined_pack.carried is not None
    rises = np.where(np.isfinite(joined_pack.carried.rise_k), joined_pack.carried.rise_k, np.inf)
    hot = int(np.argmax(rises))
    busy = int(np.argmax(np.abs(joined_pack.flow.piece_a)))
    rise = HOTTEST_K.of(
        float(rises[hot]) if math.isfinite(rises[hot]) else None,
        *base,
        rule=joined_pack.pieces.name(hot),
    )
    most = BUSIEST_PIECE_A.of(
        float(abs(joined_pack.flow.piece_a[busy])), *base, rule=joined_pack.pieces.name(busy)
    )
    return _Hot(rise, most)


class _JointLimits(NamedTuple):
    """What joints of each role let the pack draw, for good and for the peak."""

    steady: dict[Role, Figure]
    peak: dict[Role, Figure]


def _joint_limits(
    joined_pack: JoinedPack,
    peak_duration: Figure,
    conductors: tuple[Figure, Figure],
    base: tuple[Figure, ...],
) -> _JointLimits:
    """What the joints of each role let the pack draw, for good and for the peak."""
    assert joined_pack.carried is not None and joined_pack.solved is not None
    limits: dict[Role, Figure] = {}
    peaks: dict[Role, Figure] = {}
    roles: tuple[Role, Role] = ("group", "series")
    for role, conductor in zip(roles, conductors, strict=True):
        piece = joined_pack.busiest(role)
        if piece is None:
            continue
        limit = float(joined_pack.carried.pack_limit_a[piece])
        peak = float(joined_pack.carried.pack_peak_a[joined_pack.role(role)].min())
        share = abs(float(joined_pack.solved.share.piece_a[piece]))
        limits[role] = NETWORK_LIMIT_A.of(
            limit if math.isfinite(limit) else None,
            conductor,
            *base,
            key=role,
            label=capital(ROLE_NOUNS[role]),
            rule=(joined_pack.pieces.name(piece), say(share, "%")),
        )
        peaks[role] = PEAK_A.of(
            peak if math.isfinite(peak) else None,
            limits[role],
            peak_duration,
            key=role,
            label=capital(ROLE_NOUNS[role]),
        )
    return _JointLimits(limits, peaks)


def _takeoff_limit(
    joined_pack: JoinedPack, joints: Joints, base: tuple[Figure, ...]
) -> Figure | None:
    """What the pieces where a main lead leaves let the pack draw."""
    assert joined_pack.carried is not None
    at_leads = joined_pack.at_leads & np.isfinite(joined_pack.carried.pack_limit_a)
    if not at_leads.any():
        return None
    first = int(np.argmin(np.where(at_leads, joined_pack.carried.pack_limit_a, np.inf)))
    return TAKEOFF_LIMIT_A.of(
        float(joined_pack.carried.pack_limit_a[first]),
        typed("joints.take_off", "Main lead leaves from", joints.take_off, ""),
        *base,
        rule=joined_pack.pieces.name(first),
    )


def _each_limit(
    key: str, label: str, each: Figure | None, parallel: Figure, over: Figure
) -> Figure | None:
    """What the pack may draw where every cell has a part that carries ``each``."""
    if each is None:
        return None
    return LIMIT_A.of(
        each.number * parallel.number / (1.0 + over.number),
        each,
        parallel,
        over,
        key=key,
        label=label,
    )


def _leads_limit(joined_pack: JoinedPack, joints: Joints, limit: Figure) -> Figure | None:
    """What several main leads carry together, by the largest share of one."""
    assert joined_pack.solved is not None
    shares = np.abs(joined_pack.solved.share.lead_a)
    if len(joined_pack.leads) <= 2 or any(has_bar(joints, pole) for pole in "+-"):
        return None
    return LEADS_LIMIT_A.of(
        limit.number / float(shares.max()), limit, rule=say(float(shares.max()), "%")
    )


def excess_of(network: NetworkFigures | None) -> float:
    """How far the busiest cell is over its fair share; 0 where nothing is solved."""
    return 0.0 if network is None else max(0.0, network.excess.number)
