"""The figures of the pack on the table: its size, its currents and what they let it draw."""

from __future__ import annotations

import math

import numpy as np

from lumvak.core.figures import Figure, computed, sheet, typed
from lumvak.core.hand import Hand
from lumvak.core.joints import Role
from lumvak.core.leads import LeadWire
from lumvak.core.packfigures import PackFigures
from lumvak.core.project import Joints, Project
from lumvak.core.table import Table, has_bar, total_mass_g
from lumvak.core.units import say


def table_figures(
    table: Table, project: Project, hand: Hand, pack: PackFigures, wire: LeadWire
) -> dict[str, Figure]:
    """Every figure of arrangement and network by key, for the pack in hand."""
    made = [*_layout(table, project, hand, pack), table.given.rest_v]
    if table.flow is not None:
        made += _network(table, project.joints, hand, pack, wire)
    return {figure.key: figure for figure in made}


def _layout(table: Table, project: Project, hand: Hand, pack: PackFigures) -> list[Figure]:
    layout = table.layout
    cell = layout.cell
    base = (
        pack.series,
        pack.parallel,
        typed("arrangement.rows", "Rows", project.arrangement.rows, ""),
        typed("joints.gap_mm", "Gap between cells", project.joints.gap_mm, "mm")
        if project.arrangement.pitch_mm is None
        else typed("arrangement.pitch_mm", "Pitch of the holder", project.arrangement.pitch_mm,
                   "mm"),
        sheet("cell.pitch_mm", "Cell width", cell.pitch_mm, "mm", cell.name),
    )  # fmt: skip
    size = [
        computed(f"layout.{name}_mm", f"{name.capitalize()} of the pack", value, "mm", rule,
                 "methods 18", *base)
        for name, value, rule in zip(
            ("length", "width", "height"),
            layout.size_mm,
            ("over the outermost cells", "over the outermost cells",
             "layers × (cell + 3 mm for strips and cover on both sides)"),
            strict=True,
        )
    ]  # fmt: skip
    cells = hand.from_sheet("mass_g", "Mass of a cell", "g")
    total = total_mass_g(table)
    strips = computed(
        "layout.conductor_g",
        "Strips and wires",
        total - cell.mass_g * len(layout),
        "g",
        "section × length × density, summed over all pieces",
        "methods 18 [3]",
        *base,
    )
    mass = computed(
        "layout.mass_kg",
        "Cells and strips",
        total / 1000.0,
        "kg",
        "cells × mass + strips; board, leads and case come on top",
        "methods 18",
        cells,
        pack.series,
        pack.parallel,
        strips,
    )
    corner = layout.corner_mm
    centre = [
        computed(f"layout.centre_{axis}_mm", f"Centre of mass from the {edge}", value, "mm",
                 "mean of the middles of the cells", "methods 18", *base[:2])
        for axis, edge, value in (
            ("x", "left edge", layout.centre_mm[0] - corner[0]),
            ("y", "upper edge", layout.centre_mm[1] - corner[1]),
        )
    ]  # fmt: skip
    apart = layout.touching
    far = int(np.abs(np.diff(layout.group[apart], axis=1)).max(initial=0))
    full = hand.from_sheet("voltage_full_v", "Cell, full", "V")
    worst = computed(
        "layout.neighbour_v",
        "Most between cans side by side",
        far * full.number,
        "V",
        f"{far} groups apart × full cell voltage",
        "methods 18",
        full,
    )
    taps = computed(
        "layout.taps_m",
        "Balance leads in all",
        float(table.tap_mm.sum()) / 1000.0,
        "m",
        "along the edges to the nearest terminal × 1.15 + 60 mm, each",
        "methods 18",
        pack.series,
    )
    return [*size, mass, *centre, worst, taps]


def _network(
    table: Table, joints: Joints, hand: Hand, pack: PackFigures, wire: LeadWire
) -> list[Figure]:
    assert table.solved is not None and table.flow is not None and table.carried is not None
    solved, flow, layout, given = table.solved, table.flow, table.layout, table.given
    nodes = computed(
        "network.nodes",
        "Nodes solved",
        solved.branches.nodes,
        "",
        "two ends of every cell, where leads cut a strip, and both outer ends",
        "methods 19",
        pack.series,
        pack.parallel,
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
        pack.current,
        given.cell_ohm,
        given.rest_v,
        given.contact_mohm,
        nodes,
    )
    if given.link_mohm is not None:
        base += (given.link_mohm,)
    busy = int(np.argmax(flow.cell_a))
    shares = np.abs(solved.share.cell_a)
    group = flow.cell_a.reshape(layout.series, layout.parallel)
    busiest = computed(
        "network.busiest_cell_a",
        "Busiest cell",
        float(flow.cell_a[busy]),
        "A",
        f"{layout.name[busy]}, from the solve",
        "methods 19",
        *base,
    )
    least = computed(
        "network.least_cell_a",
        "Least used cell",
        float(flow.cell_a.min()),
        "A",
        f"{layout.name[int(np.argmin(flow.cell_a))]}, from the solve",
        "methods 19",
        *base,
    )
    fair = computed(
        "network.fair_cell_a",
        "Fair share of a cell",
        pack.current.number / layout.parallel,
        "A",
        "current ÷ parallel",
        "methods 19",
        pack.current,
        pack.parallel,
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
        f"most − least in group {int(np.argmax(np.ptp(group, axis=1))) + 1}",
        "methods 19",
        *base,
    )
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
        table.cells_ohm,
        "ohm",
        "S·R ÷ P; where cells were measured, 1 ÷ Σ(1 ÷ R) of each group, summed",
        "methods 19",
        given.cell_ohm,
        pack.series,
        pack.parallel,
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
        joint.number * pack.current.number,
        "V",
        "current × resistance of all joints",
        "methods 19",
        pack.current,
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
    made = [balance, busiest, least, fair, over, spread, whole, joint, drop, loss]
    if len(table.pieces):
        made += _hot(table, base)
    made += _limits(table, joints, hand, pack, wire, over, base)
    return made


def _hot(table: Table, base: tuple[Figure, ...]) -> list[Figure]:
    assert table.flow is not None and table.carried is not None
    rises = np.where(np.isfinite(table.carried.rise_k), table.carried.rise_k, np.inf)
    hot = int(np.argmax(rises))
    busy = int(np.argmax(np.abs(table.flow.piece_a)))
    rise = computed(
        "network.hottest_k",
        "Hottest piece",
        float(rises[hot]) if math.isfinite(rises[hot]) else None,
        "K",
        f"{table.pieces.name(hot)}: rise over the cells at its own current",
        "methods 9 [4]",
        *base,
    )
    most = computed(
        "network.busiest_piece_a",
        "Most in one piece",
        float(abs(table.flow.piece_a[busy])),
        "A",
        f"{table.pieces.name(busy)}, from the solve",
        "methods 19",
        *base,
    )
    return [rise, most]


def _limits(
    table: Table,
    joints: Joints,
    hand: Hand,
    pack: PackFigures,
    wire: LeadWire,
    over: Figure,
    base: tuple[Figure, ...],
) -> list[Figure]:
    assert table.carried is not None and table.solved is not None
    made = []
    roles: tuple[Role, Role] = ("group", "series")
    for role in roles:
        piece = table.busiest(role)
        if piece is None:
            continue
        limit = float(table.carried.pack_limit_a[piece])
        own = table.role(role)
        peak = float(table.carried.pack_peak_a[own].min())
        share = abs(float(table.solved.share.piece_a[piece]))
        made.append(
            computed(
                f"network.{role}_limit_a",
                f"{role.capitalize()} joints carry",
                limit if math.isfinite(limit) else None,
                "A",
                f"what the {table.pieces.name(piece)} carries ÷ its share of the pack current, "
                f"{say(share, '%')}",
                "methods 19",
                typed(f"joints.{role}.part", "Conductor", None, ""),
                *base,
            )
        )
        made.append(
            computed(
                f"network.{role}_peak_a",
                f"{role.capitalize()} joints carry for the peak",
                peak if math.isfinite(peak) else None,
                "A",
                "the same with what a piece may do for the length of the peak",
                "methods 9 and 19",
                made[-1],
                hand.demand.peak_duration,
            )
        )
    at_leads = table.at_leads & np.isfinite(table.carried.pack_limit_a)
    if at_leads.any():
        first = int(np.argmin(np.where(at_leads, table.carried.pack_limit_a, np.inf)))
        made.append(
            computed(
                "network.takeoff_limit_a",
                "Take-offs carry",
                float(table.carried.pack_limit_a[first]),
                "A",
                f"what the {table.pieces.name(first)}, where a main lead leaves, carries ÷ its "
                "share of the pack current",
                "methods 19",
                typed("joints.take_off", "Main lead leaves from", joints.take_off, ""),
                *base,
            )
        )
    factor = 1.0 + over.number
    made.append(
        computed(
            "network.cells_limit_a",
            "Cells carry, as they share",
            pack.cells_limit.number / factor,
            "A",
            "what evenly used cells carry ÷ (1 + excess of the busiest)",
            "methods 19",
            pack.cells_limit,
            over,
        )
    )
    for key, label, each in (
        ("contact", "Joints on the cells carry", table.given.contact_limit_a),
        ("link", "Fusible links carry", _link_rating(table)),
    ):
        if each is not None:
            made.append(
                computed(
                    f"network.{key}_limit_a",
                    label,
                    each.number * table.layout.parallel / factor,
                    "A",
                    "limit of one × parallel ÷ (1 + excess of the busiest cell)",
                    "methods 19",
                    each,
                    pack.parallel,
                    over,
                )
            )
    lead_shares = np.abs(table.solved.share.lead_a)
    if len(table.leads) > 2 and not any(has_bar(joints, pole) for pole in "+-"):
        made.append(
            computed(
                "network.leads_limit_a",
                "Main leads carry together",
                wire.limit.number / float(lead_shares.max()),
                "A",
                f"what one carries ÷ the largest share, {say(float(lead_shares.max()), '%')}",
                "methods 19",
                wire.limit,
            )
        )
    return made


def _link_rating(table: Table) -> Figure | None:
    link = table.given.link_mohm
    if link is None:
        return None
    return next((item for item in link.inputs if item.key == "joints.link_a"), None)
