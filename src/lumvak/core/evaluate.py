"""The evaluation: one project and one catalogue in, everything derived out, in work order.

``evaluate`` is pure: no clock, no files, no hidden randomness.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from lumvak.core.catalogue import Catalogue, UnknownPart
from lumvak.core.cellmodel import cell_table
from lumvak.core.chain import Link, rating_figures, weakest
from lumvak.core.demand import Demand, demand_of, stated
from lumvak.core.draw import Draw, draw_of
from lumvak.core.figures import Figure, walk
from lumvak.core.finding import Finding
from lumvak.core.findings import findings_of
from lumvak.core.hand import Hand
from lumvak.core.joints import Role, conductors_only
from lumvak.core.ladder import Rung, ladder
from lumvak.core.leads import LeadWire, lead_wire
from lumvak.core.links import links
from lumvak.core.motion import motion_figures
from lumvak.core.options import Filters, search
from lumvak.core.pack import Choice, choose, settle
from lumvak.core.packfigures import PackFigures, pack_figures
from lumvak.core.path import JointResult, joint_result, parts_ohm, path_figure, sizing_path
from lumvak.core.power import Power, power_of
from lumvak.core.powersettings import NONE
from lumvak.core.project import Project
from lumvak.core.protection import BoardSetting, Verdict, judge, proposed, verdicts
from lumvak.core.ranking import Options
from lumvak.core.runfigures import RunResult, run_of
from lumvak.core.sizing import sizing_terms
from lumvak.core.surge import thermistor_ohm
from lumvak.core.table import Table, table_of
from lumvak.core.tablefigures import table_figures

ANY = Filters()
ROLES: tuple[Role, Role] = ("group", "series")


@dataclass(frozen=True, slots=True)
class Evaluation:
    """Everything derived from a project: drawn by the window, printed by the command line."""

    project: Project
    catalogue: Catalogue
    demand: Demand
    options: Options
    choice: Choice
    hand: Hand
    pack: PackFigures
    run: RunResult
    ladder: tuple[Rung, ...]
    group: JointResult
    series: JointResult
    table: Table
    wire: LeadWire
    verdicts: tuple[Verdict, ...]
    board: Verdict | None
    power: Power
    links: tuple[Link, ...]
    weakest: Link | None
    figures: Mapping[str, Figure]
    findings: tuple[Finding, ...]
    sized: _Sized


def check_parts(project: Project, catalogue: Catalogue) -> None:
    """Raise UnknownPart where the project names a part that nobody has."""
    wanted: tuple[tuple[str, str, str | None, Mapping[str, object]], ...] = (
        ("pack.cell", "cell", project.pack.cell, catalogue.cells),
        *(("pack.beside", "cell", item.cell, catalogue.cells) for item in project.pack.beside),
        ("joints.group.part", "conductor", project.joints.group.part, catalogue.conductors),
        ("joints.series.part", "conductor", project.joints.series.part, catalogue.conductors),
        ("protection.board", "board", project.protection.board, catalogue.boards),
        ("leads.wire", "wire", project.leads.wire, catalogue.wires),
        ("charge_leads.wire", "wire", project.charge_leads.wire, catalogue.wires),
        ("power.fuse", "fuse", _part(project.power.fuse), catalogue.fuses),
        ("power.charge_fuse", "fuse", _part(project.power.charge_fuse), catalogue.fuses),
        ("power.connector", "connector", _part(project.power.connector), catalogue.connectors),
        ("power.switch", "switch", _part(project.power.switch), catalogue.switches),
        ("power.surge", "surge thermistor", _part(project.power.surge),
         {key: part for key, part in catalogue.surges.items() if part.kind == "thermistor"}),
        ("power.precharge", "precharge part", _part(project.power.precharge),
         {key: part for key, part in catalogue.surges.items() if part.kind != "thermistor"}),
    )  # fmt: skip
    for path, kind, part, known in wanted:
        if part is not None and part not in known:
            raise UnknownPart(
                f"{path}: no {kind} “{part}” in the file or in the catalogue; "
                f"add it to your own parts or name another"
            )


def _part(wanted: str | None) -> str | None:
    """A part named; ``None`` where none is, on purpose or not."""
    return None if wanted == NONE else wanted


@dataclass(frozen=True, slots=True)
class _Sized:
    """What hangs on the need, the cells, the leads and the board, not on how the pack is laid."""

    catalogue: Catalogue
    demand: Demand
    wire: LeadWire
    options: Options
    choice: Choice
    hand: Hand
    pack: PackFigures
    rungs: tuple[Rung, ...]
    verdicts: tuple[Verdict, ...]
    board: Verdict | None
    setting: BoardSetting
    raw_draw: Draw
    started: tuple[Figure, ...]


def evaluate(
    project: Project,
    catalogue: Catalogue,
    filters: Filters = ANY,
    found: Options | None = None,
    before: Evaluation | None = None,
) -> Evaluation:
    """Work out everything that follows from a project.

    Parameters: ``project``; ``catalogue`` of all parts at hand; ``filters`` narrow the options;
    ``found`` reuses options already searched for the same need; ``before`` is an evaluation with
    the same catalogue and filters, whose sizing is taken over where nothing that it hangs on has
    changed. Raises UnknownPart.
    """
    sized = (
        before.sized
        if before is not None and _same_sizing(project, before.project)
        else _size(project, catalogue, filters, found)
    )
    catalogue, demand, choice = sized.catalogue, sized.demand, sized.choice
    check_parts(project, catalogue)
    wire, pack, board = sized.wire, sized.pack, sized.board

    # Joints.
    if (
        before is not None
        and sized is before.sized
        and conductors_only(project.joints) == conductors_only(before.project.joints)
    ):
        group, series = before.group, before.series
    else:
        group, series = (
            joint_result(role, project.joints, catalogue, choice.cell, pack, demand)
            for role in ROLES
        )

    # The pack on the table, and its discharge.
    table = table_of(project, sized.hand, pack, group, series, wire)
    solved = table_figures(table, project, sized.hand, pack, wire)
    hand = replace(sized.hand, joints=solved.get("network.joint_ohm"))
    run = run_of(hand, pack, project.need, project.run)

    # Fuse, connector, switch, surge, and what opens first.
    power = power_of(
        project, catalogue, demand, hand, pack, table, (group, series), wire, board,
        sized.setting, sized.raw_draw, solved,
    )  # fmt: skip

    # The whole path, and what there is to notice.
    chain = links(project, demand, hand, pack, table, (group, series), wire, power, solved)
    roots = [
        *pack.every,
        *run.figures,
        *solved.values(),
        *(item for result in (group, series) for item in result.figures.values()),
        *(link.limit for link in chain),
        *rating_figures(chain),
        *sized.started,
        *power.figures,
        demand.window.rated,
        *motion_figures(project.need, pack.full, pack.nominal),
        *(load.energy_wh for load in demand.rails),
        *(figure for figure in (demand.charger_voltage, demand.charger_current) if figure),
        *stated(project.need),
    ]
    seen = Evaluation(
        project=project,
        catalogue=catalogue,
        demand=demand,
        options=sized.options,
        choice=choice,
        hand=hand,
        pack=pack,
        run=run,
        ladder=sized.rungs,
        group=group,
        series=series,
        table=table,
        wire=wire,
        verdicts=sized.verdicts,
        board=board,
        power=power,
        links=chain,
        weakest=weakest(chain),
        figures={figure.key: figure for figure in walk(roots)},
        findings=(),
        sized=sized,
    )
    return replace(seen, findings=findings_of(seen))


def _same_sizing(project: Project, before: Project) -> bool:
    """Whether nothing has changed that sizing hangs on; see ``_size`` for what it reads."""
    return (
        project.joints.series == before.joints.series
        and project.joints.gap_mm == before.joints.gap_mm
        and project.leads == before.leads
        and project.protection == before.protection
        and project.pack == before.pack
        and project.need == before.need
        and project.power == before.power
        and project.start == before.start
        and project.rest == before.rest
        and project.parts == before.parts
    )


def _size(
    project: Project, catalogue: Catalogue, filters: Filters, found: Options | None
) -> _Sized:
    """Need, cells, count, leads and board: what does not hang on how the pack is laid."""
    catalogue = catalogue.with_parts(project.parts)

    # The need.
    demand = demand_of(project.need)
    wire = lead_wire(
        project.leads,
        demand.highest_current,
        demand.peak,
        demand.peak_duration,
        demand.ambient,
        catalogue.wires.get(project.leads.wire or ""),
    )

    # Cells and count.
    cells = cell_table(catalogue, catalogue.cell_list, project.pack.end_charge)
    others = parts_ohm(project, catalogue, demand)
    path, board_ohm, joint_ohm = sizing_path(project, catalogue, cells.cells, wire, others)
    terms = sizing_terms(cells, demand, project.need, project.pack, path)
    options = found
    if options is None:
        options = search(catalogue, cells, demand, terms, project.pack, filters)
    choice = settle(choose(project.pack, options, demand.window.highest.number), cells, terms)
    between = path_figure(
        path,
        choice.row,
        choice.series,
        choice.parallel,
        wire,
        board_ohm,
        others,
        joint_ohm,
        project.joints,
    )
    hand = Hand(project.pack, catalogue, demand, choice, cells, terms, between)
    pack = pack_figures(hand)

    # What is drawn over time, and the board.
    raw, started = draw_of(demand, project.need, project.start)
    raw = replace(raw, continuous_a=pack.current.number)
    limiter = catalogue.surges.get(project.power.surge)
    cold_ohm = 0.0 if limiter is None else thermistor_ohm(limiter, demand.ambient.number)
    setting = BoardSetting(
        family=catalogue.chemistry_of(choice.cell).family,
        cell=choice.cell,
        series=choice.series,
        parallel=choice.parallel,
        draw=raw.limited(cold_ohm, pack.full.number),
        charge_a=demand.charger_current.number if demand.charger_current is not None else 0.0,
        need=project.need,
        protection=project.protection,
        rest=project.rest,
    )
    judged = verdicts(catalogue.boards.values(), setting)
    picked = catalogue.boards.get(project.protection.board or "")
    board = proposed(judged) if picked is None else judge(picked, setting)
    rungs = ladder(hand, options, project.need)
    return _Sized(
        catalogue, demand, wire, options, choice, hand, pack, rungs, judged, board, setting, raw,
        started,
    )  # fmt: skip
