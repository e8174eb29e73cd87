"""The steps of the power path: every part judged for its place, curves, the pack left alone."""

from __future__ import annotations

from lumvak.core.cells.worst_cells import worst_cells
from lumvak.core.document.project import Project
from lumvak.core.evaluation import LaidOut, Sized
from lumvak.core.joints.network_figures import excess_of
from lumvak.core.power.at_rest import shelf_of
from lumvak.core.power.curves import CurveSource, curves_of
from lumvak.core.power.figures import short_circuit
from lumvak.core.power.guarded_wire import charge_flow
from lumvak.core.power.power_path import (
    Power,
    charge_path,
    contacts,
    inner_resistance,
    main_fuse,
    power_path,
    set_board,
    surges,
)
from lumvak.core.steps import Steps


def power_of(project: Project, sized: Sized, laid_out: LaidOut, steps: Steps) -> Power:
    """The power path: every part judged for its place, the curves, the pack left alone.

    It is long, for it names every step of the work.
    """
    parts, demand, pack, sized_pack = sized.parts, sized.demand, sized.pack, sized.sized_pack
    need, wanted, joined_pack, wire = project.need, project.power, laid_out.joined_pack, sized.wire
    ambient, draw = demand.ambient, sized.drawn.limited
    board = steps.of(
        set_board,
        sized.boards.verdict,
        sized.boards.setting,
        project.pack.ceiling_v,
        pack.current,
        pack.parallel,
    )
    inner = steps.of(
        inner_resistance, laid_out.network, joined_pack, pack.cell_ohm, pack.series, pack.parallel
    )
    worst = steps.settled(worst_cells, sized.choice.cell, sized_pack.behaviour, demand.coldest)
    short = steps.settled(
        short_circuit,
        pack.full,
        worst,
        network=laid_out.network,
        wire=wire,
        board=board.board,
        place=wanted.fuse_place,
        series=pack.series,
        parallel=pack.parallel,
    )
    shorts = (short.most.number, short.least.number)
    fuse = steps.of(
        main_fuse,
        parts.rising_fuses,
        wanted,
        draw,
        wire,
        pack.full.number,
        *shorts,
        ambient,
        pack.current,
    )
    contact = steps.of(
        contacts,
        parts.cheapest_connectors,
        parts.cheapest_switches,
        wanted_connector=wanted.connector,
        wanted_switch=wanted.switch,
        draw=draw,
        full=pack.full,
        current=pack.current,
        fuse=fuse.place.part,
        short_a=shorts[0],
        ambient=ambient,
    )
    flows = steps.settled(
        charge_flow,
        demand.charger_current,
        sized.charge.current,
        fuses=parts.rising_fuses,
        wanted=wanted.charge_fuse,
        full_v=pack.full.number,
        short_a=short.most.number,
        ambient=ambient,
    )
    charge = steps.of(
        charge_path,
        parts,
        project.charge_leads,
        wanted.charge_fuse,
        flows,
        demand.peak_duration,
        pack.full.number,
        *shorts,
        ambient,
    )
    surge = steps.of(
        surges,
        parts.surges,
        wanted,
        raw=sized.drawn.raw,
        kind=need.kind,
        controller_limit_a=need.controller_limit_a,
        start=project.start,
        board=board.board,
        connector=contact.connector.part,
        full=pack.full,
        current=pack.current,
        ambient=ambient,
        inner=inner,
        wire_ohm=wire.ohm,
    )
    cell = sized.choice.cell
    source = steps.settled(
        CurveSource,
        draw,
        board.board,
        fuse=fuse.place.part,
        connector=contact.connector.part,
        switch=contact.switch.part,
        wire=wire,
        ambient_c=ambient.number,
        link_a=project.joints.link_a,
        cell=cell,
        parallel=sized.choice.parallel,
        enclosure=project.pack.enclosure,
        cell_ohm=pack.cell_ohm.number,
        excess=excess_of(laid_out.network),
    )
    curves = steps.of(curves_of, source, joined_pack, laid_out.group, laid_out.series)
    shelf = steps.of(
        shelf_of,
        project.rest,
        cell,
        family=parts.chemistry_of(cell).family,
        behaviour=sized_pack.behaviour,
        parallel=sized.choice.parallel,
        capacity=pack.capacity,
        board=board.board,
    )
    return steps.of(
        power_path,
        draw,
        board,
        fuse=fuse,
        contact=contact,
        charge=charge,
        surge=surge,
        wire=wire,
        short=short,
        curves=curves,
        shelf=shelf,
        slow_s=project.start.slow_s,
        capacity=pack.capacity,
    )
