"""Counts in series and in parallel: what each need asks for, and the smallest that serves."""

from __future__ import annotations

import math
from decimal import Decimal
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from lumvak.core.cells.cell_table import CellTable
from lumvak.core.sizing.packs import Packs
from lumvak.core.sizing.terms import Array, Rows, Terms
from lumvak.core.sizing.usable import worked

NEEDS = ("capacity", "continuous", "peak", "charge", "sag", "temperature")
NEED_NAMES = {
    "capacity": "run time",
    "continuous": "continuous current",
    "peak": "peak current",
    "charge": "charge current",
    "sag": "sag at the peak",
    "temperature": "temperature",
}
PARALLEL_LIMIT = 64
MOST_GUESSES = 5


@lru_cache(maxsize=1024)
def series_max(highest_v: float, full_v: float) -> int:
    """Most cells in series: floor(V_survives / v_full), exact in the decimals typed (methods 2)."""
    return int(Decimal(str(highest_v)) // Decimal(str(full_v)))


def parallel_needs(packs: Packs) -> dict[str, Array]:
    """The needs of ``worked`` alone, by name, (n,) each (methods 6)."""
    return worked(packs).needs


def largest_need(needs: dict[str, Array]) -> Array:
    """The largest of the needs, (n,)."""
    return np.asarray(np.stack([needs[name] for name in NEEDS]).max(axis=0))


def gives_enough(usable: Array, terms: Terms) -> NDArray[np.bool_]:
    """Whether enough of the charge is usable, (n,), by the share ``usable`` of each pack."""
    return usable >= terms.least_usable - 1e-9


def serving(
    needs: dict[str, Array], usable: Array, parallel: Array | float, terms: Terms
) -> NDArray[np.bool_]:
    """Whether packs serve, (n,): every need is met and enough of the charge is usable."""
    return (largest_need(needs) <= parallel + 1e-9) & gives_enough(usable, terms)


def parallel_ceiling(need: float) -> int:
    """Whole cells in parallel for a ``need`` of cells; float noise below 1e-9 adds none."""
    return max(1, math.ceil(need - 1e-9))


def smallest_parallel(table: CellTable, rows: Rows, series: Array, terms: Terms) -> Array:
    """Smallest whole parallel count (n,) that meets the needs; infinite beyond ``PARALLEL_LIMIT``.

    Once a count meets them, so does every larger one. What the needs ask for at one count hardly
    depends on it, so the next to be tried is that, together with the count below it; a bracket
    makes sure of it, and halving ends it where the guesses creep.
    """
    low = np.zeros(len(rows))
    high = np.full(len(rows), float(PARALLEL_LIMIT))
    need = largest_need(parallel_needs(Packs(table, rows, series, high, terms)))
    reachable = need <= high + 1e-9
    tries = 0
    while len(left := np.flatnonzero(reachable & (high - low > 1.0))):
        under, over = low[left], high[left]
        if tries < MOST_GUESSES:
            tried = np.clip(np.ceil(need[left] - 1e-9), under + 1.0, over - 1.0)
        else:
            tried = np.floor((under + over) / 2.0)
        both = np.concatenate((tried, np.maximum(tried - 1.0, 1.0)))
        twice = np.concatenate((left, left))
        pairs = Packs(table, rows[twice], series[twice], both, terms)
        asked = largest_need(parallel_needs(pairs))
        serves, serves_below = (asked <= both + 1e-9).reshape(2, -1)
        serves_below = serves_below & serves & (tried - 1.0 > under)
        need[left] = np.where(serves_below, *asked.reshape(2, -1)[::-1])
        high[left] = np.where(serves_below, tried - 1.0, np.where(serves, tried, over))
        low[left] = np.where(serves_below, under, np.where(serves, tried - 1.0, tried))
        tries += 1
    return np.where(reachable, high, np.inf)
