"""Charging as a topic of the evaluation: the charger, its verdict, the groups, what is lost."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cached_property
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.balancing.balancing import EXCESS_AH, Balancing, balancing_now, origin_of
from lumvak.core.balancing.by_hand import BottomPlan, bottom_plan
from lumvak.core.balancing.cycles import CycleSetting
from lumvak.core.balancing.groups_now import GroupsNow
from lumvak.core.balancing.groups_run import Groups
from lumvak.core.balancing.imbalance import Imbalance, imbalance
from lumvak.core.balancing.means import Means, means_of
from lumvak.core.balancing.never import surely_never
from lumvak.core.balancing.own_resistor import bottom_figures, resistor_figures
from lumvak.core.catalogue.boards import Board, Family
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.chargers import Charger, ChargerKind
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.cells.recovery import recovery_v
from lumvak.core.charging.absolute import LimitPassed, not_begun
from lumvak.core.charging.charge_window import ChargeWindow, charge_window
from lumvak.core.charging.charger import ChargeSetting, RightCharger, right_charger
from lumvak.core.charging.figures import ChargeFigures
from lumvak.core.charging.findings import charging_findings
from lumvak.core.charging.highest import highest_of
from lumvak.core.charging.reasons import end_current
from lumvak.core.charging.verdict import ChargerVerdict, verdict_on
from lumvak.core.document.charging import GIVEN, RIGHT, Charging, Module
from lumvak.core.document.need import Need
from lumvak.core.figures.figure import Figure, Rule, of_part, sheet, typed
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.said import Text, phrase
from lumvak.core.spelling import Refused

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
GROUP_AH = Rule("charging.group_ah", "Capacity of a group", "Ah", "{}", "methods 35")
TOP_AH = Rule("charging.top_ah", "Goes in until the first is full", "Ah",
              "least of capacity − charge of all", "methods 35")
BOTTOM_AH = Rule("charging.bottom_ah", "Comes out until the first is empty", "Ah",
                 "least charge of all groups", "methods 35")
USABLE_AH = Rule("charging.usable_ah", "Usable as the groups stand", "Ah",
                 "what goes in + what comes out", "methods 35")
OUT_OF_STEP_AH = Rule("charging.out_of_step_ah", "Balancing gives back", "Ah",
                      "smallest capacity − usable", "methods 35")
TOO_SMALL_AH = Rule("charging.too_small_ah", "Lost for one is small", "Ah",
                    "middle capacity − smallest", "methods 35")
LOST_AH = Rule("charging.lost_ah", "Lost in all", "Ah",
               "what balancing gives back + what is lost for one is small", "methods 35")
GIVEN_UP_AH = Rule("charging.given_up_ah", "Charge given up", "Ah",
                   "(1 − charge where it stops) × capacity of a group", "methods 34")
KEPT_AH = Rule("charging.kept_ah", "Between discharge and charge limit", "Ah",
               "(charge by OCV at the charge limit − at the discharge limit) × "
               "capacity", "methods 37")
GROUP_OHM = Rule("charging.group_ohm", "Resistance of a group", "ohm",
                 "steady resistance of a cell ÷ parallel", "methods 34")
USUAL_AH = Rule("charging.usual_ah", "Capacity of a group after ageing", "Ah",
                "that of the weakest that was placed and measured, else parallel × typical "
                "capacity", "methods 34")
STOPS_SHARE = Rule("charging.stops_share", "The charge stops at", "%",
                   "the charge by OCV at its volts less what its current still lifts them by",
                   "methods 34")
LEAST_AH = Rule("charging.least_ah", "Charge of the emptiest group", "Ah",
                "as measured, typed or assumed", "methods 35")
HELD_V = Rule("charging.held_v", "This charger holds", "V", "{}", "methods 33")
TURNS_OFF_A = Rule("charging.turns_off_a", "This charger turns off under", "A",
                   "a tenth of its current, as chargers usually do", "methods 33")
# fmt: on

# Where nothing ends a charge it is followed to so many times the full voltage.
UNENDED_OVER = 1.1


class ChargingTopic(Struct, frozen=True, eq=False, dict=True):
    """With what a pack is charged, and how its groups stand; it adds no link to the path.

    ``charger`` is the one in force, ``offered`` all that can be; ``window`` is ``None`` where floor
    and ceiling do not go together, which ``window_problem`` says. ``waits`` is why a charge does
    not begin, or must not. ``held`` is what evens the groups out while they are held at the top,
    ``bottom`` how they would be balanced at the bottom.
    """

    setting: ChargeSetting
    right: RightCharger
    offered: tuple[Charger, ...]
    charger: Charger
    verdict: ChargerVerdict
    now: GroupsNow
    imbalance: Imbalance
    means: Means
    held: Balancing
    bottom: BottomPlan
    use: CycleSetting
    window: ChargeWindow | None
    window_problem: Text
    waits: LimitPassed | None
    figures: tuple[Figure, ...] = ()
    findings: tuple[Finding, ...] = ()
    links: tuple[Link, ...] = ()

    @cached_property
    def balancing(self) -> Balancing:
        """Whether and when groups come together as the pack is used; followed when looked at."""
        return balancing_now(self.means, self.now, self.use, self.setting.ceiling_v)


class ChargeWay(Struct, frozen=True):
    """What the charge flows through: limits as figures, and the resistance of all of it in ohm."""

    limits: tuple[Figure, ...]
    path_ohm: float


def charge_way(
    board: Board | None,
    leads: Figure | None,
    leads_ohm: float,
    fuse_hold: Figure | None,
    connector: Figure | None,
    socket_a: float | None,
    joints_ohm: float,
) -> ChargeWay:
    """What bears the charge current, in the order of the path.

    ``leads`` and ``fuse_hold`` are ``None`` where they are proposed: they follow the charger then.
    ``connector`` is the pack's own where the charge goes through it, and no socket was said.
    """
    found = [] if leads is None else [leads]
    ohm = joints_ohm + leads_ohm
    if board is not None:
        found.insert(0, of_part("board.charge_a", "BMS lets in", board, "charge_a", "A"))
        ohm += board.resistance_ohm
    if fuse_hold is not None:
        found.append(fuse_hold)
    if socket_a is not None:
        found.append(typed("charging.socket_a", "Charge socket carries", socket_a, "A"))
    elif connector is not None and (board is None or board.ports == 1):
        found.append(connector)
    return ChargeWay(tuple(found), ohm)


def charge_setting(
    cell: Cell,
    family: Family,
    behaviour: Behaviour,
    series: int,
    parallel: int,
    ceiling_v: float | None,
    charge: ChargeFigures,
    full: Figure,
    way: ChargeWay,
    board: Board | None,
    weakest_ah: Figure | None,
    celsius: float,
) -> ChargeSetting:
    """What a charger of a pack must suit; ``ceiling_v`` is the builder's, ``None`` the full one.

    ``full`` is the pack's full voltage, which counts where the ceiling is over what a cell bears;
    ``celsius`` is how warm cells are when they are charged.
    """
    ah = parallel * cell.capacity_typical_ah if weakest_ah is None else weakest_ah.number
    group = Groups(
        behaviour,
        np.array([ah]),
        np.array([behaviour.steady_ohm / parallel]),
        np.zeros(1),
        way.path_ohm / series,
    )
    asked = cell.voltage_full_v if ceiling_v is None else ceiling_v
    ceiling = min(asked, cell.voltage_full_v)
    volts = charge.voltage if asked <= cell.voltage_full_v else full
    return ChargeSetting(
        cell,
        family,
        behaviour=behaviour,
        series=series,
        parallel=parallel,
        ceiling_v=ceiling,
        volts=volts,
        by_cells=charge.by_cells,
        most_cells=charge.most,
        limits=way.limits,
        group=group,
        board=board,
        asked_v=asked,
        celsius=celsius,
        senses=board is not None and board.kind != "balancer" and board.sensors > 0,
    )


def given_charger(need: Need, fallback_a: float) -> Charger | None:
    """The charger that the need speaks of; ``None`` where it names none."""
    if need.charger_voltage_v is None:
        return None
    kind: ChargerKind = "lead" if need.lead_charger else "cccv"
    amps = fallback_a if need.charger_current_a is None else need.charger_current_a
    return Charger(
        id=GIVEN,
        name="the one given under Need",
        kind=kind,
        volts=need.charger_voltage_v,
        amps=amps,
    )


def charging_topic(
    charging: Charging,
    need: Need,
    setting: ChargeSetting,
    now: GroupsNow,
    spread_v: float | None,
    load_a: float,
) -> ChargingTopic:
    """Charging as a topic (methods 33 to 38); ``spread_v`` is what an adjustable board bleeds over.

    ``load_a`` is the current that the pack is emptied with.

    In force is the charger picked, else the one that the need gives, else the one to buy.
    """
    right = right_charger(setting)
    given = given_charger(need, right.amps.number)
    bought = _bought(right)
    offered = (*charging.chargers, *(() if given is None else (given,)), bought)
    charger = next((item for item in offered if item.id == charging.charger), given or bought)
    verdict = verdict_on(charger, setting)
    stand = imbalance(now.groups.ah, now.charge_ah)
    use = _use(charging, setting, charger, load_a)
    means = means_of(charging, setting.board, setting.ceiling_v, spread_v)
    held = balancing_now(means, now, None, setting.ceiling_v)
    never = surely_never(means, now.groups, now.share, use)
    window, problem = _window(charging, setting)
    waits = not_begun(setting, now.rest_v)
    findings = tuple(
        charging_findings(
            charging,
            need.kind,
            setting=setting,
            verdict=verdict,
            now=now,
            stand=stand,
            balancing=held,
            never=never,
            window_problem=problem,
            waits=waits,
        )
    )
    made = ChargingTopic(
        setting,
        right,
        offered=offered,
        charger=charger,
        verdict=verdict,
        now=now,
        imbalance=stand,
        means=means,
        held=held,
        bottom=_bottom(charging, setting, now),
        use=use,
        window=window,
        window_problem=problem,
        waits=waits,
        findings=findings,
    )
    return replace(made, figures=tuple(_figures(made, charging.module)))


def _bottom(charging: Charging, setting: ChargeSetting, now: GroupsNow) -> BottomPlan:
    to_v = max(floor_of(charging, setting.cell), setting.cell.voltage_empty_v)
    return bottom_plan(now.groups, now.share, to_v, setting.ceiling_v, charging.module.ohm)


def _bought(right: RightCharger) -> Charger:
    """What to buy, as a charger."""
    volts, amps, end_a = right.volts.number, right.amps.number, right.end.number
    return Charger(
        id=RIGHT, name="the one to buy", kind="cccv", volts=volts, amps=amps, end_a=end_a
    )


class EndsOver(NamedTuple):
    """Volts of a group over which a charge ends, and what ends it."""

    volts: float | None
    by: str


def ends_over(charging: Charging, setting: ChargeSetting, charger: Charger) -> EndsOver:
    """Volts of a group over which a charge ends, and by what; ``None`` where nothing ends it so."""
    over, by = setting.over_v, "board"
    if charging.at == "bottom" and (over is None or setting.ceiling_v < over):
        return EndsOver(setting.ceiling_v, "first full group")
    if over is None and charger.kind == "nickel":
        # Nothing ends it: it is followed until cells are far over what they bear.
        return EndsOver(UNENDED_OVER * setting.cell.voltage_full_v, "nobody")
    return EndsOver(over, by)


def _use(
    charging: Charging, setting: ChargeSetting, charger: Charger, load_a: float
) -> CycleSetting:
    """How a pack is used from charge to charge."""
    held = charger.kind != "nickel"
    board = setting.board
    return CycleSetting(
        charger.amps,
        highest_of(charger, setting.celsius).volts if held else setting.volts.number,
        end_a=end_current(charger),
        over_v=ends_over(charging, setting, charger)[0],
        back_v=None if board is None else board.over_voltage_release_v,
        stays_h=charging.stays_h,
        load_a=load_a,
        floor_v=floor_of(charging, setting.cell),
        between_h=24.0 * charging.between_days,
        dead_v=recovery_v(setting.cell, setting.family),
    )


def floor_of(charging: Charging, cell: Cell) -> float:
    """Where a discharge ends, in V a cell: the builder's floor, else the cell's empty voltage."""
    return cell.voltage_empty_v if charging.floor_v is None else charging.floor_v


class _Window(NamedTuple):
    """Between floor and ceiling, or why there is nothing between."""

    window: ChargeWindow | None
    problem: Text


def _window(charging: Charging, setting: ChargeSetting) -> _Window:
    floor = floor_of(charging, setting.cell)
    try:
        return _Window(
            charge_window(
                setting.cell,
                setting.family,
                setting.behaviour,
                setting.group_ah,
                setting.asked_v,
                floor,
            ),
            "",
        )
    except Refused as problem:
        return _Window(None, problem.said)


def _figures(made: ChargingTopic, module: Module) -> Iterator[Figure]:
    setting, charger, verdict, now = made.setting, made.charger, made.verdict, made.now
    yield made.right.amps
    yield made.right.end
    ah = _capacity(now.groups.ah, now.ah_from)
    usual = USUAL_AH.of(setting.group_ah, origin="sheet")
    ends = TURNS_OFF_A.assumed(end_current(charger))
    if charger.end_a is not None:
        ends = sheet(ends.key, ends.label, charger.end_a, "A", charger.name)
    what_stops = _what_stops(setting, charger, verdict, ends)
    stops = STOPS_SHARE.of(verdict.stops_share, *what_stops, usual)
    yield stops
    yield GIVEN_UP_AH.of(verdict.given_up_ah, stops, usual)
    yield from _imbalance_figures(now, made.imbalance, ah)
    yield from made.held.figures
    excess = next(item for item in made.held.figures if item.key == EXCESS_AH.key)
    yield from resistor_figures(module, setting.ceiling_v, excess)
    yield from bottom_figures(made.bottom, module, setting.volts, ah)
    if made.window is not None:
        yield KEPT_AH.of(made.window.kept_ah, ah)


def _what_stops(
    setting: ChargeSetting, charger: Charger, verdict: ChargerVerdict, ends: Figure
) -> Iterator[Figure]:
    """What decides where a charge ends: the charger's volts and end, or the board's limit."""
    group_ohm = GROUP_OHM.of(float(setting.group.ohm[0]), origin="sheet")
    if verdict.ended_by == "board" and setting.over_v is not None:
        board = "the BMS" if setting.board is None else setting.board.name
        yield sheet("charging.over_v", "The BMS cuts off over", setting.over_v, "V", board)
    highest = verdict.highest
    yield HELD_V.of(
        highest.volts,
        sheet("charging.charger_v", "Volts of this charger", charger.volts, "V", charger.name),
        rule="as it is set or said to be"
        if highest.why == "set"
        else highest.shows(phrase("that")),
    )
    yield sheet("charging.charger_a", "Amps of this charger", charger.amps, "A", charger.name)
    yield ends
    yield group_ohm


def _capacity(ah: Sequence[float] | np.ndarray, origins: Sequence[str]) -> Figure:
    known = origin_of(origins)
    rule = "parallel × typical capacity" if known == "sheet" else "the smallest of all groups"
    return GROUP_AH.of(float(np.min(ah)), origin=known, rule=rule)


def _imbalance_figures(now: GroupsNow, stand: Imbalance, ah: Figure) -> Iterator[Figure]:
    charges = LEAST_AH.of(stand.bottom_ah, origin=origin_of((*now.share_from, *now.ah_from)))
    top = TOP_AH.of(stand.top_ah, ah, charges)
    bottom = BOTTOM_AH.of(stand.bottom_ah, charges)
    usable = USABLE_AH.of(stand.usable_ah, top, bottom)
    yield usable
    step = OUT_OF_STEP_AH.of(stand.by_step_ah, ah, usable)
    small = TOO_SMALL_AH.of(stand.by_size_ah, ah)
    yield from (step, small)
    yield LOST_AH.of(stand.lost_ah, step, small)
