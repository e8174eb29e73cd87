"""The figures of the parts of the power path."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import NamedTuple

from msgspec import Struct

from lumvak.core.bms.verdicts import (
    BARE_BOARD_K_PER_W,
    bleed_hours,
    switch_heat_w,
    switch_rise_k,
)
from lumvak.core.catalogue.boards import Board
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.power_parts import Connector, Fuse, Surge, Switch
from lumvak.core.cells.worst_cells import WorstCells
from lumvak.core.conductors.lead_wire import LeadWire
from lumvak.core.conductors.thermistor import Hot, recovery_s, thermistor_ohm
from lumvak.core.document.power import FusePlace
from lumvak.core.figures.figure import Figure, Rule, computed, of_part, sheet, typed
from lumvak.core.joints.network_figures import NetworkFigures
from lumvak.core.power.connectors import drop_mv
from lumvak.core.power.fuses import LOADING, hold_a, next_standard_a, warm_factor
from lumvak.core.power.place import Place
from lumvak.core.power.surge import precharge
from lumvak.core.said import digits, phrase

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
FUSE_LOADING = Rule("constant.fuse_loading", "A fuse is loaded to", "%",
                    "continuous; it wears over that", "methods 22")
PRECHARGE_PEAK_A = Rule("power.precharge_peak_a", "Precharge, most current", "A", "V ÷ R",
                        "methods 23")
PRECHARGE_J = Rule("power.precharge_j", "Energy in the precharge", "J", "½·C·V²", "methods 23")
PRECHARGE_S = Rule("power.precharge_s", "Precharge takes", "s", "5·R·C", "methods 23")
PRECHARGE_W = Rule("power.precharge_w", "Precharge, mean power", "W", "energy ÷ time", "methods 23")
HEAT_W = Rule("board.heat_w", "Heat in its switches", "W", "current² × resistance", "methods 12")
RISE_K = Rule("board.rise_k", "Rise of its switches", "K", "heat × kelvin a watt", "methods 12")
FUSE_STANDARD_A = Rule("power.fuse_standard_a", "Next rating on offer", "A",
                       "smallest rating that is not under it", "methods 22")
SURGE_LOSS_W = Rule("power.surge_loss_w", "Surge part, hot loss", "W",
                    "current² × hot resistance, where that is what it gives off", "methods 23")
SURGE_HOT_C = Rule("power.surge_hot_c", "Surge part gets", "°C",
                   "where the heat of the load is what it gives off", "methods 23")
SURGE_RECOVERY_S = Rule("power.surge_recovery_s", "Surge part is cold again after", "s",
                        "until it is back at 70 % of its cold resistance", "methods 23")
FUSE_NEEDED_A = Rule("power.fuse_needed_a", "Fuse needs at least", "A",
                     "load ÷ (80 % × what the heat leaves of its rating)", "methods 22")
COOLING_K_PER_W = Rule("board.cooling_k_per_w", "Its switches rise", "K/W",
                       "a bare BMS in a closed bag; its sheet is silent", "methods 12")
BLEED_H = Rule("board.bleed_h", "Balances a drift of 2 % in", "h",
               "2 % of a group's capacity ÷ balancing current", "methods 12")
DROP_MV = Rule("power.{}_drop_mv", "{}: drop", "mV", "current × resistance", "methods 22")
SURGE_COLD_OHM = Rule("power.surge_cold_ohm", "Surge part, cold", "ohm",
                      "R25 × exp(B·(1 ÷ T − 1 ÷ 298.15))", "methods 23")
SHORT_CELL_V = Rule("power.short_cell_v", "A cell in the least short circuit", "V",
                    "its current × (joints + BMS + leads) ÷ S: under its under-voltage point a "
                    "BMS opens", "methods 22")
SHORT_LEAST_A = Rule("power.short_least_a", "Short-circuit current, least", "A",
                     "OCV when nearly empty ÷ (S·R cold, worn and steady ÷ P + joints + "
                     "BMS + leads)", "methods 22")
SHORT_A = Rule("power.short_a", "Short-circuit current, most", "A", "{}", "methods 22")
# fmt: on

SHORT_RULES = {
    "cells": "full voltage ÷ (S·R at 1 kHz ÷ P + joints): a dead short behind the main fuse, in "
    "its first milliseconds",
    "board": "full voltage ÷ (S·R at 1 kHz ÷ P + joints + BMS): a dead short behind the main "
    "fuse, in its first milliseconds",
    "output": "full voltage ÷ (S·R at 1 kHz ÷ P + joints + BMS + leads): a dead short behind the "
    "main fuse, in its first milliseconds",
}


def board_ohm(board: Board) -> Figure:
    """A board's resistance as a figure."""
    return of_part("power.board_ohm", "BMS", board, "resistance_ohm", "ohm")


def board_figures(board: Board, current: Figure, parallel: Figure, cell: Cell) -> list[Figure]:
    """Heat, rise and balancing of a board (methods 12)."""
    ohm = board_ohm(board)
    heat = HEAT_W.of(switch_heat_w(board, current.number), current, ohm)
    cooling = COOLING_K_PER_W.assumed(BARE_BOARD_K_PER_W)
    if board.cooling_k_per_w is not None:
        cooling = of_part(cooling.key, "Its switches rise", board, "cooling_k_per_w", "K/W")
    rise = RISE_K.of(switch_rise_k(board, current.number), heat, cooling)
    made = [heat, rise]
    if board.balance_a:
        group = cell.capacity_typical_ah * parallel.number
        made.append(
            BLEED_H.of(
                bleed_hours(board, group),
                of_part("board.balance_a", "Balances", board, "balance_a", "A"),
                parallel,
            )
        )
    return made


def _hold(key: str, label: str, fuse: Fuse, ambient: Figure, *inputs: Figure) -> Figure:
    """What a fuse carries for good in the air around it."""
    return computed(
        key,
        label,
        hold_a(fuse, ambient.number),
        "A",
        phrase(
            "80 % of its rating, less {} % a kelvin over 25 °C",
            digits(fuse.derate_per_k * 100, "g"),
        ),
        "methods 22",
        *inputs,
        ambient,
    )


class FuseFigures(NamedTuple):
    """What a fuse carries for good, and all its figures."""

    hold: Figure | None
    every: tuple[Figure, ...]


def fuse_figures(
    place: Place[Fuse], ambient: Figure, current: Figure, fuses: Iterable[Fuse]
) -> FuseFigures:
    """What the one in force carries for good, and with it what the load wants (methods 22)."""
    loading = FUSE_LOADING.of(LOADING, origin="constant")
    fuse = place.part
    factor = warm_factor(fuse, ambient.number) if fuse is not None else 1.0
    needed = FUSE_NEEDED_A.of(current.number / (LOADING * factor), current, loading, ambient)
    standard = next_standard_a(fuses, needed.number)
    wanted = (
        needed,
        FUSE_STANDARD_A.of(standard if math.isfinite(standard) else None, needed),
    )
    if fuse is None:
        return FuseFigures(None, wanted)
    rating = of_part("power.fuse_a", "Fuse", fuse, "rating_a", "A")
    hold = _hold("power.fuse_hold_a", "Fuse carries continuously", fuse, ambient, rating, loading)
    return FuseFigures(
        hold,
        (
            *wanted,
            hold,
            of_part("power.fuse_breaking_a", "Fuse breaks", fuse, "breaking_a", "A"),
            of_part("power.fuse_voltage_v", "Fuse is rated", fuse, "voltage_dc_v", "V"),
        ),
    )


def charge_fuse_figures(place: Place[Fuse], ambient: Figure) -> tuple[Figure, ...]:
    """What the charge fuse in force carries (methods 22)."""
    fuse = place.part
    if fuse is None:
        return ()
    rating = of_part("power.charge_fuse_a", "Charge fuse", fuse, "rating_a", "A")
    label = "Charge fuse carries continuously"
    return (_hold("power.charge_fuse_hold_a", label, fuse, ambient, rating),)


def contact_figures(
    connector: Place[Connector], switch: Place[Switch], current: Figure
) -> list[Figure]:
    """What connector and switch carry and drop."""
    made = []
    parts: tuple[tuple[str, str, Connector | Switch | None], ...] = (
        ("connector", "Connector", connector.part),
        ("switch", "Switch", switch.part),
    )
    for key, name, part in parts:
        if part is None:
            continue
        made.append(_carries(key, name, part))
        made.append(
            DROP_MV.of(
                drop_mv(part, current.number),
                current,
                contact_ohm(key, name, part),
                key=key,
                label=name,
            )
        )
    return made


def _carries(key: str, name: str, part: Connector | Switch) -> Figure:
    return of_part(f"power.{key}_a", phrase("{} carries", name), part, "continuous_a", "A")


def contact_ohm(key: str, name: str, part: Connector | Switch) -> Figure:
    """Resistance in mΩ of a connector or a switch as a figure."""
    field = "mated_mohm" if isinstance(part, Connector) else "resistance_mohm"
    return of_part(f"power.{key}_mohm", phrase("{}: resistance", name), part, field, "mΩ")


def connector_figure(part: Connector | None) -> Figure | None:
    """What the connector carries; ``None`` where there is none."""
    return None if part is None else _carries("connector", "Connector", part)


def surge_figures(
    surge: Place[Surge],
    pre: Place[Surge],
    hot: Hot | None,
    full: Figure,
    current: Figure,
    ambient: Figure,
    capacitance: Figure,
) -> list[Figure]:
    """A surge thermistor cold and hot, and a precharge (methods 23)."""
    made = []
    if surge.part is not None and hot is not None:
        part = surge.part
        cold = SURGE_COLD_OHM.of(
            thermistor_ohm(part, ambient.number),
            sheet("power.surge_ohm", "At 25 °C", part.ohm, "ohm", part.name),
            ambient,
        )
        steady = sheet("power.surge_a", "Surge part carries", part.steady_a, "A", part.name)
        made += [
            cold,
            steady,
            SURGE_LOSS_W.of(hot.watts, current, cold),
            SURGE_HOT_C.of(hot.temperature_c, current, cold),
            SURGE_RECOVERY_S.of(recovery_s(part, hot.temperature_c, ambient.number), cold),
        ]
    if pre.part is not None and capacitance.number > 0.0:
        found = precharge(pre.part.ohm, full.number, capacitance.number * 1e-6)
        ohm = sheet("power.precharge_ohm", "Precharge", pre.part.ohm, "Ω", pre.part.name)
        inputs = (full, ohm, capacitance)
        made += [
            PRECHARGE_PEAK_A.of(found.peak_a, full, ohm),
            PRECHARGE_J.of(found.energy_j, full, capacitance),
            PRECHARGE_S.of(found.seconds, ohm, capacitance),
            PRECHARGE_W.of(found.watts, *inputs),
        ]
    return made


class ShortCircuit(Struct, frozen=True):
    """What a dead short behind the main fuse gives at the most and at the least, in A.

    ``cell_v`` is what a cell shows in the least one.
    """

    most: Figure
    least: Figure
    cell_v: Figure


def short_circuit(
    full: Figure,
    worst: WorstCells,
    network: NetworkFigures | None,
    wire: LeadWire,
    board: Board | None,
    place: FusePlace,
    series: Figure,
    parallel: Figure,
) -> ShortCircuit:
    """The prospective short-circuit current, at the most and at the least (methods 22).

    The most is what fuse and wires must break and stand: the pack full, the cells at their 1 kHz
    resistance, where the main fuse sits. The least is what must still be ended: nearly empty, cold
    and worn, with steady resistance, at the end of the leads. It is long, for it lists figures one
    after the other.
    """
    sits = typed("power.fuse_place", "Main fuse sits", place, "")
    joints = () if network is None else (network.joint_ohm,)
    behind_board = () if board is None else (board_ohm(board),)
    before: tuple[Figure, ...] = () if place == "cells" else behind_board
    if place == "output":
        before = (*before, wire.ohm)
    share = series.number / parallel.number
    most_ohm = share * worst.quick_ohm.number + sum(part.number for part in (*joints, *before))
    most = SHORT_A.of(
        full.number / max(most_ohm, 1e-9),
        full,
        worst.quick_ohm,
        series,
        parallel,
        *joints,
        *before,
        sits,
        rule=SHORT_RULES[place],
    )
    after = (*joints, *behind_board, wire.ohm)
    least_ohm = share * worst.slow_ohm.number + sum(part.number for part in after)
    least = SHORT_LEAST_A.of(
        series.number * worst.empty_v.number / max(least_ohm, 1e-9),
        series,
        parallel,
        worst.empty_v,
        worst.slow_ohm,
        *after,
    )
    cell_v = SHORT_CELL_V.of(
        least.number * sum(part.number for part in after) / series.number, least, series, *after
    )
    return ShortCircuit(most, least, cell_v)
