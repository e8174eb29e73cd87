import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_bvp
from scipy.linalg import solve_banded

from lumvak.core.conductors.strip_and_wire import (
    MATERIALS,
    NICKEL,
    Cooling,
    Section,
    free_rise_k,
    joule_w_per_m,
    peak_factor,
    rule_current_a,
    strip_ohm,
    strip_rise_k,
    strip_time_constant_s,
    warm_rise_k,
    wire_current_a,
    wire_ohm_per_m,
    wire_rise_k,
)
from lumvak.core.spelling import awg_area_mm2
from tests.length import so_many

STRIP = Section(NICKEL, 0.2, 7.0, 1, 21.0)


def test_resistance_of_the_checked_strip() -> None:
    assert strip_ohm(STRIP) == pytest.approx(1.0485e-3, rel=1e-9)


def test_rise_of_the_checked_strip_at_12_a() -> None:
    assert joule_w_per_m(STRIP, 12.0) == pytest.approx(7.190, abs=5e-4)
    assert strip_rise_k(STRIP, 12.0) == pytest.approx(2.957, abs=5e-4)
    assert free_rise_k(STRIP, 12.0) == pytest.approx(49.93, abs=5e-3)


def test_rise_agrees_with_the_fin_equation_solved_numerically() -> None:
    current, film = 20.0, 10.0
    k_a = NICKEL.conductivity_w_per_m_k * STRIP.area_m2
    loss, heat = film * STRIP.surface_m, joule_w_per_m(STRIP, current)

    def slope(_: np.ndarray, y: np.ndarray) -> np.ndarray:
        return np.vstack((y[1], (loss * y[0] - heat) / k_a))

    x = np.linspace(0.0, STRIP.length_mm * 1e-3, 41)
    solved = solve_bvp(slope, lambda a, b: np.array([a[0], b[0]]), x, np.zeros((2, x.size)))
    assert solved.success
    middle = float(solved.sol(STRIP.length_mm * 0.5e-3)[0])
    assert strip_rise_k(STRIP, current) == pytest.approx(middle, rel=1e-6)


def test_a_long_strip_rises_as_if_free() -> None:
    long = Section(NICKEL, 0.2, 7.0, 1, 20_000.0)
    assert strip_rise_k(long, 10.0) == pytest.approx(free_rise_k(long, 10.0), rel=1e-9)


@pytest.mark.parametrize(("awg", "milliohm_per_m"), [(10, 3.277), (12, 5.210), (16, 13.17)])
def test_wire_resistance(awg: int, milliohm_per_m: float) -> None:
    assert wire_ohm_per_m(awg_area_mm2(awg)) * 1e3 == pytest.approx(milliohm_per_m, abs=5e-3)


def test_rise_of_the_checked_wire() -> None:
    assert wire_rise_k(awg_area_mm2(12), 4.5, 30.0) == pytest.approx(27.6, abs=0.05)


@given(st.floats(0.5, 100.0), st.floats(1.0, 90.0), st.floats(2.0, 12.0))
def test_wire_limit_is_the_inverse_of_its_rise(area: float, rise: float, outer: float) -> None:
    assert wire_rise_k(area, outer, wire_current_a(area, outer, rise)) == pytest.approx(rise)


def carried_a(section: Section, rise_k: float, around_c: float) -> float:
    """The current in A at which a warm strip rises by so much: the law of its rise turned round."""
    warm = 1.0 + section.material.per_kelvin * (around_c + rise_k - 20.0)
    return math.sqrt(rise_k / (strip_rise_k(section, 1.0) * warm))


@given(
    st.sampled_from(sorted(MATERIALS)),
    st.floats(0.05, 2.0),
    st.floats(3.0, 40.0),
    st.integers(1, 4),
    st.floats(8.0, 60.0),
    st.floats(1.0, 60.0),
    st.floats(-20.0, 50.0),
)
def test_strip_limit_is_the_inverse_of_its_warm_rise(
    name: str, thick: float, wide: float, layers: int, long: float, rise: float, around: float
) -> None:
    section = Section(MATERIALS[name], thick, wide, layers, long)
    current = carried_a(section, rise, around)
    cold = strip_rise_k(section, current)
    assert warm_rise_k(cold, section.material, around) == pytest.approx(rise, rel=1e-6)


def test_a_strip_past_runaway_has_no_finite_rise() -> None:
    assert warm_rise_k(1.0 / NICKEL.per_kelvin, NICKEL, 25.0) == math.inf
    assert warm_rise_k(0.0, NICKEL, 25.0) == 0.0


def test_layers_divide_resistance_and_heat() -> None:
    double = Section(NICKEL, 0.2, 7.0, 2, 21.0)
    assert strip_ohm(double) == pytest.approx(strip_ohm(STRIP) / 2)
    assert joule_w_per_m(double, 12.0) == pytest.approx(joule_w_per_m(STRIP, 12.0) / 2)


def test_rule_scales_with_section_and_material() -> None:
    assert rule_current_a(STRIP, 5.0) == pytest.approx(7.0)
    copper = Section(MATERIALS["copper"], 0.2, 7.0, 1, 21.0)
    same_heat = joule_w_per_m(copper, rule_current_a(copper, 5.0))
    assert same_heat == pytest.approx(joule_w_per_m(STRIP, rule_current_a(STRIP, 5.0)))


def test_loss_budget_is_ohms_law() -> None:
    ohm = NICKEL.resistivity_ohm_m * 21e-3 / (0.2e-3 * 7e-3)
    assert strip_ohm(STRIP) == pytest.approx(ohm)


def test_nickel_on_copper_lies_between_its_parts() -> None:
    mixed = MATERIALS["nickel-copper"].resistivity_ohm_m
    assert MATERIALS["copper"].resistivity_ohm_m < mixed < NICKEL.resistivity_ohm_m


def test_time_constant_is_that_of_conduction_for_a_short_strip() -> None:
    diffusivity = NICKEL.conductivity_w_per_m_k / (
        NICKEL.density_kg_per_m3 * NICKEL.heat_j_per_kg_k
    )
    ideal = (STRIP.length_mm * 1e-3 / math.pi) ** 2 / diffusivity
    assert strip_time_constant_s(STRIP) == pytest.approx(ideal, rel=0.1)
    assert strip_time_constant_s(STRIP) < ideal


@given(st.floats(0.1, 100.0), st.floats(0.2, 100.0))
def test_a_shorter_peak_may_be_higher(seconds: float, constant: float) -> None:
    assert peak_factor(seconds, constant) >= (math.sqrt(2.0) if seconds <= 60.0 else 1.0) - 1e-12
    assert peak_factor(seconds, constant) >= peak_factor(2 * seconds, constant)


def solved_rise_k(section: Section, current_a: float, count: int = 4001) -> float:
    """Mid-span by finite differences: conduction, film, Joule heat, and welds at both ends."""
    step = section.length_mm * 1e-3 / (count - 1)
    carried = section.material.conductivity_w_per_m_k * section.area_m2
    loss = section.cooling.film_w_per_m2_k * section.surface_m
    heat = joule_w_per_m(section, current_a)
    weld = 1.0 / section.cooling.weld_k_per_w
    bands = np.zeros((3, count))
    bands[0, 1:] = bands[2, :-1] = carried / step
    bands[1] = -2.0 * carried / step - loss * step
    right = np.full(count, -heat * step)
    # At an end half a cell of strip conducts to one side, and into the weld.
    for end in (0, -1):
        bands[1, end] = -carried / step - 0.5 * loss * step - weld
        right[end] = -0.5 * heat * step
    return float(solve_banded((1, 1), bands, right)[count // 2])


@settings(max_examples=so_many(10, 40), deadline=None)
@given(
    thick=st.floats(0.05, 0.5),
    wide=st.floats(3.0, 30.0),
    long=st.floats(10.0, 120.0),
    film=st.sampled_from([5.0, 10.0, 25.0]),
    faces=st.sampled_from([1, 2]),
    weld=st.floats(0.5, 200.0),
)
def test_welds_in_the_way_of_the_heat_are_those_of_a_numeric_solve(
    thick: float, wide: float, long: float, film: float, faces: int, weld: float
) -> None:
    section = Section(NICKEL, thick, wide, 1, long, Cooling(film, faces, weld))
    assert strip_rise_k(section, 5.0) == pytest.approx(solved_rise_k(section, 5.0), rel=2e-3)
    held = Section(NICKEL, thick, wide, 1, long, Cooling(film, faces, 0.0))
    assert strip_rise_k(held, 5.0) < strip_rise_k(section, 5.0) < free_rise_k(section, 5.0)
    assert strip_time_constant_s(held) < strip_time_constant_s(section)


def test_a_thin_nickel_strip_carries_about_7_a_in_a_closed_pack() -> None:
    closed = Section(NICKEL, 0.1, 5.0, 1, 22.8, Cooling(5.0, 1, 60.0))
    assert carried_a(closed, 20.0, 45.0) == pytest.approx(7.2, abs=0.3)
    # In free air with its ends held it would be nearly 10 A.
    assert carried_a(Section(NICKEL, 0.1, 5.0, 1, 22.8), 20.0, 25.0) > 9.5
    assert 20e-3 / strip_ohm(closed) == pytest.approx(6.27, abs=0.01)
