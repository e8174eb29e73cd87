"""One step of groups: volts, bleeds, and what is conserved."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.balancing.groups_run import (
    Bleed,
    BodyWarmth,
    Groups,
    Polyline,
    Sums,
    moment,
    passed,
    sums_of,
    warmed,
)
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from tests.straight import at, off, straight_groups


def test_what_groups_hold_is_the_area_under_their_curve(catalogue: Catalogue) -> None:
    for name in ("ostrel-21-48", "fennimor-b-105", "rondel-b-20"):
        cell = catalogue.cells[name]
        seen = behaviour_of(cell, catalogue.chemistry_of(cell))
        groups = Groups(seen, np.array([5.0]), np.array([0.01]), np.zeros(1))
        charge = np.linspace(0.0, 0.83, 40_001)
        area = 5.0 * np.trapezoid(np.interp(charge, seen.rest_charge, seen.rest_v), charge)
        assert groups.held_wh(at(0.83))[0] == pytest.approx(area, rel=1e-7)


def test_volts_go_on_beyond_the_ends_of_the_curve() -> None:
    groups = straight_groups([2.5])
    assert groups.rest(at(1.1))[0] == pytest.approx(4.32)
    assert groups.rest(at(-0.1))[0] == pytest.approx(2.88)
    for volts in (2.9, 3.7, 4.3):
        charge = groups.charge_at(np.array(volts))
        assert groups.rest(charge)[0] == pytest.approx(volts)


def test_the_current_at_held_volts_is_ohms_law() -> None:
    groups = straight_groups([2.0, 3.0], ohm=0.05, path_ohm=0.1)
    seen = moment(groups, at(0.5, 0.75), 25.0, 10.0, 8.0, off(2), None, np.zeros(2))
    assert seen.amps == pytest.approx((8.0 - 3.6 - 3.9) / 0.2)
    assert seen.volts == pytest.approx(8.0)
    full = moment(groups, at(0.5, 0.75), 25.0, 1.0, 8.0, off(2), None, np.zeros(2))
    assert full.amps == 1.0
    assert full.volts == pytest.approx(7.5 + 0.2)
    over = moment(groups, at(0.5, 0.75), 25.0, 1.0, 7.0, off(2), None, np.zeros(2))
    assert over.amps == 0.0


def test_a_resistor_across_a_group_takes_volts_over_ohms() -> None:
    groups = straight_groups([2.0, 2.0], ohm=0.05)
    bleed = Bleed(3.0, ohm=22.0)
    on = np.array([True, False])
    seen = moment(groups, at(0.5, 0.5), 25.0, 0.0, None, on, bleed, np.zeros(2))
    assert seen.bleed_a[0] == pytest.approx(3.6 / (22.0 + 0.05))
    assert seen.group_v[0] == pytest.approx(3.6 * 22.0 / 22.05)
    assert seen.bleed_a[1] == 0.0


@given(
    charge=st.lists(st.floats(0.05, 0.95), min_size=3, max_size=3),
    amps=st.floats(-5.0, 5.0),
    seconds=st.floats(1.0, 1800.0),
    ohm=st.floats(5.0, 100.0),
    leak=st.floats(0.0, 0.05),
    moved=st.floats(-0.5, 0.5),
)
def test_charge_and_energy_are_conserved(
    catalogue: Catalogue,
    charge: list[float],
    amps: float,
    seconds: float,
    ohm: float,
    leak: float,
    moved: float,
) -> None:
    """What goes in is held, turned to heat, bled, moved or lost by itself; nothing else."""
    cell = catalogue.cells["ostrel-21-48"]
    seen = behaviour_of(cell, catalogue.chemistry_of(cell))
    ah = np.array([14.0, 15.0, 13.0])
    groups = Groups(seen, ah, np.full(3, 0.006), np.array([leak, 0.0, leak]), 0.02)
    bleed, on = Bleed(3.0, ohm=ohm), np.array([True, False, True])
    mover = np.array([moved, 0.0, -moved])
    begun = moment(groups, np.array(charge), 20.0, amps, None, on, bleed, mover)
    step = passed(groups, begun, seconds, amps, None, bleed)
    sums = sums_of(groups, begun, step)
    held = float(((step.charge - begun.charge) * ah).sum())
    into = 3.0 * sums.ah - sums.bleed_ah + float(mover.sum()) * seconds / 3600.0
    lost = 2.0 * leak * seconds / 3600.0
    assert held == pytest.approx(into - lost, abs=1e-9)
    assert sums.wh + sums.moved_wh == pytest.approx(
        sums.stored_wh + sums.heat_wh + sums.bleed_wh + sums.leak_wh, abs=1e-6
    )


def test_sums_add_up() -> None:
    both = Sums(1.0, 2.0, 3.0) + Sums(0.5, 0.25, 0.125, 1.0)
    assert (both.seconds, both.ah, both.wh, both.stored_wh) == (1.5, 2.25, 3.125, 1.0)


def test_a_pack_warms_to_its_loss_over_its_cooling() -> None:
    groups = straight_groups([2.0], ohm=0.1)
    begun = moment(groups, at(0.5), 25.0, 2.0, None, off(1), None, np.zeros(1))
    warmth = BodyWarmth(5.0, 100.0, 25.0)
    for seconds, rise_k in ((1e6, 2.0), (500.0, 2.0 * (1.0 - np.exp(-1.0)))):
        step = passed(groups, begun, seconds, 2.0, None, None)
        celsius = warmed(groups, begun, step, sums_of(groups, begun, step), warmth)
        assert celsius == pytest.approx(25.0 + rise_k)


@given(charge=st.floats(0.96, 0.999), hours=st.floats(0.001, 3.0), leak=st.floats(0.0, 0.02))
def test_a_current_that_is_held_falls_as_e_to_the_power(
    charge: float, hours: float, leak: float
) -> None:
    """i = i∞ + (i0 − i∞) e^(−t ÷ RC), C = Ah ÷ volts of the curve, and i∞ what is lost."""
    groups = straight_groups([2.5], leak_a=leak, path_ohm=0.01)
    begun = moment(groups, at(charge), 25.0, 10.0, 4.2, off(1), None, np.zeros(1))
    step = passed(groups, begun, 3600.0 * hours, 10.0, 4.2, None)
    constant_h = 0.05 * 2.5 / 1.2
    over = 1.2 * (1.0 - charge) / 0.05 - leak
    share = np.exp(-hours / constant_h)
    assert step.end_a == pytest.approx(leak + over * share, abs=1e-9)
    flowed_ah = leak * hours + over * constant_h * (1.0 - share)
    assert step.amps * hours == pytest.approx(flowed_ah, rel=1e-9)
    squares = leak**2 * hours + 2.0 * leak * over * constant_h * (1.0 - share)
    squares += over**2 * constant_h / 2.0 * (1.0 - share**2)
    assert sums_of(groups, begun, step).heat_wh == pytest.approx(
        0.05 * squares, rel=1e-6, abs=1e-12
    )


def test_nothing_flows_until_what_stands_over_the_volts_held_has_been_bled() -> None:
    """0.05 V over at 0.1 A: 0.05 ÷ 1.2 of 2.5 Ah is gone after 1.0417 h, and then 0.1 A flows."""
    groups = straight_groups([2.5])
    on, bleed = np.array([True]), Bleed(4.0, amps=0.1)
    begun = moment(groups, at(1.0 - 1e-9), 25.0, 1.0, 4.15, on, bleed, np.zeros(1))
    assert begun.amps == 0.0
    wait_h = (0.05 - 0.1 * 0.04) / 1.2 * 2.5 / 0.1
    early = passed(groups, begun, 0.99 * wait_h * 3600.0, 1.0, 4.15, bleed)
    assert (early.amps, early.end_a) == (0.0, 0.0)
    late = passed(groups, begun, 5.0 * wait_h * 3600.0, 1.0, 4.15, bleed)
    assert late.end_a == pytest.approx(0.1, rel=1e-9)
    constant_h = 0.04 * 2.5 / 1.2
    assert late.amps * 5.0 == pytest.approx(0.1 * (4.0 - constant_h / wait_h), rel=1e-6)


def test_the_area_under_a_line_is_that_of_its_trapezoids() -> None:
    line = Polyline.through(np.array([0.0, 0.2, 1.0]), np.array([1.0, 2.0, 0.0]))
    at_points = np.linspace(-0.1, 1.2, 1301)
    values, slopes = line.at(at_points)
    assert values[[0, 100, 300, 1100, 1300]] == pytest.approx([0.5, 1.0, 2.0, 0.0, -0.5])
    assert slopes[[0, 1300]] == pytest.approx([5.0, -2.5])
    wanted = np.concatenate(([0.0], np.cumsum(np.diff(at_points) * (values[1:] + values[:-1]) / 2)))
    area = line.area(at_points)
    assert area - area[0] == pytest.approx(wanted, abs=1e-12)
