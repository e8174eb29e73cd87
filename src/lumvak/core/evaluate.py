"""The evaluation: one project and one catalogue in, everything derived out, in work order.

``evaluate`` is pure: no clock, no files, no hidden randomness. It is made of steps; each is a
function of what it is given, and runs again only where that has changed.
"""

from __future__ import annotations

from collections.abc import Mapping
from itertools import chain

import numpy as np

from lumvak.core.arrangement.findings import arrangement_findings
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.worst_cells import worst_cells
from lumvak.core.charged import charging_of
from lumvak.core.charging.findings import ceiling_findings, cold_findings
from lumvak.core.comparison.oversize import oversize_findings, oversize_of
from lumvak.core.document.project import Project
from lumvak.core.evaluation import Evaluation, LaidOut, Path, Sized
from lumvak.core.figures.collected import by_key, limits_of, worst_first
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.figures.topic import Topic
from lumvak.core.in_hand import old_beside
from lumvak.core.joints.contacts import Tested, scrap_topic
from lumvak.core.joints.findings import joint_findings, live_findings, network_findings
from lumvak.core.joints.joint_figures import weld_of
from lumvak.core.joints.links import JointLinks, joint_links
from lumvak.core.joints.network_figures import excess_of
from lumvak.core.laid_out import lay_out
from lumvak.core.need.demand import stated
from lumvak.core.need.findings import supply_findings, window_findings
from lumvak.core.need.motor_speed import motion_figures
from lumvak.core.power.at_rest import shelf_of
from lumvak.core.power.board_verdicts import wants_one_port
from lumvak.core.power.curves import Source, curves_of
from lumvak.core.power.figures import short_circuit
from lumvak.core.power.findings import power_cautions, power_findings
from lumvak.core.power.guarded_wire import charge_flow
from lumvak.core.power.links import power_links
from lumvak.core.power.opening_order import crossing_figures
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
from lumvak.core.rating.chain import rating_figures, weakest
from lumvak.core.rating.findings import joints_rating_findings, stall_findings
from lumvak.core.run.figures import RunResult, run_of
from lumvak.core.run.findings import run_findings
from lumvak.core.sized import size
from lumvak.core.sizing.findings import (
    beyond_sheet_findings,
    cold_start_findings,
    equipment_findings,
    load_findings,
    pack_findings,
)
from lumvak.core.sizing.links import cells_link
from lumvak.core.sizing.options import Had, Options, Stopped, led_by, worth_trying
from lumvak.core.sizing.ranking import rank_figures
from lumvak.core.sizing.search import Filters
from lumvak.core.steps import Steps
from lumvak.core.taps.findings import BalanceTopic, balance_topic
from lumvak.core.taps.watch import WatchTopic, watch_topic

ANY = Filters()
# So many options are worked out whole before the first stays first although it is stopped.
MOST_TRIED = 16
NO_BOARD = ("no-board",)


def evaluate(
    project: Project,
    catalogue: Catalogue,
    filters: Filters = ANY,
    found: Options | None = None,
    steps: Steps | None = None,
    had: Had | None = None,
) -> Evaluation:
    """Work out everything that follows from a project.

    Parameters: ``project``; ``catalogue`` of all parts at hand; ``filters`` narrow the options;
    ``found`` reuses options already searched for the same need; ``steps`` are those of earlier
    evaluations, of which only those run whose inputs have changed; ``had`` is the cell and series
    count that was proposed before, which stays first among its equals. Raises UnknownPart.
    """
    steps = Steps() if steps is None else steps
    steps.ran.clear()
    seen = _once(project, catalogue, filters, found, had, steps)
    assert seen is not None
    wanted = project.pack
    open_ = None in (wanted.cell, wanted.series, wanted.parallel)
    if found is not None or not open_ or not steps.of(_stops, seen.findings):
        return seen
    return _standing(project, catalogue, filters, seen, steps) or seen


def stops_of(seen: Evaluation) -> tuple[str, ...]:
    """Codes of what stops the pack of an evaluation, each once, sorted."""
    return _stops(seen.findings)


def _stops(findings: tuple[Finding, ...]) -> tuple[str, ...]:
    # A charger is taken for the pack, and not the pack for the charger.
    found = {item.code for item in findings if item.severity == "stop"} - {"charger-wrong"}
    return tuple(sorted(found))


def _standing(
    project: Project, catalogue: Catalogue, filters: Filters, first: Evaluation, steps: Steps
) -> Evaluation | None:
    """The evaluation of the best option that nothing stops; ``None`` where none is found.

    What is proposed for an option, joints, wire, fuse, board and the rest, is worked out whole,
    and the first for which all of it holds leads the options (methods 7).
    """
    options, wanted = first.options, project.pack
    tried = steps.of(worth_trying, options, wanted, first.catalogue, MOST_TRIED)
    stopped: Stopped = ()
    for attempt, place in enumerate(tried):
        if place == first.choice.index:
            stops = steps.of(_stops, first.findings)
            stopped = steps.settled(_and_stopped, stopped, place, stops)
            continue
        own = steps.at(f"option {attempt}")
        led = own.of(led_by, options, place, stopped)
        trial = _once(project, catalogue, filters, led, None, own, whole=False)
        stops = NO_BOARD if trial is None else own.of(_stops, trial.findings)
        if not stops:
            return trial
        stopped = own.settled(_and_stopped, stopped, place, stops)
    return None


def _and_stopped(before: Stopped, place: int, stops: tuple[str, ...]) -> Stopped:
    """What was found to stop places so far, and one more."""
    return (*before, (place, stops))


def _once(
    project: Project,
    catalogue: Catalogue,
    filters: Filters,
    found: Options | None,
    had: Had | None,
    steps: Steps,
    whole: bool = True,
) -> Evaluation | None:
    """The evaluation of the first of the options; ``None`` if it need not be ``whole`` and has
    no board. It is long, for it names every part of the evaluation.
    """
    sized = size(project, catalogue, filters, found, had, steps)
    if not whole and sized.boards.verdict is None:
        return None
    laid_out = lay_out(project, sized, steps)
    joint_ohm = None if laid_out.network is None else laid_out.network.joint_ohm
    run = steps.of(
        run_of,
        sized.sized_pack,
        joint_ohm,
        sized.pack,
        project.need,
        project.run,
        sized.in_hand.weakest_ah,
    )
    power = _power(project, sized, laid_out, steps)
    # What stands beside the path, each topic with its figures, links and findings.
    topics: tuple[Topic, ...] = (
        sized.in_hand,
        laid_out.clearance,
        laid_out.inside,
        laid_out.bridged,
        beside := old_beside(project, sized, steps),
        _test_joints(project, sized, laid_out, steps),
        watched := _watched(project, sized, steps),
        balance := _balance(project, sized, laid_out, watched, steps),
        charging := charging_of(project, sized, power, run, watched, steps),
    )
    path = _chain(project, sized, laid_out, power, topics, steps)
    return Evaluation(
        project=project,
        catalogue=sized.parts,
        demand=sized.demand,
        options=sized.options,
        choice=sized.sized_pack.choice,
        sized_pack=sized.sized_pack,
        pack=sized.pack,
        charge=sized.charge,
        run=run,
        barriers=laid_out.barriers,
        made=laid_out.made,
        clearance=laid_out.clearance,
        inside=laid_out.inside,
        group=laid_out.group,
        series=laid_out.series,
        joined_pack=laid_out.joined_pack,
        network=laid_out.network,
        taps=laid_out.taps,
        balance=balance,
        charging=charging,
        watched=watched,
        matched=sized.in_hand,
        beside=beside,
        wire=sized.wire,
        boards=sized.boards,
        power=power,
        links=path.links,
        weakest=path.weakest,
        figures=_figures(
            project,
            sized,
            laid_out=laid_out,
            run=run,
            power=power,
            path=path,
            topics=topics,
            steps=steps,
        ),
        findings=_findings(
            project,
            sized,
            laid_out=laid_out,
            run=run,
            power=power,
            path=path,
            topics=topics,
            steps=steps,
            whole=whole,
        ),
    )


def _test_joints(project: Project, sized: Sized, laid_out: LaidOut, steps: Steps) -> Tested:
    """What joints that were made on scrap tell of the pack's."""
    network, choice = laid_out.network, sized.sized_pack.choice
    weld = steps.settled(weld_of, project.joints, choice.cell)
    cell_a = None if network is None else network.busiest_cell
    return steps.of(
        scrap_topic,
        project.joints.weld_test,
        laid_out.joined_pack.given.contact_mohm,
        2 * choice.series * choice.parallel,
        cell_a,
        weld,
        project.joints.rise_limit_k,
    )


def _watched(project: Project, sized: Sized, steps: Steps) -> WatchTopic:
    """Group voltages that were taken over time."""
    choice = sized.sized_pack.choice
    return steps.of(watch_topic, project.watch, choice.cell, choice.series)


def _balance(
    project: Project, sized: Sized, laid_out: LaidOut, watched: WatchTopic, steps: Steps
) -> BalanceTopic:
    """The balance leads, and what was read on them."""
    sized_pack = sized.sized_pack
    half_v = float(sized_pack.behaviour.rest(np.array(0.5)))
    return steps.of(
        balance_topic,
        project.balance_leads,
        laid_out.tap,
        board=sized.boards.board,
        groups=sized.in_hand.groups,
        half_v=half_v,
        series=sized_pack.choice.series,
        meter=project.hand.meter,
        watched=watched,
        astray=laid_out.taps.astray,
    )


def _power(project: Project, sized: Sized, laid_out: LaidOut, steps: Steps) -> Power:
    """The power path: every part judged for its place, the curves, the pack left alone."""
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
    worst = steps.settled(worst_cells, sized_pack.choice.cell, sized_pack.behaviour, demand.coldest)
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
        parts.fuses,
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
        parts.connectors,
        parts.switches,
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
        fuses=parts.fuses,
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
    cell = sized_pack.choice.cell
    source = steps.settled(
        Source,
        draw,
        board.board,
        fuse=fuse.place.part,
        connector=contact.connector.part,
        switch=contact.switch.part,
        wire=wire,
        ambient_c=ambient.number,
        link_a=project.joints.link_a,
        cell=cell,
        parallel=sized_pack.choice.parallel,
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
        parallel=sized_pack.choice.parallel,
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


def _chain(
    project: Project,
    sized: Sized,
    laid_out: LaidOut,
    power: Power,
    topics: tuple[Topic, ...],
    steps: Steps,
) -> Path:
    """The whole path from the cells to the equipment."""
    demand, pack, network, joined = sized.demand, sized.pack, laid_out.network, laid_out.joined_pack
    carried = pack.cells_limit if network is None else network.cells_limit
    cells = steps.of(
        cells_link, pack, sized.sized_pack.choice.cell, carried, excess_of(network), sized.load
    )
    of_joints = steps.of(
        joint_links,
        laid_out.group,
        laid_out.series,
        joined_pack=joined,
        network=network,
        joints=project.joints,
        ambient=demand.ambient,
        load=sized.load,
    )
    of_power = steps.of(
        power_links,
        power,
        sized.wire,
        None if network is None else network.leads_limit,
        project.power.fuse_place,
        demand.ambient,
        sized.load,
    )
    links = steps.of(chained, cells, of_joints, of_power, *(topic.links for topic in topics))
    return Path(of_joints, links, weakest(links))


def _figures(
    project: Project,
    sized: Sized,
    laid_out: LaidOut,
    run: RunResult,
    power: Power,
    path: Path,
    topics: tuple[Topic, ...],
    steps: Steps,
) -> Mapping[str, Figure]:
    """Every figure by its key: those of each topic, and all that they were made from."""
    pack, lay, need, demand = sized.pack, laid_out.lay, project.need, sized.demand
    return steps.of(
        by_key,
        pack.every,
        steps.settled(
            rank_figures,
            sized.options.measures,
            sized.sized_pack.choice.index,
            pack=project.pack,
            kind=need.kind,
            of_pack=pack.every,
            of_warmth=pack.warm,
            current=pack.current,
        ),
        sized.charge.every,
        pack.warm,
        run.figures,
        lay.size,
        lay.places,
        laid_out.tap.length,
        laid_out.joined_pack.given.every,
        () if laid_out.network is None else laid_out.network.every,
        laid_out.group.figures.every,
        laid_out.series.figures.every,
        steps.of(limits_of, path.links),
        steps.of(rating_figures, path.links),
        sized.drawn.figures,
        power.figures,
        steps.of(crossing_figures, power.pairs, power.short_a),
        *(topic.figures for topic in topics),
        demand.window.figures,
        steps.of(motion_figures, need, pack.full, pack.nominal),
        demand.energies,
        demand.charger,
        steps.of(stated, need),
    )


def _findings(
    project: Project,
    sized: Sized,
    laid_out: LaidOut,
    run: RunResult,
    power: Power,
    path: Path,
    topics: tuple[Topic, ...],
    steps: Steps,
    whole: bool,
) -> tuple[Finding, ...]:
    """Everything to notice, the worst first; alike bad ones in the order of the work."""
    need, demand, pack, choice = project.need, sized.demand, sized.pack, sized.sized_pack.choice
    joints, verdict, joined = project.joints, sized.boards.verdict, laid_out.joined_pack
    cell, network, links = choice.cell, laid_out.network, path.links
    told = steps.told
    return steps.of(
        worst_first,
        told(window_findings, need, demand.window),
        told(load_findings, need, demand, pack),
        told(cold_findings, cell, demand.coldest),
        told(beyond_sheet_findings, cell, demand.coldest, pack.current, pack.parallel),
        told(equipment_findings, need, demand, pack),
        told(stall_findings, need, verdict, links),
        told(supply_findings, need, demand.rails),
        told(ceiling_findings, cell, project.pack.ceiling_v),
        told(
            pack_findings,
            sized.options,
            choice,
            pack,
            demand.window,
            project.pack.derating,
            project.pack.least_usable,
        ),
        told(oversize_findings, steps.of(oversize_of, sized.sized_pack, sized.options, pack)),
        told(cold_start_findings, sized.sized_pack),
        told(
            run_findings,
            run,
            demand,
            need.peak_current_a is not None,
            project.pack.temperature_limit_c,
        ),
        told(
            arrangement_findings,
            joined.placing,
            laid_out.barriers,
            project.arrangement,
            joints.gap_mm,
            whole,
        ),
        told(joint_findings, laid_out.group, laid_out.series, path.joints, joined, joints.school),
        told(joints_rating_findings, links, path.weakest),
        told(live_findings),
        told(network_findings, joined, network, joints, project.measured),
        told(
            power_findings,
            power,
            sized.boards,
            links,
            path.weakest,
            sized.wire,
            wants_one_port(need),
            project.leads,
            project.charge_leads,
            project.protection,
            project.power,
            project.rest,
            demand.rails,
            pack.full,
        ),
        *(topic.findings for topic in topics),
        told(power_cautions),
    )


def chained(
    cells: Link, joints: JointLinks, power: tuple[Link, ...], *others: tuple[Link, ...]
) -> tuple[Link, ...]:
    """The links in the order of the current."""
    return (cells, *joints.every, *power, *chain.from_iterable(others))
