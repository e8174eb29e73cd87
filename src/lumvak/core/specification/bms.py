"""What to look for in a BMS (methods 41): the conditions of methods 12 as windows."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import NamedTuple

from lumvak.core.bms.settings import OVER_V, UNDER_V, board_as_set, settings_of
from lumvak.core.bms.verdicts import (
    BARE_BOARD_K_PER_W,
    CHATTER_V,
    DRIFT,
    LONGEST_BLEED_H,
    MARGIN,
    OVER_VOLTAGE_HARM_V,
    SWITCH_RISE_K,
)
from lumvak.core.catalogue.boards import PROTECTS, Board
from lumvak.core.catalogue.cells import FAMILY_NAMES
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import typed
from lumvak.core.power.fuses import SHORT_OPENS_S
from lumvak.core.power.power_path import Power
from lumvak.core.said import phrase, say
from lumvak.core.specification.window import By, FigureWindow, Maker, PartSpec, by, named
from lumvak.core.time_current import at_time

BMS = Maker("bms")
# How far over the empty voltage a cut-off still leaves the pack its charge.
UNDER_MOST_V = 0.5
# A short circuit is ended within so many seconds by what is sold.
SHORT_WITHIN_S = 0.001
# Times at which a start is told, in s.
START_TOLD_S = (0.1, 1.0)
# So long before the main leads come to harm an overload is told.
LEADS_TOLD_S = 10.0
# The least bleed that is one.
LEAST_BLEED_A = 0.001


def bms_spec(evaluation: Evaluation) -> PartSpec:
    """The windows of a BMS for the pack of an evaluation."""
    makers = (_for_pack, _carries, _holds, _opens, _cut_offs, _asked, _better)
    return PartSpec("bms", tuple(window for make in makers for window in make(evaluation)))


def _for_pack(evaluation: Evaluation) -> Iterator[FigureWindow]:
    pack, family = evaluation.sized.pack, evaluation.sized.boards.setting.family
    count = by(pack.series.number, "cells in series", pack.series)
    yield BMS.window(
        "series",
        "In series",
        least=count,
        most=count,
        set_by="count of the pack",
        reason="each group needs its own lead; one more or less sees a wrong voltage",
    )
    yield BMS.window(
        "family",
        "For cells of",
        one_of=(family,),
        set_by="chemistry of the cell",
        reason=phrase("its cut-offs are those of {} cells", FAMILY_NAMES[family]),
    )
    yield BMS.window(
        "kind",
        "Does",
        one_of=PROTECTS,
        set_by="the pack",
        reason="it must end charge, discharge, overload and short circuit",
    )


def _carries(evaluation: Evaluation) -> Iterator[FigureWindow]:
    load, charger = evaluation.sized.pack.current, evaluation.sized.demand.charger_current
    yield BMS.window(
        "continuous_a",
        "Continuous current",
        "A",
        least=by(load.number, "what is drawn continuously", load),
        wanted=by(MARGIN * load.number, "a fifth over what is drawn", load),
        set_by="continuous load",
        reason="printed amps are often what its switches bear on a cold plate",
    )
    gives = None if charger is None else by(charger.number, "what the charger gives", charger)
    yield BMS.window(
        "charge_a",
        "Charge current",
        "A",
        least=gives,
        set_by="" if gives is None else "charger",
        reason="no charger is known yet" if gives is None else "less would end every charge",
    )


def _held(at_s: float, amps: By, set_by: str, reason: str) -> FigureWindow:
    """A row for what no level may open on: so many amps for so long."""
    label, key = phrase("Holds for {}", say(at_s, "s")), f"stages.{at_s:g}s"
    return BMS.window(
        "stages", label, "A", least=amps, key=key, at_s=at_s, set_by=set_by, reason=reason
    )


def _holds(evaluation: Evaluation) -> Iterator[FigureWindow]:
    """Over what it must not open: the peak, levels of the duty, the start of the motor."""
    demand, draw = evaluation.sized.demand, evaluation.sized.boards.setting.draw
    rule = "what is drawn for so long"
    peak = by(draw.peak_a, rule, demand.peak, demand.peak_duration)
    yield _held(draw.peak_s, peak, "peak", "a level under that opens in use")
    for level, span in draw.levels:
        if draw.continuous_a < level < draw.peak_a and span != draw.peak_s:
            amps = by(level, rule, demand.load_figure)
            yield _held(span, amps, "duty", "a level of the duty lasts so long")
    start = evaluation.figures.get("start.current_a")
    if start is None:
        return
    for seconds in START_TOLD_S:
        drawn = draw.start_after_a(seconds)
        if drawn > draw.most_a(seconds) - 1e-9 and drawn > draw.continuous_a * 1.01:
            amps = by(drawn, rule, start, evaluation.figures["start.spin_up_s"])
            why = "a motor that runs up still draws that then"
            yield _held(seconds, amps, "start of the motor", why)


def _opens(evaluation: Evaluation) -> Iterator[FigureWindow]:
    """By what it must have opened: the least short circuit, harm to the leads, a dead short."""
    sized, least = evaluation.sized, evaluation.power.short_least_a
    yield BMS.window(
        "stages",
        phrase("Opens within {} by", say(SHORT_OPENS_S, "s")),
        "A",
        most=by(
            least.number,
            "what a short circuit gives at the least: nearly empty, cold and worn",
            least,
        ),
        key="stages.short",
        at_s=SHORT_OPENS_S,
        set_by="least short circuit",
        reason="or it cuts off by undervoltage within that; else only the fuse ends such a short",
    )
    harm = at_time(sized.wire.harm_a, LEADS_TOLD_S)
    yield BMS.window(
        "stages",
        phrase("Opens within {} by", say(LEADS_TOLD_S, "s")),
        "A",
        most=by(harm, "what harms the main leads by then", sized.wire.area, sized.demand.ambient),
        key="stages.leads",
        at_s=LEADS_TOLD_S,
        set_by="main leads",
        reason="else the fuse alone guards the leads in an overload",
        must=False,
    )
    yield BMS.window(
        "stages",
        "Ends a short circuit within",
        "s",
        most=by(SHORT_WITHIN_S, "usual for what is sold; its switches bear it no longer"),
        key="stages.quick",
        set_by="its own switches",
        reason="its switches fail closed where it is slower",
        must=False,
    )


def _cut_offs(evaluation: Evaluation) -> Iterator[FigureWindow]:
    cell, full = evaluation.sized.choice.cell, evaluation.sized.pack.full_cell
    empty = evaluation.sized.sized_pack.from_sheet("voltage_empty_v", "Cell, empty", "V")
    top = min(full.number, evaluation.project.pack.ceiling_v or full.number)
    low = cell.voltage_empty_v
    yield BMS.window(
        "over_voltage_v",
        "Over-voltage cut-off, a cell",
        "V",
        least=by(top, "where the charger ends: under it every charge ends early", full),
        most=by(full.number + OVER_VOLTAGE_HARM_V, "full cell + 0.10 V", full),
        wanted=by(top + OVER_V, "charge limit + 0.05 V", full),
        set_by="full voltage of the cell",
        reason="fixed ones; one that can be set takes any",
        advice=("least",),
    )
    yield BMS.window(
        "under_voltage_v",
        "Under-voltage cut-off, a cell",
        "V",
        least=by(low, "the empty cell of its sheet", empty),
        most=by(low + UNDER_MOST_V, "empty cell + 0.50 V", empty),
        wanted=by(low + UNDER_V, "empty cell + 0.10 V", empty),
        set_by="empty voltage of the cell",
        reason="fixed ones; higher gives charge away",
        advice=("most",),
    )


def _asked(evaluation: Evaluation) -> Iterator[FigureWindow]:
    """What the equipment and the builder ask for. It is long, for each ask has its words."""
    setting, capacity = evaluation.sized.boards.setting, evaluation.sized.pack.capacity
    wanted, contacts = setting.protection, evaluation.project.need.contacts
    one: By | None = None
    if setting.one_port:
        said = typed("need.contacts", "Contacts of the old pack", str(contacts), "", contacts)
        one = by(1.0, "one for both ways", said)
    elif wanted.feeds:
        said = typed("protection.feeds", "Feeds others through its charge socket", "yes", "", True)
        one = by(1.0, "one for both ways", said)
    yield BMS.window(
        "ports",
        "Ports",
        most=one,
        set_by="" if one is None else "equipment",
        reason="one, or one for each way"
        if one is None
        else "a second port would leave one way unguarded",
    )
    must = wanted.balancing == "must"
    school = typed("protection.balancing", "Balancing", wanted.balancing, "")
    bleed = DRIFT * capacity.number / LONGEST_BLEED_H
    yield BMS.window(
        "balance_a",
        "Balancing current",
        "A",
        least=by(LEAST_BLEED_A, "any at all", school) if must else None,
        wanted=by(bleed, "2 % of a group's capacity in a day at the top", capacity),
        set_by="size of a group" if must else "",
        reason="groups drift apart unseen else" if must else "matched cells are rechecked instead",
    )
    sensor = typed("protection.sensor", "Temperature sensor wanted", "yes", "", True)
    yield BMS.window(
        "sensors",
        "Temperature sensors",
        least=by(1.0, "as asked", sensor) if wanted.sensor else None,
        set_by="charging in the cold" if wanted.sensor else "",
        reason="nothing stops a hot or a frozen charge else" if wanted.sensor else "none is asked",
    )
    yield BMS.window(
        "telemetry",
        "Telemetry",
        one_of=("wire", "radio") if wanted.telemetry else (),
        set_by="as asked" if wanted.telemetry else "",
        reason="to read its state" if wanted.telemetry else "a meter reads the groups as well",
    )


def _better(evaluation: Evaluation) -> Iterator[FigureWindow]:
    """What makes one better than another. It is long, for it lists them."""
    setting, pack = evaluation.sized.boards.setting, evaluation.sized.pack
    rest, load = setting.rest, pack.current
    empty = evaluation.sized.sized_pack.from_sheet("voltage_empty_v", "Cell, empty", "V")
    days = typed("rest.days", "Stored for", rest.days, "d")
    drain = rest.charge * pack.capacity.number / (rest.days * 24.0)
    yield BMS.window(
        "quiescent_a",
        "Draws on standby",
        "A",
        most=by(drain, "charge it is stored at × capacity ÷ time stored", pack.capacity, days),
        set_by="storage",
        reason="it alone would empty the stored pack",
        must=False,
    )
    ohm = SWITCH_RISE_K / BARE_BOARD_K_PER_W / load.number**2
    yield BMS.window(
        "resistance_ohm",
        "Resistance",
        "ohm",
        most=by(ohm, "50 K ÷ 12 K/W of a bare BMS ÷ current²", load),
        set_by="heat of its switches",
        reason="hotter wants a sheet of metal and air",
        must=False,
    )
    yield BMS.window(
        "under_voltage_release_v",
        "Closes again at, a cell",
        "V",
        least=by(empty.number + CHATTER_V, "empty cell + 0.20 V", empty),
        set_by="empty voltage of the cell",
        reason="else it opens and closes in turn",
        must=False,
    )
    yield BMS.window(
        "over_voltage_release_v",
        "Charges again under, a cell",
        "V",
        most=by(pack.full_cell.number, "full cell", pack.full_cell),
        set_by="full voltage of the cell",
        reason="else it tops up a full cell",
        must=False,
    )
    yield BMS.window(
        "wakes",
        "Wakes after a trip",
        one_of=("itself", "load"),
        set_by="use",
        reason="one that wants a button or a charger leaves you standing",
        must=False,
    )
    yield BMS.window(
        "switch_v",
        "Its switches stand",
        "V",
        least=by(pack.full.number, "full voltage of the pack", pack.full),
        set_by="full voltage",
        reason="a charger may show more with nothing connected",
        must=False,
    )


def bms_missed(spec: PartSpec, board: Board, evaluation: Evaluation) -> tuple[str, ...]:
    """Fields of a board that lie outside the windows that must hold."""
    given: dict[str, float | str] = {
        "series": float(board.series),
        "family": board.family,
        "kind": board.kind,
        "continuous_a": board.continuous_a,
        "charge_a": board.charge_a,
        "ports": float(board.ports),
        "balance_a": board.balance_a,
        "sensors": float(board.sensors),
        "telemetry": board.telemetry,
    }
    if not board.adjustable:
        given |= {"over_voltage_v": board.over_voltage_v, "under_voltage_v": board.under_voltage_v}
    missed = named(spec.windows, given)
    return missed if _opens_rightly(board, evaluation) else (*missed, "stages")


def _opens_rightly(board: Board, evaluation: Evaluation) -> bool:
    """Whether it stays closed in use, and the least short circuit opens it in time."""
    setting = evaluation.sized.boards.setting
    draw, rows = setting.draw, settings_of(board, setting, evaluation.project.pack.ceiling_v)
    if any(draw.most_a(delay) > amps + 1e-9 for amps, delay in board.trips):
        return False
    if board.stages[-1].current_a < draw.peak_a - 1e-9:
        return False
    if board.adjustable and any(row.problem for row in rows):
        return False
    made = board_as_set(board, rows)
    least_a, cell_v = least_short_with(made, evaluation.power)
    quick = min((amps for amps, delay in made.trips if delay <= SHORT_OPENS_S), default=math.inf)
    by_volts = made.under_voltage_delay_s <= SHORT_OPENS_S and cell_v < made.under_voltage_v
    return quick <= least_a or by_volts


class LeastShort(NamedTuple):
    """The least short circuit in A, and what a cell shows in it in V."""

    amps: float
    cell_v: float


def least_short_with(board: Board, power: Power) -> LeastShort:
    """The least short circuit with another board in the path (methods 22)."""
    series, parallel, empty, slow, *after = power.short_least_a.inputs
    emf = series.number * empty.number
    cells = series.number / parallel.number * slow.number
    behind = sum(item.number for item in after if item.key != "power.board_ohm")
    behind += board.resistance_ohm
    amps = emf / max(cells + behind, 1e-9)
    return LeastShort(amps, amps * behind / series.number)
