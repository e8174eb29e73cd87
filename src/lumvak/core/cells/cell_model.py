"""The cell: rest voltage, resistance, and what stands in for what a sheet omits."""

from __future__ import annotations

from bisect import bisect_right
from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.boards import Family
from lumvak.core.catalogue.cells import Cell
from lumvak.core.figures.figure import Figure, Rule, assumed, computed, sheet
from lumvak.core.said import phrase

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
CAPACITY_MIN_AH = Rule("cell.capacity_min_ah", "Least capacity", "Ah",
                       "97 % of the typical capacity; the sheet gives no least one", "methods 4")
# fmt: on

Array = NDArray[np.float64]
# Resistance after 10 s against charge, relative to half charge; methods 4, [2].
CHARGE_POINTS = (0.05, 0.10, 0.20, 0.30, 0.50, 0.70, 0.90)
CHARGE_FACTORS = (2.81, 1.96, 1.35, 1.20, 1.00, 0.965, 0.859)
# Resistance after 10 s against temperature, relative to 25 degC; methods 4, [2].
TEMPERATURE_POINTS_C = (-10.0, 0.0, 10.0, 25.0, 40.0)
TEMPERATURE_FACTORS = (2.51, 1.96, 1.51, 1.00, 0.697)
# Resistance against time as R0 + R1 (1 - exp(-t/tau)), fitted to 1, 10 and 30 s; methods 4, [2].
TIME_CONSTANT_S = 17.5
FAST_SHARE = 0.650
SLOW_SHARE = 0.805
# Lag against temperature: the factor of the resistance to this power (methods 4).
LAG_EXPONENT = 1.4
# The lag settles with a time constant of so many times itself.
LAG_SETTLES = 0.6
# Reach against temperature, likewise.
REACH_EXPONENT = 2.0
# How sharply the share of the electrode that takes part falls off.
REACH_POWER = 10.0
DC_OVER_AC = 1.5
TYPICAL_OHM_AH = 0.099
MINIMUM_OVER_TYPICAL = 0.97
SPECIFIC_HEAT_J_PER_KG_K = 950.0
ZERO_C_K = 273.15


@lru_cache(maxsize=256)
def _powers(exponent: float) -> Array:
    return np.power(TEMPERATURE_FACTORS, exponent)


def warm_factor(celsius: Array, exponent: float) -> Array:
    """A factor (any shape) by cell temperature in degC: that of methods 4 to the
    power ``exponent``.

    Straight between the temperatures there, held outside them.
    """
    return np.interp(celsius, TEMPERATURE_POINTS_C, _powers(exponent))


def warm_factors_of(celsius: float, exponents: Array) -> Array:
    """The same at one temperature for many powers, (n,)."""
    points, factors = TEMPERATURE_POINTS_C, TEMPERATURE_FACTORS
    place = min(max(bisect_right(points, celsius) - 1, 0), len(points) - 2)
    share = min(max((celsius - points[place]) / (points[place + 1] - points[place]), 0.0), 1.0)
    low, high = factors[place] ** exponents, factors[place + 1] ** exponents
    return np.asarray(low + (high - low) * share)


def reached(load: Array) -> Array:
    """Share of the electrode that takes part (any shape): all under a load of 1, then its inverse.

    The load is the rate over the one that reaches all of it (methods 4).
    """
    return np.asarray((1.0 + np.minimum(load, 1e6) ** REACH_POWER) ** (-1.0 / REACH_POWER))


class Traits(Struct, frozen=True):
    """What is taken of a family of chemistries where a sheet is silent.

    ``rise_at_5`` is the resistance at 5 % charge over that at half charge, ``lag_s`` the lag of the
    surface in s of the rate, ``entropy_v_per_k`` the change of the rest voltage with temperature.
    """

    rise_at_5: float
    lag_s: float
    entropy_v_per_k: float


TRAITS: dict[Family, Traits] = {
    "cobalt": Traits(2.81, 75.0, -1.0e-4),
    "phosphate": Traits(2.0, 90.0, -0.7e-4),
    "titanate": Traits(1.7, 40.0, -0.7e-4),
    "sodium": Traits(5.0, 90.0, -1.0e-4),
}


def family_shape(family: Family) -> Array:
    """Resistance at CHARGE_POINTS, (K,), over that at half charge, by the rise of a family."""
    stretch = (TRAITS[family].rise_at_5 - 1.0) / (CHARGE_FACTORS[0] - 1.0)
    measured = np.array(CHARGE_FACTORS)
    return np.where(measured > 1.0, 1.0 + stretch * (measured - 1.0), measured)


def of_cell(cell: Cell, field: str, label: str, unit: str, key: str = "") -> Figure:
    """A value of a cell as a figure: of its data sheet, measured, or guessed by the builder."""
    key = key or f"cell.{field}"
    value = getattr(cell, field)
    if field in cell.measured:
        rule = phrase("measured on {}", cell.name)
        return Figure(key, label, value, unit, rule, "the part's data", origin="measured")
    if field in cell.guessed:
        rule = phrase("guessed for {}", cell.name)
        return assumed(key, label, value, unit, rule, "the part's data")
    return sheet(key, label, value, unit, cell.name)


def minimum_capacity(cell: Cell) -> Figure:
    """The least capacity in Ah that the sheet promises; 97 % of the typical one if it is silent."""
    if cell.capacity_min_ah is not None:
        return of_cell(cell, "capacity_min_ah", "Least capacity", "Ah")
    typical = of_cell(cell, "capacity_typical_ah", "Typical capacity", "Ah")
    return CAPACITY_MIN_AH.assumed(MINIMUM_OVER_TYPICAL * cell.capacity_typical_ah, typical)


def resistance(cell: Cell) -> Figure:
    """DC resistance in ohm after 10 s at half charge and 25 degC, with its fallbacks."""
    key, label = "cell.resistance_ohm", "Cell resistance, 10 s, half charge, 25 °C"
    if cell.resistance_dc_ohm is not None:
        return of_cell(cell, "resistance_dc_ohm", label, "ohm", key)
    if cell.resistance_ac_ohm is not None:
        ac = of_cell(cell, "resistance_ac_ohm", "Resistance at 1 kHz", "ohm")
        rule = "1.5 × the 1 kHz figure; the sheet gives no DC one"
        return assumed(
            key, label, DC_OVER_AC * cell.resistance_ac_ohm, "ohm", rule, "methods 4 [2]", ac
        )
    typical = of_cell(cell, "capacity_typical_ah", "Typical capacity", "Ah")
    rule = "0.099 Ω·Ah ÷ capacity, as a measured 5 Ah cell; the sheet is silent"
    value = TYPICAL_OHM_AH / cell.capacity_typical_ah
    return assumed(key, label, value, "ohm", rule, "methods 4 [2]", typical)


def pulse_limit_a(cell: Cell, seconds: float) -> float:
    """Current in A that a cell may give for ``seconds``.

    Inside the sheet's pulse length the pulse rating; beyond it the square of the current over the
    continuous one falls with the time, so that the extra heat stays the same (methods 6).
    """
    if cell.pulse_a is None or cell.pulse_s is None:
        return cell.continuous_a
    if seconds <= cell.pulse_s:
        return cell.pulse_a
    extra = (cell.pulse_a**2 - cell.continuous_a**2) * cell.pulse_s / seconds
    return float((cell.continuous_a**2 + extra) ** 0.5)


def pulse_limit(cell: Cell, duration: Figure) -> Figure:
    """``pulse_limit_a`` as a figure, assumed where the sheet gives no pulse rating."""
    key, label = "cell.pulse_limit_a", "Pulse limit of a cell"
    continuous = of_cell(cell, "continuous_a", "Continuous rating", "A")
    value = pulse_limit_a(cell, duration.number)
    if cell.pulse_a is None:
        rule = "the continuous rating; the sheet gives no pulse"
        return assumed(key, label, value, "A", rule, "methods 6", continuous)
    return computed(
        key,
        label,
        value,
        "A",
        "pulse rating within its length; beyond it √(Ic² + (Ip² − Ic²)·tp ÷ t)",
        "methods 6",
        of_cell(cell, "pulse_a", "Pulse rating", "A"),
        of_cell(cell, "pulse_s", "Pulse length", "s"),
        continuous,
        duration,
    )


def charge_limit_a(cell: Cell) -> float:
    """Most charge current in A: the maximum of the sheet, else the standard one."""
    return cell.charge_max_a if cell.charge_max_a is not None else cell.charge_standard_a


def ageing_reserve(cell: Cell, new: float, reclaimed: float) -> float:
    """Share of the capacity that is counted on: ``new`` or ``reclaimed`` by origin."""
    return reclaimed if cell.origin == "reclaimed" else new
