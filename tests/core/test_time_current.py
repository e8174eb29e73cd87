"""Curves over time against closed forms, and the blade-fuse band at the points of its table."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.power_parts import BLADE_BAND
from lumvak.core.conductors.lead_wire import harm_curve
from lumvak.core.conductors.melting import link_curves, onderdonk_a, onderdonk_s
from lumvak.core.conductors.strip_and_wire import COPPER
from lumvak.core.spelling import awg_area_mm2
from lumvak.core.time_current import (
    TIMES_S,
    Lump,
    at_time,
    band_curves,
    lump_curve,
    rated_curve,
    rise_after_k,
    stages_curve,
    times_at,
)

BAND = [(point.ratio, point.least_s, point.most_s) for point in BLADE_BAND]
STAGES = ((60.0, 1.0), (240.0, 0.0003))


@pytest.mark.parametrize(("ratio", "least_s", "most_s"), BAND)
def test_the_blade_band_goes_through_the_points_of_its_table(
    ratio: float, least_s: float, most_s: float | None
) -> None:
    rating = 30.0
    least, most = band_curves(BAND, rating)
    if least_s <= TIMES_S[-1]:
        # Between the times of the grid the curve is straight in log-log.
        assert at_time(least, least_s) == pytest.approx(ratio * rating, rel=0.02)
    if most_s is not None:
        assert at_time(most, most_s) == pytest.approx(ratio * rating, rel=0.02)


@given(st.floats(1.0, 200.0))
def test_a_band_never_crosses_itself_and_falls(rating: float) -> None:
    least, most = band_curves(BAND, rating)
    assert np.all(least <= most)
    assert np.all(np.diff(least) <= 1e-12)
    assert np.all(np.diff(most) <= 1e-12)
    assert least[0] == pytest.approx(6.0 * rating * math.sqrt(0.02 / 1e-4))


def test_stages_open_once_their_delay_is_over() -> None:
    curve = stages_curve(STAGES)
    assert math.isinf(at_time(curve, 2e-4))
    assert at_time(curve, 0.01) == 240.0
    assert at_time(curve, 100.0) == 60.0
    first, never = times_at(curve, np.array([100.0, 59.0]))
    assert first == pytest.approx(1.0)
    assert math.isinf(never)


@given(st.floats(1e-3, 10.0), st.floats(0.5, 500.0), st.floats(0.0, 0.005), st.floats(0.1, 5000.0))
def test_a_body_warms_as_the_closed_form_and_its_curve_undoes_it(
    rise_per_a2: float, tau: float, growth: float, seconds: float
) -> None:
    lump = Lump(rise_per_a2, tau, growth)
    curve = lump_curve(lump, 50.0)
    assert np.all(np.diff(curve) <= 1e-9 * curve[:-1])
    reached = rise_after_k(lump, curve, TIMES_S)
    assert reached == pytest.approx(50.0, rel=1e-6)
    if growth == 0.0:
        steady = math.sqrt(50.0 / rise_per_a2)
        wanted = steady / math.sqrt(-math.expm1(-seconds / tau))
        assert float(lump_curve(lump, 50.0)[-1]) >= steady * (1.0 - 1e-9)
        assert at_time(curve, seconds) == pytest.approx(wanted, rel=5e-3)


def test_a_warming_wire_obeys_its_equation_step_by_step() -> None:
    lump, current = Lump(0.02, 40.0, 0.0039), 60.0
    rise, step = 0.0, 0.001
    for _ in range(round(30.0 / step)):
        heat = lump.rise_per_a2 / lump.tau_s * current**2
        rise += step * (heat * (1.0 + lump.per_kelvin * rise) - rise / lump.tau_s)
    closed = float(rise_after_k(lump, np.array([current]), np.array([30.0]))[0])
    assert closed == pytest.approx(rise, rel=1e-3)


@pytest.mark.parametrize(("insulation", "k"), [("pvc", 115.0), ("xlpe", 143.0)])
def test_short_currents_of_a_wire_are_those_of_the_standard(insulation: str, k: float) -> None:
    """k of IEC 60364-5-54 is from the temperature for good to the one in a short circuit."""
    start = {"pvc": 70.0, "xlpe": 90.0}[insulation]
    curve = harm_curve(10.0, 6.5, insulation, start, 12.0)  # type: ignore[arg-type]
    # Adiabatic: the handbook's copper stores a little less heat than the standard's.
    assert at_time(curve, 0.1) * math.sqrt(0.1) / 10.0 == pytest.approx(k, rel=0.03)


def test_a_wire_stands_for_good_what_warms_it_to_its_insulation() -> None:
    area, outer = 3.309, 4.5
    curve = harm_curve(area, outer, "pvc", 20.0, 12.0)
    rise = 50.0
    per_metre = COPPER.resistivity_ohm_m / (area * 1e-6) * (1.0 + COPPER.per_kelvin * rise)
    steady = math.sqrt(rise * 12.0 * math.pi * outer * 1e-3 / per_metre)
    assert float(curve[-1]) == pytest.approx(steady, rel=1e-3)


def test_a_contact_goes_through_both_of_its_ratings() -> None:
    curve = rated_curve(60.0, 110.0, 300.0)
    assert at_time(curve, 300.0) == pytest.approx(110.0, rel=2e-3)
    assert float(curve[-1]) == pytest.approx(60.0, rel=1e-2)


def test_thin_copper_melts_as_the_worked_check_says() -> None:
    assert onderdonk_a(awg_area_mm2(24), 25.0, 1.0) == pytest.approx(59.1, abs=0.1)
    assert onderdonk_s(awg_area_mm2(24), 25.0, 59.1) == pytest.approx(1.0, rel=0.01)


def test_a_link_melts_for_good_near_twice_its_rating_and_keeps_its_heat_when_quick() -> None:
    low, high = link_curves(5.0, 25.0)
    assert np.all(low < high)
    assert low[-1] == pytest.approx(0.85 * 9.0, rel=1e-3)
    # I²t stays the same for short times.
    assert at_time(low, 1e-3) / at_time(low, 1e-4) == pytest.approx(10.0**-0.5, rel=1e-3)
