"""What sizing needs to know of the demand, the path and the builder's rules."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.sheet_curves import ROOM_C
from lumvak.core.cells.cell_model import ageing_reserve, pulse_limit_a, warm_factors_of
from lumvak.core.cells.cell_table import CellTable
from lumvak.core.cells.pack_heat import FILM_W_PER_M2_K
from lumvak.core.document.loads import EnduranceBasis
from lumvak.core.document.pack import Pack
from lumvak.core.need.demand import Demand, Load

Array = NDArray[np.float64]
Rows = NDArray[np.intp]


class CountedPath(Struct, frozen=True):
    """Resistance in ohm between the cells and the equipment, as sizing counts it.

    ``joint_ohm`` (n,) is one series joint of each cell row; where ``joint_shared`` it is that of
    one strip and falls with the parallel count, one strip a cell. ``peak_fixed_ohm`` is all but the
    joints as the peak meets it.
    """

    fixed_ohm: float
    joint_ohm: Array
    joint_shared: bool
    peak_fixed_ohm: float

    def joints(self, rows: Rows, series: Array, parallel: Array) -> Array:
        """All series joints in ohm (n,)."""
        whole = self.joint_ohm[rows] * (series - 1.0)
        return whole / parallel if self.joint_shared else whole

    def split(self, rows: Rows, series: Array) -> tuple[Array, Array]:
        """Part in ohm that does not change with the parallel count, and that times it."""
        joints = self.joint_ohm[rows] * (series - 1.0)
        zero = np.zeros_like(joints)
        return (
            (self.fixed_ohm + zero, joints)
            if self.joint_shared
            else (
                self.fixed_ohm + joints,
                zero,
            )
        )


class Terms(Struct, frozen=True):
    """What the sizing needs to know of the demand and of the builder's rules.

    ``ohm_factor`` and ``lag_factor`` are those of each cell (n,) at the coldest,
    no warmer than the cells were measured at: warm cells get no credit. ``ambient_c`` is the
    warmest, ``coldest_c`` the coldest. ``stop_v`` is ``None`` for equipment that has no cut-off of
    its own. ``peak_share`` is the resistance of each cell (n,) after the peak's length over that of
    steady current.
    """

    load: Load
    mean_share: float
    stop_v: float | None
    peak_a: float
    peak_s: float
    endurance_basis: str
    endurance: float
    charger_a: float
    derating: float
    end_charge: float
    least_usable: float
    peak_charge: float
    ohm_factor: Array
    lag_factor: Array
    path: CountedPath
    reserve: Array
    pulse_a: Array
    peak_share: Array
    film_w_per_m2_k: float
    ambient_c: float
    coldest_c: float
    temperature_limit_c: float


def sizing_terms(
    table: CellTable, demand: Demand, basis: EnduranceBasis, pack: Pack, path: CountedPath
) -> Terms:
    """Gather what ``parallel_needs`` takes, with the per-cell columns laid out (n,)."""
    reserves = [
        ageing_reserve(cell, pack.ageing_new, pack.ageing_reclaimed) for cell in table.cells
    ]
    seconds = demand.peak_duration.number
    pulses = [pulse_limit_a(cell, seconds) for cell in table.cells]
    cold = min(demand.coldest.number, ROOM_C)
    return Terms(
        load=demand.load,
        mean_share=demand.mean_share,
        stop_v=demand.window.stop.number if demand.window.binds else None,
        peak_a=demand.peak.number,
        peak_s=demand.peak_duration.number,
        endurance_basis=basis,
        endurance=demand.endurance.number if demand.endurance is not None else 0.0,
        charger_a=demand.charger_current.number if demand.charger_current is not None else 0.0,
        derating=pack.derating,
        end_charge=pack.end_charge,
        least_usable=pack.least_usable,
        peak_charge=pack.peak_charge,
        ohm_factor=warm_factors_of(cold, table.ohm_exponent),
        lag_factor=warm_factors_of(cold, table.lag_exponent),
        path=path,
        reserve=np.array(reserves),
        pulse_a=np.array(pulses),
        peak_share=np.array([item.time_factor(seconds) for item in table.behaviours]),
        film_w_per_m2_k=FILM_W_PER_M2_K[pack.enclosure],
        ambient_c=demand.ambient.number,
        coldest_c=demand.coldest.number,
        temperature_limit_c=pack.temperature_limit_c,
    )
