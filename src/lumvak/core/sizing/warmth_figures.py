"""How warm the pack in hand gets, as figures."""

from __future__ import annotations

import math

from msgspec import Struct

from lumvak.core.figures.figure import Figure, computed, constant
from lumvak.core.sizing.sized_pack import CellFigures, LoadFigures, SizedPack
from lumvak.core.sizing.totals import wanted_charge
from lumvak.core.sizing.usable import Warmth


class WarmthFigures(Struct, frozen=True):
    """How warm a pack gets, as figures."""

    warmth: Warmth
    cooling: Figure
    time_constant: Figure
    rise_end: Figure
    strips_at: Figure
    every: tuple[Figure, ...]


def _cooling(sized_pack: SizedPack, warm: Warmth, series: Figure, held: Figure) -> Figure:
    """The thermal resistance of the pack in hand to the air (methods 14)."""
    enclosure = sized_pack.setting("enclosure", "Around the pack", "")
    film = constant(
        "constant.film_w_per_m2_k",
        "Film coefficient",
        sized_pack.terms.film_w_per_m2_k,
        "W/(m²·K)",
        "5 closed in, 10 in still air, 25 in moving air",
        "methods 14",
    )
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
    return computed(
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
    heat = computed(
        "heat.power_w",
        "Heat in the pack",
        float(warm.heat_w[0]),
        "W",
        "load² × (S·R ÷ P + series joints), R mean over the charge and with the cells half as much "
        "warmer as at the end, at most 25 °C; and the reversible heat, S·I·T × rest voltage by "
        "temperature",
        "methods 14",
        sized_pack.demand.load_figure if sized_pack.demand.duty else load.mean_current,
        series,
        held,
        cell.ohm_mean,
        cell.entropy,
        sized_pack.path,
    )
    cooling = _cooling(sized_pack, warm, series, held)
    constant_h = computed(
        "heat.time_constant_h",
        "Thermal time constant",
        float(warm.lump.time_constant_s[0]) / 3600.0,
        "h",
        "thermal resistance × weight × 950 J/(kg·K)",
        "methods 14",
        cooling,
        series,
        held,
        sized_pack.from_sheet("mass_g", "Weight of a cell", "g"),
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
    duty = wanted_charge(sized_pack, load) if sized_pack.demand.endurance is not None else usable
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
        sized_pack.demand.ambient.number + end.number,
        "°C",
        "ambient + rise at the end",
        "methods 14",
        sized_pack.demand.ambient,
        end,
    )
    strips = computed(
        "heat.strips_at_c",
        "Cells as the strips count them",
        float(math.ceil(warmest.number - 1e-9)),
        "°C",
        "cells at the end of the duty, up to a whole degree",
        "methods 9",
        warmest,
    )
    every = (heat, cooling, constant_h, steady, warmest, end, strips)
    return WarmthFigures(warm, cooling, constant_h, end, strips, every)
