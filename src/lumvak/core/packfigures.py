"""Every figure of the pack in hand, by the same functions as the search over all options."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from lumvak.core.catalogue import Catalogue
from lumvak.core.cellmodel import (
    CellTable,
    charge_limit_a,
    minimum_capacity,
    pulse_limit,
    resistance,
)
from lumvak.core.demand import Demand
from lumvak.core.figures import Figure, computed, constant, sheet, typed
from lumvak.core.pack import Choice
from lumvak.core.project import Pack
from lumvak.core.sizing import (
    NEED_NAMES,
    NEEDS,
    Array,
    Rows,
    Terms,
    capacity_wanted_ah,
    cell_ohm,
    duty_charge_ah,
    end_current_a,
    end_ohm,
    heating_k_per_min,
    largest_need,
    mean_load,
    parallel_needs,
    series_max,
    usable_fraction,
    warmth,
)

EASED_CHARGE = 0.10


@dataclass(frozen=True, slots=True)
class Hand:
    """The pack in hand with all that its figures are made from."""

    pack: Pack
    catalogue: Catalogue
    demand: Demand
    choice: Choice
    table: CellTable
    terms: Terms
    path: Figure

    @property
    def at(self) -> tuple[CellTable, Rows, Array, Array, Terms]:
        """What the functions of sizing take, as arrays of one pack."""
        return (
            self.table,
            np.array([self.choice.row]),
            np.array([float(self.choice.series)]),
            np.array([float(self.choice.parallel)]),
            self.terms,
        )

    def from_sheet(self, field: str, label: str, unit: str) -> Figure:
        """A value of the cell's data sheet as a figure."""
        cell = self.choice.cell
        return sheet(f"cell.{field}", label, getattr(cell, field), unit, cell.name)

    def setting(self, field: str, label: str, unit: str) -> Figure:
        """A setting of the pack as a figure."""
        return typed(f"pack.{field}", label, getattr(self.pack, field), unit)


@dataclass(frozen=True, slots=True)
class CellFigures:
    """The figures of one cell that those of the pack build on."""

    full: Figure
    empty: Figure
    rating: Figure
    least: Figure
    pulse: Figure
    ohm_half: Figure
    ohm_end: Figure
    rest_end: Figure
    reserve: Figure


@dataclass(frozen=True, slots=True)
class LoadFigures:
    """The load on the pack in hand: at the end, on the mean, and the mean voltage under it."""

    end_current: Figure
    mean_current: Figure
    mean_voltage: Figure


@dataclass(frozen=True, slots=True)
class PackFigures:
    """The figures of the pack in hand that other topics build on, and all of them."""

    series: Figure
    parallel: Figure
    current: Figure
    full: Figure
    nominal: Figure
    cells_limit: Figure
    cells_peak: Figure
    every: tuple[Figure, ...]
    needs: Mapping[str, Figure]
    binding: str
    eased_need: float


def pack_figures(hand: Hand) -> PackFigures:
    """All figures of the pack in hand (methods 2, 5, 6, 14 and 15)."""
    cell = _cell(hand)
    series, held = _counts(hand, cell)
    load = _load(hand, cell, series, held)
    usable = _usable(hand, cell, series, held)
    warm = _warmth(hand, cell, load, series, held, usable)
    needs, binding = _needs(hand, cell, load, series, usable, held, warm)
    parallel = Figure(
        "pack.parallel",
        "In parallel",
        hand.choice.parallel,
        "",
        f"{'as picked; ' if hand.pack.parallel else ''}largest of the needs, rounded up: "
        f"{NEED_NAMES[binding]} sets it",
        "methods 6",
        tuple(needs.values()),
        "typed" if hand.pack.parallel else "computed",
    )
    full = _product("pack.voltage_full_v", "Full voltage", "V", series, cell.full)
    nominal = _product(
        "pack.voltage_nominal_v",
        "Nominal voltage",
        "V",
        series,
        hand.from_sheet("voltage_nominal_v", "Cell, nominal", "V"),
    )
    limit = _product(
        "cells.limit_a", "Cells carry", "A", parallel, cell.rating,
        hand.setting("derating", "Share of the rating", "%"),
    )  # fmt: skip
    peak = _product("cells.peak_limit_a", "Cells carry for the peak", "A", parallel, cell.pulse)
    return PackFigures(
        series=series,
        parallel=parallel,
        current=load.end_current,
        full=full,
        nominal=nominal,
        cells_limit=limit,
        cells_peak=peak,
        every=(
            series,
            parallel,
            full,
            limit,
            peak,
            *_totals(hand, series, parallel, nominal, cell),
            *_under_load(hand, cell, load, series, parallel),
            *_endurance(hand, cell, load, parallel, usable, limit),
            *_charging(hand, series, parallel, cell.full),
            *warm,
        ),
        needs=needs,
        binding=binding,
        eased_need=_eased_need(hand),
    )


def _eased_need(hand: Hand) -> float:
    """What the needs would be, were the stop voltage allowed to come at 10 % charge."""
    table, rows, series, parallel, terms = hand.at
    eased = replace(terms, end_charge=max(EASED_CHARGE, terms.end_charge))
    return float(largest_need(parallel_needs(table, rows, series, parallel, eased))[0])


def _cell(hand: Hand) -> CellFigures:
    cell, pack = hand.choice.cell, hand.pack
    chemistry = hand.catalogue.chemistry_of(cell)
    table, rows, _, _, terms = hand.at
    end_charge = hand.setting("end_charge", "Charge at the end", "%")
    half = computed(
        "cell.resistance_steady_ohm",
        "Cell resistance, steady, half charge",
        float(cell_ohm(table, rows, terms)[0]),
        "ohm",
        "10 s resistance × 1.455 for steady current × factor at ambient temperature",
        "methods 4 [2]",
        resistance(cell),
        hand.demand.ambient,
    )
    end = computed(
        "cell.resistance_end_ohm",
        "Cell resistance, steady, at the end",
        float(end_ohm(table, rows, terms)[0]),
        "ohm",
        "steady resistance × factor at the end charge",
        "methods 4 [2]",
        half,
        end_charge,
    )
    rest = Figure(
        "cell.rest_end_v",
        "Cell at rest at the end",
        float(table.ocv_at(rows, pack.end_charge)[0]),
        "V",
        f"rest voltage curve of {chemistry.name} at the end charge",
        f"methods 4; {chemistry.curve_source}",
        (end_charge,),
        "assumed" if chemistry.curve_assumed else "computed",
    )
    reserve = (
        hand.setting("ageing_reclaimed", "Reserve, reclaimed cells", "%")
        if cell.origin == "reclaimed"
        else hand.setting("ageing_new", "Reserve, new cells", "%")
    )
    return CellFigures(
        full=hand.from_sheet("voltage_full_v", "Cell, full", "V"),
        empty=hand.from_sheet("voltage_empty_v", "Cell, empty", "V"),
        rating=hand.from_sheet("continuous_a", "Continuous rating", "A"),
        least=minimum_capacity(cell),
        pulse=pulse_limit(cell, hand.demand.peak_duration),
        ohm_half=half,
        ohm_end=end,
        rest_end=rest,
        reserve=reserve,
    )


def _counts(hand: Hand, cell: CellFigures) -> tuple[Figure, Figure]:
    window, pack = hand.demand.window, hand.pack
    ranking = hand.setting("ranking", "Ranked by", "")
    most = computed(
        "pack.series_max",
        "Most in series",
        series_max(window.highest.number, cell.full.number),
        "",
        "⌊survives ÷ full cell⌋, never rounded up",
        "methods 2",
        window.highest,
        cell.full,
    )
    series = Figure(
        "pack.series",
        "In series",
        hand.choice.series,
        "",
        "as picked" if pack.series else "of the option that ranks first",
        "methods 7",
        (most, window.stop, ranking),
        "typed" if pack.series else "computed",
    )
    held = Figure(
        "pack.parallel_in_hand",
        "In parallel, in hand",
        hand.choice.parallel,
        "",
        "as picked" if pack.parallel else "of the option that ranks first",
        "methods 7",
        () if pack.parallel else (ranking,),
        "typed" if pack.parallel else "computed",
    )
    return series, held


def _load(hand: Hand, cell: CellFigures, series: Figure, held: Figure) -> LoadFigures:
    demand = hand.demand
    power = demand.load.power_w is not None
    amps, volts = mean_load(*hand.at)
    chemistry = hand.catalogue.chemistry_of(hand.choice.cell)
    end = computed(
        "demand.end_current_a",
        "Continuous current at the end",
        float(end_current_a(*hand.at)[0]),
        "A",
        "smaller root of P = (E − I·R)·I at the end charge, at most P ÷ stop voltage"
        if power
        else "the current as given",
        "methods 3",
        demand.load_figure,
        *(
            (cell.rest_end, cell.ohm_end, series, held, hand.path, demand.window.stop)
            if power
            else ()
        ),
    )
    voltage = computed(
        "demand.mean_voltage_v",
        "Mean voltage under load",
        float(volts[0]),
        "V",
        "mean rest voltage from full to the end charge − current × mean resistance",
        f"methods 3; {chemistry.curve_source}",
        demand.load_figure,
        series,
        held,
        cell.ohm_half,
        hand.path,
        hand.setting("end_charge", "Charge at the end", "%"),
    )
    rule = "power ÷ mean voltage under load" if power else "the current as given"
    current = computed(
        "demand.mean_current_a",
        "Mean current",
        float(amps[0]) * demand.mean_share,
        "A",
        rule
        if not demand.duty
        else f"{rule} × {demand.mean_share:.4g}, mean over heat of the duty",
        "methods 3",
        demand.load_figure,
        *((voltage,) if power else ()),
    )
    return LoadFigures(end, current, voltage)


def _usable(hand: Hand, cell: CellFigures, series: Figure, held: Figure) -> Figure:
    chemistry = hand.catalogue.chemistry_of(hand.choice.cell)
    return computed(
        "pack.usable_fraction",
        "Usable share of the charge",
        float(usable_fraction(*hand.at)[0]),
        "%",
        "1 − charge at which S·(OCV − I_cell·R) − I·R_path falls to the stop voltage, "
        "or the cell to its empty voltage",
        f"methods 5; {chemistry.curve_source}",
        hand.demand.window.stop,
        cell.empty,
        hand.demand.load_figure,
        series,
        held,
        cell.ohm_half,
        hand.path,
    )


def _wanted(hand: Hand, load: LoadFigures) -> Figure:
    key, label = "demand.capacity_ah", "Wanted charge"
    endurance = hand.demand.endurance
    if endurance is None:
        return constant(key, label, 0.0, "Ah", "left open", "methods 3")
    rule, inputs = {
        "h": ("run time × mean current", (endurance, load.mean_current)),
        "Ah": ("as wanted", (endurance,)),
        "Wh": ("energy ÷ mean voltage under load", (endurance, load.mean_voltage)),
    }[endurance.unit]
    value = float(capacity_wanted_ah(*hand.at)[0])
    return computed(key, label, value, "Ah", rule, "methods 3", *inputs)


def _needs(
    hand: Hand,
    cell: CellFigures,
    load: LoadFigures,
    series: Figure,
    usable: Figure,
    held: Figure,
    warm: tuple[Figure, ...],
) -> tuple[dict[str, Figure], str]:
    demand = hand.demand
    charger = demand.charger_current or constant(
        "need.charger_current_a", "Charger current", 0.0, "A", "none given", "methods 6"
    )
    most_charge = sheet(
        "cell.charge_limit_a",
        "Most charge current",
        charge_limit_a(hand.choice.cell),
        "A",
        hand.choice.cell.name,
    )
    made: dict[str, tuple[str, tuple[Figure, ...]]] = {
        "capacity": (
            "wanted charge ÷ (least capacity × usable share × reserve)",
            (_wanted(hand, load), cell.least, usable, cell.reserve),
        ),
        "continuous": (
            "current at the end ÷ (rating × share)",
            (load.end_current, cell.rating, hand.setting("derating", "Share of the rating", "%")),
        ),
        "peak": ("peak ÷ pulse limit of a cell for its length", (demand.peak, cell.pulse)),
        "charge": ("charger current ÷ most charge current of a cell", (charger, most_charge)),
        "sag": (
            "I·S·R_end ÷ (S·OCV_end − stop − I·R_path), with I as drawn at the stop voltage",
            (
                demand.highest_current,
                series,
                cell.ohm_end,
                cell.rest_end,
                demand.window.stop,
                hand.path,
            ),
        ),
        "temperature": (
            "parallel × rise at the end ÷ (limit − ambient)",
            (
                held,
                warm[-1],
                hand.setting("temperature_limit_c", "Cells no warmer than", "°C"),
                demand.ambient,
            ),
        ),
    }
    values = {name: float(column[0]) for name, column in parallel_needs(*hand.at).items()}
    ordered = sorted(NEEDS, key=lambda name: -values[name])
    figures = {
        name: computed(
            f"needs.{name}",
            f"For {NEED_NAMES[name]}",
            values[name] if np.isfinite(values[name]) else None,
            "",
            made[name][0],
            "methods 6",
            *made[name][1],
        )
        for name in ordered
    }
    return figures, ordered[0]


def _totals(
    hand: Hand, series: Figure, parallel: Figure, nominal: Figure, cell: CellFigures
) -> tuple[Figure, ...]:
    count = computed(
        "pack.cell_count",
        "Cells",
        hand.choice.series * hand.choice.parallel,
        "",
        "series × parallel",
        "methods 6",
        series,
        parallel,
    )
    typical = hand.from_sheet("capacity_typical_ah", "Typical capacity", "Ah")
    capacity = _product("pack.capacity_ah", "Capacity", "Ah", parallel, typical)
    mass_each = hand.from_sheet("mass_g", "Mass of a cell", "g")
    mass = computed(
        "pack.mass_kg",
        "Mass of the cells",
        round(count.number * mass_each.number / 1000.0, 9),
        "kg",
        "cells × mass; joints, board and case come on top",
        "methods 7",
        count,
        mass_each,
    )
    price = hand.from_sheet("price", "Price of a cell", "money")
    return (
        nominal,
        _product("pack.voltage_empty_v", "Empty voltage", "V", series, cell.empty),
        capacity,
        _product("pack.energy_wh", "Energy", "Wh", nominal, capacity),
        count,
        mass,
        _product("pack.cost", "Cost of the cells", "money", count, price),
    )


def _under_load(
    hand: Hand, cell: CellFigures, load: LoadFigures, series: Figure, parallel: Figure
) -> tuple[Figure, ...]:
    count, beside = series.number / parallel.number, hand.path.number
    end_ohms = cell.ohm_end.number * count + beside
    per_cell = computed(
        "pack.current_per_cell_a",
        "Current of a cell",
        load.end_current.number / parallel.number,
        "A",
        "current at the end ÷ parallel",
        "methods 6",
        load.end_current,
        parallel,
    )
    end_volts = computed(
        "pack.end_voltage_v",
        "Under load at the end charge",
        series.number * cell.rest_end.number - load.end_current.number * end_ohms,
        "V",
        "S·OCV_end − I·(S·R_end ÷ P + R_path)",
        "methods 5",
        series,
        cell.rest_end,
        load.end_current,
        cell.ohm_end,
        parallel,
        hand.path,
    )
    sag = computed(
        "pack.sag_v",
        "Sag at half charge",
        load.mean_current.number * (cell.ohm_half.number * count + beside),
        "V",
        "I·(S·R ÷ P + R_path)",
        "methods 5",
        load.mean_current,
        series,
        cell.ohm_half,
        parallel,
        hand.path,
    )
    table, rows, _, parallel_n, terms = hand.at
    current = np.array([load.end_current.number])
    heating = computed(
        "pack.heating_k_min",
        "Warming without cooling",
        float(heating_k_per_min(table, rows, parallel_n, current, terms)[0]),
        "K/min",
        "60·I_cell²·R ÷ (mass × 950 J/(kg·K))",
        "methods 14",
        per_cell,
        cell.ohm_half,
        hand.from_sheet("mass_g", "Mass of a cell", "g"),
    )
    return per_cell, end_volts, sag, heating


def _endurance(
    hand: Hand,
    cell: CellFigures,
    load: LoadFigures,
    parallel: Figure,
    usable: Figure,
    limit: Figure,
) -> tuple[Figure, ...]:
    counted = _product(
        "pack.usable_ah", "Charge counted on", "Ah", parallel, cell.least, usable, cell.reserve
    )
    runtime = computed(
        "pack.runtime_h",
        "Run time",
        counted.number / load.mean_current.number,
        "h",
        "charge counted on ÷ mean current",
        "methods 3",
        counted,
        load.mean_current,
    )
    headroom = computed(
        "pack.headroom",
        "Headroom of the cells",
        limit.number / load.end_current.number - 1.0,
        "%",
        "what the cells carry ÷ current at the end − 1",
        "methods 6",
        limit,
        load.end_current,
    )
    return usable, counted, runtime, headroom, load.mean_voltage


def _warmth(
    hand: Hand,
    cell: CellFigures,
    load: LoadFigures,
    series: Figure,
    held: Figure,
    usable: Figure,
) -> tuple[Figure, ...]:
    """Heat, area and rises of the pack in hand; the rise at the end of the duty comes last."""
    table, rows, _, parallel, terms = hand.at
    taken = duty_charge_ah(
        table, rows, parallel, terms, capacity_wanted_ah(*hand.at), np.array([usable.number])
    )
    warm = warmth(*hand.at, taken)
    heat = computed(
        "heat.power_w",
        "Heat in the pack",
        float(warm.heat_w[0]),
        "W",
        "load² × (S·R ÷ P at half charge + series joints)",
        "methods 14",
        hand.demand.load_figure if hand.demand.duty else load.mean_current,
        series,
        held,
        cell.ohm_half,
        hand.path,
    )
    enclosure = hand.setting("enclosure", "Around the pack", "")
    film = constant(
        "constant.film_w_per_m2_k",
        "Film coefficient",
        hand.terms.film_w_per_m2_k,
        "W/(m²·K)",
        "5 closed in, 10 in still air, 25 in moving air",
        "methods 14",
    )
    size = tuple(
        hand.from_sheet(field, label, "mm")
        for field, label in (
            ("diameter_mm", "Diameter"),
            ("width_mm", "Width"),
            ("thickness_mm", "Thickness"),
            ("height_mm", "Height"),
        )
        if getattr(hand.choice.cell, field) is not None
    )
    cooling = computed(
        "heat.resistance_k_per_w",
        "Thermal resistance to the air",
        float(warm.lump.kelvin_per_watt[0]),
        "K/W",
        "1 ÷ (film coefficient × outer area of a flat square block of the cells)",
        "methods 14",
        enclosure,
        film,
        series,
        held,
        *size,
    )
    constant_h = computed(
        "heat.time_constant_h",
        "Thermal time constant",
        float(warm.lump.time_constant_s[0]) / 3600.0,
        "h",
        "thermal resistance × mass × 950 J/(kg·K)",
        "methods 14",
        cooling,
        series,
        held,
        hand.from_sheet("mass_g", "Mass of a cell", "g"),
    )
    steady = computed(
        "heat.rise_steady_k",
        "Rise if the duty never ended",
        float(warm.rise_steady_k[0]),
        "K",
        "heat × thermal resistance",
        "methods 14",
        heat,
        cooling,
    )
    duty = _wanted(hand, load) if hand.demand.endurance is not None else usable
    end = computed(
        "heat.rise_end_k",
        "Rise at the end of the duty",
        float(warm.rise_end_k[0]),
        "K",
        "steady rise × (1 − exp(−duration ÷ time constant))",
        "methods 14",
        steady,
        constant_h,
        duty,
        load.mean_current,
    )
    warmest = computed(
        "heat.temperature_end_c",
        "Cells at the end of the duty",
        hand.demand.ambient.number + end.number,
        "°C",
        "ambient + rise at the end",
        "methods 14",
        hand.demand.ambient,
        end,
    )
    return heat, cooling, constant_h, steady, warmest, end


def _charging(
    hand: Hand, series: Figure, parallel: Figure, full_cell: Figure
) -> tuple[Figure, Figure]:
    pack, charger = hand.pack, hand.demand.charger_current
    ceiling = (
        hand.setting("ceiling_v", "Charge ceiling per cell", "V")
        if pack.ceiling_v is not None
        else full_cell
    )
    standard = hand.from_sheet("charge_standard_a", "Standard charge current", "A")
    by_cells = parallel.number * standard.number
    current = computed(
        "charge.current_a",
        "Charge current",
        by_cells if charger is None else min(by_cells, charger.number),
        "A",
        "parallel × standard charge current"
        + ("" if charger is None else ", at most what the charger gives"),
        "methods 15",
        parallel,
        standard,
        *(() if charger is None else (charger,)),
    )
    voltage = _product("charge.voltage_v", "Charge voltage", "V", series, ceiling)
    return replace(voltage, source="methods 15"), current


def _product(key: str, label: str, unit: str, *parts: Figure) -> Figure:
    """The product of figures as a figure; float noise past the ninth decimal is dropped."""
    value = round(float(np.prod([part.number for part in parts])), 9)
    rule = " × ".join(part.label.lower() for part in parts)
    return computed(key, label, value, unit, rule, "methods 6", *parts)
