"""Every figure of the pack in hand, by the same functions as the search over all options."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.sheet_curves import ROOM_C
from lumvak.core.cells.behaviour_figures import (
    counted_capacity,
    entropy_figure,
    lag_figure,
    ten_second_resistance,
)
from lumvak.core.cells.cell_model import charge_limit_a, pulse_limit
from lumvak.core.figures.figure import Figure, Rule, computed, product, sheet
from lumvak.core.said import digits, phrase
from lumvak.core.sizing.counts import NEED_NAMES, NEEDS, series_max
from lumvak.core.sizing.sized_pack import CellFigures, LoadFigures, SizedPack
from lumvak.core.sizing.totals import endurance_figures, totals, under_load, wanted_charge
from lumvak.core.sizing.usable import PackWarmth
from lumvak.core.sizing.warmth_figures import WarmthFigures, warmth_figures

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
CHARGER_CURRENT_A = Rule("need.charger_current_a", "Charger current", "A", "none given",
                         "methods 6")
COLD_TIMES = Rule("cell.cold_times", "Factor of the cold", "", "resistance there ÷ that at 25 °C",
                  "methods 4 [2]")
END_TIMES = Rule("cell.end_times", "Factor at the end charge", "",
                 "resistance there ÷ that at half charge", "methods 4 [2]")
NOMINAL_CURRENT_A = Rule("demand.nominal_current_a", "Current at the nominal voltage", "A",
                         "power ÷ nominal voltage", "methods 3")
STEADY_TIMES = Rule("cell.steady_times", "Steady over 10 s", "",
                    "resistance once everything in the cell has settled ÷ that after 10 s, of "
                    "its curves or as its family", "methods 4 [2]")
MEAN_TIMES = Rule("cell.mean_times", "Mean over the charge", "",
                  "mean resistance from full to the end charge, and what the lag takes off, ÷ "
                  "that at half charge", "methods 4 [2]")
NEED_COUNT = Rule("needs.{}", "For {}", "", "{}", "methods 6")
RESISTANCE_END_OHM = Rule("cell.resistance_end_ohm", "Cell resistance, steady, at the end", "ohm",
                          "steady resistance × factor at the end charge", "methods 4 [2]")
RESISTANCE_MEAN_OHM = Rule("cell.resistance_mean_ohm", "Cell resistance, mean over the charge",
                           "ohm", "steady resistance × mean over the charge", "methods 4 [2]")
SERIES_MAX = Rule("pack.series_max", "Most in series", "",
                  "⌊maximum voltage ÷ full cell⌋, never rounded up", "methods 2")
SERIES = Rule("pack.series", "In series", "", "{}", "methods 7")
PARALLEL_IN_HAND = Rule("pack.parallel_in_hand", "In parallel", "", "{}", "methods 7")
RESISTANCE_STEADY_OHM = Rule("cell.resistance_steady_ohm", "Cell resistance, steady, half charge",
                             "ohm",
                             "resistance after 10 s × steady over that × factor of the cold, as "
                             "warm as the cells are by the end of a run there", "methods 4 [2]")
MEAN_CURRENT_A = Rule("demand.mean_current_a", "Mean current", "A", "{}", "methods 3")
COLD_END_C = Rule("heat.cold_end_c", "Cells at the end, at the coldest", "°C",
                  "coldest + what the run warms by the time three quarters of the charge are "
                  "out; no credit over 25 °C", "methods 6")
PARALLEL = Rule("pack.parallel", "In parallel", "", "{}", "methods 6")
END_CURRENT_A = Rule("demand.end_current_a", "Continuous current at the end", "A", "{}",
                     "methods 3")
# fmt: on


class PackFigures(Struct, frozen=True):
    """The figures of the pack in hand that other topics build on, and all of them.

    ``cooling`` is the thermal resistance to the air, ``time_constant`` that of its warmth.
    """

    series: Figure
    parallel: Figure
    series_max: Figure
    current: Figure
    at_nominal: Figure | None
    full: Figure
    full_cell: Figure
    nominal: Figure
    capacity: Figure
    usable: Figure
    usable_ah: Figure
    runtime: Figure
    headroom: Figure
    cells_limit: Figure
    cells_peak: Figure
    cell_ohm: Figure
    resistance: Figure
    strips_at: Figure
    cooling: Figure
    time_constant: Figure
    every: tuple[Figure, ...]
    warm: tuple[Figure, ...]
    needs: Mapping[str, Figure]
    binding: str
    warmth: PackWarmth


def pack_figures(sized_pack: SizedPack) -> PackFigures:
    """All figures of the pack in hand (methods 2, 5, 6, 14 and 15).

    It is long, for it lists figures one after the other, each made from those above it.
    """
    cell = _cell(sized_pack)
    most, series, held = _counts(sized_pack, cell)
    load = _load(sized_pack, cell, series, held)
    usable = _usable(sized_pack, cell, series, held)
    warm = warmth_figures(sized_pack, cell, load, series, held, usable)
    needs, binding = _needs(
        sized_pack, cell, load=load, series=series, usable=usable, held=held, warm=warm
    )
    parallel = PARALLEL.of(
        sized_pack.choice.parallel,
        *tuple(needs.values()),
        origin="typed" if sized_pack.pack.parallel else "computed",
        rule=phrase(
            "as picked; largest of the needs, rounded up: {} sets it"
            if sized_pack.pack.parallel
            else "largest of the needs, rounded up: {} sets it",
            NEED_NAMES[binding],
        ),
    )
    full = product("pack.voltage_full_v", "Full voltage", "V", series, cell.full)
    nominal = product(
        "pack.voltage_nominal_v",
        "Nominal voltage",
        "V",
        series,
        sized_pack.from_sheet("voltage_nominal_v", "Cell, nominal", "V"),
    )
    drawn = _at_nominal(sized_pack, nominal)
    limit = product(
        "cells.limit_a",
        "Cells carry",
        "A",
        parallel,
        cell.rating,
        sized_pack.setting("derating", "Derating", "%"),
    )
    peak = product("cells.peak_limit_a", "Cells carry for the peak", "A", parallel, cell.pulse)
    whole = totals(sized_pack, series, parallel, nominal, cell)
    lasts = endurance_figures(sized_pack, cell, load, parallel, usable, limit)
    return PackFigures(
        series=series,
        parallel=parallel,
        series_max=most,
        current=load.end_current,
        at_nominal=drawn,
        full=full,
        full_cell=cell.full,
        nominal=nominal,
        capacity=whole.capacity,
        usable=usable,
        usable_ah=lasts.usable_ah,
        runtime=lasts.runtime,
        headroom=lasts.headroom,
        strips_at=warm.strips_at,
        cells_limit=limit,
        cells_peak=peak,
        cell_ohm=cell.ohm_half,
        resistance=cell.resistance,
        cooling=warm.cooling,
        time_constant=warm.time_constant,
        every=(
            series,
            parallel,
            full,
            limit,
            peak,
            *whole.every,
            *under_load(sized_pack, cell, load, series, parallel),
            *lasts.every,
            *(() if drawn is None else (drawn,)),
        ),
        warm=warm.every,
        needs=needs,
        binding=binding,
        warmth=warm.warmth,
    )


def _at_nominal(sized_pack: SizedPack, nominal: Figure) -> Figure | None:
    """What a power load draws at the nominal voltage; ``None`` where the load is a current."""
    load = sized_pack.demand.load
    if load.power_w is None:
        return None
    return NOMINAL_CURRENT_A.of(
        float(load.at(nominal.number)), sized_pack.demand.load_figure, nominal
    )


def _cell(sized_pack: SizedPack) -> CellFigures:
    """It is long, for it lists figures one after the other, each made from those above it."""
    cell, pack = sized_pack.choice.cell, sized_pack.pack
    chemistry = sized_pack.catalogue.chemistry_of(cell)
    packs = sized_pack.packs
    end_charge = sized_pack.setting("end_charge", "Minimum state of charge", "%")
    seen = sized_pack.behaviour
    ten_seconds = ten_second_resistance(cell, seen)
    steady, half_ohm = seen.steady_ohm, float(packs.cell_ohm[0])
    over_ten_s = STEADY_TIMES.of(steady / ten_seconds.number, ten_seconds)
    in_the_cold = COLD_TIMES.of(half_ohm / steady, _cold_end(sized_pack))
    at_the_end = END_TIMES.of(float(packs.end_ohm[0]) / half_ohm, end_charge)
    half = RESISTANCE_STEADY_OHM.of(float(packs.cell_ohm[0]), ten_seconds, over_ten_s, in_the_cold)
    lag = lag_figure(cell, chemistry, seen)
    over_the_charge = MEAN_TIMES.of(float(packs.mean_ohm[0]) / half_ohm, end_charge, lag)
    end = RESISTANCE_END_OHM.of(float(packs.end_ohm[0]), half, at_the_end)
    mean = RESISTANCE_MEAN_OHM.of(float(packs.mean_ohm[0]), half, over_the_charge)
    rest = Figure(
        "cell.rest_end_v",
        "OCV of a cell at the end",
        value=float(packs.table.ocv_at(packs.rows, pack.end_charge)[0]),
        unit="V",
        rule=phrase("OCV curve of {} at the end charge", chemistry.name),
        source=phrase("methods 4; {}", chemistry.curve_source),
        inputs=(end_charge,),
        origin="assumed" if chemistry.curve_assumed else "computed",
    )
    reserve = (
        sized_pack.setting("ageing_reclaimed", "Usable after ageing, reclaimed cells", "%")
        if cell.origin == "reclaimed"
        else sized_pack.setting("ageing_new", "Usable after ageing, new cells", "%")
    )
    return CellFigures(
        full=sized_pack.from_sheet("voltage_full_v", "Cell, full", "V"),
        empty=sized_pack.from_sheet("voltage_empty_v", "Cell, empty", "V"),
        rating=sized_pack.from_sheet("continuous_a", "Continuous rating", "A"),
        least=counted_capacity(cell, seen),
        pulse=pulse_limit(cell, sized_pack.demand.peak_duration),
        resistance=ten_seconds,
        ohm_half=half,
        ohm_end=end,
        ohm_mean=mean,
        lag=lag,
        entropy=entropy_figure(chemistry, seen),
        rest_end=rest,
        reserve=reserve,
    )


def _cold_end(sized_pack: SizedPack) -> Figure:
    """How warm the cells are by the end of a run at the coldest."""
    rise_k = float(sized_pack.packs.cold_rise_k[0])
    return COLD_END_C.of(
        min(
            sized_pack.demand.coldest.number + rise_k, max(ROOM_C, sized_pack.demand.coldest.number)
        ),
        sized_pack.demand.coldest,
        sized_pack.demand.load_figure,
    )


class _Counts(NamedTuple):
    """The most in series, and the counts in force."""

    most: Figure
    series: Figure
    parallel: Figure


def _counts(sized_pack: SizedPack, cell: CellFigures) -> _Counts:
    window, pack = sized_pack.demand.window, sized_pack.pack
    ranking = sized_pack.setting("ranking", "Ranked by", "")
    most = SERIES_MAX.of(
        series_max(window.highest.number, cell.full.number), window.highest, cell.full
    )
    series = SERIES.of(
        sized_pack.choice.series,
        most,
        window.stop,
        ranking,
        origin="typed" if pack.series else "computed",
        rule="as picked" if pack.series else "of the option that ranks first",
    )
    held = PARALLEL_IN_HAND.of(
        sized_pack.choice.parallel,
        *(() if pack.parallel else (ranking,)),
        origin="typed" if pack.parallel else "computed",
        rule="as picked" if pack.parallel else "of the option that ranks first",
    )
    return _Counts(most, series, held)


def _load(sized_pack: SizedPack, cell: CellFigures, series: Figure, held: Figure) -> LoadFigures:
    demand = sized_pack.demand
    power = demand.load.power_w is not None
    amps, volts = sized_pack.worked.mean_current_a, sized_pack.worked.mean_voltage_v
    chemistry = sized_pack.catalogue.chemistry_of(sized_pack.choice.cell)
    end = END_CURRENT_A.of(
        float(sized_pack.worked.end_current_a[0]),
        demand.load_figure,
        *(
            (cell.rest_end, cell.ohm_end, series, held, sized_pack.path, demand.window.stop)
            if power
            else ()
        ),
        rule="smaller root of P = (E − I·R)·I at the end charge, at most P ÷ low-voltage cut-off"
        if power
        else "the current as given",
    )
    voltage = computed(
        "demand.mean_voltage_v",
        "Mean voltage under load",
        float(volts[0]),
        "V",
        "mean OCV from full to the end charge − current × mean resistance",
        phrase("methods 3; {}", chemistry.curve_source),
        demand.load_figure,
        series,
        held,
        cell.ohm_mean,
        sized_pack.path,
        sized_pack.setting("end_charge", "Minimum state of charge", "%"),
    )
    rule = "power ÷ mean voltage under load" if power else "the current as given"
    current = MEAN_CURRENT_A.of(
        float(amps[0]) * demand.mean_share,
        demand.load_figure,
        *((voltage,) if power else ()),
        rule=rule
        if not demand.duty
        else phrase("{} × {}, mean over heat of the duty", rule, digits(demand.mean_share, ".4g")),
    )
    return LoadFigures(end, current, voltage)


def _usable(sized_pack: SizedPack, cell: CellFigures, series: Figure, held: Figure) -> Figure:
    chemistry = sized_pack.catalogue.chemistry_of(sized_pack.choice.cell)
    return computed(
        "pack.usable_fraction",
        "Usable share of the charge",
        float(sized_pack.worked.usable[0]),
        "%",
        "1 − charge of the surface at which S·(OCV − I_cell·R) − I·R_path falls to the stop "
        "voltage, or the cell to its empty voltage, − its lag × I ÷ usable charge after ageing",
        phrase("methods 5; {}", chemistry.curve_source),
        sized_pack.demand.window.stop,
        cell.empty,
        sized_pack.demand.load_figure,
        series,
        held,
        cell.ohm_half,
        cell.lag,
        sized_pack.path,
    )


class _Needs(NamedTuple):
    """What each need asks for, and the one that asks for most."""

    figures: dict[str, Figure]
    binding: str


def _needs(
    sized_pack: SizedPack,
    cell: CellFigures,
    load: LoadFigures,
    series: Figure,
    usable: Figure,
    held: Figure,
    warm: WarmthFigures,
) -> _Needs:
    """It is long, for it lists figures one after the other, each made from those above it."""
    demand = sized_pack.demand
    charger = demand.charger_current or CHARGER_CURRENT_A.of(0.0, origin="constant")
    most_charge = sheet(
        "cell.charge_limit_a",
        "Most charge current",
        charge_limit_a(sized_pack.choice.cell),
        "A",
        sized_pack.choice.cell.name,
    )
    made: dict[str, tuple[str, tuple[Figure, ...]]] = {
        "capacity": (
            "wanted charge ÷ (least capacity × usable share × reserve)",
            (wanted_charge(sized_pack, load), cell.least, usable, cell.reserve),
        ),
        "continuous": (
            "current at the end ÷ (rating × share)",
            (
                load.end_current,
                cell.rating,
                sized_pack.setting("derating", "Derating", "%"),
            ),
        ),
        "peak": ("peak ÷ pulse limit of a cell for its length", (demand.peak, cell.pulse)),
        "charge": ("charger current ÷ most charge current of a cell", (charger, most_charge)),
        "sag": (
            "S·(I·R + (peak − I)·R_peak) ÷ (S·OCV − stop − peak·R_path), at the charge down to "
            "which the peak is held; each cell over its empty voltage too",
            (
                demand.peak,
                demand.peak_duration,
                demand.load_figure,
                series,
                cell.ohm_half,
                cell.empty,
                sized_pack.setting("peak_charge", "Peak held down to", "%"),
                demand.window.stop,
                sized_pack.path,
                sized_pack.peak_leads,
            ),
        ),
        "temperature": (
            "parallel × rise at the end ÷ (limit − ambient)",
            (
                held,
                warm.rise_end,
                sized_pack.setting("temperature_limit_c", "Max. cell temperature", "°C"),
                demand.ambient,
            ),
        ),
    }
    values = {name: float(column[0]) for name, column in sized_pack.worked.needs.items()}
    ordered = sorted(NEEDS, key=lambda name: -values[name])
    figures = {
        name: NEED_COUNT.of(
            values[name] if np.isfinite(values[name]) else None,
            *made[name][1],
            key=name,
            label=NEED_NAMES[name],
            rule=made[name][0],
        )
        for name in ordered
    }
    return _Needs(figures, ordered[0])
