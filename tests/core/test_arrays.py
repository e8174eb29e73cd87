import statistics

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import cumulative_trapezoid

from lumvak.core.arrays import distinct, median, running_integral


@given(st.lists(st.integers(-50, 50)))
def test_distinct_values_are_those_of_a_set(values: list[int]) -> None:
    found = distinct(np.array(values, dtype=np.intp))
    assert found.tolist() == sorted(set(values))


@given(st.lists(st.floats(-1e6, 1e6), min_size=1))
def test_distinct_values_rise_and_any_shape_does(values: list[float]) -> None:
    found = distinct(np.array(values).reshape(1, -1))
    assert (np.diff(found) > 0.0).all()
    assert set(found.tolist()) == set(values)


@given(st.lists(st.floats(-1e6, 1e6), min_size=1))
def test_the_middle_is_what_numpy_and_a_sorted_list_say(values: list[float]) -> None:
    assert median(np.array(values)) == statistics.median(values) == np.median(values)


@given(st.lists(st.tuples(st.floats(0.01, 10.0), st.floats(-100.0, 100.0)), max_size=30))
def test_a_running_integral_is_the_one_that_scipy_has(rows: list[tuple[float, float]]) -> None:
    at = np.cumsum([step for step, _ in rows])
    values = np.array([value for _, value in rows])
    found = running_integral(values, np.diff(at))
    if rows:
        assert found == pytest.approx(cumulative_trapezoid(values, at, initial=0.0))
    assert len(found) == len(rows)
