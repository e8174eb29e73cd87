"""What a short circuit gives, and what it does to thin wires (methods 22)."""

from __future__ import annotations

import math

import numpy as np

from lumvak.core.time_current import TIMES_S, Array

MM2_PER_CMIL = 5.067074790975e-4
COPPER_MELTS_C = 1084.0
ONDERDONK_ZERO_C, ONDERDONK = 234.0, 33.0
# Steady melting of a thin copper wire in air: I = 80 d^1.5, d in mm (Preece).
PREECE_A = 80.0
# A fusible link melts for good at so many times its rating, give or take.
LINK_MELTS, LINK_SPREAD = 1.8, 0.15


def onderdonk_a(area_mm2: float, ambient_c: float, seconds: float) -> float:
    """Current in A that melts a thin copper wire in up to about 10 s.

    I = A √(log10((T_melt − T_a) ÷ (234 + T_a) + 1) ÷ (33 t)), A in circular mils.
    """
    warm = math.log10((COPPER_MELTS_C - ambient_c) / (ONDERDONK_ZERO_C + ambient_c) + 1.0)
    return area_mm2 / MM2_PER_CMIL * math.sqrt(warm / (ONDERDONK * seconds))


def onderdonk_s(area_mm2: float, ambient_c: float, current_a: float) -> float:
    """Time in s in which a current melts a thin copper wire; beyond 10 s it is longer still."""
    return (onderdonk_a(area_mm2, ambient_c, 1.0) / current_a) ** 2


def link_curves(rating_a: float, ambient_c: float) -> tuple[Array, Array]:
    """Least and most melting current in A, (T,) each, of a fusible link of copper over TIMES_S.

    The wire is the one that melts for good at 1.8 times the rating; for short times its heat
    stays in it: I² = I∞² + K² ÷ t.
    """
    steady = LINK_MELTS * rating_a
    diameter = (steady / PREECE_A) ** (2.0 / 3.0)
    one_second = onderdonk_a(math.pi / 4.0 * diameter**2, ambient_c, 1.0)
    melts = np.sqrt(steady**2 + one_second**2 / TIMES_S)
    return (1.0 - LINK_SPREAD) * melts, (1.0 + LINK_SPREAD) * melts
