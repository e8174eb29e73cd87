"""How near to alike groups can come at all: a lower bound of the spread (methods 26)."""

from __future__ import annotations

import math

import numpy as np

from lumvak.core.matching.pool import Array

# Values are whole numbers of a step where they are to within so much of one.
NEAR_WHOLE = 1e-6
# e to this is as good as any larger number.
MOST_WAYS = 700.0
STEPS = (1.0, 0.1, 0.01, 1e-3, 1e-4)


def least_spread(values: Array, series: int, parallel: int) -> float:
    """The least that largest less least sum of ``series`` groups can be, over their mean.

    ``values`` (n,), as many as there are places, are dealt out to the last. Two things bound it: a
    cell so much larger or smaller than the rest that its group is out of line whoever sits with it;
    and values that are whole numbers of a step whose sum is no multiple of the groups.
    """
    if series < 2 or not np.isfinite(values).all():
        return 0.0
    ordered, total = np.sort(values), float(values.sum())
    mean = total / series
    high = float(ordered[-1] + ordered[: parallel - 1].sum())
    low = float(ordered[0] + ordered[len(ordered) - parallel + 1 :].sum())
    alone = max(0.0, high - mean, mean - low) * series / (series - 1)
    return max(alone, _by_steps(values, total, series)) / mean


def _by_steps(values: Array, total: float, series: int) -> float:
    """A step, where values are whole numbers of one and their sum is no multiple of the groups."""
    for step in STEPS:
        whole = values / step
        if np.abs(whole - np.round(whole)).max() <= NEAR_WHOLE * max(1.0, float(whole.max())):
            rest = round(total / step) % series
            return 0.0 if rest == 0 else step
    return 0.0


def partitions(series: int, parallel: int) -> float:
    """How many ways there are to deal out all cells, groups being alike."""
    ways = (
        math.lgamma(series * parallel + 1)
        - series * math.lgamma(parallel + 1)
        - math.lgamma(series + 1)
    )
    return math.exp(min(ways, MOST_WAYS))
