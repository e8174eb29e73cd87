"""The steps that lay the cells out, join them and solve what flows: a part of the evaluation."""

from __future__ import annotations

from functools import partial
from typing import NamedTuple

from lumvak.core.arrangement.figures import laid_gap, layout_figures
from lumvak.core.arrangement.layout import barriers_of
from lumvak.core.arrangement.proposals import Placing, lying_only, placed
from lumvak.core.clearance.metal import both, too_near
from lumvak.core.clearance.planes import ends_of
from lumvak.core.clearance.topic import clearance_topic
from lumvak.core.clearance.widest import Widths, fits_of
from lumvak.core.conductors.strip_and_wire import Cooling
from lumvak.core.document.joints import Joints
from lumvak.core.document.measured import MeasuredCell
from lumvak.core.document.project import Project
from lumvak.core.evaluation import LaidOut, Sized
from lumvak.core.figures.figure import Figure
from lumvak.core.joints.asked import NOTHING_MORE, Asked, asked_for, stronger
from lumvak.core.joints.bridges import Bridge, bridge_of, bridge_topic
from lumvak.core.joints.candidates import (
    Bed,
    Candidate,
    Role,
    allowed_of,
    bare_conductors,
    conductors_only,
    limited_by,
    plating_of,
)
from lumvak.core.joints.contacts import screw_of
from lumvak.core.joints.joined_pack import (
    JoinedPack,
    given_of,
    joined,
    plan_of,
    resistors_of,
    wired,
)
from lumvak.core.joints.joint_figures import JointResult, cooling_of, joint_result, weld_of
from lumvak.core.joints.laying import laid, lines_of
from lumvak.core.joints.network_figures import NetworkFigures, network_figures
from lumvak.core.joints.piece_sections import sections_of
from lumvak.core.making.cut_list import MadePack, sided
from lumvak.core.making.metal import metals_of, plates_of, whole_width, with_leads
from lumvak.core.making.topic import in_pack
from lumvak.core.making.weight import Around
from lumvak.core.steps import Steps
from lumvak.core.taps.figures import tap_figures
from lumvak.core.taps.routes import taps_of

# So often the joints are proposed and solved before the strongest must do.
MOST_ATTEMPTS = 6


def lay_out(project: Project, sized: Sized, steps: Steps) -> LaidOut:
    """The cells in their room, joined and solved; the balance leads.

    Joints that are proposed must carry the load as the solved network shares it: where one does
    not, a stronger one is proposed and all is solved once more. It is long, for it names all that
    is laid.
    """
    joints, wanted, pack = project.joints, project.arrangement, sized.pack
    choice = sized.sized_pack.choice
    measured = steps.of(all_measured, project.measured, sized.in_hand.measured)
    lying = steps.settled(lying_only, wanted)
    holder = sized.parts.holders.get(wanted.holder or "")
    placing = steps.of(
        placed, lying, choice.cell, choice.series, choice.parallel, joints.gap_mm, holder
    )
    gap = steps.settled(laid_gap, wanted, joints.gap_mm, holder, choice.cell)
    barriers = steps.of(barriers_of, placing.layout, choice.cell.voltage_full_v, wanted.barrier_v)
    ends = steps.of(ends_of, placing.layout, 0.0 if holder is None else holder.rim_mm)
    lines = steps.of(lines_of, placing.layout, joints.scheme, joints.side_a, joints.side_b)
    screw = steps.settled(screw_of, joints, choice.cell)
    reach = max(project.making.overhang_mm, 0.0 if screw is None else screw.edge_mm)
    fits = steps.settled(fits_of, placing.layout, ends, lines, joints.least_mm, reach)
    weld = steps.settled(weld_of, joints, choice.cell)
    cooling = steps.settled(cooling_of, weld, project.pack.enclosure)
    bridge = steps.settled(bridge_of, joints, choice.cell, sized.parts.conductors)
    asked = NOTHING_MORE
    for attempt in range(MOST_ATTEMPTS):
        own = steps.at(f"attempt {attempt + 1}") if attempt else steps
        group, series, joined_pack, network = _solved(
            project,
            sized,
            placing=placing,
            widths=fits.widths,
            weld=weld,
            cooling=cooling,
            gap=gap,
            bridge=bridge,
            measured=measured,
            asked=asked,
            steps=own,
        )
        more = own.settled(
            asked_for,
            asked,
            group,
            series=series,
            joined_pack=joined_pack,
            network=network,
            load=sized.load,
            school=joints.school,
        )
        if more == asked:
            break
        asked = more
    lay = steps.of(
        layout_figures,
        placing.layout,
        wanted,
        gap_mm=joints.gap_mm,
        cell=choice.cell,
        holder=holder,
        series=pack.series,
        parallel=pack.parallel,
    )
    # Where leads leave stays as it was in most edits, and so does what hangs on it.
    leads = steps.settled(tuple, joined_pack.leads)
    taps = steps.settled(
        taps_of,
        wanted.kept_free,
        placing.layout,
        leads,
        project.balance_leads.spare_mm,
        project.balance_leads.ways,
        barriers,
    )
    around = steps.settled(
        Around,
        wanted,
        holder,
        sized.boards.board,
        sized.wire,
        barriers,
        float(taps.length_mm.sum()),
    )
    inside = steps.of(in_pack, joined_pack, around, lay.base, pack.series, pack.parallel)
    tap = steps.of(
        tap_figures,
        project.balance_leads,
        taps,
        joined_pack.cells_ohm,
        pack.full,
        pack.series,
        sized.demand.ambient,
    )
    sections = joined_pack.sections
    plates = steps.of(plates_of, sections.pieces, ends, joints.least_mm)
    made = steps.settled(
        MadePack,
        sections,
        ends,
        plates=plates,
        reach_mm=fits.reach_mm,
        screw=screw,
        group=group.chosen.part,
        series=series.chosen.part,
        bridge=bridge,
        bridged=steps.settled(sided, joints.side_a, joints.side_b),
    )
    width = steps.settled(whole_width, sections.width_mm, sections.strips)
    pieces = steps.of(metals_of, sections.pieces, width, sections.wire, plates, fits.reach_mm, ends)
    metals = steps.of(with_leads, pieces, placing.layout.level, ends, leads, taps.terminal)
    full = choice.cell.voltage_full_v
    near = steps.of(
        both,
        steps.at("pieces").of(too_near, pieces, ends, joints.least_mm, full),
        steps.at("leads").of(too_near, metals, ends, joints.least_mm, full, len(pieces)),
    )
    clearance = steps.settled(
        clearance_topic,
        near,
        metals,
        ends=ends,
        placing=placing,
        least_mm=joints.least_mm,
        barrier_mm=joints.barrier_mm,
        full=pack.full,
        series=pack.series,
        parallel=pack.parallel,
    )
    busiest = None if network is None else network.busiest_cell
    bridged = steps.settled(
        bridge_topic, bridge, series.chosen.part, joints, busiest, pack.strips_at, cooling
    )
    return LaidOut(
        lay,
        barriers,
        made=made,
        clearance=clearance,
        inside=inside,
        bridged=bridged,
        group=group,
        series=series,
        joined_pack=joined_pack,
        network=network,
        taps=taps,
        tap=tap,
    )


class _Solved(NamedTuple):
    """The joints of both roles, the pack as joined, and what its network gives."""

    group: JointResult
    series: JointResult
    joined_pack: JoinedPack
    network: NetworkFigures | None


def _solved(
    project: Project,
    sized: Sized,
    placing: Placing,
    widths: Widths,
    weld: Figure,
    cooling: Cooling,
    gap: Figure,
    bridge: Bridge | None,
    measured: tuple[MeasuredCell, ...],
    asked: Asked,
    steps: Steps,
) -> _Solved:
    """The joints of both roles, laid between the cells and solved.

    ``asked`` is what they must carry more than by even sharing. It is long, for it names all that
    goes into each step.
    """
    joints, demand, pack = project.joints, sized.demand, sized.pack
    choice = sized.sized_pack.choice
    made_of = partial(
        _joints, joints=joints, widths=widths, weld=weld, cooling=cooling, gap=gap, sized=sized
    )
    series = made_of("series", over=asked.series_over, like=None, steps=steps.at("series"))
    # Over the posts or tabs of flat cells one bar lies from group to group.
    like = series.chosen if choice.cell.diameter_mm is None else None
    group = made_of("group", over=asked.group_over, like=like, steps=steps.at("group"))
    plan = steps.settled(plan_of, joints, choice.cell, choice.parallel, group.chosen, series.chosen)
    pieces = steps.of(stronger, steps.of(laid, placing.layout, plan), asked.layers)
    given = steps.settled(
        given_of,
        joints,
        choice.cell,
        sized.sized_pack.behaviour,
        pack.cell_ohm,
        sized.wire.area,
        bridge,
    )
    sections = steps.settled(
        sections_of, pieces, group.chosen, series.chosen, widths, given.wire_mm2.number
    )
    made = steps.of(
        wired,
        placing.layout,
        sections,
        steps.settled(resistors_of, given),
        joints,
        measured,
        sized.wire.ohm.number,
    )
    joined_pack = steps.of(
        joined,
        placing,
        sections,
        given=given,
        made=made,
        joints=joints,
        lead_rise_k=project.leads.rise_limit_k,
        current=pack.current,
        ambient=demand.ambient,
        strips_at=pack.strips_at,
        peak_duration=demand.peak_duration,
    )
    network = steps.settled(
        network_figures,
        joined_pack,
        joints,
        current=pack.current,
        series=pack.series,
        parallel=pack.parallel,
        cells_carry=pack.cells_limit,
        peak_duration=demand.peak_duration,
        wire_limit=sized.wire.limit,
        group_part=group.part,
        series_part=series.part,
    )
    return _Solved(group, series, joined_pack, network)


def all_measured(
    by_place: tuple[MeasuredCell, ...], of_hand: tuple[MeasuredCell, ...]
) -> tuple[MeasuredCell, ...]:
    """What was measured at each place: of the cell in hand that sits there, and by the place."""
    return (*of_hand, *by_place)


def _joints(
    role: Role,
    joints: Joints,
    widths: Widths,
    weld: Figure,
    cooling: Cooling,
    gap: Figure,
    sized: Sized,
    over: float,
    like: Candidate | None,
    steps: Steps,
) -> JointResult:
    """The joints of one role: all conductors judged, one proposed, one in force."""
    demand, pack, choice, parts = sized.demand, sized.pack, sized.sized_pack.choice, sized.parts
    strip = joints.series if role == "series" else joints.group
    own = steps.settled(conductors_only, role, joints, gap.number)
    bed = steps.settled(
        Bed,
        choice.cell,
        choice.parallel,
        gap_mm=gap.number,
        welder_limit_mm=joints.welder_limit_mm,
        cooling=cooling,
        widths=widths,
        plates=plating_of(joints.side_a, joints.side_b),
    )
    bare = steps.of(bare_conductors, role, parts.conductors, strip.strips, bed)
    allowed = steps.settled(
        allowed_of,
        role,
        choice.cell,
        choice.parallel,
        joints,
        pack.strips_at.number,
        demand.peak_duration.number,
    )
    limited = steps.of(limited_by, bare, allowed)
    return steps.settled(
        joint_result,
        role,
        own,
        conductors=parts.conductors,
        limited=limited,
        cell=choice.cell,
        series=pack.series,
        parallel=pack.parallel,
        current=pack.current,
        peak=demand.peak,
        peak_duration=demand.peak_duration,
        strips_at=pack.strips_at,
        weld=weld,
        cooling=cooling,
        widths=widths,
        over=over,
        like=like,
        gap=gap,
    )
