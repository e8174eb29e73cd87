"""Conductors: resistance, what a strip carries by three schools, and insulated wire."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache
from typing import TypeVar

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.time_current import peak_allowance

Array = NDArray[np.float64]
# One conductor, or as many as an array holds.
N = TypeVar("N", float, Array)

ROOM_C = 20.0
STILL_AIR_W_PER_M2_K = 10.0
WIRE_FILM_W_PER_M2_K = 12.0
# In a bundle or a closed box half of the heat of a wire leaves.
BUNDLED = 0.5


class Material(Struct, frozen=True):
    """A conductor material; resistivity at 20 degC in ohm m, the rest in SI (methods 8, [3])."""

    name: str
    resistivity_ohm_m: float
    per_kelvin: float
    conductivity_w_per_m_k: float
    density_kg_per_m3: float
    heat_j_per_kg_k: float


def _nickel_copper() -> Material:
    """Copper with a tenth of its thickness nickel: the layers share the current and the heat."""
    nickel, copper, share = NICKEL, COPPER, 0.1
    conductance = (1 - share) / copper.resistivity_ohm_m + share / nickel.resistivity_ohm_m
    return Material(
        "nickel-copper",
        1.0 / conductance,
        copper.per_kelvin,
        (1 - share) * copper.conductivity_w_per_m_k + share * nickel.conductivity_w_per_m_k,
        (1 - share) * copper.density_kg_per_m3 + share * nickel.density_kg_per_m3,
        (1 - share) * copper.heat_j_per_kg_k + share * nickel.heat_j_per_kg_k,
    )


NICKEL = Material("nickel", 6.99e-8, 0.006, 91.0, 8908.0, 444.0)
COPPER = Material("copper", 1.724e-8, 0.0039, 398.0, 8960.0, 385.0)
MATERIALS = {
    material.name: material
    for material in (
        NICKEL,
        COPPER,
        Material("plated steel", 1.43e-7, 0.005, 51.0, 7850.0, 490.0),
        Material("aluminium", 2.82e-8, 0.0040, 237.0, 2700.0, 897.0),
        Material("brass", 6.2e-8, 0.0015, 120.0, 8500.0, 380.0),
        _nickel_copper(),
    )
}


class Cooling(Struct, frozen=True):
    """How a flat conductor gets rid of its heat (methods 9).

    By a film on one or both of its ``faces``, and into the cells through what joins each end to
    one, ``weld_k_per_w``; 0 holds the ends at the temperature of the cells.
    """

    film_w_per_m2_k: float = STILL_AIR_W_PER_M2_K
    faces: int = 2
    weld_k_per_w: float = 0.0

    def surface_m(self, width_mm: N, stack_mm: N) -> N:
        """Cooled surface of a stack per metre of length, in m: its faces and both edges."""
        return (self.faces * width_mm + 2.0 * stack_mm) * 1e-3

    def share_held(self, leaving: Array, carried: Array, length_m: Array) -> Array:
        """The rise of mid-span over the cells as a share of that far from any cell, any shape.

        ``leaving`` in W/(m K) is h p, ``carried`` in W m/K is k A:
        1 - 1/(cosh(m L/2) + R_w k A m sinh(m L/2)), m^2 = h p/(k A) (methods 9).
        """
        m = np.sqrt(leaving / carried)
        half = np.minimum(m * length_m / 2.0, 300.0)
        # 1 - 1/D without losing digits for small x: cosh(x) - 1 = 2 sinh^2(x/2).
        over = 2.0 * np.sinh(half / 2.0) ** 2
        over += self.weld_k_per_w * carried * m * np.sinh(half)
        return np.asarray(over / (1.0 + over))

    def returning(self, leaving: N, conductivity: N, area_m2: N, length_m: N) -> N:
        """What leaves a strip as it cools to its welds and its surface, in W/(m3 K) (methods 9).

        The welds in series with the strip: 1/((L/pi)^2/k + A L R_w/2) + h p/A.
        """
        inside = (length_m / math.pi) ** 2 / conductivity
        welds = area_m2 * length_m * self.weld_k_per_w / 2.0
        return 1.0 / (inside + welds) + leaving / area_m2


FREE = Cooling()


class Section(Struct, frozen=True):
    """A flat conductor between two welds: material, section of all its layers and free length."""

    material: Material
    thickness_mm: float
    width_mm: float
    layers: int
    length_mm: float
    cooling: Cooling = FREE

    @property
    def area_m2(self) -> float:
        """Section of all layers in m2."""
        return self.thickness_mm * self.width_mm * self.layers * 1e-6

    @property
    def surface_m(self) -> float:
        """Cooled surface of the stack per metre of length, in m."""
        return self.cooling.surface_m(self.width_mm, self.thickness_mm * self.layers)

    @property
    def leaving_w_per_m_k(self) -> float:
        """Heat that it gives off, in W for each metre and kelvin: h p."""
        return self.cooling.film_w_per_m2_k * self.surface_m


def strip_ohm(section: Section) -> float:
    """Resistance in ohm at 20 degC: rho L / (w t layers) (methods 8)."""
    return section.material.resistivity_ohm_m * section.length_mm * 1e-3 / section.area_m2


def joule_w_per_m(section: Section, current_a: float) -> float:
    """Heat per metre in W/m at 20 degC: I^2 rho / A (methods 9)."""
    return current_a**2 * section.material.resistivity_ohm_m / section.area_m2


def strip_rise_k(section: Section, current_a: float) -> float:
    """Rise in K of mid-span over the cells, rho at 20 degC (methods 9).

    Fin equation with Joule heat; the ends stand over the cells by the heat through their welds:
    q/(h p) (1 - 1/(cosh(m L/2) + R_w k A m sinh(m L/2))), m^2 = h p/(k A).
    """
    return float(strip_rises_k((section,), current_a)[0])


def strip_rises_k(sections: Sequence[Section], current_a: float) -> Array:
    """The same of sections (n,) under one cooling, each with this current, in K."""
    if not sections:
        return np.zeros(0)
    leaving, carried, length_m, free = np.array(
        [
            (
                item.leaving_w_per_m_k,
                item.material.conductivity_w_per_m_k * item.area_m2,
                item.length_mm * 1e-3,
                free_rise_k(item, current_a),
            )
            for item in sections
        ]
    ).T
    held: Array = sections[0].cooling.share_held(leaving, carried, length_m)
    return np.asarray(free * held)


def free_rise_k(section: Section, current_a: float) -> float:
    """Rise in K far from any cell: q/(h p), for free leads and busbars (methods 9)."""
    return joule_w_per_m(section, current_a) / section.leaving_w_per_m_k


def warm_rise_k(rise_at_20_k: float, material: Material, surroundings_c: float) -> float:
    """The rise with the resistivity of the warm strip; infinite where it would run away.

    With r = r20 (1 + a (T0 + r - 20)) the rise r solves to r20 (1 + a (T0 - 20)) / (1 - a r20).
    """
    rest = 1.0 - material.per_kelvin * rise_at_20_k
    if rest <= 0.0:
        return math.inf
    return rise_at_20_k * (1.0 + material.per_kelvin * (surroundings_c - ROOM_C)) / rest


def rule_current_a(section: Section, nickel_a_per_mm2: float) -> float:
    """Current in A by the rule: A/mm2 of pure nickel, others at the same heat per volume."""
    density = nickel_a_per_mm2 * math.sqrt(
        NICKEL.resistivity_ohm_m / section.material.resistivity_ohm_m
    )
    return density * section.area_m2 * 1e6


@lru_cache(maxsize=4096)
def strip_time_constant_s(section: Section) -> float:
    """Slowest time constant in s of a strip between its welds (methods 9).

    From the fin equation with storage: c rho_m over what leaves.
    """
    material = section.material
    returning = section.cooling.returning(
        section.leaving_w_per_m_k,
        material.conductivity_w_per_m_k,
        section.area_m2,
        section.length_mm * 1e-3,
    )
    return material.density_kg_per_m3 * material.heat_j_per_kg_k / returning


def peak_factor(seconds: float, time_constant_s: float) -> float:
    """What a peak may be over the continuous current of a conductor (methods 9).

    In a time under the time constant the rise does not get there:
    sqrt(allowance / (1 - exp(-t/tau))).
    """
    return math.sqrt(peak_allowance(seconds) / -math.expm1(-seconds / time_constant_s))


def wire_ohm_per_m(area_mm2: float) -> float:
    """Resistance in ohm/m of copper wire at 20 degC (methods 8)."""
    return COPPER.resistivity_ohm_m / (area_mm2 * 1e-6)


def wire_rise_k(
    area_mm2: float, outer_mm: float, current_a: float, film: float = WIRE_FILM_W_PER_M2_K
) -> float:
    """Rise in K of an insulated wire in free air: I^2 R' / (h pi D) (methods 11).

    ``film`` is in W/(m2 K).
    """
    return current_a**2 * wire_ohm_per_m(area_mm2) / (film * math.pi * outer_mm * 1e-3)


def wire_current_a(
    area_mm2: float, outer_mm: float, rise_k: float, film: float = WIRE_FILM_W_PER_M2_K
) -> float:
    """Current in A at which an insulated wire in free air rises by ``rise_k`` (methods 11).

    ``film`` is in W/(m2 K).
    """
    return math.sqrt(rise_k / wire_rise_k(area_mm2, outer_mm, 1.0, film))


def wire_time_constant_s(
    area_mm2: float, outer_mm: float, film: float = WIRE_FILM_W_PER_M2_K
) -> float:
    """Time constant in s of a wire's copper in free air; the insulation's heat is left out.

    ``film`` is in W/(m2 K).
    """
    stored = area_mm2 * 1e-6 * COPPER.density_kg_per_m3 * COPPER.heat_j_per_kg_k
    return stored / (film * math.pi * outer_mm * 1e-3)


def lead_film(bundled: bool) -> float:
    """Film coefficient in W/(m2 K) around a lead, free or in a bundle (methods 11)."""
    return WIRE_FILM_W_PER_M2_K * (BUNDLED if bundled else 1.0)
