"""What the solved network gives, as figures: currents, losses, and what they let a pack draw."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np
from msgspec import Struct

from lumvak.core.document.joints import Joints
from lumvak.core.figures.figure import Figure, computed, typed
from lumvak.core.joints.candidates import Role
from lumvak.core.joints.joined_pack import JoinedPack, has_bar
from lumvak.core.said import capital, phrase, say


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
    busiest = computed(
        "network.busiest_cell_a",
        "Busiest cell",
        float(flow.cell_a[busy]),
        "A",
        phrase("{}, from the solve", layout.name[busy]),
        "methods 19",
        *base,
    )
    least = computed(
        "network.least_cell_a",
        "Least used cell",
        float(flow.cell_a.min()),
        "A",
        phrase("{}, from the solve", layout.name[int(np.argmin(flow.cell_a))]),
        "methods 19",
        *base,
    )
    fair = computed(
        "network.fair_cell_a",
        "Fair share of a cell",
        current.number / layout.parallel,
        "A",
        "current ÷ parallel",
        "methods 19",
        current,
        parallel,
    )
    over = computed(
        "network.cell_excess",
        "Busiest cell over its fair share",
        round(float(shares.max()) * layout.parallel - 1.0, 9) + 0.0,
        "%",
        "share of one ampere × parallel − 1",
        "methods 19",
        busiest,
        fair,
    )
    spread = computed(
        "network.spread_a",
        "Widest spread in a group",
        float(np.ptp(group, axis=1).max()),
        "A",
        phrase("most − least in group {}", int(np.argmax(np.ptp(group, axis=1))) + 1),
        "methods 19",
        *base,
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
    whole = computed(
        "network.effective_ohm",
        "Cells and joints together",
        solved.effective_ohm,
        "ohm",
        "voltage lost between the leads ÷ current, from the solve",
        "methods 19",
        *base[1:],
    )
    ideal = computed(
        "network.cells_ohm",
        "Cells alone, evenly shared",
        joined_pack.cells_ohm,
        "ohm",
        "S·R ÷ P; where cells were measured, 1 ÷ Σ(1 ÷ R) of each group, summed",
        "methods 19",
        given.cell_ohm,
        series,
        parallel,
    )
    joint = computed(
        "network.joint_ohm",
        "All joints together",
        whole.number - ideal.number,
        "ohm",
        "cells and joints − cells alone: strips, welds and what uneven sharing costs",
        "methods 19",
        whole,
        ideal,
    )
    drop = computed(
        "network.drop_v",
        "Lost in joints",
        joint.number * current.number,
        "V",
        "current × resistance of all joints",
        "methods 19",
        current,
        joint,
    )
    loss = computed(
        "network.piece_w",
        "Heat in strips and wires",
        float(flow.piece_w.sum()),
        "W",
        "current² × resistance, summed over all pieces",
        "methods 19",
        *base,
    )
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
    nodes = computed(
        "network.nodes",
        "Nodes solved",
        solved.branches.nodes,
        "",
        "two ends of every cell, where leads cut a strip, and both outer ends",
        "methods 19",
        series,
        parallel,
    )
    balance = computed(
        "network.balance",
        "Worst sum at a node",
        flow.balance,
        "",
        "sum of currents at a node ÷ sum of all; checks the solve",
        "methods 19",
        nodes,
    )
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
    carried = computed(
        "network.cells_limit_a",
        "Cells carry, as they share",
        cells_carry.number / (1.0 + cells.excess.number),
        "A",
        "what evenly used cells carry ÷ (1 + excess of the busiest)",
        "methods 19",
        cells_carry,
        cells.excess,
    )
    contact = _each_limit("contact", "Joints on the cells carry", given.contact_limit_a,
                          parallel, cells.excess)  # fmt: skip
    link = _each_limit("link", "Fusible links carry", given.link_a, parallel, cells.excess)
    leads = _leads_limit(joined_pack, joints, wire_limit)
    by_role = [
        item
        for role in limits
        for item in (limits[role], peak_limits[role])
    ]  # fmt: skip
    made = (
        balance, *cells.every, ohms.whole, ohms.joints, ohms.drop, ohms.loss, hottest, most,
        *by_role, takeoff, carried, contact, link, leads,
    )  # fmt: skip
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


def _hot(joined_pack: JoinedPack, base: tuple[Figure, ...]) -> tuple[Figure, Figure]:
    assert joined_pack.flow is not None and joined_pack.carried is not None
    rises = np.where(np.isfinite(joined_pack.carried.rise_k), joined_pack.carried.rise_k, np.inf)
    hot = int(np.argmax(rises))
    busy = int(np.argmax(np.abs(joined_pack.flow.piece_a)))
    rise = computed(
        "network.hottest_k",
        "Hottest piece",
        float(rises[hot]) if math.isfinite(rises[hot]) else None,
        "K",
        phrase("{}: rise over the cells at its own current", joined_pack.pieces.name(hot)),
        "methods 9 [4]",
        *base,
    )
    most = computed(
        "network.busiest_piece_a",
        "Most in one piece",
        float(abs(joined_pack.flow.piece_a[busy])),
        "A",
        phrase("{}, from the solve", joined_pack.pieces.name(busy)),
        "methods 19",
        *base,
    )
    return rise, most


def _joint_limits(
    joined_pack: JoinedPack,
    peak_duration: Figure,
    conductors: tuple[Figure, Figure],
    base: tuple[Figure, ...],
) -> tuple[dict[Role, Figure], dict[Role, Figure]]:
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
        limits[role] = computed(
            f"network.{role}_limit_a",
            phrase("{} joints carry", capital(role)),
            limit if math.isfinite(limit) else None,
            "A",
            phrase(
                "what the {} carries ÷ its share of the pack current, {}",
                joined_pack.pieces.name(piece),
                say(share, "%"),
            ),
            "methods 19",
            conductor,
            *base,
        )
        peaks[role] = computed(
            f"network.{role}_peak_a",
            phrase("{} joints carry for the peak", capital(role)),
            peak if math.isfinite(peak) else None,
            "A",
            "the same with what a piece may do for the length of the peak",
            "methods 9 and 19",
            limits[role],
            peak_duration,
        )
    return limits, peaks


def _takeoff_limit(
    joined_pack: JoinedPack, joints: Joints, base: tuple[Figure, ...]
) -> Figure | None:
    """What the pieces where a main lead leaves let the pack draw."""
    assert joined_pack.carried is not None
    at_leads = joined_pack.at_leads & np.isfinite(joined_pack.carried.pack_limit_a)
    if not at_leads.any():
        return None
    first = int(np.argmin(np.where(at_leads, joined_pack.carried.pack_limit_a, np.inf)))
    return computed(
        "network.takeoff_limit_a",
        "Take-offs carry",
        float(joined_pack.carried.pack_limit_a[first]),
        "A",
        phrase(
            "what the {}, where a main lead leaves, carries ÷ its share of the pack current",
            joined_pack.pieces.name(first),
        ),
        "methods 19",
        typed("joints.take_off", "Main lead leaves from", joints.take_off, ""),
        *base,
    )


def _each_limit(
    key: str, label: str, each: Figure | None, parallel: Figure, over: Figure
) -> Figure | None:
    """What the pack may draw where every cell has a part that carries ``each``."""
    if each is None:
        return None
    return computed(
        f"network.{key}_limit_a",
        label,
        each.number * parallel.number / (1.0 + over.number),
        "A",
        "limit of one × parallel ÷ (1 + excess of the busiest cell)",
        "methods 19",
        each,
        parallel,
        over,
    )


def _leads_limit(joined_pack: JoinedPack, joints: Joints, limit: Figure) -> Figure | None:
    """What several main leads carry together, by the largest share of one."""
    assert joined_pack.solved is not None
    shares = np.abs(joined_pack.solved.share.lead_a)
    if len(joined_pack.leads) <= 2 or any(has_bar(joints, pole) for pole in "+-"):
        return None
    return computed(
        "network.leads_limit_a",
        "Main leads carry together",
        limit.number / float(shares.max()),
        "A",
        phrase("what one carries ÷ the largest share, {}", say(float(shares.max()), "%")),
        "methods 19",
        limit,
    )


def excess_of(network: NetworkFigures | None) -> float:
    """How far the busiest cell is over its fair share; 0 where nothing is solved."""
    return 0.0 if network is None else max(0.0, network.excess.number)
