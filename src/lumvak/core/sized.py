"""The steps from the need to cells and count and what is drawn: a part of the evaluation."""

from __future__ import annotations

from typing import NamedTuple

from lumvak.core.bms.as_specified import board_as_specified
from lumvak.core.bms.verdicts import BoardSetting, board_choice, wants_one_port
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.power_parts import Wire
from lumvak.core.cells.cell_table import cell_table
from lumvak.core.cells.worst_cells import WorstCells, worst_cells
from lumvak.core.charging.figures import charge_figures
from lumvak.core.conductors.lead_wire import WireLoad, lead_wire, leads_for_peak, leads_to_size_with
from lumvak.core.document.part_names import check_parts
from lumvak.core.document.project import Project
from lumvak.core.evaluation import Sized
from lumvak.core.figures.link import PathLoad
from lumvak.core.in_hand import in_hand
from lumvak.core.need.demand import Demand, demand_of
from lumvak.core.need.load_over_time import drawn_of
from lumvak.core.power.guarded_wire import WeakShort, main_wire_guarded
from lumvak.core.sizing.choice import choose
from lumvak.core.sizing.figures import pack_figures
from lumvak.core.sizing.options import Had, Options, keeping
from lumvak.core.sizing.path_resistance import (
    parts_ohm,
    path_figure,
    picked_joints_ohm,
    sizing_path,
)
from lumvak.core.sizing.search import Filters, search
from lumvak.core.sizing.sized_pack import SizedPack, quick_inside_ohm
from lumvak.core.sizing.terms import sizing_terms
from lumvak.core.steps import Steps


def size(
    project: Project,
    catalogue: Catalogue,
    filters: Filters,
    found: Options | None,
    had: Had | None,
    steps: Steps,
) -> Sized:
    """The need; cells and count; the cells in hand; what is drawn over time, and the board for it.

    ``found`` is the search where it was made already, ``had`` what was proposed before.

    It is long, for it names one step after the other.
    """
    parts = steps.of(Catalogue.with_parts, catalogue, project.parts)
    check_parts(project, parts)
    need, demand = project.need, steps.settled(demand_of, project.need)
    leads_part = parts.wires.get(project.leads.wire or "")
    options, sized_pack = _chosen(
        project,
        parts,
        demand=demand,
        leads_part=leads_part,
        filters=filters,
        found=found,
        had=had,
        steps=steps,
    )
    choice, pack = sized_pack.choice, steps.settled(pack_figures, sized_pack)
    load = steps.settled(WireLoad, demand.highest_current, demand.peak, demand.peak_duration)
    cells_in_hand = in_hand(project, sized_pack, steps)
    charge = steps.settled(
        charge_figures,
        sized_pack,
        pack.series,
        pack.parallel,
        pack.full_cell,
        cells_in_hand.weakest_ah,
    )
    drawn = steps.settled(
        drawn_of,
        demand,
        need,
        project.start,
        pack.current,
        pack.full,
        parts.surges.get(project.power.surge),
    )
    worst = steps.settled(worst_cells, choice.cell, sized_pack.behaviour, demand.coldest)
    guarded = steps.settled(
        main_wire_guarded,
        project.leads,
        parts.rising_fuses,
        wanted=project.power.fuse,
        band=project.power.fuse_band,
        load=load,
        draw=drawn.limited,
        full_v=pack.full.number,
        inside_ohm=quick_inside_ohm(sized_pack),
        weak=steps.of(_weakest, sized_pack, worst),
        ambient=demand.ambient,
    )
    wire = steps.settled(
        lead_wire, project.leads, load, demand.ambient, leads_part, "leads", guarded
    )
    setting = steps.settled(
        BoardSetting,
        parts.chemistry_of(choice.cell).family,
        choice.cell,
        series=choice.series,
        parallel=choice.parallel,
        draw=drawn.limited,
        charge_a=0.0 if demand.charger_current is None else demand.charger_current.number,
        one_port=wants_one_port(need),
        protection=project.protection,
        rest=project.rest,
    )
    specified = steps.settled(board_as_specified, setting)
    boards = steps.of(board_choice, parts.boards, project.protection.board, setting, specified)
    path_load = steps.settled(
        PathLoad, pack.current.number, demand.peak.number, demand.peak_duration.number
    )
    return Sized(
        parts,
        demand,
        wire=wire,
        options=options,
        sized_pack=sized_pack,
        pack=pack,
        in_hand=cells_in_hand,
        charge=charge,
        drawn=drawn,
        boards=boards,
        load=path_load,
    )


def _weakest(sized_pack: SizedPack, worst: WorstCells) -> WeakShort:
    """The pack nearly empty, cold and worn, with its joints as sizing counts them."""
    choice = sized_pack.choice
    cells = choice.series / choice.parallel * worst.slow_ohm.number
    return WeakShort(
        choice.series * worst.empty_v.number, cells + float(sized_pack.packs.joints_ohm[0])
    )


class _Chosen(NamedTuple):
    """All that serve, and the pack that is taken."""

    options: Options
    sized_pack: SizedPack


def _chosen(
    project: Project,
    parts: Catalogue,
    demand: Demand,
    leads_part: Wire | None,
    filters: Filters,
    found: Options | None,
    had: Had | None,
    steps: Steps,
) -> _Chosen:
    """All that serve, and the one that is taken."""
    need, wanted, joints = project.need, project.pack, project.joints
    leads_ohm = steps.settled(leads_to_size_with, project.leads, demand.highest_current, leads_part)
    peak_leads_ohm = steps.settled(leads_for_peak, project.leads, demand.peak, leads_part)
    cells = steps.of(cell_table, parts, parts.cell_list, wanted.end_charge)
    others = steps.settled(parts_ohm, project.power, parts, demand.highest_current, demand.coldest)
    joints_ohm = steps.of(
        picked_joints_ohm, joints.series, joints.gap_mm, parts.conductors, cells.cells
    )
    between = steps.settled(
        sizing_path,
        joints.series,
        joints.gap_mm,
        wanted_board=project.protection.board,
        catalogue=parts,
        cells=cells.cells,
        joints_ohm=joints_ohm,
        wire_ohm=leads_ohm,
        peak_wire_ohm=peak_leads_ohm,
        others=others,
    )
    terms = steps.settled(sizing_terms, cells, demand, need.endurance_basis, wanted, between.path)
    options = found
    if options is None:
        options = steps.of(search, parts, cells, demand, terms, wanted, filters)
        options = steps.of(keeping, options, had)
    choice = steps.settled(choose, wanted, options, demand.window.highest.number, cells, terms)
    path = steps.settled(
        path_figure,
        between,
        choice.row,
        choice.series,
        choice.parallel,
        joints.series.part,
        joints.gap_mm,
    )
    sized_pack = steps.of(
        SizedPack,
        wanted,
        parts,
        demand=demand,
        choice=choice,
        table=cells,
        terms=terms,
        path=path,
        peak_leads=between.peak_wire_ohm,
    )
    return _Chosen(options, sized_pack)
