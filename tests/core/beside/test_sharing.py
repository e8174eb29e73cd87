"""Sharing held against closed forms, another solver, and what must be kept."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.beside.sharing import DIODE_V, SharedLoad, shared
from tests.beside_pairs import closed_form, followed, random_pair, straight

ONE = straight("one", 42.0, 58.8, 9.0, 0.09)
OTHER = straight("other", 42.0, 58.8, 20.0, 0.06)


def test_shares_are_those_of_the_closed_form_where_curves_are_straight() -> None:
    other = replace(OTHER, at=0.9)
    course = shared([ONE, other], SharedLoad(amps=20.0))
    first = course.ended[0][1]
    rows = course.seconds < first
    by_hand = closed_form(ONE, other, 20.0, course.seconds[rows])
    assert course.amps[rows, 0] == pytest.approx(by_hand, rel=1e-6)
    # At first by resistance, and in the end by charge.
    assert course.amps[0, 0] == pytest.approx((0.1 * 16.8 + 20.0 * 0.06) / 0.15)


@pytest.mark.parametrize("seed", range(6))
def test_another_solver_comes_to_the_same(seed: int) -> None:
    one, other, amps = random_pair(seed, bent=True)
    course = shared([one, other], SharedLoad(amps=amps))
    place = int(0.7 * np.searchsorted(course.seconds, course.ended[0][1]))
    charge, volts = followed(one, other, amps, float(course.seconds[place]))
    assert course.charge[place] == pytest.approx(charge, abs=2e-4)
    assert course.volts[place] == pytest.approx(volts, rel=2e-4)


@pytest.mark.parametrize("seed", range(6))
def test_charge_is_kept_and_neither_order_nor_step_matters(seed: int) -> None:
    one, other, amps = random_pair(100 + seed, bent=True)
    course = shared([one, other], SharedLoad(amps=amps))
    assert course.amps.sum(axis=1) == pytest.approx(amps, rel=1e-9)
    assert course.given_ah.sum() == pytest.approx(amps * course.hours, rel=1e-6)
    turned = shared([other, one], SharedLoad(amps=amps))
    assert turned.hours == pytest.approx(course.hours, rel=1e-9)
    assert turned.given_ah[::-1] == pytest.approx(course.given_ah, rel=1e-7)
    fine = shared([one, other], SharedLoad(amps=amps), step=0.1)
    assert course.hours == pytest.approx(fine.hours, rel=2e-3)
    assert course.given_ah == pytest.approx(fine.given_ah, rel=2e-3)


def test_energy_is_that_of_the_curves_less_the_heat() -> None:
    course = shared([ONE, OTHER], SharedLoad(amps=20.0))
    stored = 0.0
    for place, side in enumerate((ONE, OTHER)):
        begun, left = course.charge[0, place], course.charge[-1, place]
        mean = np.interp([begun, left], side.charge, side.rest_v).mean()
        stored += side.capacity_ah * (begun - left) * mean
    ohms = np.array([ONE.ohm, OTHER.ohm])
    heat_w = course.amps**2 @ ohms
    heat = float(np.sum(0.5 * (heat_w[1:] + heat_w[:-1]) * np.diff(course.seconds))) / 3600.0
    assert course.given_wh == pytest.approx(stored - heat, rel=1e-4)


def test_watts_are_given_as_asked() -> None:
    course = shared([ONE, OTHER], SharedLoad(watts=900.0))
    assert course.volts * course.amps.sum(axis=1) == pytest.approx(900.0, rel=1e-6)
    assert course.given_wh == pytest.approx(900.0 * course.hours, rel=1e-4)


def test_alike_packs_share_alike_and_three_as_two_do() -> None:
    course = shared([ONE] * 3, SharedLoad(amps=30.0))
    assert course.amps == pytest.approx(10.0)
    alone = shared([ONE], SharedLoad(amps=10.0))
    assert course.hours == pytest.approx(alone.hours, rel=1e-6)


def test_once_one_has_opened_the_other_takes_all() -> None:
    early = replace(ONE, stop_v=50.0)
    late = replace(OTHER, stop_v=44.0)
    course = shared([early, late], SharedLoad(amps=20.0))
    assert [place for place, _ in course.ended] == [0, 1]
    after = course.seconds > course.ended[0][1]
    assert course.amps[after, 1] == pytest.approx(20.0) and not course.amps[after, 0].any()
    assert "other" in course.why


def test_diodes_let_nothing_back() -> None:
    low = replace(OTHER, at=0.6)
    direct = shared([ONE, low], SharedLoad(amps=5.0))
    assert direct.amps[:, 1].min() < -1.0
    diodes = shared([ONE, low], SharedLoad(amps=5.0), "diodes")
    assert diodes.amps.min() >= -1e-9 and diodes.amps[0, 1] == 0.0
    assert diodes.volts[0] == pytest.approx(58.8 - 5.0 * 0.09 - DIODE_V)
    ideal = shared([ONE, low], SharedLoad(amps=5.0), "ideal-diodes")
    assert ideal.given_wh > diodes.given_wh


def test_one_at_a_time_is_one_after_the_other() -> None:
    course = shared([ONE, OTHER], SharedLoad(amps=20.0), "one-at-a-time")
    alone = [shared([it], SharedLoad(amps=20.0)).hours for it in (ONE, OTHER)]
    assert course.hours == pytest.approx(sum(alone))
    assert (course.amps.max(axis=1) == course.amps.sum(axis=1)).all()
