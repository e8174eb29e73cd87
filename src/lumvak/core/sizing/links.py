"""The cells as a link of the chain."""

from __future__ import annotations

import numpy as np

from lumvak.core.catalogue.cells import Cell
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.link import Link, PathLoad
from lumvak.core.said import phrase
from lumvak.core.sizing.figures import PackFigures
from lumvak.core.time_current import TIMES_S, Array


def cells_link(pack: PackFigures, cell: Cell, limit: Figure, excess: float, load: PathLoad) -> Link:
    """What the cells carry, evenly used or as they share (methods 13).

    ``limit`` is what they carry as they share, ``excess`` how far the busiest is over its fair
    share.
    """
    parallel = int(pack.parallel.number)
    shared = limit.number / pack.cells_limit.number
    return load.link(
        "cells",
        "cells",
        detail=phrase("{} × {}", parallel, cell.name),
        stage="cells",
        limit=limit,
        hold_a=cells_hold(cell, parallel, limit.number, excess),
        peak_a=pack.cells_peak.number * shared,
    )


def cells_hold(cell: Cell, parallel: int, cells_limit_a: float, excess: float) -> Array:
    """(T,) pack current in A that the cells give for each time, by their ratings (methods 13).

    The pulse rating within its length; beyond it the extra heat stays the same. ``excess`` is what
    the busiest cell carries over an even share.
    """
    share = parallel / (1.0 + excess)
    if cell.pulse_a is None or cell.pulse_s is None:
        return np.full(TIMES_S.shape, cells_limit_a)
    pulse = cell.pulse_a * share
    extra = max(0.0, pulse**2 - (cell.continuous_a * share) ** 2) * cell.pulse_s / TIMES_S
    return np.asarray(
        np.maximum(np.minimum(pulse, np.sqrt(cells_limit_a**2 + extra)), cells_limit_a)
    )
