"""The evaluation: one project and one catalogue in, everything derived out, in work order.

``evaluate`` is pure: no clock, no files, no hidden randomness. It is made of steps; each is a
function of what it is given, and runs again only where that has changed.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from copy import copy
from itertools import chain

import numpy as np
from msgspec.structs import replace

from lumvak.core.arrangement.findings import arrangement_findings
from lumvak.core.as_found.topic import found_topic
from lumvak.core.bms.verdicts import wants_one_port
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.charged import charging_of
from lumvak.core.charging.findings import ceiling_findings, cold_findings
from lumvak.core.comparison.oversize import oversize_findings, oversize_of
from lumvak.core.document.project import Project
from lumvak.core.evaluation import NO_PATH, CurrentPath, Evaluation, LaidOut, Sized
from lumvak.core.figures.collected import by_key, limits_of, worst_first
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.in_hand import old_beside
from lumvak.core.joints.contacts import Tested, scrap_topic
from lumvak.core.joints.findings import joint_findings, live_findings, network_findings
from lumvak.core.joints.joint_figures import weld_of
from lumvak.core.joints.links import JointLinks, joint_links
from lumvak.core.joints.network_figures import excess_of
from lumvak.core.laid_out import lay_out
from lumvak.core.need.demand import stated
from lumvak.core.need.findings import supply_findings, window_findings
from lumvak.core.need.motor_speed import motion_figures, pace_findings, pace_of
from lumvak.core.power.findings import power_cautions, power_findings
from lumvak.core.power.links import power_links
from lumvak.core.power.opening_order import crossing_figures
from lumvak.core.powered import power_of
from lumvak.core.rating.chain import rating_figures, weakest
from lumvak.core.rating.findings import joints_rating_findings, stall_findings
from lumvak.core.run.figures import run_of
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
    evaluation = _once(project, catalogue, filters, found, had, steps)
    wanted = project.pack
    open_ = None in (wanted.cell, wanted.series, wanted.parallel)
    if found is not None or not open_ or not steps.of(_stops, evaluation.findings):
        return evaluation
    return _standing(project, catalogue, filters, evaluation, steps) or evaluation


def stops_of(evaluation: Evaluation) -> tuple[str, ...]:
    """Codes of what stops the pack of an evaluation, each once, sorted."""
    return _stops(evaluation.findings)


def _stops(findings: tuple[Finding, ...]) -> tuple[str, ...]:
    # A charger is taken for the pack, and not the pack for the charger.
    # What a found pack looks like bars it whatever is chosen.
    aside = {"charger-wrong", "found-state"}
    found = {item.code for item in findings if item.severity == "stop"} - aside
    return tuple(sorted(found))


def _standing(
    project: Project, catalogue: Catalogue, filters: Filters, first: Evaluation, steps: Steps
) -> Evaluation | None:
    """The evaluation of the best option that nothing stops; ``None`` where none is found.

    What is proposed for an option, joints, wire, fuse, board and the rest, is worked out whole,
    and the first for which all of it holds leads the options (methods 7).
    """
    options, wanted = first.sized.options, project.pack
    tried = steps.of(worth_trying, options, wanted, first.sized.parts, MOST_TRIED)
    stopped: Stopped = ()
    for attempt, place in enumerate(tried):
        if place == first.sized.choice.index:
            stops = steps.of(_stops, first.findings)
            stopped = steps.settled(_and_stopped, stopped, place, stops)
            continue
        own = steps.at(f"option {attempt}")
        led = own.of(led_by, options, place, stopped)
        trial = _once(project, catalogue, filters, led, None, own, whole=False)
        stops = own.of(_stops, trial.findings)
        if not stops:
            return trial
        stopped = own.settled(_and_stopped, stopped, place, stops)
    return None


def worker(catalogue: Catalogue, steps: Steps | None = None) -> Callable[[Project], Evaluation]:
    """Works out projects that differ little, one after the other: what stays is used again.

    It begins with what ``steps`` hold, and leaves them as they are. What a room that is too small
    would lack is not looked for where the counts are given: that takes as long as all the rest.
    """
    own = copy(steps or Steps())

    def work(project: Project) -> Evaluation:
        wanted = project.pack
        if None in (wanted.cell, wanted.series, wanted.parallel):
            return evaluate(project, catalogue, steps=own)
        return _once(project, catalogue, ANY, None, None, own, whole=False)

    return work


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
) -> Evaluation:
    """The evaluation of the first of the options."""
    sized = size(project, catalogue, filters, found, had, steps)
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
    power = power_of(project, sized, laid_out, steps)
    watched = _watched(project, sized, steps)
    bare = Evaluation(
        project=project,
        as_found=steps.of(found_topic, project.as_found, sized.parts),
        sized=sized,
        laid_out=laid_out,
        run=run,
        power=power,
        beside=old_beside(project, sized, steps),
        tested=_test_joints(project, sized, laid_out, steps),
        watched=watched,
        balance=_balance(project, sized, laid_out, watched, steps),
        charging=charging_of(project, sized, power, run, watched, steps),
        path=NO_PATH,
        figures={},
        findings=(),
    )
    made = replace(bare, path=_path(bare, steps))
    return replace(made, figures=_figures(made, steps), findings=_findings(made, steps, whole))


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


def _path(made: Evaluation, steps: Steps) -> CurrentPath:
    """The whole path from the cells to the equipment."""
    sized, laid_out, power = made.sized, made.laid_out, made.power
    demand, pack, network = sized.demand, sized.pack, laid_out.network
    carried = pack.cells_limit if network is None else network.cells_limit
    cells = steps.of(cells_link, pack, sized.choice.cell, carried, excess_of(network), sized.load)
    of_joints = steps.of(
        joint_links,
        laid_out.group,
        laid_out.series,
        joined_pack=laid_out.joined_pack,
        network=network,
        joints=made.project.joints,
        ambient=demand.ambient,
        load=sized.load,
    )
    leads_limit = None if network is None else network.leads_limit
    place = made.project.power.fuse_place
    of_power = steps.of(
        power_links, power, sized.wire, leads_limit, place, demand.ambient, sized.load
    )
    links = steps.of(chained, cells, of_joints, of_power, *(topic.links for topic in made.topics))
    return CurrentPath(of_joints, links, weakest(links))


def _figures(made: Evaluation, steps: Steps) -> Mapping[str, Figure]:
    """Every figure by its key: those of each topic, and all that they were made from."""
    sized, laid_out, power, links = made.sized, made.laid_out, made.power, made.path.links
    pack, need, demand = sized.pack, made.project.need, sized.demand
    ranked = steps.settled(
        rank_figures,
        sized.options.measures,
        sized.choice.index,
        pack=made.project.pack,
        kind=need.kind,
        of_pack=pack.every,
        of_warmth=pack.warm,
        current=pack.current,
    )
    return steps.of(
        by_key,
        pack.every,
        ranked,
        sized.charge.every,
        pack.warm,
        made.run.figures,
        laid_out.lay.size,
        laid_out.lay.places,
        laid_out.tap.length,
        laid_out.joined_pack.given.every,
        () if laid_out.network is None else laid_out.network.every,
        laid_out.group.figures.every,
        laid_out.series.figures.every,
        steps.of(limits_of, links),
        steps.of(rating_figures, links),
        sized.drawn.figures,
        power.figures,
        steps.of(crossing_figures, power.pairs, power.short_a),
        *(topic.figures for topic in made.topics),
        demand.window.figures,
        steps.of(motion_figures, need, pack.full, pack.nominal),
        () if (pace := steps.of(pace_of, need, demand, pack.nominal)) is None else (pace,),
        demand.energies,
        demand.charger,
        steps.of(stated, need),
    )


def _findings(made: Evaluation, steps: Steps, whole: bool) -> tuple[Finding, ...]:
    """Everything to notice, the worst first; alike bad ones in the order of the work."""
    project, sized, laid_out, path = made.project, made.sized, made.laid_out, made.path
    need, demand, pack, choice = project.need, sized.demand, sized.pack, sized.choice
    joints, wanted, joined = project.joints, project.pack, laid_out.joined_pack
    cell, network, links = choice.cell, laid_out.network, path.links
    peaks, told = need.peak_current_a is not None, steps.told
    return steps.of(
        worst_first,
        told(window_findings, need, demand.window),
        told(pace_findings, need, steps.of(pace_of, need, demand, pack.nominal)),
        told(load_findings, need, demand, pack),
        told(cold_findings, cell, demand.coldest),
        told(beyond_sheet_findings, cell, demand.coldest, pack.current, pack.parallel),
        told(equipment_findings, need, demand, pack),
        told(stall_findings, need, sized.boards.verdict, links),
        told(supply_findings, need, demand.rails),
        told(ceiling_findings, cell, wanted.ceiling_v),
        told(pack_findings, sized.options, choice, pack, demand.window, wanted),
        told(oversize_findings, steps.of(oversize_of, sized.sized_pack, sized.options, pack)),
        told(cold_start_findings, sized.sized_pack),
        told(run_findings, made.run, demand, peaks, wanted.temperature_limit_c),
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
            made.power,
            sized.boards,
            chain=links,
            weakest=path.weakest,
            wire=sized.wire,
            one_port=wants_one_port(need),
            leads=project.leads,
            charge_leads=project.charge_leads,
            protection=project.protection,
            parts=project.power,
            rest=project.rest,
            rails=demand.rails,
            full=pack.full,
        ),
        *(topic.findings for topic in made.topics),
        told(power_cautions),
    )


def chained(
    cells: Link, joints: JointLinks, power: tuple[Link, ...], *others: tuple[Link, ...]
) -> tuple[Link, ...]:
    """The links in the order of the current."""
    return (cells, *joints.every, *power, *chain.from_iterable(others))
