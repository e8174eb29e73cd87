"""The power path: what a short circuit gives, every part judged for its place, what opens first."""

from __future__ import annotations

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
from lumvak.core.figures import Figure, computed, said_or, typed
from lumvak.core.fuses import (
    FuseSetting,
    fuse_place,
    with_band,
)
from lumvak.core.hand import Hand
from lumvak.core.judged import Judged, Place
from lumvak.core.leads import LeadWire, lead_wire
from lumvak.core.order import Curve, Pair, pairs_of
from lumvak.core.packfigures import PackFigures
from lumvak.core.path import JointResult
from lumvak.core.powercurves import Source, curves_of
from lumvak.core.powerfigures import (
    balance_figures,
    board_figures,
    board_ohm,
    charge_fuse_figures,
    contact_figures,
    fuse_figures,
    surge_figures,
)
from lumvak.core.powerparts import Connector, Fuse, Surge, Switch
from lumvak.core.project import Project
from lumvak.core.protection import BoardSetting, Verdict
from lumvak.core.shelf import Shelf, shelf_of
from lumvak.core.starting import StartCase, StartRun, start_run
from lumvak.core.surge import (
    Hot,
    SurgeSetting,
    hot_state,
    precharge_place,
    thermistor_place,
)
from lumvak.core.table import Table
from lumvak.core.timecurves import TIMES_S

# Capacitors of a vehicle's controller where nobody gave them, for each ampere it draws.
CONTROLLER_UF_PER_A = 25.0


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
        *board_figures(made, pack, hand),
        *fuse_figures(fuse, ambient, pack.current, catalogue),
        *charge_fuse_figures(charge_fuse, ambient),
        *contact_figures(connector, switch, pack),
        *surge_figures(surge, pre, hot, pack, ambient, capacitance),
        *balance_figures(project, table, pack, hand, ambient),
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
        inputs.append(board_ohm(board))
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
    inner = next(item.number for item in short.inputs if item.key == "network.effective_ohm")
    source = inner + wire.ohm.number + (0.0 if board is None else board.resistance_ohm)
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
