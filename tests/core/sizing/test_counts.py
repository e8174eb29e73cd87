"""Counts in series and in parallel, against counting one by one."""

import math
from decimal import Decimal

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.evaluation import Evaluation
from lumvak.core.sizing.counts import (
    largest_need,
    parallel_ceiling,
    parallel_needs,
    series_max,
    smallest_parallel,
)
from lumvak.core.sizing.packs import Packs


@given(st.decimals("1", "400", places=2), st.decimals("1", "5", places=2))
def test_the_most_in_series_is_the_last_that_fits(highest: Decimal, full: Decimal) -> None:
    count = series_max(float(highest), float(full))
    assert count * full <= highest < (count + 1) * full


@given(st.floats(0.0, 60.0))
def test_cells_are_whole_and_noise_adds_none(need: float) -> None:
    count = parallel_ceiling(need)
    assert count >= 1 and count >= need - 1e-9 and (count == 1 or count - 1 < need)
    assert parallel_ceiling(float(count) + 1e-12) == count


def test_the_smallest_count_is_the_first_that_serves(evaluation: Evaluation) -> None:
    """Every count from one up, tried one after the other."""
    sized_pack = evaluation.sized.sized_pack
    table, terms = sized_pack.table, sized_pack.terms
    rows = np.arange(len(table.cells))[::3]
    series = np.full(len(rows), 13.0)
    found = smallest_parallel(table, rows, series, terms)
    for at, row in enumerate(rows):
        first = math.inf
        for count in range(1, 65):
            packs = Packs(table, np.array([row]), series[:1], np.array([float(count)]), terms)
            if float(largest_need(parallel_needs(packs))[0]) <= count + 1e-9:
                first = float(count)
                break
        assert found[at] == pytest.approx(first), table.cells[row].id
