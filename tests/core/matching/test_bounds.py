"""No dealing is better than the bound."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.matching.bounds import least_spread, partitions
from tests.core.matching.pools import least_by_all_ways


@given(st.lists(st.integers(2000, 2600), min_size=6, max_size=6))
def test_the_bound_is_under_every_way(values: list[int]) -> None:
    array = np.array(values) / 1000.0
    least = least_by_all_ways(values, 3, 2) / sum(values) * 3.0
    assert least_spread(array, 3, 2) <= least + 1e-9
    assert partitions(3, 2) == pytest.approx(15.0)


def test_an_outlier_bounds_the_spread() -> None:
    values = np.array([3.0, 1.0, 1.0, 1.0])
    # 3 + 1 against 1 + 1: nothing else is left.
    assert least_spread(values, 2, 2) == pytest.approx(2.0 / 3.0)
