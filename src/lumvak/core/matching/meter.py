"""How far off a meter may be: what is told apart, and what is no difference."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from lumvak.core.document.hand import Meter

Array = NDArray[np.float64]


def volts_within(meter: Meter, volts: float) -> float:
    """How far off in V a reading may be: a share of it, and digits of the range it is read in.

    The range is the smallest decade in which the reading is no more than the meter's counts.
    """
    size = max(abs(volts), 1e-3)
    step = 10.0 ** math.ceil(math.log10(size / meter.counts))
    return meter.percent * abs(volts) + meter.digits * step


# Two readings by one meter share its gain; what is left of it drifts by so much of the reading.
DRIFT = 3e-4


def apart_within(meter: Meter, values: Array) -> Array:
    """How far off in V the difference of a reading (n,) to another of its size by one meter may be.

    Digits count for each of the two, and the drift of the gain (methods 26).
    """
    size = np.maximum(np.abs(values), 1e-3)
    step = 10.0 ** np.ceil(np.log10(size / meter.counts))
    return np.asarray(np.sqrt(2.0) * (meter.digits * step + DRIFT * np.abs(values)))


def within(meter: Meter, values: Array) -> Array:
    """``volts_within`` of each of ``values`` in V, (n,); NaN stays so."""
    size = np.maximum(np.abs(values), 1e-3)
    step = 10.0 ** np.ceil(np.log10(size / meter.counts))
    return np.asarray(meter.percent * np.abs(values) + meter.digits * step)
