"""The record of everything that follows from a project."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.arrangement.figures import LayoutFigures
from lumvak.core.arrangement.layout import Barriers
from lumvak.core.arrangement.outline import Flaw
from lumvak.core.as_found.topic import FoundTopic
from lumvak.core.bms.verdicts import BoardChoice, BoardVerdict
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.charging.figures import ChargeFigures
from lumvak.core.charging.topic import ChargingTopic
from lumvak.core.clearance.topic import ClearanceTopic
from lumvak.core.comparison.series_ladder import Rung, ladder
from lumvak.core.conductors.lead_wire import LeadWire
from lumvak.core.document.project import Project
from lumvak.core.document.taps import TapTotal
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link, PathLoad
from lumvak.core.figures.topic import Topic
from lumvak.core.joints.bridges import BridgeTopic
from lumvak.core.joints.contacts import Tested
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.joint_figures import JointResult
from lumvak.core.joints.links import JointLinks
from lumvak.core.joints.network_figures import NetworkFigures
from lumvak.core.joints.piece_figures import piece_figures
from lumvak.core.making.cut_list import Cut, MadePack
from lumvak.core.making.fixings import Fixing, around_cells, fixings_of
from lumvak.core.making.order_of_work import WorkStep, order_of
from lumvak.core.making.topic import InPack
from lumvak.core.matching.matched import Matched
from lumvak.core.matching.old_and_new import OldAndNew
from lumvak.core.need.demand import Demand
from lumvak.core.need.load_over_time import DrawnLoad
from lumvak.core.power.power_path import Power
from lumvak.core.rating.upgrades import PathInHand
from lumvak.core.run.figures import RunResult
from lumvak.core.sizing.choice import Choice
from lumvak.core.sizing.figures import PackFigures
from lumvak.core.sizing.options import Options
from lumvak.core.sizing.sized_pack import SizedPack
from lumvak.core.taps.check import TapCheck, check_of
from lumvak.core.taps.figures import TapFigures
from lumvak.core.taps.findings import BalanceTopic
from lumvak.core.taps.guide import TapGuide, guide_of
from lumvak.core.taps.harness import Harness, harness_of
from lumvak.core.taps.routes import Taps
from lumvak.core.taps.watch import WatchTopic


class Sized(Struct, frozen=True):
    """What follows from need, cells and count."""

    parts: Catalogue
    demand: Demand
    wire: LeadWire
    options: Options
    sized_pack: SizedPack
    pack: PackFigures
    in_hand: Matched
    charge: ChargeFigures
    drawn: DrawnLoad
    boards: BoardChoice
    load: PathLoad

    @property
    def choice(self) -> Choice:
        """The cell and the counts in force."""
        return self.sized_pack.choice


class LaidOut(Struct, frozen=True):
    """What follows from how the pack is laid and joined."""

    lay: LayoutFigures
    barriers: Barriers
    made: MadePack
    clearance: ClearanceTopic
    inside: InPack
    bridged: BridgeTopic
    group: JointResult
    series: JointResult
    joined_pack: JoinedPack
    network: NetworkFigures | None
    taps: Taps
    tap: TapFigures


class CurrentPath(Struct, frozen=True):
    """The links of the path, those of the joints by name, and the weakest."""

    joints: JointLinks
    links: tuple[Link, ...]
    weakest: Link | None


# The path before its links are known.
NO_PATH = CurrentPath(JointLinks(), (), None)


class Evaluation(Struct, frozen=True):
    """Everything derived from a project: drawn by the window, printed by the command line.

    It is a record of records, in the order of the work; ``tested`` are joints made on scrap.
    """

    project: Project
    as_found: FoundTopic
    sized: Sized
    laid_out: LaidOut
    run: RunResult
    power: Power
    beside: OldAndNew
    tested: Tested
    watched: WatchTopic
    balance: BalanceTopic
    charging: ChargingTopic
    path: CurrentPath
    figures: Mapping[str, Figure]
    findings: tuple[Finding, ...]

    @property
    def topics(self) -> tuple[Topic, ...]:
        """What stands beside the path, each topic with its figures, links and findings."""
        sized, laid_out = self.sized, self.laid_out
        of_the_pack = (sized.in_hand, laid_out.clearance, laid_out.inside, laid_out.bridged)
        at_the_bench = (self.beside, self.tested, self.watched, self.balance, self.charging)
        return (self.as_found, *of_the_pack, *at_the_bench)

    @property
    def cuts(self) -> tuple[Cut, ...]:
        """Every piece of the pack as it is cut."""
        return self.laid_out.made.cuts

    @property
    def flaws(self) -> tuple[Flaw, ...]:
        """What is wrong with places, joints and how metal lies, and where it is drawn."""
        return (*self.laid_out.joined_pack.flaws, *self.laid_out.clearance.flaws)

    @property
    def board(self) -> BoardVerdict | None:
        """The verdict on the board in force."""
        return self.sized.boards.verdict


def rungs_in_hand(evaluation: Evaluation) -> tuple[Rung, ...]:
    """The ladder of counts of an evaluation; worked out only where it is looked at."""
    return ladder(evaluation.sized.sized_pack, evaluation.sized.options, evaluation.project.need)


def path_in_hand(evaluation: Evaluation) -> PathInHand:
    """The path of an evaluation, as ``upgrades`` takes it."""
    project = evaluation.project
    return PathInHand(
        chain=evaluation.path.links,
        catalogue=evaluation.sized.parts,
        choice=evaluation.sized.choice,
        group=evaluation.laid_out.group,
        series=evaluation.laid_out.series,
        school=project.joints.school,
        link_a=project.joints.link_a,
        leads=project.leads,
        power=evaluation.power,
        boards=evaluation.sized.boards,
        ambient=evaluation.sized.demand.ambient,
        full=evaluation.sized.pack.full,
    )


def guides_in_hand(evaluation: Evaluation) -> tuple[TapGuide, ...]:
    """Every balance lead of the pack of an evaluation."""
    leads, level = evaluation.project.balance_leads, evaluation.balance.check.level_v
    return guide_of(
        leads,
        evaluation.laid_out.taps,
        evaluation.laid_out.joined_pack.layout,
        evaluation.sized.boards.board,
        level,
    )


def taps_as_read(evaluation: Evaluation, readings: Sequence[float]) -> TapCheck:
    """The check of the balance leads of an evaluation with other totals, (n + 1,) in V."""
    totals = tuple(
        TapTotal(lead=lead, volts=None if math.isnan(volts) else volts)
        for lead, volts in enumerate(readings)
    )
    leads = replace(evaluation.project.balance_leads, totals=totals, more=())
    shown = evaluation.watched.seen[-1].volts.tolist() if evaluation.watched.seen else ()
    return check_of(
        leads,
        evaluation.sized.in_hand.groups,
        half_v=float(evaluation.sized.sized_pack.behaviour.rest(np.array(0.5))),
        series=evaluation.sized.choice.series,
        meter=evaluation.project.hand.meter,
        shown_v=shown,
        first_is_main=evaluation.balance.check.case.zero_is_main,
    )


def harness_in_hand(evaluation: Evaluation, guides: Sequence[TapGuide]) -> Harness:
    """The harness of the pack of an evaluation, of its balance leads."""
    leads, joined_pack = evaluation.project.balance_leads, evaluation.laid_out.joined_pack
    cell_a = None if joined_pack.flow is None else joined_pack.flow.cell_a
    return harness_of(leads, guides, joined_pack.layout, evaluation.sized.boards.board, cell_a)


def steps_in_hand(evaluation: Evaluation) -> tuple[WorkStep, ...]:
    """The order of work of the pack of an evaluation."""
    found = evaluation.laid_out.clearance.found
    crossings = sum(near.touches for near in found.near)
    return order_of(
        evaluation.laid_out.joined_pack,
        evaluation.cuts,
        len(found.rings),
        crossings,
        evaluation.project.joints.barrier_mm,
    )


def fixings_in_hand(evaluation: Evaluation) -> tuple[Fixing, ...]:
    """Rings, screws and washers, holders, barriers and plates of the pack of an evaluation."""
    wanted = evaluation.project.arrangement
    holder = evaluation.sized.parts.holders.get(wanted.holder or "")
    return (
        *fixings_of(
            evaluation.cuts,
            len(evaluation.laid_out.clearance.found.rings),
            evaluation.laid_out.made.screw,
        ),
        *around_cells(
            evaluation.laid_out.joined_pack.layout,
            evaluation.laid_out.barriers,
            holder,
            wanted.plate_mm,
        ),
    )


def figures_of_piece(evaluation: Evaluation, piece: int) -> tuple[Figure, ...]:
    """How one piece of the pack of an evaluation does; none where nothing is solved."""
    return piece_figures(
        piece,
        evaluation.laid_out.joined_pack,
        network=evaluation.laid_out.network,
        widths=(evaluation.laid_out.series.figures.width, evaluation.laid_out.group.figures.width),
        school=evaluation.laid_out.series.figures.school,
        current=evaluation.sized.pack.current,
        series=evaluation.sized.pack.series,
        parallel=evaluation.sized.pack.parallel,
        ambient=evaluation.sized.demand.ambient,
    )
