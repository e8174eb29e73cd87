"""What groups give, against a brute-force search, and hours until even."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.balancing.imbalance import (
    active_ah,
    evened,
    excess_ah,
    hours_to_even,
    imbalance,
)
from tests.straight import at

SIZES = st.lists(st.floats(0.5, 20.0), min_size=1, max_size=8)


@pytest.mark.parametrize(
    ("ah", "charge", "usable", "even", "cause"),
    [
        ((3.0, 3.0, 3.0, 3.0), (2.0, 2.0, 2.0, 1.5), 2.5, 3.0, "out-of-step"),
        ((3.0, 3.0, 3.0, 1.5), (2.0, 2.0, 2.0, 1.0), 1.5, 1.5, "small"),
        ((3.0, 3.0, 3.0, 1.5), (3.0, 3.0, 3.0, 1.5), 1.5, 1.5, "small"),
        ((3.0, 3.0, 3.0, 2.0), (3.0, 2.0, 3.0, 2.0), 2.0, 2.0, "small"),
        ((3.0, 3.0, 3.0, 2.0), (2.0, 1.0, 3.0, 1.0), 1.0, 2.0, "both"),
        ((3.0, 3.0, 3.0), (2.0, 2.0, 2.0), 3.0, 3.0, "none"),
    ],
)
def test_groups_lose_what_is_out_of_step_and_what_is_small(
    ah: tuple[float, ...], charge: tuple[float, ...], usable: float, even: float, cause: str
) -> None:
    found = imbalance(at(*ah), at(*charge))
    assert found.usable_ah == pytest.approx(usable)
    assert found.even_ah == pytest.approx(even)
    assert found.cause == cause
    assert found.by_step_ah == pytest.approx(even - usable)


@given(sizes=SIZES, shares=st.lists(st.floats(0.0, 1.0), min_size=8, max_size=8))
def test_usable_charge_is_that_of_a_pack_that_is_filled_and_emptied(
    sizes: list[float], shares: list[float]
) -> None:
    """Charge goes in by small parts until the first is full, then out until one is empty."""
    ah = np.array(sizes)
    charge = ah * np.array(shares[: len(sizes)])
    part = float(ah.sum()) / 20_000.0
    steps_in = int(np.floor((ah - charge).min() / part + 1e-9))
    full = charge + steps_in * part
    steps_out = int(np.floor(full.min() / part + 1e-9))
    found = imbalance(ah, charge)
    assert found.usable_ah == pytest.approx(steps_out * part, abs=2.1 * part)
    for lost in (found.lost_top_ah, found.lost_bottom_ah):
        assert lost.min() == pytest.approx(0.0, abs=1e-12)
    whole = found.lost_top_ah + found.lost_bottom_ah + found.usable_ah
    assert whole == pytest.approx(ah)


@given(sizes=SIZES)
def test_evened_groups_give_the_smallest(sizes: list[float]) -> None:
    ah = np.array(sizes)
    for way in ("top", "bottom"):
        found = evened(ah, way)  # type: ignore[arg-type]
        assert found.usable_ah == pytest.approx(ah.min())
    assert evened(ah, "top").lost_top_ah == pytest.approx(0.0 * ah)
    assert evened(ah, "bottom").lost_bottom_ah == pytest.approx(0.0 * ah)


@given(
    sizes=st.lists(st.integers(1, 6), min_size=2, max_size=4),
    most=st.floats(0.0, 6.0),
    efficiency=st.floats(0.5, 1.0),
)
def test_a_mover_gives_no_more_than_any_way_of_moving_does(
    sizes: list[int], most: float, efficiency: float
) -> None:
    """Every way of taking and giving in steps of a fifth; the best of them is the closed form."""
    ah = np.array(sizes, dtype=float)
    grid = np.arange(0.0, 6.01, 0.2)
    best = float(ah.min())
    for goal in np.arange(float(ah.min()), float(ah.mean()) + 1e-9, 0.02):
        lack = np.maximum(goal - ah, 0.0).sum()
        spare = np.maximum(ah - goal, 0.0).sum()
        if any(
            taken <= min(most, spare) + 1e-9 and taken * efficiency >= lack - 1e-9
            for taken in itertools.chain(grid, (min(most, spare),))
        ):
            best = max(best, float(goal))
    assert active_ah(ah, most, efficiency) == pytest.approx(best, abs=0.021)


@given(sizes=SIZES)
def test_a_mover_without_loss_and_with_time_gives_the_mean(sizes: list[float]) -> None:
    ah = np.array(sizes)
    assert active_ah(ah, 1e9) == pytest.approx(float(ah.mean()))
    assert active_ah(ah, 0.0) == pytest.approx(float(ah.min()))


def test_two_percent_of_fifteen_ampere_hours_take_an_hour_and_a_half() -> None:
    """22 Ω at 4.15 V: 0.3 Ah at 0.1886 A are 1.59 h."""
    ah = np.full(4, 15.0)
    excess = excess_ah(ah, ah * at(0.5, 0.5, 0.48, 0.5))
    assert excess == pytest.approx([0.3, 0.3, 0.0, 0.3])
    hours = hours_to_even(excess, 4.15 / 22.0, np.zeros(4))
    assert hours == pytest.approx(1.59, abs=0.005)
    assert hours_to_even(excess, 0.1, np.zeros(4), most=1) == pytest.approx(9.0)
    assert hours_to_even(excess, 0.0, np.zeros(4)) is None
    assert hours_to_even(np.zeros(4), 0.0, np.zeros(4)) == 0.0


def test_a_group_that_leaks_more_than_is_bled_is_never_caught_up_with() -> None:
    leak = at(0.0, 0.0, 0.04, 0.0)
    assert hours_to_even(at(0.1, 0.1, 0.0, 0.1), 0.03, leak) is None
    assert hours_to_even(at(0.1, 0.1, 0.0, 0.1), 0.05, leak) == pytest.approx(10.0)


def test_first_full_and_first_empty_are_named() -> None:
    found = imbalance(at(3.0, 3.0, 2.5), at(2.0, 1.0, 2.2))
    assert (found.first_full, found.first_empty, found.smallest) == (3, 2, 3)
