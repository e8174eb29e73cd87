"""Packs brought level keep their charge and have one voltage."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.beside.levelling import levelled
from lumvak.core.beside.sharing import SharedLoad
from lumvak.core.beside.together import together
from tests.beside_pairs import random_pair, straight

ONE = straight("one", 42.0, 58.8, 9.0, 0.09)


@given(st.integers(0, 10_000), st.floats(0.05, 1.0), st.floats(0.05, 1.0))
def test_charge_is_kept_and_volts_are_one(seed: int, at: float, other_at: float) -> None:
    one, other, _ = random_pair(seed, bent=True)
    sides = replace(one, at=at), replace(other, at=other_at)
    level = levelled(sides)
    had, has = (sum(it.capacity_ah * it.at for it in row) for row in (sides, level))
    assert has == pytest.approx(had, rel=1e-6)
    assert level[0].emf_v == pytest.approx(level[1].emf_v, abs=1e-6 * level[0].emf_v) or (
        min(it.at for it in level) in (0.0, 1.0) or max(it.at for it in level) == 1.0
    )


def test_of_straight_lines_the_charge_is_the_mean_by_capacity() -> None:
    low = replace(straight("low", 42.0, 58.8, 20.0, 0.06), at=0.4)
    level = levelled((ONE, low))
    assert [it.at for it in level] == pytest.approx([(9.0 + 8.0) / 29.0] * 2)


def test_with_a_switch_they_run_from_there() -> None:
    low = replace(straight("low", 42.0, 58.8, 20.0, 0.06), at=0.4)
    found = together([ONE, low], SharedLoad(amps=20.0), "switch")
    assert found.joining is not None and found.joining.peak_a < 1e-6
    assert found.course is not None
    assert found.course.charge[0] == pytest.approx([17.0 / 29.0] * 2)
    assert found.course.given_ah.sum() == pytest.approx(17.0, rel=0.02)
