"""How warm the pack in hand gets, as figures."""

from __future__ import annotations

import math

from msgspec import Struct

from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.sizing.sized_pack import CellFigures, LoadFigures, SizedPack
from lumvak.core.sizing.totals import wanted_charge
from lumvak.core.sizing.usable import PackWarmth

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
FILM_W_PER_M2_K = Rule("constant.film_w_per_m2_k", "Film coefficient", "W/(m²·K)",
                       "5 closed in, 10 in still air, 25 in moving air", "methods 14")
STRIPS_AT_C = Rule("heat.strips_at_c", "Cells as the strips count them", "°C",
                   "cells at the end of the duty, up to a whole degree", "methods 9")
RISE_STEADY_K = Rule("heat.rise_steady_k", "Rise if the duty never ended", "K",
                     "heat × thermal resistance", "methods 14")
TEMPERATURE_END_C = Rule("heat.temperature_end_c", "Cells at the end of the duty", "°C",
                         "ambient + rise at the end", "methods 14")
TIME_CONSTANT_H = Rule("heat.time_constant_h", "Thermal time constant", "h",
                       "thermal resistance × mass × 950 J/(kg·K)", "methods 14")
RISE_END_K = Rule("heat.rise_end_k", "Rise at the end of the duty", "K",
                  "steady rise × (1 − exp(−duration ÷ time constant))", "methods 14")
RESISTANCE_K_PER_W = Rule("heat.resistance_k_per_w", "Thermal resistance to the air", "K/W",
                          "1 ÷ (film coefficient × outer area of a flat square block of the cells)",
                          "methods 14")
POWER_W = Rule("heat.power_w", "Heat in the pack", "W",
               "load² × (S·R ÷ P + series connections), R mean over the charge and with the cells "
               "half as much warmer as at the end, at most 25 °C; and the reversible heat, S·I·T "
               "× OCV by temperature", "methods 14")
# fmt: on


class WarmthFigures(Struct, frozen=True):
    """How warm a pack gets, as figures."""

    warmth: PackWarmth
    cooling: Figure
    time_constant: Figure
    rise_end: Figure
    strips_at: Figure
    every: tuple[Figure, ...]


def _cooling(sized_pack: SizedPack, warm: PackWarmth, series: Figure, held: Figure) -> Figure:
    """The thermal resistance of the pack in hand to the air (methods 14)."""
    enclosure = sized_pack.setting("enclosure", "Cooling", "")
    film = FILM_W_PER_M2_K.of(sized_pack.terms.film_w_per_m2_k, origin="constant")
    size = tuple(
        sized_pack.from_sheet(field, label, "mm")
        for field, label in (
            ("diameter_mm", "Diameter"),
            ("width_mm", "Width"),
            ("thickness_mm", "Thickness"),
            ("height_mm", "Height"),
        )
        if getattr(sized_pack.choice.cell, field) is not None
    )
    return RESISTANCE_K_PER_W.of(
        float(warm.lump.kelvin_per_watt[0]), enclosure, film, series, held, *size
    )


def warmth_figures(
    sized_pack: SizedPack,
    cell: CellFigures,
    load: LoadFigures,
    series: Figure,
    held: Figure,
    usable: Figure,
) -> WarmthFigures:
    """Warmth of the pack in hand, and its figures (methods 14).

    It is long, for it lists figures one after the other, each made from those above it.
    """
    warm = sized_pack.worked.warmth
    heat = POWER_W.of(
        float(warm.heat_w[0]),
        sized_pack.demand.load_figure if sized_pack.demand.duty else load.mean_current,
        series,
        held,
        cell.ohm_mean,
        cell.entropy,
        sized_pack.path,
    )
    cooling = _cooling(sized_pack, warm, series, held)
    constant_h = TIME_CONSTANT_H.of(
        float(warm.lump.time_constant_s[0]) / 3600.0,
        cooling,
        series,
        held,
        sized_pack.from_sheet("mass_g", "Mass of a cell", "g"),
    )
    steady = RISE_STEADY_K.of(float(warm.rise_steady_k[0]), heat, cooling)
    duty = wanted_charge(sized_pack, load) if sized_pack.demand.endurance is not None else usable
    end = RISE_END_K.of(float(warm.rise_end_k[0]), steady, constant_h, duty, load.mean_current)
    warmest = TEMPERATURE_END_C.of(
        sized_pack.demand.ambient.number + end.number, sized_pack.demand.ambient, end
    )
    strips = STRIPS_AT_C.of(float(math.ceil(warmest.number - 1e-9)), warmest)
    every = (heat, cooling, constant_h, steady, warmest, end, strips)
    return WarmthFigures(warm, cooling, constant_h, end, strips, every)
