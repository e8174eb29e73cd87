"""The whole field: every cell x series x parallel count in the window, as arrays."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.cells.cell_table import CellTable
from lumvak.core.document.pack import Pack
from lumvak.core.need.demand import Demand
from lumvak.core.sizing.counts import PARALLEL_LIMIT, serving
from lumvak.core.sizing.packs import Packs
from lumvak.core.sizing.search import (
    SERIES_LIMIT,
    limited,
    past_limits,
    series_bounds,
    too_cold_or_hot,
    unwanted,
)
from lumvak.core.sizing.terms import Rows, Terms
from lumvak.core.sizing.usable import worked

Array = NDArray[np.float64]
Flags = NDArray[np.bool_]
# A pack with more than this many times the cells it needs is not shown.
WITHIN_REACH = 1.5


class Axis(Struct, frozen=True):
    """A measure to compare packs by: its words, unit, and whether more of it is better."""

    name: str
    unit: str
    more: bool


AXES = {
    "mass": Axis("mass of the cells", "kg", False),
    "cost": Axis("cost of the cells", "money", False),
    "volume": Axis("volume of the cells", "l", False),
    "runtime": Axis("run time", "h", True),
    "headroom": Axis("headroom", "%", True),
    "temperature": Axis("cells at the end", "°C", False),
}


class PackField(Struct, frozen=True):
    """Packs as columns (n,), whether each serves, and the measures of AXES."""

    rows: Rows
    series: Array
    parallel: Array
    serves: Flags
    measures: Mapping[str, Array]

    def __len__(self) -> int:
        """How many packs the field has."""
        return len(self.rows)

    def within_reach(self) -> NDArray[np.intp]:
        """Places of the packs that serve with no more than half as many cells again as needed."""
        places = np.flatnonzero(self.serves)
        key = self.rows[places] * (SERIES_LIMIT + 1) + self.series[places].astype(np.intp)
        _, pair = np.unique(key, return_inverse=True)
        least = np.full(len(places), np.inf)
        np.minimum.at(least, pair, self.parallel[places])
        return places[self.parallel[places] <= WITHIN_REACH * least[pair] + 1e-9]


def field_of(
    table: CellTable, demand: Demand, terms: Terms, pack: Pack, most_parallel: int = PARALLEL_LIMIT
) -> PackField:
    """Every pack of every cell at every series count in the window and 1 to ``most_parallel``."""
    bounds = series_bounds(table, demand.window)
    pairs = [
        (row, count)
        for row, cell in enumerate(table.cells)
        if not (unwanted(cell, pack, demand.kind) or too_cold_or_hot(cell, demand))
        for count in range(bounds[row][0], bounds[row][1] + 1)
    ]
    rows = np.repeat(np.array([row for row, _ in pairs], dtype=np.intp), most_parallel)
    series = np.repeat(np.array([count for _, count in pairs], dtype=float), most_parallel)
    parallel = np.tile(np.arange(1.0, most_parallel + 1.0), len(pairs))
    return field_at(table, terms, pack, rows, series, parallel)


def field_at(
    table: CellTable, terms: Terms, pack: Pack, rows: Rows, series: Array, parallel: Array
) -> PackField:
    """The field of just these packs; ``rows``, ``series`` and ``parallel`` have shape (n,)."""
    done = worked(Packs(table, rows, series, parallel, terms))
    count = series * parallel
    limit = table.continuous_a[rows] * terms.derating * parallel
    measures = {
        "mass": count * table.mass_kg[rows],
        "cost": count * table.price[rows],
        "volume": count * table.volume_cm3[rows] / 1000.0,
        "runtime": done.aged_ah * done.usable / (done.mean_current_a * terms.mean_share),
        "headroom": limit / done.end_current_a - 1.0,
        "temperature": terms.ambient_c + done.warmth.rise_end_k,
    }
    serves = serving(done.needs, done.usable, parallel, terms)
    for place in np.flatnonzero(serves) if limited(pack) else ():
        cell = table.cells[int(rows[place])]
        serves[place] = past_limits(cell, int(count[place]), pack) is None
    return PackField(rows, series, parallel, serves, measures)


def undominated(first: Array, second: Array, more: tuple[bool, bool]) -> Flags:
    """Which of n packs no other beats in one measure without losing in the other, (n,).

    ``more`` says for each measure whether more is better. Packs equal in both stay together.
    """
    if not len(first):
        return np.zeros(0, dtype=bool)
    x, y = -first if more[0] else first, -second if more[1] else second
    # Sorted by the first measure, then the second: one is on the edge if it is new in the second.
    order = np.lexsort((y, x))
    x, y = x[order], y[order]
    fresh = np.append(True, (x[1:] != x[:-1]) | (y[1:] != y[:-1]))
    alone = y[fresh]
    edge = np.append(True, alone[1:] < np.minimum.accumulate(alone)[:-1])
    result = np.zeros(len(order), dtype=bool)
    result[order] = edge[np.cumsum(fresh) - 1]
    return result
