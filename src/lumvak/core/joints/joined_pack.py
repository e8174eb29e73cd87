"""The pack on the table: laid, joined and solved, with the figures that come of it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.arrangement.layout import Layout
from lumvak.core.arrangement.outline import Flaw
from lumvak.core.arrangement.proposals import Placing
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.document.joints import Joints, LeadPoint
from lumvak.core.document.measured import MeasuredCell
from lumvak.core.figures.figure import Figure, Rule, sheet, typed
from lumvak.core.joints.bridges import Bridge
from lumvak.core.joints.candidates import Candidate, Role, strip_count
from lumvak.core.joints.contacts import contact_of
from lumvak.core.joints.laying import Plan
from lumvak.core.joints.network import Flow, Network, Solved, solve
from lumvak.core.joints.piece_sections import (
    CONTACT_LIMITS_A,
    LINK_DROP_MV,
    Sections,
    between_groups,
    joining_of,
    limits_a,
    peak_factors,
    rise_per_square,
    rises_k,
)
from lumvak.core.joints.pieces import Pieces, terminal_number
from lumvak.core.joints.take_off import Lead, joint_flaws, leads_of
from lumvak.core.said import say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
LINK_MOHM = Rule("joints.link_mohm", "Resistance of a link", "mΩ", "{} at its rating", "methods 19")
CONTACT_LIMIT_A = Rule("joints.contact_limit_a", "A joint on a cell carries", "A",
                       "press caps carry about 10 A each until their maker says more", "methods 19")
WIRE_MM2 = Rule("joints.wire_mm2", "Wire between cells", "mm²", "as the main leads", "methods 19")
# fmt: on

Array = NDArray[np.float64]
Index = NDArray[np.intp]
# With one of these the network is no network.
UNSOLVABLE = ("joint-shorts", "lead-nowhere", "lead-off-strip")


class Given(Struct, frozen=True, eq=False):
    """What the network is made from besides the geometry, as figures; ``every`` that it shows."""

    rest_v: Figure
    cell_ohm: Figure
    contact_mohm: Figure
    contact_limit_a: Figure | None
    link_a: Figure | None
    link_mohm: Figure | None
    wire_mm2: Figure
    every: tuple[Figure, ...]


class Carried(Struct, frozen=True, eq=False):
    """What the pieces do at the continuous current, and what they would let the pack draw.

    Arrays of length M: ``rise_k`` over the cells (a wire: over the air), ``limit_a`` what a piece
    carries, ``pack_limit_a`` and ``pack_peak_a`` the pack current at which it is at its limit.
    """

    rise_k: Array
    limit_a: Array
    pack_limit_a: Array
    pack_peak_a: Array


class JoinedPack(Struct, frozen=True, eq=False):
    """The pack on the table; ``solved`` is ``None`` where a flaw forbids to solve it.

    ``flow`` is that of ``current_a``; ``around_c`` (M,) is what each piece rises from: strips from
    the cells at the end of the duty, wires from the air.
    """

    placing: Placing
    pieces: Pieces
    sections: Sections
    leads: tuple[Lead, ...]
    given: Given
    network: Network | None
    solved: Solved | None
    flow: Flow | None
    carried: Carried | None
    joint_flaws: tuple[Flaw, ...]
    lead_ohm: float
    current_a: float
    around_c: Array

    @property
    def cells_ohm(self) -> float:
        """What the cells alone would be in ohm, each group shared as its resistances ask."""
        if self.network is None:
            return self.given.cell_ohm.number * self.layout.series / self.layout.parallel
        each = self.network.cell_ohm.reshape(self.layout.series, self.layout.parallel)
        return float((1.0 / (1.0 / each).sum(axis=1)).sum())

    @property
    def flaws(self) -> tuple[Flaw, ...]:
        """What is wrong with places or joints, and where."""
        return (*self.placing.flaws, *self.joint_flaws)

    @property
    def layout(self) -> Layout:
        """Where the cells lie."""
        return self.placing.layout

    def role(self, role: Role) -> NDArray[np.bool_]:
        """(M,) which pieces belong to the series joints, or to the groups."""
        outer = between_groups(self.pieces)
        return outer if role == "series" else ~outer

    @property
    def at_leads(self) -> NDArray[np.bool_]:
        """(M,) the pieces of a group that end where a main lead leaves: the take-offs."""
        ends = {lead.terminal for lead in self.leads}
        ends |= {lead.toward for lead in self.leads if lead.toward is not None}
        at = np.array(sorted(ends), dtype=np.intp)
        touching = np.isin(self.pieces.a, at) | np.isin(self.pieces.b, at)
        return np.asarray(touching & self.role("group"))

    def busiest(self, role: Role) -> int | None:
        """The piece of a role that is first at its limit; ``None`` where nothing is solved."""
        if self.carried is None:
            return None
        own = np.flatnonzero(self.role(role))
        if not len(own):
            return None
        return int(own[np.argmin(self.carried.pack_limit_a[own])])


class Resistors(Struct, frozen=True):
    """What the network is made from besides the geometry: volts of a cell at rest, and ohms."""

    rest_v: float
    cell_ohm: float
    contact_ohm: float
    link_ohm: float


def resistors_of(given: Given) -> Resistors:
    """The numbers of what is given."""
    return Resistors(
        given.rest_v.number,
        given.cell_ohm.number,
        given.contact_mohm.number * 1e-3,
        0.0 if given.link_mohm is None else given.link_mohm.number * 1e-3,
    )


class WiredPack(Struct, frozen=True, eq=False):
    """The network of a pack as it was laid, and its solution; ``None`` where a flaw forbids it.

    ``lead_ohm`` is one main lead.
    """

    leads: tuple[Lead, ...]
    network: Network | None
    solved: Solved | None
    flaws: tuple[Flaw, ...]
    lead_ohm: float


def wired(
    layout: Layout,
    sections: Sections,
    given: Resistors,
    joints: Joints,
    measured: Sequence[MeasuredCell],
    leads_ohm: float,
) -> WiredPack:
    """Join and solve the pack in hand as it was laid (methods 19).

    ``leads_ohm`` is that of both main leads.
    """
    leads, flaws = leads_of(sections.pieces, joints.take_off, joints.lead_points)
    flaws += joint_flaws(sections.pieces, leads)
    each_ohm = leads_ohm / 2.0
    if any(flaw.code in UNSOLVABLE for flaw in flaws):
        return WiredPack(leads, None, None, flaws, each_ohm)
    network = network_of(sections, leads, given, measured, lead_ohms(joints, leads, each_ohm))
    solved = solve(network)
    if solved is None:
        flaws += (_open(layout),)
    return WiredPack(leads, network, solved, flaws, each_ohm)


def joined(
    placing: Placing,
    sections: Sections,
    given: Given,
    made: WiredPack,
    joints: Joints,
    lead_rise_k: float,
    current: Figure,
    ambient: Figure,
    strips_at: Figure,
    peak_duration: Figure,
) -> JoinedPack:
    """The pack on the table at its load; ``lead_rise_k`` is what main leads may rise by.

    Wires lie in air of ``ambient``, strips on cells that are ``strips_at`` warm.
    """
    flow = carried = None
    around = np.where(sections.wire, ambient.number, strips_at.number)
    if made.solved is not None:
        flow = made.solved.at(current.number)
        carried = carried_by(
            sections,
            flow,
            solved=made.solved,
            joints=joints,
            around=around,
            peak_s=peak_duration.number,
            wire_rise_k=lead_rise_k,
        )
    return JoinedPack(
        placing,
        sections.pieces,
        sections=sections,
        leads=made.leads,
        given=given,
        network=made.network,
        solved=made.solved,
        flow=flow,
        carried=carried,
        joint_flaws=made.flaws,
        lead_ohm=made.lead_ohm,
        current_a=current.number,
        around_c=around,
    )


def plan_of(joints: Joints, cell: Cell, parallel: int, group: Candidate, series: Candidate) -> Plan:
    """What is to be laid, from the joints in force."""
    return Plan(
        joints.scheme,
        joints.side_a,
        side_b=joints.side_b,
        group_strips=group.strips,
        series_strips=strip_count(joints.series.strips, series.part.form, "series", cell, parallel),
        discrete=series.part.form == "strip",
        folded=joints.across == "fold" and series.part.form == "strip",
        changes=joints.changes,
    )


def given_of(
    joints: Joints,
    cell: Cell,
    behaviour: Behaviour,
    cell_ohm: Figure,
    wire_area: Figure,
    bridge: Bridge | None,
) -> Given:
    """What the network is made from besides the geometry (methods 19).

    ``wire_area`` is the section of the main leads in mm2, which wires between cells follow;
    ``bridge`` lies over each window of a plate.

    It is long, for it lists figures one after the other, each made from those above it.
    """
    method = joining_of(joints, cell)
    rest = sheet(
        "network.rest_v",
        "OCV of a cell, half charge",
        float(behaviour.rest(np.array(0.5))),
        "V",
        cell.name,
    )
    contact = contact_of(joints, cell, bridge)
    limit = joints.contact_limit_a or CONTACT_LIMITS_A.get(method)
    contact_limit = (
        None if limit is None else CONTACT_LIMIT_A.said_or(joints.contact_limit_a, limit)
    )
    link = rating = None
    if joints.link_a is not None:
        rating = typed("joints.link_a", "Fusible link per cell", joints.link_a, "A")
        link = LINK_MOHM.said_or(
            joints.link_mohm, LINK_DROP_MV / joints.link_a, rating, rule=say(LINK_DROP_MV, "mV")
        )
    section = (
        typed("joints.wire_mm2", "Wire between cells", joints.wire_mm2, "mm²")
        if joints.wire_mm2 is not None
        else WIRE_MM2.assumed(wire_area.number, wire_area)
    )
    return Given(
        rest,
        cell_ohm,
        contact_mohm=contact,
        contact_limit_a=contact_limit,
        link_a=rating,
        link_mohm=link,
        wire_mm2=section,
        every=(rest,),
    )


def network_of(
    sections: Sections,
    leads: Sequence[Lead],
    given: Resistors,
    measured: Sequence[MeasuredCell],
    lead_ohm: Array,
) -> Network:
    """The resistors and sources of a pack; cells are alike at half charge but where measured.

    ``lead_ohm`` (L,) are its leads.
    """
    pieces = sections.pieces
    layout = pieces.layout
    count = len(layout)
    rest = given.rest_v
    emf, ohm = np.full(count, rest), np.full(count, given.cell_ohm)
    for item in measured:
        terminal = terminal_number(layout, f"{item.cell}p")
        if terminal is None:
            continue
        if item.volts is not None:
            emf[terminal // 2] = item.volts
        if item.mohm is not None:
            ohm[terminal // 2] = item.mohm * 1e-3
    return Network(
        pieces.a,
        pieces.b,
        ohm=sections.ohm,
        emf_v=emf,
        rest_v=np.asarray(layout.level * rest, dtype=np.float64),
        cell_ohm=ohm,
        contact_ohm=np.full(2 * count, given.contact_ohm),
        link_ohm=np.full(count, given.link_ohm),
        live=np.ones(count, dtype=bool),
        leads=tuple(leads),
        lead_ohm=lead_ohm,
        whole=pieces.whole,
    )


def lead_ohms(joints: Joints, leads: Sequence[Lead], each_ohm: float) -> Array:
    """(L,) resistance in ohm of each lead.

    A pole whose lead leaves from every cell by the rule in words has a bar and one lead: its
    places share that lead, as if each had its resistance times their number.
    """
    barred = {pole for pole in "+-" if has_bar(joints, pole)}
    count = {pole: sum(lead.pole == pole for lead in leads) for pole in "+-"}
    return np.array([each_ohm * (count[lead.pole] if lead.pole in barred else 1) for lead in leads])


def has_bar(joints: Joints, pole: str) -> bool:
    """Whether a bar collects the end group of a pole."""
    own = any(point.pole == pole for point in joints.lead_points)
    return joints.take_off == "spread" and not own


def carried_by(
    sections: Sections,
    flow: Flow,
    solved: Solved,
    joints: Joints,
    around: Array,
    peak_s: float,
    wire_rise_k: float,
) -> Carried:
    """Rises at a flow, from ``around`` (M,) in °C, and pack currents at which pieces are full."""
    per_square = rise_per_square(sections)
    limit = limits_a(sections, per_square, joints, wire_rise_k, around, joints.school)
    factor = peak_factors(sections, peak_s)
    by_pack = pack_limits_a(limit, solved.share.piece_a)
    rises = rises_k(sections, per_square, flow.piece_a, around)
    return Carried(rises, limit, by_pack, by_pack * factor)


def pack_limits_a(limit_a: Array, share: Array) -> Array:
    """(M,) pack current in A at which pieces are at their limits, from their shares of it."""
    used = np.abs(share)
    return np.where(used > 1e-9, limit_a / np.maximum(used, 1e-9), np.inf)


def _open(layout: Layout) -> Flaw:
    return Flaw(
        "pack-open",
        "No current can pass from the negative to the positive end",
        "Join the groups where the path is broken.",
        *layout.centre_mm[:2],
    )


def moved_lead(joined_pack: JoinedPack, place: int, lead: Lead) -> Solved | None:
    """The network with one main lead elsewhere, as while it is dragged."""
    if joined_pack.network is None:
        return None
    leads = list(joined_pack.leads)
    leads[place] = lead
    return with_leads(joined_pack, leads)


def with_leads(joined_pack: JoinedPack, leads: Sequence[Lead]) -> Solved | None:
    """The network with other main leads; ``None`` where it cannot be solved."""
    if joined_pack.network is None:
        return None
    ohms = joined_pack.network.lead_ohm
    if len(leads) != len(ohms):
        ohms = np.full(len(leads), joined_pack.lead_ohm)
    return solve(replace(joined_pack.network, leads=tuple(leads), lead_ohm=ohms))


def points_of(joined_pack: JoinedPack, leads: Sequence[Lead]) -> tuple[LeadPoint, ...]:
    """Main leads as the project keeps them."""
    parallel = joined_pack.layout.parallel

    def member(terminal: int | None) -> int | None:
        return None if terminal is None else terminal // 2 % parallel + 1

    return tuple(
        LeadPoint(
            pole="+" if lead.pole == "+" else "-",
            cell=member(lead.terminal) or 1,
            toward=member(lead.toward),
            share=round(lead.share, 4),
        )
        for lead in leads
    )
