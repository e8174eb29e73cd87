"""How warm a pack gets: one lump of cells, its outer area and the air around it."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.cells.cell_model import SPECIFIC_HEAT_J_PER_KG_K

Array = NDArray[np.float64]
# Film coefficient in W/(m2 K) by how the pack is enclosed; methods 14.
FILM_W_PER_M2_K = {"closed": 5.0, "still": 10.0, "moving": 25.0}


class PackLump(Struct, frozen=True):
    """A pack as one warm body: thermal resistance in K/W and heat capacity in J/K, arrays (n,)."""

    kelvin_per_watt: Array
    joule_per_kelvin: Array

    @property
    def time_constant_s(self) -> Array:
        """Time constant in s (n,)."""
        return self.kelvin_per_watt * self.joule_per_kelvin


def block_area_m2(count: Array, footprint_mm2: Array, height_mm: Array) -> Array:
    """Outer area in m2 (n,) of cells standing side by side in one square layer (methods 14)."""
    base = count * footprint_mm2 * 1e-6
    return np.asarray(2.0 * base + 4.0 * np.sqrt(base) * height_mm * 1e-3)


def lump_of(area_m2: Array, mass_kg: Array, film_w_per_m2_k: float) -> PackLump:
    """The lumps of packs, (n,): 1 / (h A) and c m (methods 14)."""
    return PackLump(1.0 / (film_w_per_m2_k * area_m2), mass_kg * SPECIFIC_HEAT_J_PER_KG_K)


def rise_k(lump: PackLump, heat_w: Array, seconds: Array) -> Array:
    """Rise in K (n,) over the surroundings after ``seconds`` of steady heat.

    Closed form of C dT/dt = q - (T - T_a)/R_th from T_a (methods 14); steady for infinite time.
    """
    return np.asarray(
        heat_w * lump.kelvin_per_watt * -np.expm1(-np.asarray(seconds) / lump.time_constant_s)
    )
