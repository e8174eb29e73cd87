"""What packs do under a load: usable charge, current, warmth, and what each need asks for."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from lumvak.core.catalogue.sheet_curves import ROOM_C
from lumvak.core.cells.cell_model import (
    SPECIFIC_HEAT_J_PER_KG_K,
    ZERO_C_K,
    reached,
    warm_factor,
)
from lumvak.core.cells.cell_table import CellTable
from lumvak.core.cells.pack_heat import PackLump, block_area_m2, lump_of, rise_k
from lumvak.core.sizing.terms import Array, Rows, Terms

# The cells' warmth and their heat are worked out from each other so many times.
WARM_ROUNDS = 2


def cell_ohm(table: CellTable, rows: Rows, terms: Terms) -> Array:
    """Steady resistance in ohm (n,) of each cell at half charge and at ambient temperature."""
    return np.asarray(table.steady_ohm[rows] * terms.ohm_factor[rows])


def lag_of(
    table: CellTable, rows: Rows, parallel: Array, current_a: Array, terms: Terms
) -> tuple[Array, Array]:
    """By how much of the charge (n,) the surface lags in steady current, and the share that is
    reached (methods 4).

    The rate is the current over the charge that is counted on.
    """
    rate = current_a / (3600.0 * aged_capacity_ah(table, rows, parallel, terms))
    lag = table.lag_s[rows] * terms.lag_factor[rows] * rate
    reach = table.reach_h[rows]
    if not reach.any():
        return lag, np.ones_like(lag)
    return lag, reached(3600.0 * reach * rate * terms.reach_factor[rows])


def usable_fraction(
    table: CellTable, rows: Rows, series: Array, parallel: Array, terms: Terms
) -> Array:
    """Share (n,) of the charge given up before the equipment stops or the cell is empty.

    At the crossing the terminal voltage is known, and with it the current of a power load, so the
    crossing is exact between the points of the curve; it is one of the surface, which lags the
    charge (methods 5).
    """
    fixed, shared = terms.path.split(rows, series)
    outside = fixed + shared / parallel
    current_stop = terms.load.at(np.full_like(series, terms.stop_v))
    floor_equipment = (terms.stop_v + current_stop * outside) / series
    empty = table.empty_v[rows]
    current_empty = terms.load.behind(series * empty, outside)
    by_cell = (floor_equipment < empty) & np.isfinite(current_empty)
    floor = np.where(by_cell, empty, floor_equipment)
    current = np.where(by_cell, current_empty, current_stop)
    drop = (current / parallel) * cell_ohm(table, rows, terms)
    volts = table.ocv_v[rows] - drop[:, None] * table.ohm_shape[rows]
    holds = volts >= floor[:, None] - 1e-12
    first = np.argmax(holds, axis=1)
    none = ~holds[:, -1]
    index = np.arange(len(rows))
    below = np.maximum(first - 1, 0)
    low, high = volts[index, below], volts[index, first]
    span = np.where(high > low, high - low, 1.0)
    share = np.clip((floor - low) / span, 0.0, 1.0)
    crossing = table.charge[below] + share * (table.charge[first] - table.charge[below])
    crossing = np.where(first == 0, table.charge[0], crossing)
    lag, share_reached = lag_of(table, rows, parallel, current, terms)
    usable = np.maximum(share_reached * (1.0 - crossing - lag), 0.0)
    return np.where(none, 0.0, usable)


def end_current_a(
    table: CellTable, rows: Rows, series: Array, parallel: Array, terms: Terms
) -> Array:
    """Continuous current in A (n,) at the end of the discharge, the most that it becomes.

    A power load is solved at the sagging voltage of the end charge; it stops at the stop voltage,
    so it never draws more than there (methods 3).
    """
    fixed, shared = terms.path.split(rows, series)
    inside = end_ohm(table, rows, terms)
    ohm = fixed + (shared + series * inside) / parallel
    at_stop = terms.load.at(np.full_like(series, terms.stop_v))
    at_end = terms.load.behind(series * table.ocv_at(rows, terms.end_charge), ohm)
    return np.where(np.isfinite(at_end), np.minimum(at_end, at_stop), at_stop)


@lru_cache(maxsize=16)
def _mean_curves(table: CellTable, end_charge: float) -> tuple[Array, Array, Array]:
    """Means of every cell (n,) from full to the end charge.

    Rest voltage in V, resistance over that at half charge, and slope of the rest voltage in V.
    """
    span = table.charge >= end_charge
    charge, width = table.charge[span], 1.0 - end_charge
    volts = table.ocv_v[:, span]
    rest = np.trapezoid(volts, charge, axis=1) / width
    shape = np.trapezoid(table.ohm_shape[:, span], charge, axis=1) / width
    return np.asarray(rest), np.asarray(shape), (volts[:, -1] - volts[:, 0]) / width


def mean_ohm(table: CellTable, rows: Rows, parallel: Array, terms: Terms) -> Array:
    """Resistance in ohm (n,) of each cell at the coldest, meant over the charge (methods 4).

    From full to the end, with what the lag of the surface takes off the volts, which goes with the
    current as well.
    """
    ohmic, lagging = _mean_parts(table, rows, parallel, terms)
    return np.asarray(terms.ohm_factor[rows] * ohmic + terms.lag_factor[rows] * lagging)


def _mean_parts(table: CellTable, rows: Rows, parallel: Array, terms: Terms) -> tuple[Array, Array]:
    """Mean resistance in ohm (n,) at 25 degC, and what the lag takes off for each ampere."""
    _, shape, slope = _mean_curves(table, terms.end_charge)
    charge_as = 3600.0 * aged_capacity_ah(table, rows, parallel, terms) / parallel
    return table.steady_ohm[rows] * shape[rows], table.lag_s[rows] / charge_as * slope[rows]


def mean_load(
    table: CellTable, rows: Rows, series: Array, parallel: Array, terms: Terms
) -> tuple[Array, Array]:
    """Current in A and mean terminal voltage in V (n,) from full to the end charge.

    A power load draws at most what it draws at the stop voltage, where the equipment has stopped.
    The current of a duty is that of its heat; ``mean_share`` of it takes the charge.
    """
    rest = _mean_curves(table, terms.end_charge)[0][rows]
    fixed, shared = terms.path.split(rows, series)
    ohm = fixed + (shared + series * mean_ohm(table, rows, parallel, terms)) / parallel
    current = terms.load.behind(series * rest, ohm)
    at_stop = terms.load.at(np.full_like(series, terms.stop_v))
    current = np.where(np.isfinite(current), np.minimum(current, at_stop), at_stop)
    return current, np.maximum(series * rest - current * ohm, 1e-6)


def capacity_wanted_ah(series: Array, terms: Terms, mean: tuple[Array, Array]) -> Array:
    """Charge in Ah (n,) that the wanted endurance takes out of the pack (methods 3).

    ``mean`` is what ``mean_load`` gives for the same packs.
    """
    current, volts = mean
    if terms.endurance_basis == "runtime":
        return terms.endurance * current * terms.mean_share
    if terms.endurance_basis == "capacity":
        return np.full_like(series, terms.endurance)
    if terms.endurance_basis in ("energy", "distance", "appliances"):
        return np.asarray(terms.endurance / volts)
    return np.zeros_like(series)


def end_ohm(table: CellTable, rows: Rows, terms: Terms) -> Array:
    """Steady resistance in ohm (n,) of each cell at the end charge, at the coldest.

    The end charge is that of the surface: what the lag costs is charge, which the usable share has.
    """
    return np.asarray(cell_ohm(table, rows, terms) * table.shape_at(rows, terms.end_charge))


def cell_heat_w(
    table: CellTable,
    rows: Rows,
    parallel: Array,
    current_a: Array,
    terms: Terms,
    cells_c: Array,
    parts: tuple[Array, Array] | None = None,
) -> Array:
    """Heat in W (n,) of each cell at a pack current, meant over the charge used (methods 14).

    I squared times the mean resistance with the cells at ``cells_c`` (no credit over 25 degC), and
    the reversible heat of the chemistry, which goes with the current itself. ``parts`` are those of
    the mean resistance, where they were worked out already.
    """
    each = current_a / parallel
    ohmic, lagging = parts or _mean_parts(table, rows, parallel, terms)
    base = warm_factor(np.minimum(cells_c, ROOM_C), 1.0)
    ohm = base ** table.ohm_exponent[rows] * ohmic + base ** table.lag_exponent[rows] * lagging
    reversible = -table.entropy_v_per_k[rows] * (ZERO_C_K + cells_c) * terms.mean_share
    return np.asarray(each * (each * ohm + reversible))


@dataclass(frozen=True, slots=True)
class Warmth:
    """How warm a pack gets, as columns (n,)."""

    lump: PackLump
    heat_w: Array
    duration_s: Array
    rise_end_k: Array
    rise_steady_k: Array


def pack_lump(
    table: CellTable, rows: Rows, series: Array, parallel: Array, terms: Terms
) -> PackLump:
    """Packs as warm bodies in the air around them, (n,) (methods 14)."""
    count = series * parallel
    area = block_area_m2(count, table.footprint_mm2[rows], table.height_mm[rows])
    return lump_of(area, count * table.mass_kg[rows], terms.film_w_per_m2_k)


def warmth(
    table: CellTable,
    rows: Rows,
    series: Array,
    parallel: Array,
    terms: Terms,
    delivered_ah: Array,
    mean: tuple[Array, Array],
) -> Warmth:
    """Rise of the cells over the air at the end of the duty, and if it never ended (methods 14).

    The heat of the cells, meant over the charge used, and that of the series joints, which mostly
    ends in them; the cells are taken half as much warmer than the air as at the end.
    ``delivered_ah`` (n,) is the charge that the duty takes, ``mean`` what ``mean_load`` gives.
    """
    current, _ = mean
    joints = current**2 * terms.path.joints(rows, series, parallel)
    lump = pack_lump(table, rows, series, parallel, terms)
    seconds = 3600.0 * delivered_ah / np.maximum(current * terms.mean_share, 1e-12)
    settled = rise_k(lump, np.ones_like(series), seconds)
    cells_c = np.full_like(series, terms.ambient_c)
    parts = _mean_parts(table, rows, parallel, terms)
    for _ in range(WARM_ROUNDS):
        each = cell_heat_w(table, rows, parallel, current, terms, cells_c, parts)
        heat = series * parallel * each + joints
        cells_c = terms.ambient_c + 0.5 * heat * settled
    return Warmth(lump, heat, seconds, heat * settled, heat * lump.kelvin_per_watt)


def aged_capacity_ah(table: CellTable, rows: Rows, parallel: Array, terms: Terms) -> Array:
    """Least capacity in Ah (n,) of the pack less the reserve for ageing (methods 6)."""
    return np.asarray(parallel * table.capacity_min_ah[rows] * terms.reserve[rows])


def temperature_need(parallel: Array, rise_end_k: Array, terms: Terms) -> Array:
    """Parallel count (n,) asked for by temperature: the count in hand × rise ÷ rise allowed.

    It equals the count where the rise is just allowed, for the rise falls as cells are added; it
    is infinite where the air is no cooler than the limit (methods 6).
    """
    allowed = terms.temperature_limit_c - terms.ambient_c
    if allowed <= 0.0:
        return np.full_like(rise_end_k, np.inf)
    return np.asarray(parallel * rise_end_k / allowed)


def sag_need(table: CellTable, rows: Rows, series: Array, terms: Terms) -> Array:
    """Parallel count (n,) at which the stop voltage is just held at the end charge (methods 6).

    From S (OCV - I R / P) - I R_path >= stop, with I as drawn at the stop voltage; infinite where
    the cells at rest are not above it.
    """
    fixed, shared = terms.path.split(rows, series)
    at_stop = terms.load.at(np.full_like(series, terms.stop_v))
    room = series * table.ocv_at(rows, terms.end_charge) - terms.stop_v - at_stop * fixed
    held = at_stop * (series * end_ohm(table, rows, terms) + shared)
    return np.where(room > 0.0, held / np.where(room > 0.0, room, 1.0), np.inf)


@dataclass(frozen=True, slots=True)
class Worked:
    """What packs do under the demand, worked out together, as columns (n,).

    ``needs`` is the parallel count, as a real number, that each need asks for; a pack serves where
    its own is no less than every one of them, and no count helps where one is infinite.
    """

    usable: Array
    end_current_a: Array
    mean_current_a: Array
    mean_voltage_v: Array
    wanted_ah: Array
    aged_ah: Array
    warmth: Warmth
    needs: dict[str, Array]

    def of(self, wanted: NDArray[np.bool_]) -> Worked:
        """Those packs that are wanted, (n,) of which true."""
        warm = self.warmth
        lump = PackLump(warm.lump.kelvin_per_watt[wanted], warm.lump.joule_per_kelvin[wanted])
        return Worked(
            self.usable[wanted],
            self.end_current_a[wanted],
            self.mean_current_a[wanted],
            self.mean_voltage_v[wanted],
            self.wanted_ah[wanted],
            self.aged_ah[wanted],
            Warmth(
                lump,
                warm.heat_w[wanted],
                warm.duration_s[wanted],
                warm.rise_end_k[wanted],
                warm.rise_steady_k[wanted],
            ),
            {
                name: np.broadcast_to(column, wanted.shape)[wanted]
                for name, column in self.needs.items()
            },
        )


def worked(table: CellTable, rows: Rows, series: Array, parallel: Array, terms: Terms) -> Worked:
    """Work out packs: ``rows`` of the table, ``series`` and ``parallel``, (n,) (methods 5, 6)."""
    usable = usable_fraction(table, rows, series, parallel, terms)
    mean = mean_load(table, rows, series, parallel, terms)
    wanted = capacity_wanted_ah(series, terms, mean)
    aged = aged_capacity_ah(table, rows, parallel, terms)
    with np.errstate(divide="ignore", invalid="ignore"):
        capacity = np.where(wanted > 0.0, wanted * parallel / (aged * usable), 0.0)
    end_current = end_current_a(table, rows, series, parallel, terms)
    delivered = np.where(wanted > 0.0, wanted, aged * usable)
    warm = warmth(table, rows, series, parallel, terms, delivered, mean)
    needs = {
        "capacity": capacity,
        "continuous": end_current / (table.continuous_a[rows] * terms.derating),
        "peak": terms.peak_a / terms.pulse_a[rows],
        "charge": terms.charger_a / table.charge_max_a[rows],
        "sag": sag_need(table, rows, series, terms),
        "temperature": temperature_need(parallel, warm.rise_end_k, terms),
    }
    return Worked(usable, end_current, *mean, wanted, aged, warm, needs)


def heating_k_per_min(
    table: CellTable, rows: Rows, parallel: Array, current_a: Array, terms: Terms
) -> Array:
    """How fast a cell would warm without cooling, K/min (n,) (methods 14)."""
    cells_c = np.full_like(parallel, terms.ambient_c)
    heat_w = cell_heat_w(table, rows, parallel, current_a, terms, cells_c)
    return np.asarray(60.0 * heat_w / (table.mass_kg[rows] * SPECIFIC_HEAT_J_PER_KG_K))
