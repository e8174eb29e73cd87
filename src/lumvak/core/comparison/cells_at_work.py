"""What each cell of the library would do for the need at hand."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.sizing.options import Options
from lumvak.core.sizing.packs import one_pack
from lumvak.core.sizing.search import series_bounds
from lumvak.core.sizing.sized_pack import SizedPack

Array = NDArray[np.float64]


class CellCurves(NamedTuple):
    """A cell at rest and under load, (n,) over its charge, and the load in A."""

    charge: Array
    rest_v: Array
    loaded_v: Array
    load_a: float


def curves(sized_pack: SizedPack, row: int) -> CellCurves:
    """Charge, volts at rest and volts under load (n,) of a cell, and that load in A.

    The load is that of a cell of the pack in hand at the end; resistance as in sizing.
    """
    table = sized_pack.table
    load = float(sized_pack.worked.end_current_a[0]) / sized_pack.choice.parallel
    packs = one_pack(
        table, row, sized_pack.choice.series, sized_pack.choice.parallel, sized_pack.terms
    )
    ohm = float(packs.cell_ohm[0])
    rest = table.ocv_v[row]
    return CellCurves(table.charge, rest, rest - load * ohm * table.ohm_shape[row], load)


class AtWork(Struct, frozen=True):
    """What every cell of the table would do for the demand at hand, as columns (n,).

    ``delivered_ah`` is per cell, down to the low-voltage cut-off; ``serves`` whether that pack
    serves.
    """

    series: Array
    parallel: Array
    delivered_ah: Array
    warmest_c: Array
    serves: NDArray[np.bool_]


def at_work(sized_pack: SizedPack, options: Options) -> AtWork:
    """Each cell in its best pack; one without an option as the pack in hand would have it."""
    table, choice = sized_pack.table, sized_pack.choice
    bounds = series_bounds(table, sized_pack.demand.window)
    best: dict[int, tuple[float, float]] = {}
    for row, series, parallel in zip(options.rows, options.series, options.parallel, strict=True):
        best.setdefault(int(row), (float(series), float(parallel)))
    counts = [
        best.get(row, (float(max(1, high)), float(choice.parallel)))
        for row, (_, high) in enumerate(bounds)
    ]
    rows = np.arange(len(table.cells))
    series_n = np.array([series for series, _ in counts])
    parallel_n = np.array([parallel for _, parallel in counts])
    packs = sized_pack.as_options(rows, series_n, parallel_n)
    back = np.argsort(packs.rows)
    return AtWork(
        series=series_n,
        parallel=parallel_n,
        delivered_ah=(table.capacity_min_ah[packs.rows] * packs.usable)[back],
        warmest_c=packs.warmest_c[back],
        serves=np.array([row in best for row in rows.tolist()]),
    )
