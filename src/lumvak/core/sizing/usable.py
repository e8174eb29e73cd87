"""What packs do under a load: usable charge, current, warmth, and what each need asks for."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

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


@dataclass(frozen=True, eq=False)
class Packs:
    """Packs side by side, (n,): rows of the table of cells, series and parallel counts.

    What is asked for more than once is worked out once.
    """

    table: CellTable
    rows: Rows
    series: Array
    parallel: Array
    terms: Terms

    @cached_property
    def outside(self) -> tuple[Array, Array]:
        """Ohm (n,) outside the cells: what does not change with the parallel count, and times it
        what falls with it.
        """
        return self.terms.path.split(self.rows, self.series)

    @cached_property
    def outside_ohm(self) -> Array:
        """Resistance in ohm (n,) outside the cells."""
        fixed, shared = self.outside
        return np.asarray(fixed + shared / self.parallel)

    @cached_property
    def at_stop_a(self) -> Array:
        """Continuous current in A (n,) at the stop voltage."""
        return self.terms.load.at(np.full_like(self.series, self.terms.stop_v))

    @cached_property
    def cell_ohm(self) -> Array:
        """Steady resistance in ohm (n,) of each cell at half charge, at the coldest."""
        return np.asarray(self.table.steady_ohm[self.rows] * self.terms.ohm_factor[self.rows])

    @cached_property
    def end_ohm(self) -> Array:
        """The same at the end charge.

        The end charge is that of the surface: what the lag costs is charge, which the usable share
        has.
        """
        shape = self.table.shape_at(self.rows, self.terms.end_charge)
        return np.asarray(self.cell_ohm * shape)

    @cached_property
    def rest_end_v(self) -> Array:
        """Rest voltage in V (n,) of the packs at the end charge."""
        return np.asarray(self.series * self.table.ocv_at(self.rows, self.terms.end_charge))

    @cached_property
    def aged_ah(self) -> Array:
        """Least capacity in Ah (n,) of the packs less the reserve for ageing (methods 6)."""
        least = self.table.capacity_min_ah[self.rows]
        return np.asarray(self.parallel * least * self.terms.reserve[self.rows])

    @cached_property
    def mean_parts(self) -> tuple[Array, Array]:
        """Resistance in ohm (n,) of each cell at 25 degC, meant over the charge from full to the
        end, and what the lag takes off for each ampere, which goes with the current as well.
        """
        table, rows = self.table, self.rows
        _, shape, slope = _mean_curves(table, self.terms.end_charge)
        charge_as = 3600.0 * self.aged_ah / self.parallel
        return table.steady_ohm[rows] * shape[rows], table.lag_s[rows] / charge_as * slope[rows]

    @cached_property
    def mean_ohm(self) -> Array:
        """Their sum in ohm (n,) at the coldest (methods 4)."""
        ohmic, lagging = self.mean_parts
        terms, rows = self.terms, self.rows
        return np.asarray(terms.ohm_factor[rows] * ohmic + terms.lag_factor[rows] * lagging)

    @cached_property
    def lump(self) -> PackLump:
        """The packs as warm bodies in the air around them, (n,) (methods 14)."""
        table, rows, count = self.table, self.rows, self.series * self.parallel
        area = block_area_m2(count, table.footprint_mm2[rows], table.height_mm[rows])
        return lump_of(area, count * table.mass_kg[rows], self.terms.film_w_per_m2_k)


def one_pack(table: CellTable, row: int, series: int, parallel: float, terms: Terms) -> Packs:
    """A single pack, (1,), of ``parallel`` cells a group."""
    counts = np.array([float(series)]), np.array([float(parallel)])
    return Packs(table, np.array([row]), *counts, terms)


def lag_of(packs: Packs, current_a: Array) -> tuple[Array, Array]:
    """By how much of the charge (n,) the surface lags in steady current, and the share that is
    reached (methods 4).

    The rate is the current over the charge that is counted on.
    """
    table, rows, terms = packs.table, packs.rows, packs.terms
    rate = current_a / (3600.0 * packs.aged_ah)
    lag = table.lag_s[rows] * terms.lag_factor[rows] * rate
    reach = table.reach_h[rows]
    if not reach.any():
        return lag, np.ones_like(lag)
    return lag, reached(3600.0 * reach * rate * terms.reach_factor[rows])


def usable_fraction(packs: Packs) -> Array:
    """Share (n,) of the charge given up before the equipment stops or the cell is empty.

    At the crossing the terminal voltage is known, and with it the current of a power load, so the
    crossing is exact between the points of the curve; it is one of the surface, which lags the
    charge (methods 5).
    """
    table, rows, terms, outside = packs.table, packs.rows, packs.terms, packs.outside_ohm
    floor_equipment = (terms.stop_v + packs.at_stop_a * outside) / packs.series
    empty = table.empty_v[rows]
    current_empty = terms.load.behind(packs.series * empty, outside)
    by_cell = (floor_equipment < empty) & np.isfinite(current_empty)
    floor = np.where(by_cell, empty, floor_equipment)
    current = np.where(by_cell, current_empty, packs.at_stop_a)
    drop = (current / packs.parallel) * packs.cell_ohm
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
    lag, share_reached = lag_of(packs, current)
    usable = np.maximum(share_reached * (1.0 - crossing - lag), 0.0)
    return np.where(none, 0.0, usable)


def end_current_a(packs: Packs) -> Array:
    """Continuous current in A (n,) at the end of the discharge, the most that it becomes.

    A power load is solved at the sagging voltage of the end charge; it stops at the stop voltage,
    so it never draws more than there (methods 3).
    """
    fixed, shared = packs.outside
    ohm = fixed + (shared + packs.series * packs.end_ohm) / packs.parallel
    at_stop, at_end = packs.at_stop_a, packs.terms.load.behind(packs.rest_end_v, ohm)
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


def mean_load(packs: Packs) -> tuple[Array, Array]:
    """Current in A and mean terminal voltage in V (n,) from full to the end charge.

    A power load draws at most what it draws at the stop voltage, where the equipment has stopped.
    The current of a duty is that of its heat; ``mean_share`` of it takes the charge.
    """
    emf = packs.series * _mean_curves(packs.table, packs.terms.end_charge)[0][packs.rows]
    fixed, shared = packs.outside
    ohm = fixed + (shared + packs.series * packs.mean_ohm) / packs.parallel
    current, at_stop = packs.terms.load.behind(emf, ohm), packs.at_stop_a
    current = np.where(np.isfinite(current), np.minimum(current, at_stop), at_stop)
    return current, np.maximum(emf - current * ohm, 1e-6)


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


def cell_heat_w(packs: Packs, current_a: Array, cells_c: Array) -> Array:
    """Heat in W (n,) of each cell at a pack current, meant over the charge used (methods 14).

    I squared times the mean resistance with the cells at ``cells_c`` (no credit over 25 degC), and
    the reversible heat of the chemistry, which goes with the current itself.
    """
    table, rows = packs.table, packs.rows
    each = current_a / packs.parallel
    ohmic, lagging = packs.mean_parts
    base = warm_factor(np.minimum(cells_c, ROOM_C), 1.0)
    ohm = base ** table.ohm_exponent[rows] * ohmic + base ** table.lag_exponent[rows] * lagging
    reversible = -table.entropy_v_per_k[rows] * (ZERO_C_K + cells_c) * packs.terms.mean_share
    return np.asarray(each * (each * ohm + reversible))


@dataclass(frozen=True, slots=True)
class Warmth:
    """How warm a pack gets, as columns (n,)."""

    lump: PackLump
    heat_w: Array
    duration_s: Array
    rise_end_k: Array
    rise_steady_k: Array


def warmth(packs: Packs, delivered_ah: Array, current_a: Array) -> Warmth:
    """Rise of the cells over the air at the end of the duty, and if it never ended (methods 14).

    The heat of the cells, meant over the charge used, and that of the series joints, which mostly
    ends in them; the cells are taken half as much warmer than the air as at the end.
    ``delivered_ah`` (n,) is the charge that the duty takes, ``current_a`` (n,) that of its mean
    load.
    """
    terms, lump = packs.terms, packs.lump
    joints = current_a**2 * terms.path.joints(packs.rows, packs.series, packs.parallel)
    seconds = 3600.0 * delivered_ah / np.maximum(current_a * terms.mean_share, 1e-12)
    settled = rise_k(lump, np.ones_like(packs.series), seconds)
    cells_c = np.full_like(packs.series, terms.ambient_c)
    for _ in range(WARM_ROUNDS):
        heat = packs.series * packs.parallel * cell_heat_w(packs, current_a, cells_c) + joints
        cells_c = terms.ambient_c + 0.5 * heat * settled
    return Warmth(lump, heat, seconds, heat * settled, heat * lump.kelvin_per_watt)


def temperature_need(parallel: Array, rise_end_k: Array, terms: Terms) -> Array:
    """Parallel count (n,) asked for by temperature: the count in hand × rise ÷ rise allowed.

    It equals the count where the rise is just allowed, for the rise falls as cells are added; it
    is infinite where the air is no cooler than the limit (methods 6).
    """
    allowed = terms.temperature_limit_c - terms.ambient_c
    if allowed <= 0.0:
        return np.full_like(rise_end_k, np.inf)
    return np.asarray(parallel * rise_end_k / allowed)


def sag_need(packs: Packs) -> Array:
    """Parallel count (n,) at which the stop voltage is just held at the end charge (methods 6).

    From S (OCV - I R / P) - I R_path >= stop, with I as drawn at the stop voltage; infinite where
    the cells at rest are not above it.
    """
    fixed, shared = packs.outside
    room = packs.rest_end_v - packs.terms.stop_v - packs.at_stop_a * fixed
    held = packs.at_stop_a * (packs.series * packs.end_ohm + shared)
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


def worked(packs: Packs) -> Worked:
    """Work out packs (methods 5, 6)."""
    table, rows, terms, parallel = packs.table, packs.rows, packs.terms, packs.parallel
    usable = usable_fraction(packs)
    current, volts = mean = mean_load(packs)
    wanted, aged = capacity_wanted_ah(packs.series, terms, mean), packs.aged_ah
    with np.errstate(divide="ignore", invalid="ignore"):
        capacity = np.where(wanted > 0.0, wanted * parallel / (aged * usable), 0.0)
    end_current = end_current_a(packs)
    delivered = np.where(wanted > 0.0, wanted, aged * usable)
    warm = warmth(packs, delivered, current)
    needs = {
        "capacity": capacity,
        "continuous": end_current / (table.continuous_a[rows] * terms.derating),
        "peak": terms.peak_a / terms.pulse_a[rows],
        "charge": terms.charger_a / table.charge_max_a[rows],
        "sag": sag_need(packs),
        "temperature": temperature_need(parallel, warm.rise_end_k, terms),
    }
    return Worked(usable, end_current, current, volts, wanted, aged, warm, needs)


def heating_k_per_min(packs: Packs, current_a: Array) -> Array:
    """How fast a cell would warm without cooling, K/min (n,) (methods 14)."""
    cells_c = np.full_like(packs.parallel, packs.terms.ambient_c)
    heat_w = cell_heat_w(packs, current_a, cells_c)
    mass_kg = packs.table.mass_kg[packs.rows]
    return np.asarray(60.0 * heat_w / (mass_kg * SPECIFIC_HEAT_J_PER_KG_K))
