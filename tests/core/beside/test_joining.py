"""JoinedSides held against the closed form, and never called safe where a part would carry more."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.beside.joining import DIED, joined, joined_on, safe_charges
from lumvak.core.beside.side import SideLimit, standing_at
from tests.beside_pairs import random_pair, straight

ONE = straight("one", 42.0, 58.8, 9.0, 0.09)
OTHER = straight("other", 42.0, 58.8, 20.0, 0.06, at=0.9)


def test_the_peak_is_the_difference_over_the_resistances() -> None:
    found = joined(ONE, OTHER, between_ohm=0.01)
    assert found.apart_v == pytest.approx(1.68)
    assert found.peak_a == pytest.approx(1.68 / 0.16)
    # Two capacitors in series: coulombs a volt of each, and what has moved once both are level.
    farads = 9.0 * 3600.0 / 16.8, 20.0 * 3600.0 / 16.8
    both = farads[0] * farads[1] / sum(farads)
    assert found.seconds == pytest.approx(0.16 * both * math.log(1.0 / DIED))
    assert found.moves_ah == pytest.approx(1.68 * both / 3600.0)
    assert found.heat_j == pytest.approx(0.5 * both * 1.68**2)


@given(seed=st.integers(0, 10**6), share=st.floats(0.0, 1.0))
def test_within_what_is_safe_nothing_carries_more_than_it_may(seed: int, share: float) -> None:
    one, other, _ = random_pair(seed, bent=True)
    safe = joined(one, other).safe_v
    low, high = safe_charges(one, other, safe)
    found = joined(one, standing_at(other, low + share * (high - low)))
    assert found.is_safe
    for limit in found.limits:
        assert limit.carries_a <= limit.limit_a * (1.0 + 1e-6)


@given(seed=st.integers(0, 10**6))
def test_it_does_not_matter_which_comes_first(seed: int) -> None:
    one, other, _ = random_pair(seed, bent=True)
    there, back = joined(one, other), joined(other, one)
    assert there.peak_a == pytest.approx(back.peak_a) and there.apart_v == -back.apart_v
    assert there.safe_v == pytest.approx(back.safe_v) and there.is_safe == back.is_safe


def test_a_part_that_would_carry_more_is_named() -> None:
    taker = replace(OTHER, limits=(SideLimit("BMS", 30.0, takes_a=5.0), SideLimit("fuse", 20.0)))
    found = joined(ONE, taker)
    (limit,) = found.limits
    assert (limit.what, limit.limit_a, limit.holds) == ("BMS", 5.0, False)
    assert not found.is_safe and found.safe_v == pytest.approx(5.0 * 0.15)


def test_a_third_is_joined_onto_two_as_onto_one_of_both_conductances() -> None:
    """Two alike in parallel are one of half the resistance and twice the charge."""
    third = straight("third", 42.0, 58.8, 9.0, 0.06, at=0.7)
    pair = [straight(name, 42.0, 58.8, 9.0, 0.09) for name in ("one", "two")]
    as_one = straight("both", 42.0, 58.8, 18.0, 0.045)
    onto, alone = joined_on(pair, third), joined(as_one, third)
    assert onto.peak_a == pytest.approx(alone.peak_a)
    assert onto.seconds == pytest.approx(alone.seconds)
    assert onto.heat_j == pytest.approx(alone.heat_j) and onto.safe_v == alone.safe_v


def test_each_of_two_carries_its_share_of_what_a_third_takes() -> None:
    limits = (SideLimit("fuse", 20.0, 20.0),)
    one = replace(straight("one", 42.0, 58.8, 9.0, 0.03), limits=limits)
    two = replace(straight("two", 42.0, 58.8, 9.0, 0.06), limits=limits)
    found = joined_on([one, two], straight("third", 42.0, 58.8, 9.0, 0.06, at=0.7))
    carried = {it.side: it.carries_a for it in found.limits}
    assert carried["one"] == pytest.approx(2.0 * carried["two"])
    assert sum(carried.values()) == pytest.approx(found.peak_a)


@pytest.mark.parametrize(("at", "sparks"), [(0.99, False), (0.9, True)])
def test_a_contact_melts_over_what_copper_melts_at(at: float, sparks: bool) -> None:
    one = straight("one", 42.0, 58.8, 9.0, 0.09)
    found = joined(one, straight("other", 42.0, 58.8, 9.0, 0.09, at=at))
    assert found.sparks == sparks == (abs(found.apart_v) > 0.43)
