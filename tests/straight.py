"""Cells with a straight rest curve, for which charges have closed forms."""

import numpy as np

from lumvak.core.balancing.groups_run import Array, Groups
from lumvak.core.cells.behaviour import Behaviour


def straight_cell(low_v: float = 3.0, high_v: float = 4.2, lag_s: float = 0.0) -> Behaviour:
    """A cell whose rest volts rise on a straight line and whose resistance never changes."""
    return Behaviour(
        rest_charge=np.array([0.0, 1.0]),
        rest_v=np.array([low_v, high_v]),
        shape_charge=np.array([0.0, 1.0]),
        shape=np.array([1.0, 1.0]),
        fast_ohm=0.04,
        slow_ohm=0.0,
        lag_s=lag_s,
        ohm_exponent=1.0,
        lag_exponent=1.0,
        reach_h=0.0,
        reach_exponent=2.0,
        capacity_scale=1.0,
        entropy_v_per_k=0.0,
        fit=None,
    )


def straight_groups(
    ah: list[float], ohm: float = 0.04, leak_a: float = 0.0, path_ohm: float = 0.0
) -> Groups:
    """Groups of such cells."""
    size = np.array(ah)
    return Groups(straight_cell(), size, np.full(len(ah), ohm), np.full(len(ah), leak_a), path_ohm)


def off(count: int) -> "np.ndarray[tuple[int], np.dtype[np.bool_]]":
    """No group that bleeds."""
    return np.zeros(count, dtype=bool)


def at(*share: float) -> Array:
    """Charges of groups."""
    return np.array(share, dtype=float)
