"""What packs do under a load: usable charge, current, warmth, and what each need asks for."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.cells.cell_model import SPECIFIC_HEAT_J_PER_KG_K, reached
from lumvak.core.cells.pack_heat import PackLump, rise_k
from lumvak.core.sizing.packs import Packs, cell_heat_w, mean_load
from lumvak.core.sizing.terms import Array, Terms

# The cells' warmth and their heat are worked out from each other so many times.
WARM_ROUNDS = 2


def lag_of(packs: Packs, current_a: Array) -> tuple[Array, Array]:
    """By how much of the charge (n,) the surface lags in steady current, and the share that is
    reached (methods 4).

    The rate is the current over the charge that is counted on.
    """
    table, rows = packs.table, packs.rows
    rate = current_a / (3600.0 * packs.aged_ah)
    lag_factor, reach_factor = packs.lag_factors
    lag = table.lag_s[rows] * lag_factor * rate
    reach = table.reach_h[rows]
    if not reach.any():
        return lag, np.ones_like(lag)
    return lag, reached(3600.0 * reach * rate * reach_factor)


def usable_fraction(packs: Packs) -> Array:
    """Share (n,) of the charge given up before the equipment stops or the cell is empty.

    At the crossing the terminal voltage is known, and with it the current of a power load, so the
    crossing is exact between the points of the curve; it is one of the surface, which lags the
    charge (methods 5).
    """
    table, rows, terms, outside = packs.table, packs.rows, packs.terms, packs.outside_ohm
    empty = table.empty_v[rows]
    current_empty = terms.load.behind(packs.empty_v, outside)
    if terms.stop_v is None:
        floor = empty
        current = np.where(np.isfinite(current_empty), current_empty, packs.at_stop_a)
    else:
        floor_equipment = (terms.stop_v + packs.at_stop_a * outside) / packs.series
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

    A power load is solved at the sagging voltage of the end charge; it stops at the low-voltage
    cut-off, so it never draws more than there (methods 3).
    """
    fixed, shared = packs.outside
    ohm = fixed + (shared + packs.series * packs.end_ohm) / packs.parallel
    at_stop, at_end = packs.at_stop_a, packs.terms.load.behind(packs.rest_end_v, ohm)
    return np.where(np.isfinite(at_end), np.minimum(at_end, at_stop), at_stop)


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


class PackWarmth(Struct, frozen=True):
    """How warm a pack gets, as columns (n,)."""

    lump: PackLump
    heat_w: Array
    duration_s: Array
    rise_end_k: Array
    rise_steady_k: Array


def warmth(packs: Packs, delivered_ah: Array, current_a: Array) -> PackWarmth:
    """Rise of the cells over the air at the end of the duty, and if it never ended (methods 14).

    The heat of the cells, meant over the charge used, and that of the series joints, which mostly
    ends in them; the cells are taken half as much warmer than the air as at the end.
    ``delivered_ah`` (n,) is the charge that the duty takes, ``current_a`` (n,) that of its mean
    load.
    """
    terms, lump = packs.terms, packs.lump
    joints = current_a**2 * packs.joints_ohm
    seconds = 3600.0 * delivered_ah / np.maximum(current_a * terms.mean_share, 1e-12)
    settled = rise_k(lump, np.ones_like(packs.series), seconds)
    cells_c = np.full_like(packs.series, terms.ambient_c)
    for _ in range(WARM_ROUNDS):
        heat = packs.series * packs.parallel * cell_heat_w(packs, current_a, cells_c) + joints
        cells_c = terms.ambient_c + 0.5 * heat * settled
    return PackWarmth(lump, heat, seconds, heat * settled, heat * lump.kelvin_per_watt)


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
    """Parallel count (n,) at which the peak is just held at the charge for it (methods 6).

    What flows for good has settled; what the peak adds meets the resistance of its length. Neither
    the equipment may stop, S OCV - S R I / P - I_peak R_path >= stop, nor a cell fall under its
    empty voltage; infinite where no count in parallel does. The charge is that of the surface.
    """
    table, rows, terms = packs.table, packs.rows, packs.terms
    charge = terms.peak_charge
    factor = packs.cold_factor(1.0 - charge, table.ohm_exponent[rows])
    ohm = table.steady_ohm[rows] * factor * table.shape_at(rows, charge)
    rest = packs.series * table.ocv_at(rows, charge)
    steady = terms.load.behind(rest, packs.series * ohm / packs.parallel + packs.outside_ohm)
    steady = np.where(np.isfinite(steady), np.minimum(steady, terms.peak_a), terms.peak_a)
    felt = steady + (terms.peak_a - steady) * terms.peak_share[rows]
    dropped = packs.series * ohm * felt
    need = _held_by(dropped, rest - packs.empty_v)
    if terms.stop_v is None:
        return need
    fixed, shared = packs.outside
    fixed = fixed + (terms.path.peak_fixed_ohm - terms.path.fixed_ohm)
    room = rest - terms.stop_v - terms.peak_a * fixed
    return np.maximum(need, _held_by(dropped + terms.peak_a * shared, room))


def _held_by(dropped: Array, room: Array) -> Array:
    """Parallel count (n,) that brings what one cell a group drops, in V, within ``room``."""
    return np.where(room > 0.0, dropped / np.where(room > 0.0, room, 1.0), np.inf)


class Worked(Struct, frozen=True):
    """What packs do under the demand, worked out together, as columns (n,).

    ``needs`` is the parallel count, as a real number, that each need asks for. A pack serves where
    its own is no less than every one of them and enough of its charge is usable.
    """

    usable: Array
    end_current_a: Array
    mean_current_a: Array
    mean_voltage_v: Array
    wanted_ah: Array
    aged_ah: Array
    warmth: PackWarmth
    needs: dict[str, Array]

    def of(self, wanted: NDArray[np.bool_]) -> Worked:
        """Those packs that are wanted, (n,) of which true."""
        warm = self.warmth
        lump = PackLump(warm.lump.kelvin_per_watt[wanted], warm.lump.joule_per_kelvin[wanted])
        return Worked(
            self.usable[wanted],
            self.end_current_a[wanted],
            mean_current_a=self.mean_current_a[wanted],
            mean_voltage_v=self.mean_voltage_v[wanted],
            wanted_ah=self.wanted_ah[wanted],
            aged_ah=self.aged_ah[wanted],
            warmth=PackWarmth(
                lump,
                warm.heat_w[wanted],
                warm.duration_s[wanted],
                warm.rise_end_k[wanted],
                warm.rise_steady_k[wanted],
            ),
            needs={
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
    return Worked(
        usable,
        end_current,
        mean_current_a=current,
        mean_voltage_v=volts,
        wanted_ah=wanted,
        aged_ah=aged,
        warmth=warm,
        needs=needs,
    )


def heating_k_per_min(packs: Packs, current_a: Array) -> Array:
    """How fast a cell would warm without cooling, K/min (n,) (methods 14)."""
    cells_c = np.full_like(packs.parallel, packs.terms.ambient_c)
    heat_w = cell_heat_w(packs, current_a, cells_c)
    mass_kg = packs.table.mass_kg[packs.rows]
    return np.asarray(60.0 * heat_w / (mass_kg * SPECIFIC_HEAT_J_PER_KG_K))
