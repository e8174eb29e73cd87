"""Packs side by side as columns: what lies in and around them, how warm they get in the cold."""

from __future__ import annotations

from functools import cached_property, lru_cache
from typing import NamedTuple

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.sheet_curves import ROOM_C
from lumvak.core.cells.cell_model import ZERO_C_K, warm_factor
from lumvak.core.cells.cell_table import CellTable
from lumvak.core.cells.pack_heat import PackLump, block_area_m2, lump_of, rise_k
from lumvak.core.sizing.terms import Array, Rows, Terms

# The warmth of a run in the cold is that after so much of the charge; the resistance of cells falls
# by about so much a kelvin there.
WARMED_BY, LESS_A_KELVIN = 0.75, 0.025


class Packs(Struct, frozen=True, eq=False, dict=True):
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
    def joints_ohm(self) -> Array:
        """That of the series joints, in ohm (n,)."""
        return self.terms.path.joints(self.rows, self.series, self.parallel)

    @cached_property
    def empty_v(self) -> Array:
        """Empty voltage in V (n,), at which the board opens."""
        return np.asarray(self.series * self.table.empty_v[self.rows])

    @cached_property
    def at_stop_a(self) -> Array:
        """Continuous current in A (n,) at the low-voltage cut-off, or at the empty one where the
        equipment has none of its own.
        """
        stop_v = self.terms.stop_v
        return self.terms.load.at(
            self.empty_v if stop_v is None else np.full_like(self.series, stop_v)
        )

    @cached_property
    def cold_rise_k(self) -> Array:
        """Rise in K (n,) over the coldest air by the end of a run there (methods 6).

        Cells that begin at 25 degC or more get no credit, so that it is not asked for.
        """
        if self.terms.coldest_c >= ROOM_C:
            return np.zeros_like(self.series)
        current, _ = mean_load(self)
        seconds = 3600.0 * WARMED_BY * self.aged_ah / (current * self.terms.mean_share)
        settled = rise_k(self.lump, np.ones_like(self.series), seconds)
        joints_w, count = current**2 * self.joints_ohm, self.series * self.parallel

        def warmed(rise: Array) -> Array:
            """The rise with cells that are half of another one warmer than the air."""
            cells_c = self.terms.coldest_c + 0.5 * rise
            heat = count * cell_heat_w(self, current, cells_c) + joints_w
            return np.asarray(np.maximum(heat, 0.0) * settled)

        cold = warmed(np.zeros_like(self.series))
        # A warmer cell heats less: by so much a kelvin to begin with, then halfway to what follows.
        rise = cold / (1.0 + 0.5 * LESS_A_KELVIN * cold)
        return 0.5 * (rise + warmed(rise))

    def cold_factor(self, share: float, exponent: Array) -> Array:
        """A factor of the cold (n,) once ``share`` of the rise of the run is there."""
        celsius = np.minimum(self.terms.coldest_c + share * self.cold_rise_k, ROOM_C)
        return np.asarray(warm_factor(celsius, 1.0) ** exponent)

    @cached_property
    def cell_ohm(self) -> Array:
        """Steady resistance in ohm (n,) of each cell at half charge, as warm as it is by the end
        of a run at the coldest.
        """
        table, rows = self.table, self.rows
        return np.asarray(table.steady_ohm[rows] * self.cold_factor(1.0, table.ohm_exponent[rows]))

    @cached_property
    def end_ohm(self) -> Array:
        """The same at the end charge.

        The end charge is that of the surface: what the lag costs is charge, which the usable share
        has.
        """
        shape = self.table.shape_at(self.rows, self.terms.end_charge)
        return np.asarray(self.cell_ohm * shape)

    @cached_property
    def lag_factors(self) -> tuple[Array, Array]:
        """Factors (n,) of the lag and of the reach by the end of a run at the coldest."""
        table, rows = self.table, self.rows
        return (
            self.cold_factor(1.0, table.lag_exponent[rows]),
            self.cold_factor(1.0, table.reach_exponent[rows]),
        )

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
        means = _mean_curves(table, self.terms.end_charge)
        charge_as = 3600.0 * self.aged_ah / self.parallel
        lagging = table.lag_s[rows] / charge_as * means.slope_v[rows]
        return table.steady_ohm[rows] * means.shape[rows], lagging

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


class _MeanCurves(NamedTuple):
    """Means of every cell (n,) from full to the end charge."""

    rest_v: Array
    shape: Array
    slope_v: Array


@lru_cache(maxsize=16)
def _mean_curves(table: CellTable, end_charge: float) -> _MeanCurves:
    """Means of every cell (n,) from full to the end charge.

    Rest voltage in V, resistance over that at half charge, and slope of the rest voltage in V.
    """
    span = table.charge >= end_charge
    charge, width = table.charge[span], 1.0 - end_charge
    volts = table.ocv_v[:, span]
    rest = np.trapezoid(volts, charge, axis=1) / width
    shape = np.trapezoid(table.ohm_shape[:, span], charge, axis=1) / width
    return _MeanCurves(np.asarray(rest), np.asarray(shape), (volts[:, -1] - volts[:, 0]) / width)


def mean_load(packs: Packs) -> tuple[Array, Array]:
    """Current in A and mean terminal voltage in V (n,) from full to the end charge.

    A power load draws at most what it draws at the low-voltage cut-off, where the equipment has
    stopped. The current of a duty is that of its heat; ``mean_share`` of it takes the charge.
    """
    emf = packs.series * _mean_curves(packs.table, packs.terms.end_charge).rest_v[packs.rows]
    fixed, shared = packs.outside
    ohm = fixed + (shared + packs.series * packs.mean_ohm) / packs.parallel
    current, at_stop = packs.terms.load.behind(emf, ohm), packs.at_stop_a
    current = np.where(np.isfinite(current), np.minimum(current, at_stop), at_stop)
    return current, np.maximum(emf - current * ohm, 1e-6)


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
