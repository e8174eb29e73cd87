"""The pack in hand: which option it is, and every figure of it, by the functions of the search."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from lumvak.core.catalogue import Catalogue, Cell
from lumvak.core.cellmodel import (
    CellTable,
    charge_limit_a,
    minimum_capacity,
    pulse_limit,
    resistance,
)
from lumvak.core.demand import Demand
from lumvak.core.figures import Figure, computed, constant, sheet, typed
from lumvak.core.options import Options
from lumvak.core.project import Pack, Project
from lumvak.core.sizing import (
    NEED_NAMES,
    NEEDS,
    PARALLEL_LIMIT,
    Terms,
    capacity_wanted_ah,
    cell_ohm,
    end_current_a,
    end_ohm,
    heating_k_per_min,
    mean_load,
    parallel_ceiling,
    parallel_needs,
    series_max,
    usable_fraction,
)


@dataclass(frozen=True, slots=True)
class Choice:
    """The option in hand; ``index`` is its place among the options, ``None`` if it is none."""

    cell: Cell
    row: int
    series: int
    parallel: int
    index: int | None


def choose(pack: Pack, options: Options, highest_v: float) -> Choice:
    """The pack that the builder picked; what is not picked follows the best of the ranking."""
    index = options.find(pack.cell, pack.series, pack.parallel)
    if index is not None:
        return Choice(
            options.cell(index),
            int(options.rows[index]),
            int(options.series[index]),
            int(options.parallel[index]),
            index,
        )
    cells = options.table.cells
    row = next((place for place, cell in enumerate(cells) if cell.id == pack.cell), None)
    if row is None:
        near = options.find(None, pack.series, None)
        row = int(options.rows[near]) if near is not None else 0
    cell = cells[row]
    near = options.find(cell.id, pack.series, None)
    if near is None:
        near = options.find(cell.id, None, None)
    series = pack.series or (
        int(options.series[near])
        if near is not None
        else max(1, series_max(highest_v, cell.voltage_full_v))
    )
    parallel = pack.parallel or 0
    return Choice(cell, row, series, parallel, None)


def settle(choice: Choice, table: CellTable, terms: Terms) -> Choice:
    """Give a pack that no option describes a parallel count: what its finite needs ask for."""
    if choice.parallel:
        return choice
    rows, series = np.array([choice.row]), np.array([float(choice.series)])
    count = 1
    for _ in range(4):
        needs = parallel_needs(table, rows, series, np.array([float(count)]), terms)
        finite = [float(needs[name][0]) for name in NEEDS if np.isfinite(needs[name][0])]
        count = min(PARALLEL_LIMIT, max(count, parallel_ceiling(max(finite, default=1.0))))
    return Choice(choice.cell, choice.row, choice.series, count, None)


@dataclass(frozen=True, slots=True)
class PackFigures:
    """The figures of the pack in hand that other topics build on, and all of them by key."""

    series: Figure
    parallel: Figure
    current: Figure
    mean_current: Figure
    full: Figure
    nominal: Figure
    energy: Figure
    cells_limit: Figure
    cells_peak: Figure
    charge_current: Figure
    every: tuple[Figure, ...]
    needs: Mapping[str, Figure]
    binding: str


def pack_figures(
    project: Project,
    catalogue: Catalogue,
    demand: Demand,
    choice: Choice,
    table: CellTable,
    terms: Terms,
    path: Figure,
) -> PackFigures:
    """All figures of the pack in hand (methods 2, 5, 6, 14 and 15).

    ``path`` is the resistance between cells and equipment that sizing counts.
    """
    cell, pack = choice.cell, project.pack
    rows = np.array([choice.row])
    series_n, parallel_n = np.array([float(choice.series)]), np.array([float(choice.parallel)])
    at = (table, rows, series_n, parallel_n, terms)
    chemistry = catalogue.chemistry_of(cell)
    full_cell = sheet("cell.voltage_full_v", "Cell, full", cell.voltage_full_v, "V", cell.name)
    nominal_cell = sheet(
        "cell.voltage_nominal_v", "Cell, nominal", cell.voltage_nominal_v, "V", cell.name
    )
    empty_cell = sheet("cell.voltage_empty_v", "Cell, empty", cell.voltage_empty_v, "V", cell.name)
    typical = sheet(
        "cell.capacity_typical_ah", "Typical capacity", cell.capacity_typical_ah, "Ah", cell.name
    )
    rating = sheet("cell.continuous_a", "Continuous rating", cell.continuous_a, "A", cell.name)
    derating = typed("pack.derating", "Share of the rating", pack.derating, "%")
    end_charge = typed("pack.end_charge", "Charge at the end", pack.end_charge, "%")
    ranking = typed("pack.ranking", "Ranked by", pack.ranking, "")
    most = computed(
        "pack.series_max",
        "Most in series",
        series_max(demand.window.highest.number, cell.voltage_full_v),
        "",
        "⌊survives ÷ full cell⌋, never rounded up",
        "methods 2",
        demand.window.highest,
        full_cell,
    )
    series = Figure(
        "pack.series",
        "In series",
        choice.series,
        "",
        "as picked" if pack.series else "of the option that ranks first",
        "methods 7",
        (most, demand.window.stop, ranking),
        "typed" if pack.series else "computed",
    )
    held = Figure(
        "pack.parallel_in_hand",
        "In parallel, in hand",
        choice.parallel,
        "",
        "as picked" if pack.parallel else "of the option that ranks first",
        "methods 7",
        () if pack.parallel else (ranking,),
        "typed" if pack.parallel else "computed",
    )
    ambient = demand.ambient
    ohm_10s = resistance(cell)
    ohm_half = computed(
        "cell.resistance_steady_ohm",
        "Cell resistance, steady, half charge",
        float(cell_ohm(table, rows, terms)[0]),
        "ohm",
        "10 s resistance × 1.455 for steady current × factor at ambient temperature",
        "methods 4 [4]",
        ohm_10s,
        ambient,
    )
    ohm_end = computed(
        "cell.resistance_end_ohm",
        "Cell resistance, steady, at the end",
        float(end_ohm(table, rows, terms)[0]),
        "ohm",
        "steady resistance × factor at the end charge",
        "methods 4 [4]",
        ohm_half,
        end_charge,
    )
    rest_end = Figure(
        "cell.rest_end_v",
        "Cell at rest at the end",
        float(table.ocv_at(rows, pack.end_charge)[0]),
        "V",
        f"rest voltage curve of {chemistry.name} at the end charge",
        f"methods 4; {chemistry.curve_source}",
        (end_charge,),
        "assumed" if chemistry.curve_assumed else "computed",
    )
    end_current = computed(
        "demand.end_current_a",
        "Continuous current at the end",
        float(end_current_a(*at)[0]),
        "A",
        "the current as given"
        if demand.load.power_w is None
        else "smaller root of P = (E − I·R)·I at the end charge, at most P ÷ stop voltage",
        "methods 3",
        demand.load_figure,
        *(
            ()
            if demand.load.power_w is None
            else (rest_end, ohm_end, series, held, path, demand.window.stop)
        ),
    )
    mean_amps, mean_volts = mean_load(*at)
    mean_voltage = computed(
        "demand.mean_voltage_v",
        "Mean voltage under load",
        float(mean_volts[0]),
        "V",
        "mean rest voltage from full to the end charge − current × mean resistance",
        f"methods 3; {chemistry.curve_source}",
        series,
        held,
        ohm_half,
        path,
        end_charge,
        demand.load_figure,
    )
    mean_current = computed(
        "demand.mean_current_a",
        "Mean current",
        float(mean_amps[0]),
        "A",
        "the current as given"
        if demand.load.power_w is None
        else "power ÷ mean voltage under load",
        "methods 3",
        demand.load_figure,
        *(() if demand.load.power_w is None else (mean_voltage,)),
    )
    usable = computed(
        "pack.usable_fraction",
        "Usable share of the charge",
        float(usable_fraction(*at)[0]),
        "%",
        "1 − charge at which S·(OCV − I_cell·R) − I·R_path falls to the stop voltage, "
        "or the cell to its empty voltage",
        f"methods 5; {chemistry.curve_source}",
        demand.window.stop,
        empty_cell,
        demand.load_figure,
        series,
        held,
        ohm_half,
        path,
    )
    reserve = (
        typed("pack.ageing_reclaimed", "Reserve, reclaimed cells", pack.ageing_reclaimed, "%")
        if cell.origin == "reclaimed"
        else typed("pack.ageing_new", "Reserve, new cells", pack.ageing_new, "%")
    )
    least = minimum_capacity(cell)
    highest_current = demand.highest_current
    needs_now = parallel_needs(*at)
    needs = {
        "capacity": (
            "wanted charge ÷ (least capacity × usable share × reserve)",
            (_wanted(demand, at, mean_current, mean_voltage), least, usable, reserve),
        ),
        "continuous": ("current at the end ÷ (rating × share)", (end_current, rating, derating)),
        "peak": (
            "peak ÷ pulse limit of a cell for its length",
            (demand.peak, pulse_limit(cell, demand.peak_duration)),
        ),
        "charge": (
            "charger current ÷ most charge current of a cell",
            (
                demand.charger_current
                or constant("need.charger_none", "Charger", 0.0, "A", "none given", "methods 6"),
                sheet(
                    "cell.charge_max_a", "Most charge current", charge_limit_a(cell), "A", cell.name
                ),
            ),
        ),
        "sag": (
            "I·S·R_end ÷ (S·OCV_end − stop − I·R_path), with I as drawn at the stop voltage",
            (highest_current, series, ohm_end, rest_end, demand.window.stop, path),
        ),
    }
    need_figures = {
        name: computed(
            f"needs.{name}",
            f"In parallel for {NEED_NAMES[name]}",
            _finite(float(needs_now[name][0])),
            "",
            rule,
            "methods 6",
            *inputs,
        )
        for name, (rule, inputs) in needs.items()
    }
    binding = max(NEEDS, key=lambda name: float(needs_now[name][0]))
    ordered = sorted(NEEDS, key=lambda name: -float(needs_now[name][0]))
    parallel = Figure(
        "pack.parallel",
        "In parallel",
        choice.parallel,
        "",
        f"{'as picked; ' if pack.parallel else ''}largest of the needs, rounded up: "
        f"{NEED_NAMES[binding]} sets it",
        "methods 6",
        tuple(need_figures[name] for name in ordered),
        "typed" if pack.parallel else "computed",
    )
    count = computed(
        "pack.cell_count",
        "Cells",
        choice.series * choice.parallel,
        "",
        "series × parallel",
        "methods 6",
        series,
        parallel,
    )
    full = _times("pack.voltage_full_v", "Full voltage", "V", series, full_cell)
    nominal = _times("pack.voltage_nominal_v", "Nominal voltage", "V", series, nominal_cell)
    empty = _times("pack.voltage_empty_v", "Empty voltage", "V", series, empty_cell)
    capacity = _times("pack.capacity_ah", "Capacity", "Ah", parallel, typical)
    energy = computed(
        "pack.energy_wh",
        "Energy",
        nominal.number * capacity.number,
        "Wh",
        "nominal voltage × capacity",
        "methods 6",
        nominal,
        capacity,
    )
    usable_ah = computed(
        "pack.usable_ah",
        "Charge counted on",
        choice.parallel * least.number * usable.number * reserve.number,
        "Ah",
        "parallel × least capacity × usable share × reserve",
        "methods 6",
        parallel,
        least,
        usable,
        reserve,
    )
    per_cell = computed(
        "pack.current_per_cell_a",
        "Current of a cell",
        end_current.number / choice.parallel,
        "A",
        "current at the end ÷ parallel",
        "methods 6",
        end_current,
        parallel,
    )
    limit = computed(
        "cells.limit_a",
        "Cells carry",
        choice.parallel * cell.continuous_a * pack.derating,
        "A",
        "parallel × continuous rating × share of it",
        "methods 6",
        parallel,
        rating,
        derating,
    )
    pulse = pulse_limit(cell, demand.peak_duration)
    cells_peak = computed(
        "cells.peak_limit_a",
        "Cells carry for the peak",
        choice.parallel * pulse.number,
        "A",
        "parallel × pulse limit",
        "methods 6",
        parallel,
        pulse,
    )
    headroom = computed(
        "pack.headroom",
        "Headroom of the cells",
        limit.number / end_current.number - 1.0,
        "%",
        "what the cells carry ÷ current at the end − 1",
        "methods 6",
        limit,
        end_current,
    )
    runtime = computed(
        "pack.runtime_h",
        "Run time",
        usable_ah.number / mean_current.number,
        "h",
        "charge counted on ÷ mean current",
        "methods 3",
        usable_ah,
        mean_current,
    )
    end_volts = computed(
        "pack.end_voltage_v",
        "Under load at the end charge",
        choice.series * rest_end.number
        - end_current.number * (choice.series * ohm_end.number / choice.parallel + path.number),
        "V",
        "S·OCV_end − I·(S·R_end ÷ P + R_path)",
        "methods 5",
        series,
        rest_end,
        end_current,
        ohm_end,
        parallel,
        path,
    )
    sag = computed(
        "pack.sag_v",
        "Sag at half charge",
        mean_current.number * (choice.series * ohm_half.number / choice.parallel + path.number),
        "V",
        "I·(S·R ÷ P + R_path)",
        "methods 5",
        mean_current,
        series,
        ohm_half,
        parallel,
        path,
    )
    mass_cell = sheet("cell.mass_g", "Mass of a cell", cell.mass_g, "g", cell.name)
    mass = computed(
        "pack.mass_kg",
        "Mass of the cells",
        count.number * cell.mass_g / 1000.0,
        "kg",
        "cells × mass; joints, board and case come on top",
        "methods 7",
        count,
        mass_cell,
    )
    price = sheet("cell.price", "Price of a cell", cell.price, "money", cell.name)
    cost = _times("pack.cost", "Cost of the cells", "money", count, price)
    heating = computed(
        "pack.heating_k_min",
        "Warming without cooling",
        float(heating_k_per_min(table, rows, parallel_n, np.array([end_current.number]), terms)[0]),
        "K/min",
        "60·I_cell²·R ÷ (mass × 950 J/(kg·K))",
        "methods 14",
        per_cell,
        ohm_half,
        mass_cell,
    )
    charge_v, charge_a = _charging(pack, demand, cell, series, parallel, full_cell)
    return PackFigures(
        series=series,
        parallel=parallel,
        current=end_current,
        mean_current=mean_current,
        full=full,
        nominal=nominal,
        energy=energy,
        cells_limit=limit,
        cells_peak=cells_peak,
        charge_current=charge_a,
        every=(
            series, parallel, full, nominal, empty, capacity, energy, count, mass, cost, per_cell,
            headroom, usable, usable_ah, runtime, end_volts, sag, heating, charge_v, charge_a,
            limit, cells_peak, mean_voltage, mean_current,
        ),
        needs=need_figures,
        binding=binding,
    )  # fmt: skip


def _finite(value: float) -> float | None:
    return value if np.isfinite(value) else None


def _times(key: str, label: str, unit: str, count: Figure, each: Figure) -> Figure:
    return computed(
        key,
        label,
        round(count.number * each.number, 9),
        unit,
        f"{count.label.lower()} × {each.label.lower()}",
        "methods 6",
        count,
        each,
    )


def _wanted(
    demand: Demand,
    at: tuple[CellTable, np.ndarray, np.ndarray, np.ndarray, Terms],
    mean_current: Figure,
    mean_voltage: Figure,
) -> Figure:
    endurance = demand.endurance
    if endurance is None:
        return constant("demand.capacity_ah", "Wanted charge", 0.0, "Ah", "left open", "methods 3")
    value = float(capacity_wanted_ah(*at)[0])
    key, label = "demand.capacity_ah", "Wanted charge"
    if endurance.unit == "h":
        rule, inputs = "run time × mean current", (endurance, mean_current)
    elif endurance.unit == "Ah":
        return computed(key, label, value, "Ah", "as wanted", "methods 3", endurance)
    else:
        rule, inputs = "energy ÷ mean voltage under load", (endurance, mean_voltage)
    return computed(key, label, value, "Ah", rule, "methods 3", *inputs)


def _charging(
    pack: Pack,
    demand: Demand,
    cell: Cell,
    series: Figure,
    parallel: Figure,
    full_cell: Figure,
) -> tuple[Figure, Figure]:
    ceiling = (
        typed("pack.ceiling_v", "Charge ceiling per cell", pack.ceiling_v, "V")
        if pack.ceiling_v is not None
        else full_cell
    )
    voltage = _times("charge.voltage_v", "Charge voltage", "V", series, ceiling)
    standard = sheet(
        "cell.charge_standard_a",
        "Standard charge current",
        cell.charge_standard_a,
        "A",
        cell.name,
    )
    by_cells = parallel.number * cell.charge_standard_a
    charger = demand.charger_current
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
    return voltage, current
