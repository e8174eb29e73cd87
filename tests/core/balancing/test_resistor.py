"""Resistors across a group, by Ohm's law."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.balancing.resistor import E12, ohm_for, resistor, series_values


def test_twenty_two_ohm_at_full() -> None:
    """0.191 A and 0.802 W at 4.2 V; rated for twice that in a closed box."""
    found = resistor(22.0, 4.2, 0.3, 13)
    assert found.amps == pytest.approx(0.1909, abs=5e-5)
    assert found.watts == pytest.approx(0.8018, abs=5e-5)
    assert found.rating_w == 2.0
    assert found.all_w == pytest.approx(13 * 4.2**2 / 22.0)
    assert resistor(22.0, 4.15, 0.3, 13).hours == pytest.approx(1.59, abs=0.005)
    assert resistor(22.0, 4.2, 0.3, 13, 1.0).rise_k == pytest.approx(150.0 * 0.8018, abs=0.1)


@pytest.mark.parametrize("ohm", [0.0, -3.0])
def test_no_resistor_at_all_is_refused(ohm: float) -> None:
    with pytest.raises(ValueError, match="accepted: over 0"):
        resistor(ohm, 4.2, 0.3, 13)


@given(ohm=st.floats(0.5, 5000.0))
def test_neighbours_are_of_the_series_and_about_it(ohm: float) -> None:
    found = series_values(ohm)
    assert len(found) == 5
    assert list(found) == sorted(found)
    for value in found:
        digit = value / 10.0 ** math.floor(math.log10(value) + 1e-9)
        assert any(abs(digit - step) < 1e-6 for step in E12)
    assert min(abs(value / ohm - 1.0) for value in found) < 0.12


@given(hours=st.floats(0.1, 100.0), excess=st.floats(0.01, 10.0))
def test_the_resistor_for_so_many_hours_takes_so_many(hours: float, excess: float) -> None:
    ohm = ohm_for(hours, 4.15, excess)
    assert resistor(ohm, 4.15, excess, 4).hours == pytest.approx(hours)
