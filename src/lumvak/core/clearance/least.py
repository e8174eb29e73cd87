"""The least distance between bare metal of different potential (methods 39)."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from lumvak.core.figures.figure import Figure, Rule

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
JOINTS_LEAST_MM = Rule("joints.least_mm", "Least distance of bare metal", "mm",
                       "2 mm up to 63 V between the two, over that as the standard's table",
                       "methods 39 [14]")
# fmt: on

Array = NDArray[np.float64]
LEAST_MM = 2.0
# Distance along a surface for basic insulation, dirt that may turn damp, common plastics [14].
CREEPAGE_V = (63.0, 80.0, 100.0, 125.0, 160.0, 200.0, 250.0, 320.0, 400.0, 500.0, 630.0)
CREEPAGE_MM = (2.0, 2.1, 2.2, 2.4, 2.5, 3.2, 4.0, 5.0, 6.3, 8.0, 10.0)


def creepage_mm(volts: Array) -> Array:
    """Least distance in mm at so many volts, any shape; straight lines between the table's."""
    return np.interp(volts, CREEPAGE_V, CREEPAGE_MM)


def least_of(least_mm: float | None, full: Figure) -> Figure:
    """The least distance in mm between bare metal, as far apart in volts as the whole pack."""
    most = float(creepage_mm(np.asarray(full.number)))
    return JOINTS_LEAST_MM.said_or(least_mm, max(LEAST_MM, most), full)


def apart_mm(least_mm: float | None, volts: Array) -> Array:
    """Least distance in mm between pieces ``volts`` apart, any shape: as typed up to 63 V.

    Over that never under the table.
    """
    typed = LEAST_MM if least_mm is None else least_mm
    volts = np.asarray(volts, dtype=np.float64)
    return np.where(volts > CREEPAGE_V[0], np.maximum(typed, creepage_mm(volts)), typed)
