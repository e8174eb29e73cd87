"""The cell: rest voltage, resistance, and what stands in for what a sheet omits."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.figures.figure import Figure, assumed, computed, sheet

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
DC_OVER_AC = 1.5
TYPICAL_OHM_AH = 0.099
MINIMUM_OVER_TYPICAL = 0.97
SPECIFIC_HEAT_J_PER_KG_K = 950.0


def time_factor(seconds: float) -> float:
    """Resistance after ``seconds`` of current over that after 10 s, at one charge (methods 4)."""
    return float(FAST_SHARE + SLOW_SHARE * (1.0 - np.exp(-seconds / TIME_CONSTANT_S)))


STEADY_FACTOR = FAST_SHARE + SLOW_SHARE


def charge_factor(state_of_charge: Array) -> Array:
    """Resistance at a state of charge (any shape, 0 to 1) over that at half charge."""
    return np.interp(state_of_charge, CHARGE_POINTS, CHARGE_FACTORS)


def temperature_factor(temperature_c: float) -> float:
    """Resistance at a cell temperature in degC over that at 25 degC; held outside -10 to 40."""
    return float(np.interp(temperature_c, TEMPERATURE_POINTS_C, TEMPERATURE_FACTORS))


def of_cell(cell: Cell, field: str, label: str, unit: str, key: str = "") -> Figure:
    """A value of a cell as a figure: of its data sheet, measured, or guessed by the builder."""
    key = key or f"cell.{field}"
    value = getattr(cell, field)
    if field in cell.measured:
        rule = f"measured on {cell.name}"
        return Figure(key, label, value, unit, rule, "the part's data", origin="measured")
    if field in cell.guessed:
        rule = f"guessed for {cell.name}"
        return assumed(key, label, value, unit, rule, "the part's data")
    return sheet(key, label, value, unit, cell.name)


def minimum_capacity(cell: Cell) -> Figure:
    """The least capacity in Ah that the sheet promises; 97 % of the typical one if it is silent."""
    if cell.capacity_min_ah is not None:
        return of_cell(cell, "capacity_min_ah", "Least capacity", "Ah")
    typical = of_cell(cell, "capacity_typical_ah", "Typical capacity", "Ah")
    return assumed(
        "cell.capacity_min_ah",
        "Least capacity",
        MINIMUM_OVER_TYPICAL * cell.capacity_typical_ah,
        "Ah",
        "97 % of the typical capacity; the sheet gives no least one",
        "methods 4",
        typical,
    )


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


@lru_cache(maxsize=64)
def _curve(points: tuple[tuple[float, float], ...]) -> tuple[Array, Array]:
    table = np.array(points, dtype=float)
    return table[:, 0], table[:, 1]


def rest_voltage(chemistry: Chemistry, state_of_charge: Array) -> Array:
    """Rest voltage in V at a state of charge (any shape, 0 to 1), straight between points."""
    charge, volts = _curve(chemistry.curve)
    return np.interp(state_of_charge, charge, volts)


@dataclass(frozen=True, slots=True, eq=False)
class CellTable:
    """Cells as arrays: one row a cell, and K common points of charge for the curves.

    A table is known by itself, not by its values.

    ``ocv_v`` and ``ohm_shape`` are (n, K) and (K,): between the points both are straight lines,
    so a constant current gives a terminal voltage that is straight too.
    """

    cells: tuple[Cell, ...]
    charge: Array
    ocv_v: Array
    ohm_shape: Array
    resistance_ohm: Array
    full_v: Array
    nominal_v: Array
    empty_v: Array
    capacity_min_ah: Array
    capacity_ah: Array
    continuous_a: Array
    charge_max_a: Array
    charge_standard_a: Array
    mass_kg: Array
    price: Array
    volume_cm3: Array
    footprint_mm2: Array
    height_mm: Array

    def row_of(self, cell: str | None) -> int | None:
        """Row of the cell with an id; ``None`` where there is none."""
        return next((row for row, item in enumerate(self.cells) if item.id == cell), None)

    def ocv_at(self, rows: NDArray[np.intp], charge: float) -> Array:
        """Rest voltage in V of the cells ``rows`` at one state of charge."""
        place = min(max(int(np.searchsorted(self.charge, charge)) - 1, 0), len(self.charge) - 2)
        low, high = self.charge[place], self.charge[place + 1]
        share = (charge - low) / (high - low)
        curve = self.ocv_v[rows]
        return np.asarray(curve[:, place] * (1.0 - share) + curve[:, place + 1] * share)


def cell_table(catalogue: Catalogue, cells: tuple[Cell, ...], end_charge: float) -> CellTable:
    """Lay ``cells`` out as arrays; ``end_charge`` is made one of the points of charge."""
    chemistries = [catalogue.chemistry_of(cell) for cell in cells]
    knots = {point[0] for chemistry in chemistries for point in chemistry.curve}
    charge = np.array(sorted(knots | set(CHARGE_POINTS) | {end_charge, 0.0, 1.0}))
    by_id = {chemistry.id: rest_voltage(chemistry, charge) for chemistry in chemistries}

    def column(values: list[float]) -> Array:
        return np.array(values, dtype=float)

    return CellTable(
        cells=cells,
        charge=charge,
        ocv_v=np.array([by_id[chemistry.id] for chemistry in chemistries]),
        ohm_shape=charge_factor(charge),
        resistance_ohm=column([resistance(cell).number for cell in cells]),
        full_v=column([cell.voltage_full_v for cell in cells]),
        nominal_v=column([cell.voltage_nominal_v for cell in cells]),
        empty_v=column([cell.voltage_empty_v for cell in cells]),
        capacity_min_ah=column([minimum_capacity(cell).number for cell in cells]),
        capacity_ah=column([cell.capacity_typical_ah for cell in cells]),
        continuous_a=column([cell.continuous_a for cell in cells]),
        charge_max_a=column([charge_limit_a(cell) for cell in cells]),
        charge_standard_a=column([cell.charge_standard_a for cell in cells]),
        mass_kg=column([cell.mass_g / 1000.0 for cell in cells]),
        price=column([cell.price for cell in cells]),
        volume_cm3=column([cell.volume_cm3 for cell in cells]),
        footprint_mm2=column([cell.footprint_mm[0] * cell.footprint_mm[1] for cell in cells]),
        height_mm=column([cell.height_mm for cell in cells]),
    )
