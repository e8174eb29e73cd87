"""Cells laid out as arrays, one row a cell, for the search of packs."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour, behaviour_of
from lumvak.core.cells.cell_model import charge_limit_a, minimum_capacity

Array = NDArray[np.float64]


class CellTable(Struct, frozen=True, eq=False):
    """Cells as arrays: one row a cell, and K common points of charge for the curves.

    A table is known by itself, not by its values.

    ``ocv_v`` and ``ohm_shape`` are (n, K) against the charge of the surface: between the points
    both are straight lines, so a constant current gives a terminal voltage that is straight too.
    ``capacity_min_ah`` is what is counted: of a cell whose curves are drawn, between their ends.
    """

    cells: tuple[Cell, ...]
    behaviours: tuple[Behaviour, ...]
    charge: Array
    ocv_v: Array
    ohm_shape: Array
    steady_ohm: Array
    ohm_exponent: Array
    lag_s: Array
    lag_exponent: Array
    reach_h: Array
    reach_exponent: Array
    entropy_v_per_k: Array
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
        return np.asarray(_columns_at(self, charge)[0][rows])

    def shape_at(self, rows: NDArray[np.intp], charge: float) -> Array:
        """Resistance of the cells ``rows`` at one state of charge over that at half charge."""
        return np.asarray(_columns_at(self, charge)[1][rows])


@lru_cache(maxsize=32)
def _columns_at(table: CellTable, charge: float) -> tuple[Array, Array]:
    """Rest voltage in V and resistance over that at half charge of every cell, (n,) each."""
    place = min(max(int(np.searchsorted(table.charge, charge)) - 1, 0), len(table.charge) - 2)
    low, high = table.charge[place], table.charge[place + 1]
    share = (charge - low) / (high - low)
    volts, shape = (
        curves[:, place] * (1.0 - share) + curves[:, place + 1] * share
        for curves in (table.ocv_v, table.ohm_shape)
    )
    return volts, shape


def cell_table(catalogue: Catalogue, cells: tuple[Cell, ...], end_charge: float) -> CellTable:
    """Lay ``cells`` out as arrays; ``end_charge`` is made one of the points of charge."""
    behaviours = tuple(behaviour_of(cell, catalogue.chemistry_of(cell)) for cell in cells)
    knots: set[float] = {end_charge, 0.0, 1.0}
    for item in set(behaviours):
        knots.update(item.rest_charge.tolist(), item.shape_charge.tolist())
    charge = np.array(sorted(knots))
    scales = np.array([item.capacity_scale for item in behaviours])

    def column(values: list[float]) -> Array:
        return np.array(values, dtype=float)

    return CellTable(
        cells=cells,
        behaviours=behaviours,
        charge=charge,
        ocv_v=np.array([item.rest(charge) for item in behaviours]),
        ohm_shape=np.array([item.charge_factor(charge) for item in behaviours]),
        steady_ohm=column([item.steady_ohm for item in behaviours]),
        ohm_exponent=column([item.ohm_exponent for item in behaviours]),
        lag_s=column([item.lag_s for item in behaviours]),
        lag_exponent=column([item.lag_exponent for item in behaviours]),
        reach_h=column([item.reach_h for item in behaviours]),
        reach_exponent=column([item.reach_exponent for item in behaviours]),
        entropy_v_per_k=column([item.entropy_v_per_k for item in behaviours]),
        full_v=column([cell.voltage_full_v for cell in cells]),
        nominal_v=column([cell.voltage_nominal_v for cell in cells]),
        empty_v=column([cell.voltage_empty_v for cell in cells]),
        capacity_min_ah=scales * column([minimum_capacity(cell).number for cell in cells]),
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
