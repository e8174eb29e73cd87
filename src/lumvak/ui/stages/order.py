"""The stages in the order of the work: the one place that lists them."""

from __future__ import annotations

from collections.abc import Callable

from msgspec import Struct

from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.stages.arrangement.answer import arrangement_answer
from lumvak.ui.stages.as_found.answer import VIEWS as AS_FOUND_VIEWS
from lumvak.ui.stages.as_found.answer import as_found_answer, as_found_begun
from lumvak.ui.stages.beside.answer import VIEWS as BESIDE_VIEWS
from lumvak.ui.stages.beside.answer import beside_answer
from lumvak.ui.stages.cells.answer import VIEWS as CELLS_VIEWS
from lumvak.ui.stages.cells.answer import cells_answer
from lumvak.ui.stages.charging.answer import VIEWS as CHARGING_VIEWS
from lumvak.ui.stages.charging.answer import charging_answer
from lumvak.ui.stages.hand.answer import VIEWS as HAND_VIEWS
from lumvak.ui.stages.hand.answer import hand_answer
from lumvak.ui.stages.joints.answer import VIEWS as JOINTS_VIEWS
from lumvak.ui.stages.joints.answer import joints_answer
from lumvak.ui.stages.need.answer import need_answer
from lumvak.ui.stages.power.answer import VIEWS as POWER_VIEWS
from lumvak.ui.stages.power.answer import power_answer
from lumvak.ui.stages.prove.answer import VIEWS as PROVE_VIEWS
from lumvak.ui.stages.prove.answer import prove_answer
from lumvak.ui.stages.record.answer import VIEWS as RECORD_VIEWS
from lumvak.ui.stages.record.answer import record_answer
from lumvak.ui.stages.run.answer import run_answer
from lumvak.ui.stages.taps.answer import VIEWS as TAPS_VIEWS
from lumvak.ui.stages.taps.answer import taps_answer
from lumvak.ui.stages.trouble.answer import VIEWS as TROUBLE_VIEWS
from lumvak.ui.stages.trouble.answer import trouble_answer
from lumvak.ui.widgets.pages import Page


def _always(_: Evaluation) -> bool:
    return True


class Stage(Struct, frozen=True):
    """One stage: its name, its answer in one line, and its page, made when it is first opened.

    ``key`` is also what findings and links call it, and the page of the handbook. ``asks`` are the
    keys of its own question: the first figure there is, is worked in the margin when it is opened.
    ``views`` are its views and their words; ``part`` is where it stands in the build line.
    ``applies`` tells whether the project has that step at all, ``begun`` whether there is anything
    of it yet, ``shown`` whether it stands in the build line.
    """

    key: str
    name: str
    answer: Callable[[Evaluation], str]
    page: Callable[[Session], Page]
    asks: tuple[str, ...]
    views: tuple[tuple[str, str], ...] = ()
    part: str = "on paper"
    applies: Callable[[Evaluation], bool] = _always
    begun: Callable[[Evaluation], bool] = _always
    shown: Callable[[Evaluation], bool] = _always


def _as_found(session: Session) -> Page:
    from lumvak.ui.stages.as_found.stage import AsFoundStage

    return AsFoundStage(session)


def _need(session: Session) -> Page:
    from lumvak.ui.stages.need.stage import NeedStage

    return NeedStage(session)


def _cells(session: Session) -> Page:
    from lumvak.ui.stages.cells.stage import CellsStage

    return CellsStage(session)


def _run(session: Session) -> Page:
    from lumvak.ui.stages.run.stage import RunStage

    return RunStage(session)


def _arrangement(session: Session) -> Page:
    from lumvak.ui.stages.arrangement.stage import ArrangementStage

    return ArrangementStage(session)


def _joints(session: Session) -> Page:
    from lumvak.ui.stages.joints.stage import JointsStage

    return JointsStage(session)


def _power(session: Session) -> Page:
    from lumvak.ui.stages.power.stage import PowerStage

    return PowerStage(session)


def _charging(session: Session) -> Page:
    from lumvak.ui.stages.charging.stage import ChargingStage

    return ChargingStage(session)


def _hand(session: Session) -> Page:
    from lumvak.ui.stages.hand.stage import HandStage

    return HandStage(session)


def _taps(session: Session) -> Page:
    from lumvak.ui.stages.taps.stage import TapsStage

    return TapsStage(session)


def _prove(session: Session) -> Page:
    from lumvak.ui.stages.prove.stage import ProveStage

    return ProveStage(session)


def _beside(session: Session) -> Page:
    from lumvak.ui.stages.beside.stage import BesideStage

    return BesideStage(session)


def _trouble(session: Session) -> Page:
    from lumvak.ui.stages.trouble.stage import TroubleStage

    return TroubleStage(session)


def _record(session: Session) -> Page:
    from lumvak.ui.stages.record.stage import RecordStage

    return RecordStage(session)


JOINTS_ASK = ("network.series_limit_a", "network.group_limit_a", "joints.series.limit_a")
FIRST = "need"
STAGES: tuple[Stage, ...] = (
    Stage(
        "as_found",
        "As found",
        answer=as_found_answer,
        page=_as_found,
        asks=("as_found.continuous_a", "rating.continuous_a"),
        views=AS_FOUND_VIEWS,
        begun=as_found_begun,
        shown=as_found_begun,
    ),
    Stage("need", "Need", need_answer, _need, ("need.max_voltage_v", "demand.mean_current_a")),
    Stage("cells", "Cells and count", cells_answer, _cells, ("pack.parallel",), CELLS_VIEWS),
    Stage("run", "Discharge", run_answer, _run, ("run.time_h",)),
    Stage("arrangement", "Arrangement", arrangement_answer, _arrangement, ("layout.length_mm",)),
    Stage("joints", "Joints", joints_answer, _joints, JOINTS_ASK, JOINTS_VIEWS),
    Stage("power", "Power path", power_answer, _power, ("rating.continuous_a",), POWER_VIEWS),
    Stage(
        "charging",
        "Charging",
        charging_answer,
        _charging,
        ("charge.voltage_v", "charging.amps_a"),
        CHARGING_VIEWS,
    ),
    Stage(
        "hand",
        "Cells in hand",
        answer=hand_answer,
        page=_hand,
        asks=("hand.weakest_ah", "hand.good"),
        views=HAND_VIEWS,
        part="at the bench",
        begun=lambda seen: bool(seen.project.hand.cells),
    ),
    Stage(
        "taps",
        "Balance leads",
        answer=taps_answer,
        page=_taps,
        asks=("taps.whole_v",),
        views=TAPS_VIEWS,
        part="at the bench",
        begun=lambda seen: bool(
            seen.project.balance_leads.totals or seen.project.balance_leads.soldered
        ),
    ),
    Stage(
        "prove",
        "Prove",
        answer=prove_answer,
        page=_prove,
        asks=("proven.continuous_a", "rating.continuous_a"),
        views=PROVE_VIEWS,
        part="at the bench",
        begun=lambda seen: bool(seen.project.proving.readings),
    ),
    Stage(
        "record",
        "Record",
        answer=record_answer,
        page=_record,
        asks=("rating.continuous_a",),
        views=RECORD_VIEWS,
        part="afterwards",
        begun=lambda seen: bool(seen.project.record.log or seen.project.record.built),
    ),
    Stage(
        "trouble",
        "Trouble",
        answer=trouble_answer,
        page=_trouble,
        asks=("rating.continuous_a",),
        views=TROUBLE_VIEWS,
        part="afterwards",
        begun=lambda seen: seen.project.trouble.complaint is not None,
    ),
    Stage(
        "beside",
        "Beside",
        answer=beside_answer,
        page=_beside,
        asks=("beside.hours", "rating.continuous_a"),
        views=BESIDE_VIEWS,
        part="afterwards",
        begun=lambda seen: bool(
            seen.project.beside.file or seen.project.beside.capacity_ah is not None
        ),
    ),
)


def first_stage(evaluation: Evaluation) -> str:
    """Where a project begins: the first stage of its build line."""
    return next(stage.key for stage in STAGES if stage.shown(evaluation))
