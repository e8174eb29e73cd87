"""The pack in hand: which option it is, and what it becomes where no option describes it."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.cell_table import CellTable
from lumvak.core.document.pack import Pack
from lumvak.core.sizing.counts import (
    NEEDS,
    PARALLEL_LIMIT,
    parallel_ceiling,
    parallel_needs,
    series_max,
)
from lumvak.core.sizing.options import Options
from lumvak.core.sizing.packs import one_pack
from lumvak.core.sizing.terms import Terms


class Choice(Struct, frozen=True):
    """The option in hand; ``index`` is its place among the options, ``None`` if it is none."""

    cell: Cell
    row: int
    series: int
    parallel: int
    index: int | None

    @property
    def count(self) -> str:
        """How many in series and in parallel, as it is usually written: 13S8P."""
        return f"{self.series}S{self.parallel}P"


def choose(
    pack: Pack, options: Options, highest_v: float, table: CellTable, terms: Terms
) -> Choice:
    """The pack that the builder picked; what is not picked follows the best of the ranking.

    A count in parallel that no option describes is what its finite needs ask for.
    """
    return _settle(_picked(pack, options, highest_v), table, terms)


def _picked(pack: Pack, options: Options, highest_v: float) -> Choice:
    index = options.find(pack.cell, pack.series, pack.parallel)
    if index is not None:
        return Choice(
            options.cell(index),
            int(options.rows[index]),
            int(options.series[index]),
            int(options.parallel[index]),
            index,
        )
    cells = options.table.cells
    row = options.table.row_of(pack.cell)
    if row is None:
        near = options.find(None, pack.series, None)
        row = int(options.rows[near]) if near is not None else 0
    cell = cells[row]
    near = options.find(cell.id, pack.series, None)
    if near is None:
        near = options.find(cell.id, None, None)
    series = pack.series or (
        int(options.series[near])
        if near is not None
        else max(1, series_max(highest_v, cell.voltage_full_v))
    )
    parallel = pack.parallel or 0
    return Choice(cell, row, series, parallel, None)


def _settle(choice: Choice, table: CellTable, terms: Terms) -> Choice:
    """Give a pack that no option describes a parallel count: what its finite needs ask for."""
    if choice.parallel:
        return choice
    count = 1
    for _ in range(4):
        needs = parallel_needs(one_pack(table, choice.row, choice.series, count, terms))
        finite = [float(needs[name][0]) for name in NEEDS if np.isfinite(needs[name][0])]
        count = min(PARALLEL_LIMIT, max(count, parallel_ceiling(max(finite, default=1.0))))
    return replace(choice, parallel=count)
