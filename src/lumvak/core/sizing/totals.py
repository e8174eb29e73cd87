"""What the pack in hand adds up to: size, endurance, behaviour under load."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from lumvak.core.figures.figure import Figure, Rule, computed, constant, product, sheet
from lumvak.core.sizing.sized_pack import CellFigures, LoadFigures, SizedPack
from lumvak.core.sizing.usable import heating_k_per_min

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
CELL_COUNT = Rule("pack.cell_count", "Cells", "", "series × parallel", "methods 6")
MASS_KG = Rule("pack.mass_kg", "Mass of the cells", "kg",
               "cells × mass; joints, BMS and case come on top", "methods 7")
VOLUME_L = Rule("pack.volume_l", "Volume of the cells", "l",
                "cells × the box around one; gaps, BMS and case come on top", "methods 7")
WH_PER_KG = Rule("cell.wh_per_kg", "Energy for its mass", "Wh/kg",
                 "energy of a cell ÷ its mass", "methods 7")
PRICE_PER_WH = Rule("cell.price_per_wh", "Cost for its energy", "money/Wh",
                    "cost of a cell ÷ its energy", "methods 7")
CURRENT_PER_CELL_A = Rule("pack.current_per_cell_a", "Current of a cell", "A",
                          "current at the end ÷ parallel", "methods 6")
RUNTIME_H = Rule("pack.runtime_h", "Run time", "h",
                 "usable charge after ageing ÷ mean current", "methods 3")
HEADROOM = Rule("pack.headroom", "Margin of the cells", "%",
                "what the cells carry ÷ current at the end − 1", "methods 6")
HEATING_K_MIN = Rule("pack.heating_k_min", "Warming without cooling", "K/min",
                     "60·(I_cell²·R + reversible heat) ÷ (mass × 950 J/(kg·K)), R mean over "
                     "the charge", "methods 14")
SAG_V = Rule("pack.sag_v", "Sag at half charge", "V", "I·(S·R ÷ P + R_path)", "methods 5")
END_VOLTAGE_V = Rule("pack.end_voltage_v", "Under load at the end charge", "V",
                     "S·OCV_end − I·(S·R_end ÷ P + R_path)", "methods 5")
# fmt: on


def wanted_charge(sized_pack: SizedPack, load: LoadFigures) -> Figure:
    """The charge that the wanted endurance takes (methods 3)."""
    key, label = "demand.capacity_ah", "Wanted charge"
    endurance = sized_pack.demand.endurance
    if endurance is None:
        return constant(key, label, 0.0, "Ah", "left open", "methods 3")
    rule, inputs = {
        "h": ("run time × mean current", (endurance, load.mean_current)),
        "Ah": ("as wanted", (endurance,)),
        "Wh": ("energy ÷ mean voltage under load", (endurance, load.mean_voltage)),
    }[endurance.unit]
    value = float(sized_pack.worked.wanted_ah[0])
    return computed(key, label, value, "Ah", rule, "methods 3", *inputs)


class Totals(Struct, frozen=True):
    """What a pack adds up to, as figures."""

    capacity: Figure
    every: tuple[Figure, ...]


class Endurance(Struct, frozen=True):
    """How long a pack lasts, as figures."""

    usable_ah: Figure
    runtime: Figure
    headroom: Figure
    every: tuple[Figure, ...]


def totals(
    sized_pack: SizedPack, series: Figure, parallel: Figure, nominal: Figure, cell: CellFigures
) -> Totals:
    """Voltages, capacity, energy, cells, mass and cost (methods 6 and 7).

    It is long, for it lists figures one after the other, each made from those above it.
    """
    count = CELL_COUNT.of(sized_pack.choice.series * sized_pack.choice.parallel, series, parallel)
    typical = sized_pack.from_sheet("capacity_typical_ah", "Typical capacity", "Ah")
    capacity = product("pack.capacity_ah", "Capacity", "Ah", parallel, typical)
    mass_each = sized_pack.from_sheet("mass_g", "Mass of a cell", "g")
    mass = MASS_KG.of(round(count.number * mass_each.number / 1000.0, 9), count, mass_each)
    cell_volume = sheet(
        "cell.volume_cm3",
        "Box around a cell",
        sized_pack.choice.cell.volume_cm3,
        "cm³",
        sized_pack.choice.cell.name,
    )
    volume = VOLUME_L.of(round(count.number * cell_volume.number / 1000.0, 9), count, cell_volume)
    price = sized_pack.from_sheet("price", "Cost of a cell", "money")
    each_wh = product(
        "cell.energy_wh",
        "Energy of a cell",
        "Wh",
        typical,
        sized_pack.from_sheet("voltage_nominal_v", "Cell, nominal", "V"),
    )
    every = (
        nominal,
        WH_PER_KG.of(1000.0 * each_wh.number / mass_each.number, each_wh, mass_each),
        PRICE_PER_WH.of(price.number / each_wh.number, price, each_wh),
        product("pack.voltage_empty_v", "Empty voltage", "V", series, cell.empty),
        capacity,
        product("pack.energy_wh", "Energy", "Wh", nominal, capacity),
        count,
        mass,
        volume,
        product("pack.cost", "Cost of the cells", "money", count, price),
    )
    return Totals(capacity, every)


def under_load(
    sized_pack: SizedPack, cell: CellFigures, load: LoadFigures, series: Figure, parallel: Figure
) -> tuple[Figure, ...]:
    """Current of a cell, voltage at the end, sag and warming rate (methods 5, 6 and 14)."""
    count, beside = series.number / parallel.number, sized_pack.path.number
    end_ohms = cell.ohm_end.number * count + beside
    per_cell = CURRENT_PER_CELL_A.of(
        load.end_current.number / parallel.number, load.end_current, parallel
    )
    end_volts = END_VOLTAGE_V.of(
        series.number * cell.rest_end.number - load.end_current.number * end_ohms,
        series,
        cell.rest_end,
        load.end_current,
        cell.ohm_end,
        parallel,
        sized_pack.path,
    )
    sag = SAG_V.of(
        load.mean_current.number * (cell.ohm_half.number * count + beside),
        load.mean_current,
        series,
        cell.ohm_half,
        parallel,
        sized_pack.path,
    )
    current = np.array([load.end_current.number])
    heating = HEATING_K_MIN.of(
        float(heating_k_per_min(sized_pack.packs, current)[0]),
        per_cell,
        cell.ohm_mean,
        cell.entropy,
        sized_pack.from_sheet("mass_g", "Mass of a cell", "g"),
    )
    return per_cell, end_volts, sag, heating


def endurance_figures(
    sized_pack: SizedPack,
    cell: CellFigures,
    load: LoadFigures,
    parallel: Figure,
    usable: Figure,
    limit: Figure,
) -> Endurance:
    """Usable share, charge counted on, run time and headroom (methods 3 and 6)."""
    counted = product(
        "pack.usable_ah",
        "Usable charge after ageing",
        "Ah",
        parallel,
        cell.least,
        usable,
        cell.reserve,
    )
    each = product("cell.delivered_ah", "Charge a cell gives", "Ah", cell.least, usable)
    runtime = RUNTIME_H.of(counted.number / load.mean_current.number, counted, load.mean_current)
    headroom = HEADROOM.of(limit.number / load.end_current.number - 1.0, limit, load.end_current)
    every = (usable, counted, each, runtime, headroom, load.mean_voltage)
    return Endurance(counted, runtime, headroom, every)
