"""The power path: what a short circuit gives, every part judged for its place, what opens first."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cached_property

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.bms.settings import SettingRow, board_as_set, settings_of
from lumvak.core.bms.verdicts import BoardSetting, BoardVerdict
from lumvak.core.catalogue.boards import Board
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.power_parts import Connector, Fuse, Surge, Switch
from lumvak.core.conductors.lead_wire import LeadWire, WireLoad, lead_wire
from lumvak.core.conductors.thermistor import Hot, hot_state
from lumvak.core.document.need import Kind
from lumvak.core.document.power import Leads, PowerParts, Start
from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.network_figures import NetworkFigures
from lumvak.core.need.load_over_time import Draw
from lumvak.core.power.as_specified import (
    or_connector_as_specified,
    or_fuse_as_specified,
)
from lumvak.core.power.at_rest import Shelf
from lumvak.core.power.connectors import ContactSetting, connector_place, switch_place
from lumvak.core.power.figures import (
    ShortCircuit,
    board_figures,
    charge_fuse_figures,
    contact_figures,
    fuse_figures,
    surge_figures,
)
from lumvak.core.power.fuses import FuseSetting, fuse_curves, fuse_place, with_band
from lumvak.core.power.guarded_wire import guarded_wire
from lumvak.core.power.motor_start import StartCase, StartRun, start_case, start_run
from lumvak.core.power.opening_order import Curve, Pair, pairs_of, unguarded
from lumvak.core.power.place import JudgedPart, Place
from lumvak.core.power.surge import SurgeSetting, precharge_place, spark_figure, thermistor_place
from lumvak.core.said import Text, phrase
from lumvak.core.time_current import TIMES_S

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
CAPACITANCE_UF = Rule("power.capacitance_uf", "Capacitors of the controller", "µF", "{}",
                      "methods 23")
EFFECTIVE_OHM = Rule("network.effective_ohm", "Cells alone, evenly shared", "ohm",
                     "S·R ÷ P; the joints are not solved", "methods 19")
# fmt: on

# Capacitors of a vehicle's controller where nobody gave them, for each ampere it draws.
CONTROLLER_UF_PER_A = 25.0


class Power(Struct, frozen=True, eq=False, dict=True):
    """Everything between the joints and the equipment, judged, with its curves and figures.

    ``made`` is the board as it is made, ``board`` as its settings make it.
    """

    draw: Draw
    made: Board | None
    board: Board | None
    settings: tuple[SettingRow, ...]
    fuse: Place[Fuse]
    fuse_asked: FuseSetting
    fuse_hold: Figure | None
    charge_fuse: Place[Fuse]
    charge_fuse_asked: FuseSetting
    charge_fuse_hold: Figure | None
    connector: Place[Connector]
    switch: Place[Switch]
    surge: Place[Surge]
    precharge: Place[Surge]
    charge_wire: LeadWire
    charge_current: Figure
    short_a: Figure
    short_least_a: Figure
    short_cell_v: Figure
    capacitance: Figure
    spark: Figure
    hot: Hot | None
    curves: tuple[Curve, ...]
    unguarded: tuple[Text, ...]
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
        if self.start is None or not self.start.known:
            return None
        case = self.start
        if pull == "slow":
            case = replace(case, pull_s=self.slow_s)
        if not with_surge:
            return start_run(replace(case, surge=None))
        part = self.surge_tried
        return None if part is None else start_run(replace(case, surge=part.part))

    @property
    def surge_tried(self) -> JudgedPart[Surge] | None:
        """The surge part in force, else the one that would be recommended."""
        if self.surge.chosen is not None:
            return self.surge.chosen
        return next((item for item in self.surge.found if item.serves), None) or next(
            iter(self.surge.found), None
        )


def inner_resistance(
    network: NetworkFigures | None,
    joined_pack: JoinedPack,
    cell_ohm: Figure,
    series: Figure,
    parallel: Figure,
) -> Figure:
    """What lies inside the pack, cells and joints, as a figure (methods 19)."""
    if network is not None:
        return network.effective_ohm
    return EFFECTIVE_OHM.of(joined_pack.cells_ohm, cell_ohm, series, parallel)


class SetBoard(Struct, frozen=True, eq=False):
    """The board in force: as it is ``made``, and as its settings make it; ``None`` is none."""

    made: Board | None
    board: Board | None
    settings: tuple[SettingRow, ...]
    figures: tuple[Figure, ...]


def set_board(
    verdict: BoardVerdict | None,
    setting: BoardSetting,
    ceiling_v: float | None,
    current: Figure,
    parallel: Figure,
) -> SetBoard:
    """The board in force as its settings make it, with its figures (methods 12)."""
    if verdict is None:
        return SetBoard(None, None, (), ())
    rows = settings_of(verdict.board, setting, ceiling_v)
    made = board_as_set(verdict.board, rows)
    return SetBoard(
        verdict.board, made, rows, tuple(board_figures(made, current, parallel, setting.cell))
    )


class MainFuse(Struct, frozen=True, eq=False):
    """The main fuse, judged for its place, by what is ``asked`` of it; ``hold`` is what it
    carries for good.
    """

    place: Place[Fuse]
    asked: FuseSetting
    hold: Figure | None
    figures: tuple[Figure, ...]


def main_fuse(
    fuses: Sequence[Fuse],
    wanted: PowerParts,
    draw: Draw,
    wire: LeadWire,
    full_v: float,
    short_a: float,
    least_short_a: float,
    ambient: Figure,
    current: Figure,
) -> MainFuse:
    """The main fuse for the load, the leads and the short circuit (methods 22).

    The ``fuses`` come by rating, then by price.
    """
    setting = FuseSetting(
        draw.continuous_a,
        draw.curve,
        harm_a=wire.harm_a,
        full_v=full_v,
        short_a=short_a,
        least_short_a=least_short_a,
        ambient_c=ambient.number,
        wire=phrase("the main leads, {}", wire.name),
    )
    offered = with_band(fuses, wanted.fuse, wanted.fuse_band)
    place = or_fuse_as_specified(fuse_place(offered, wanted.fuse, setting), setting, wanted.fuse)
    hold, figures = fuse_figures(place, ambient, current, fuses)
    return MainFuse(place, setting, hold, figures)


class Contacts(Struct, frozen=True, eq=False):
    """Connector and switch, judged for their places."""

    connector: Place[Connector]
    switch: Place[Switch]
    figures: tuple[Figure, ...]


def contacts(
    connectors: Sequence[Connector],
    switches: Sequence[Switch],
    wanted_connector: str | None,
    wanted_switch: str | None,
    draw: Draw,
    full: Figure,
    current: Figure,
    fuse: Fuse | None,
    short_a: float,
    ambient: Figure,
) -> Contacts:
    """Connector and switch for the load, and for what ``fuse`` lets pass (methods 22).

    Both come the cheapest first.
    """
    passed = np.zeros(TIMES_S.shape)
    if fuse is not None:
        passed = np.minimum(fuse_curves(fuse, ambient.number)[1], short_a)
    setting = ContactSetting(draw.continuous_a, draw.curve, full.number, passed)
    connector = or_connector_as_specified(
        connector_place(connectors, wanted_connector, setting), setting, wanted_connector
    )
    switch = switch_place(switches, wanted_switch, setting)
    return Contacts(connector, switch, tuple(contact_figures(connector, switch, current)))


class ChargePath(Struct, frozen=True, eq=False):
    """What flows while charging, through which leads and which fuse."""

    current: Figure
    wire: LeadWire
    fuse: Place[Fuse]
    asked: FuseSetting
    fuse_figures: tuple[Figure, ...]


def charge_path(
    parts: Catalogue,
    leads: Leads,
    wanted_fuse: str | None,
    current: Figure,
    duration: Figure,
    full_v: float,
    short_a: float,
    least_short_a: float,
    ambient: Figure,
) -> ChargePath:
    """Leads and fuse of the charge path; ``current`` is what flows through them."""
    part = parts.wires.get(leads.wire or "")
    load = WireLoad(current, current, duration)
    drawn_a = np.full(TIMES_S.shape, current.number)
    guarded = guarded_wire(
        leads,
        parts.rising_fuses,
        wanted=wanted_fuse,
        load=load,
        drawn_a=drawn_a,
        full_v=full_v,
        ambient=ambient,
        short_a=short_a,
        least_a=lambda _: least_short_a,
        key="charge_leads",
    )
    wire = lead_wire(leads, load, ambient, part, "charge_leads", guarded)
    setting = FuseSetting(
        current.number,
        drawn_a,
        harm_a=wire.harm_a,
        full_v=full_v,
        short_a=short_a,
        least_short_a=least_short_a,
        ambient_c=ambient.number,
        wire=phrase("the charge leads, {}", wire.name),
    )
    fuse = or_fuse_as_specified(
        fuse_place(parts.rising_fuses, wanted_fuse, setting), setting, wanted_fuse
    )
    return ChargePath(current, wire, fuse, setting, charge_fuse_figures(fuse, ambient))


class Surges(Struct, frozen=True, eq=False):
    """What limits the first rush: thermistor, precharge, the spark and the start of the motor."""

    thermistor: Place[Surge]
    precharge: Place[Surge]
    hot: Hot | None
    capacitance: Figure
    spark: Figure
    start: StartCase | None
    figures: tuple[Figure, ...]


def surges(
    parts: Mapping[str, Surge],
    wanted: PowerParts,
    raw: Draw,
    kind: Kind,
    controller_limit_a: float | None,
    start: Start,
    board: Board | None,
    connector: Connector | None,
    full: Figure,
    current: Figure,
    ambient: Figure,
    inner: Figure,
    wire_ohm: Figure,
) -> Surges:
    """What limits the first rush (methods 23).

    ``raw`` is the draw as if nothing did, ``inner`` what lies inside the pack, ``wire_ohm`` both
    main leads. It is long, for it names every step of the work.
    """
    full_v = full.number
    capacitance = controller_capacitance(kind, wanted.capacitance_uf, raw)
    farad = capacitance.number * 1e-6
    setting = SurgeSetting(
        raw,
        current.number,
        emf_v=full_v,
        ambient_c=ambient.number,
        pause_s=start.pause_s,
        capacitance_f=farad,
        board=board,
    )
    thermistor = thermistor_place(parts.values(), wanted.surge, setting)
    pre = precharge_place(parts.values(), wanted.precharge, setting)
    hot = None
    if thermistor.part is not None:
        hot = hot_state(thermistor.part, current.number, ambient.number)
    soft = pre.part is not None or _softly(connector)
    spark = spark_figure(soft, capacitance, full)
    limit = controller_limit_a if kind == "vehicle" else None
    ohm = inner.number + wire_ohm.number
    case = start_case(
        limit,
        start,
        draw=raw,
        full_v=full_v,
        ohm=ohm,
        board=board,
        surge=thermistor.part,
        ambient=ambient,
    )
    return Surges(
        thermistor,
        pre,
        hot=hot,
        capacitance=capacitance,
        spark=spark,
        start=case,
        figures=(
            spark,
            *surge_figures(
                thermistor,
                pre,
                hot=hot,
                full=full,
                current=current,
                ambient=ambient,
                capacitance=capacitance,
            ),
        ),
    )


def power_path(
    draw: Draw,
    board: SetBoard,
    fuse: MainFuse,
    contact: Contacts,
    charge: ChargePath,
    surge: Surges,
    wire: LeadWire,
    short: ShortCircuit,
    curves: tuple[Curve, ...],
    shelf: Shelf,
    slow_s: float,
    capacity: Figure,
) -> Power:
    """The whole power path from its parts."""
    return Power(
        draw=draw,
        made=board.made,
        board=board.board,
        settings=board.settings,
        fuse=fuse.place,
        fuse_asked=fuse.asked,
        fuse_hold=fuse.hold,
        charge_fuse=charge.fuse,
        charge_fuse_asked=charge.asked,
        charge_fuse_hold=next(iter(charge.fuse_figures), None),
        connector=contact.connector,
        switch=contact.switch,
        surge=surge.thermistor,
        precharge=surge.precharge,
        charge_wire=charge.wire,
        charge_current=charge.current,
        short_a=short.most,
        short_least_a=short.least,
        short_cell_v=short.cell_v,
        capacitance=surge.capacitance,
        spark=surge.spark,
        hot=surge.hot,
        curves=curves,
        unguarded=unguarded(curves, short.most.number, capacity.number),
        shelf=shelf,
        start=surge.start,
        slow_s=slow_s,
        figures=(
            short.most,
            short.least,
            short.cell_v,
            surge.capacitance,
            charge.current,
            *wire.figures,
            *charge.wire.figures,
            *shelf.figures,
            *board.figures,
            *fuse.figures,
            *charge.fuse_figures,
            *contact.figures,
            *surge.figures,
        ),
    )


def _softly(connector: Connector | None) -> bool:
    return connector is not None and connector.anti_spark_ohm is not None


def controller_capacitance(kind: Kind, said_uf: float | None, draw: Draw) -> Figure:
    """Capacitors that spark when the pack is plugged in: typed, or usual for a controller."""
    vehicle = kind == "vehicle"
    return CAPACITANCE_UF.said_or(
        said_uf,
        CONTROLLER_UF_PER_A * draw.peak_a if vehicle else 0.0,
        rule="25 µF for each ampere it draws at its peak" if vehicle else "none: no controller",
    )
