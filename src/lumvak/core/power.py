"""The power path: what a short circuit gives, every part judged for its place, what opens first."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from lumvak.core.boards import Board
from lumvak.core.boardsheet import SettingRow, board_as_set, settings_of
from lumvak.core.catalogue import Catalogue
from lumvak.core.contacts import ContactSetting, connector_place, switch_place
from lumvak.core.demand import Demand
from lumvak.core.draw import Draw
from lumvak.core.figures import Figure, computed, constant, said_or, sheet, typed
from lumvak.core.fuses import (
    LOADING,
    FuseSetting,
    fuse_place,
    hold_a,
    next_standard_a,
    warm_factor,
    with_band,
)
from lumvak.core.hand import Hand
from lumvak.core.judged import Judged, Place
from lumvak.core.leads import LeadWire, lead_wire
from lumvak.core.order import Curve, Pair, pairs_of
from lumvak.core.packfigures import PackFigures
from lumvak.core.path import JointResult
from lumvak.core.powercurves import Source, curves_of
from lumvak.core.powerparts import Connector, Fuse, Surge, Switch
from lumvak.core.project import Project
from lumvak.core.protection import BoardSetting, Verdict, bleed_hours, switch_heat_w, switch_rise_k
from lumvak.core.shelf import Shelf, shelf_of
from lumvak.core.shortcircuit import onderdonk_s
from lumvak.core.starting import StartCase, StartRun, start_run
from lumvak.core.surge import (
    Hot,
    SurgeSetting,
    hot_state,
    precharge,
    precharge_place,
    recovery_s,
    thermistor_ohm,
    thermistor_place,
)
from lumvak.core.table import Table
from lumvak.core.timecurves import TIMES_S

# Capacitors of a vehicle's controller where nobody gave them, for each ampere it draws.
CONTROLLER_UF_PER_A = 25.0
PULLS = ("fast", "slow")


@dataclass(frozen=True, eq=False)
class Power:
    """Everything between the joints and the equipment, judged, with its curves and figures.

    ``made`` is the board as it is made, ``board`` as its settings make it.
    """

    draw: Draw
    made: Board | None
    board: Board | None
    settings: tuple[SettingRow, ...]
    fuse: Place[Fuse]
    charge_fuse: Place[Fuse]
    connector: Place[Connector]
    switch: Place[Switch]
    surge: Place[Surge]
    precharge: Place[Surge]
    charge_wire: LeadWire
    short_a: Figure
    capacitance: Figure
    spark_j: float
    hot: Hot | None
    curves: tuple[Curve, ...]
    shelf: Shelf
    start: StartCase | None
    slow_s: float
    figures: tuple[Figure, ...]

    @cached_property
    def pairs(self) -> tuple[Pair, ...]:
        """Every pair of curves that must be in order."""
        return pairs_of(self.curves, self.short_a.number)

    def start_of(self, pull: str, with_surge: bool) -> StartRun | None:
        """A start with a ``fast`` or ``slow`` pull, with the surge part in force or without.

        Without one in force, the recommended is tried. ``None`` where no start is known.
        """
        if self.start is None:
            return None
        case = self.start
        if pull == "slow":
            case = replace(case, pull_s=self.slow_s)
        if not with_surge:
            return start_run(replace(case, surge=None))
        part = self.surge_tried
        return None if part is None else start_run(replace(case, surge=part.part))

    @property
    def surge_tried(self) -> Judged[Surge] | None:
        """The surge part in force, else the one that would be recommended."""
        if self.surge.chosen is not None:
            return self.surge.chosen
        return next((item for item in self.surge.found if item.serves), None) or next(
            iter(self.surge.found), None
        )


def power_of(
    project: Project,
    catalogue: Catalogue,
    demand: Demand,
    hand: Hand,
    pack: PackFigures,
    table: Table,
    joints: tuple[JointResult, JointResult],
    wire: LeadWire,
    board: Verdict | None,
    setting: BoardSetting,
    raw: Draw,
    solved: Mapping[str, Figure],
) -> Power:
    """Judge every part of the path and draw its curves (methods 22 to 24).

    ``raw`` is the draw as if no surge part limited it.
    """
    wanted, full_v = project.power, pack.full.number
    ambient = demand.ambient
    draw = setting.draw
    drawn = draw.curve
    picked = None if board is None else board.board
    rows = () if picked is None else settings_of(picked, setting, project.pack.ceiling_v)
    made = None if picked is None else board_as_set(picked, rows)
    short = short_circuit(project, pack, table, wire, made, solved)

    # Fuse, connector and switch.
    contact = ContactSetting(draw.continuous_a, drawn, full_v)
    fuse = fuse_place(
        with_band(catalogue.fuses.values(), wanted.fuse, wanted.fuse_band),
        wanted.fuse,
        FuseSetting(draw.continuous_a, drawn, wire.harm_a, full_v, short.number, ambient.number,
                    f"the main leads, {wire.name}"),
    )  # fmt: skip
    connector = connector_place(catalogue.connectors.values(), wanted.connector, contact)
    switch = switch_place(catalogue.switches.values(), wanted.switch, contact)

    # What flows while charging.
    charge = charge_current(demand, pack)
    charge_part = catalogue.wires.get(project.charge_leads.wire or "")
    charge_wire = lead_wire(project.charge_leads, charge, charge, demand.peak_duration, ambient,
                            charge_part, "charge_leads")  # fmt: skip
    charge_fuse = fuse_place(
        catalogue.fuses.values(),
        wanted.charge_fuse,
        FuseSetting(charge.number, np.full(TIMES_S.shape, charge.number), charge_wire.harm_a,
                    full_v, short.number, ambient.number, f"the charge leads, {charge_wire.name}"),
    )  # fmt: skip

    # What limits the first rush.
    capacitance = controller_capacitance(project, draw)
    surging = SurgeSetting(
        raw, pack.current.number, full_v, ambient.number, project.start.pause_s,
        capacitance.number * 1e-6, made,
    )  # fmt: skip
    surge = thermistor_place(catalogue.surges.values(), wanted.surge, surging)
    pre = precharge_place(catalogue.surges.values(), wanted.precharge, surging)
    hot = None
    if surge.part is not None:
        hot = hot_state(surge.part, pack.current.number, ambient.number)
    spark = (
        0.0
        if pre.part is not None or _softly(connector.part)
        else 0.5 * capacitance.number * 1e-6 * full_v**2
    )
    start = start_case(project, raw, full_v, short, wire, made, surge.part, demand)

    source = Source(
        draw, made, fuse.part, connector.part, switch.part, surge.part, wire,
        ambient.number, project.joints.link_a,
    )  # fmt: skip
    curves = curves_of(source, hand, pack, table, joints, project.joints, solved)
    totals = {figure.key: figure for figure in pack.every}
    chemistry = catalogue.chemistry_of(hand.choice.cell)
    shelf = shelf_of(
        project.rest, hand.choice.cell, chemistry, hand.choice.parallel,
        totals["pack.capacity_ah"], made,
    )  # fmt: skip
    figures = [
        short,
        capacitance,
        charge,
        *wire.figures,
        *charge_wire.figures,
        *shelf.figures,
        *_board_figures(made, pack, hand),
        *_fuse_figures(fuse, ambient, pack.current, catalogue),
        *_contact_figures(connector, switch, pack),
        *_surge_figures(surge, pre, hot, pack, ambient, capacitance),
        *_balance_figures(project, table, pack, hand, ambient),
    ]
    return Power(
        draw, picked, made, rows, fuse, charge_fuse, connector, switch, surge, pre, charge_wire,
        short, capacitance, spark, hot, curves, shelf, start, project.start.slow_s, tuple(figures),
    )  # fmt: skip


def _softly(connector: Connector | None) -> bool:
    return connector is not None and connector.anti_spark_ohm is not None


def short_circuit(
    project: Project,
    pack: PackFigures,
    table: Table,
    wire: LeadWire,
    board: Board | None,
    solved: Mapping[str, Figure],
) -> Figure:
    """The prospective short-circuit current where the main fuse sits (methods 22)."""
    inner = solved.get("network.effective_ohm")
    if inner is None:
        inner = computed(
            "network.effective_ohm",
            "Cells alone, evenly shared",
            table.cells_ohm,
            "ohm",
            "S·R ÷ P; the joints are not solved",
            "methods 19",
            pack.cell_ohm,
            pack.series,
            pack.parallel,
        )
    place = project.power.fuse_place
    inputs = [pack.full, inner, typed("power.fuse_place", "Main fuse sits", place, "")]
    ohm = inner.number
    if place != "cells" and board is not None:
        inputs.append(_board_ohm(board))
        ohm += board.resistance_ohm
    if place == "output":
        inputs.append(wire.ohm)
        ohm += wire.ohm.number
    return computed(
        "power.short_a",
        "A short circuit gives",
        pack.full.number / ohm,
        "A",
        "full voltage ÷ (cells and joints"
        + (", board" if place != "cells" else "")
        + (", leads)" if place == "output" else ")")
        + ": a dead short behind the main fuse",
        "methods 22",
        *inputs,
    )


def charge_current(demand: Demand, pack: PackFigures) -> Figure:
    """What flows through the charge leads: the charger's current, else the cells' standard one."""
    if demand.charger_current is not None:
        return demand.charger_current
    return next(figure for figure in pack.every if figure.key == "charge.current_a")


def controller_capacitance(project: Project, draw: Draw) -> Figure:
    """Capacitors that spark when the pack is plugged in: typed, or usual for a controller."""
    vehicle = project.need.kind == "vehicle"
    return said_or(
        "power.capacitance_uf",
        "Capacitors of the controller",
        project.power.capacitance_uf,
        "µF",
        CONTROLLER_UF_PER_A * draw.peak_a if vehicle else 0.0,
        "25 µF for each ampere it draws at its peak" if vehicle else "none: no controller",
        "methods 23",
    )


def start_case(
    project: Project,
    draw: Draw,
    full_v: float,
    short: Figure,
    wire: LeadWire,
    board: Board | None,
    surge: Surge | None,
    demand: Demand,
) -> StartCase | None:
    """A fast start of the motor on this pack; ``None`` where no start is known."""
    if draw.start_a <= draw.continuous_a:
        return None
    limit = project.need.controller_limit_a if project.need.kind == "vehicle" else None
    source = full_v / short.number + wire.ohm.number
    return StartCase(
        full_v,
        float(f"{source:.4g}"),
        draw.start_a,
        draw.continuous_a,
        draw.tau_s,
        project.start.fast_s,
        () if board is None else board.stages,
        surge,
        demand.ambient.number,
        float("inf") if limit is None else limit,
    )


def _board_ohm(board: Board) -> Figure:
    return sheet("power.board_ohm", "Board", board.resistance_ohm, "ohm", board.name)


def _board_figures(board: Board | None, pack: PackFigures, hand: Hand) -> list[Figure]:
    if board is None:
        return []
    ohm = _board_ohm(board)
    heat = computed("board.heat_w", "Heat in its switches",
                    switch_heat_w(board, pack.current.number), "W",
                    "current² × resistance", "methods 12", pack.current, ohm)  # fmt: skip
    cooling = said_or(
        "board.cooling_k_per_w",
        "Its switches rise",
        None,
        "K/W",
        12.0,
        "a bare board in a closed bag; its sheet is silent",
        "methods 12",
    ) if board.cooling_k_per_w is None else sheet(
        "board.cooling_k_per_w", "Its switches rise", board.cooling_k_per_w, "K/W", board.name
    )  # fmt: skip
    rise = computed("board.rise_k", "Rise of its switches",
                    switch_rise_k(board, pack.current.number), "K",
                    "heat × kelvin a watt", "methods 12", heat, cooling)  # fmt: skip
    made = [heat, rise]
    if board.balance_a:
        group = hand.choice.cell.capacity_typical_ah * hand.choice.parallel
        made.append(
            computed(
                "board.bleed_h",
                "Evens out a drift of 2 % in",
                bleed_hours(board, group),
                "h",
                "2 % of a group's capacity ÷ balancing current",
                "methods 12",
                sheet("board.balance_a", "Balances", board.balance_a, "A", board.name),
                pack.parallel,
            )
        )
    return made


def _fuse_figures(
    place: Place[Fuse], ambient: Figure, current: Figure, catalogue: Catalogue
) -> list[Figure]:
    loading = constant("constant.fuse_loading", "A fuse is loaded to", LOADING, "%",
                       "for good; it grows tired over that", "methods 22")  # fmt: skip
    fuse = place.part
    factor = warm_factor(fuse, ambient.number) if fuse is not None else 1.0
    needed = computed("power.fuse_needed_a", "Fuse needs at least",
                      current.number / (LOADING * factor), "A",
                      "load ÷ (80 % × what the heat leaves of its rating)", "methods 22",
                      current, loading, ambient)  # fmt: skip
    standard = next_standard_a(catalogue.fuses.values(), needed.number)
    made = [
        needed,
        computed("power.fuse_standard_a", "Next rating on offer",
                 standard if math.isfinite(standard) else None, "A",
                 "smallest rating that is not under it", "methods 22", needed),
    ]  # fmt: skip
    if fuse is None:
        return made
    rating = sheet("power.fuse_a", "Fuse", fuse.rating_a, "A", fuse.name)
    return [
        *made,
        computed(
            "power.fuse_hold_a",
            "Fuse carries for good",
            hold_a(fuse, ambient.number),
            "A",
            f"80 % of its rating, less {fuse.derate_per_k * 100:g} % a kelvin over 25 °C",
            "methods 22",
            rating,
            loading,
            ambient,
        ),
        sheet("power.fuse_breaking_a", "Fuse breaks", fuse.breaking_a, "A", fuse.name),
        sheet("power.fuse_voltage_v", "Fuse is rated", fuse.voltage_dc_v, "V", fuse.name),
    ]


def _contact_figures(
    connector: Place[Connector], switch: Place[Switch], pack: PackFigures
) -> list[Figure]:
    made = []
    for key, name, part, mohm in (
        ("connector", "Connector", connector.part,
         0.0 if connector.part is None else connector.part.mated_mohm),
        ("switch", "Switch", switch.part,
         0.0 if switch.part is None else switch.part.resistance_mohm),
    ):  # fmt: skip
        if part is None:
            continue
        made.append(sheet(f"power.{key}_a", f"{name} carries", part.continuous_a, "A", part.name))
        made.append(
            computed(
                f"power.{key}_drop_mv",
                f"{name}: drop",
                pack.current.number * mohm,
                "mV",
                "current × resistance",
                "methods 22",
                pack.current,
                sheet(f"power.{key}_mohm", f"{name}: resistance", mohm, "mΩ", part.name),
            )
        )
    return made


def _surge_figures(
    surge: Place[Surge],
    pre: Place[Surge],
    hot: Hot | None,
    pack: PackFigures,
    ambient: Figure,
    capacitance: Figure,
) -> list[Figure]:
    made = []
    if surge.part is not None and hot is not None:
        part = surge.part
        cold = computed(
            "power.surge_cold_ohm",
            "Surge part, cold",
            thermistor_ohm(part, ambient.number),
            "ohm",
            "R25 × exp(B·(1 ÷ T − 1 ÷ 298.15))",
            "methods 23",
            sheet("power.surge_ohm", "At 25 °C", part.ohm, "ohm", part.name),
            ambient,
        )
        steady = sheet("power.surge_a", "Surge part carries", part.steady_a, "A", part.name)
        made += [
            cold,
            steady,
            computed("power.surge_loss_w", "Surge part, hot loss", hot.watts, "W",
                     "current² × hot resistance, where that is what it gives off", "methods 23",
                     pack.current, cold),
            computed("power.surge_hot_c", "Surge part gets", hot.temperature_c, "°C",
                     "where the heat of the load is what it gives off", "methods 23",
                     pack.current, cold),
            computed("power.surge_recovery_s", "Surge part is cold again after",
                     recovery_s(part, hot.temperature_c, ambient.number), "s",
                     "until it is back at 70 % of its cold resistance", "methods 23", cold),
        ]  # fmt: skip
    if pre.part is not None and capacitance.number > 0.0:
        found = precharge(pre.part.ohm, pack.full.number, capacitance.number * 1e-6)
        ohm = sheet("power.precharge_ohm", "Precharge", pre.part.ohm, "Ω", pre.part.name)
        inputs = (pack.full, ohm, capacitance)
        made += [
            computed("power.precharge_peak_a", "Precharge, most current", found.peak_a, "A",
                     "V ÷ R", "methods 23", pack.full, ohm),
            computed("power.precharge_j", "Energy in the precharge", found.energy_j, "J",
                     "½·C·V²", "methods 23", pack.full, capacitance),
            computed("power.precharge_s", "Precharge takes", found.seconds, "s",
                     "5·R·C", "methods 23", ohm, capacitance),
            computed("power.precharge_w", "Precharge, mean power", found.watts, "W",
                     "energy ÷ time", "methods 23", *inputs),
        ]  # fmt: skip
    return made


def _balance_figures(
    project: Project, table: Table, pack: PackFigures, hand: Hand, ambient: Figure
) -> list[Figure]:
    """The balance leads: what a fault drives through two of them, and when they melt."""
    area = typed("balance_leads.area_mm2", "Section of a balance lead",
                 project.balance_leads.area_mm2, "mm²")  # fmt: skip
    length = computed("balance_leads.mean_m", "A balance lead, on average",
                      float(table.tap_mm.mean()) / 1000.0, "m", "mean of all routes",
                      "methods 18", pack.series)  # fmt: skip
    ohm = 2.0 * length.number * 1.724e-8 / (area.number * 1e-6)
    fault = computed(
        "balance_leads.fault_a",
        "Two outer balance leads shorted give",
        pack.full.number / (ohm + table.cells_ohm),
        "A",
        "full voltage ÷ (cells + two balance leads)",
        "methods 22",
        pack.full,
        area,
        length,
    )
    melts = computed(
        "balance_leads.melts_s",
        "They melt after",
        onderdonk_s(area.number, ambient.number, fault.number),
        "s",
        "Onderdonk: (A·√(log10((T_melt − T_a) ÷ (234 + T_a) + 1) ÷ 33) ÷ I)²",
        "methods 22 [7]",
        fault,
        area,
        ambient,
    )
    return [fault, melts]
