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
