"""Small helpers over arrays."""

from __future__ import annotations

from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

N = TypeVar("N", bound=np.generic)


def distinct(values: NDArray[N]) -> NDArray[N]:
    """The distinct values of an array (any shape), rising, (m,).

    What NumPy has for it loads a third of the library the first time.
    """
    rising = np.sort(values, axis=None)
    first = np.ones(len(rising), dtype=bool)
    first[1:] = rising[1:] != rising[:-1]
    return rising[first]


def median(values: NDArray[np.float64]) -> float:
    """The middle of values (n,), none of them NaN, or the mean of the two there; loads nothing."""
    rising = np.sort(values)
    count = len(rising)
    return float(0.5 * (rising[(count - 1) // 2] + rising[count // 2]))


def running_integral(
    values: NDArray[np.float64], steps: NDArray[np.float64]
) -> NDArray[np.float64]:
    """The integral from the first of values (n,) on to each, by trapezoids; (n - 1,) steps."""
    if not len(values):
        return np.zeros(0)
    return np.concatenate(([0.0], np.cumsum(steps * (values[1:] + values[:-1]) / 2.0)))
