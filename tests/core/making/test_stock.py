"""How much of each stock the pieces take, and how they are cut from it."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.evaluation import Evaluation
from lumvak.core.making.cut_lines import cut_lines
from lumvak.core.making.stock import packed, stocks_of
from lumvak.core.spelling import spoken


def test_stock_adds_up(evaluation: Evaluation) -> None:
    lines = cut_lines(evaluation.cuts)
    stocks = stocks_of(lines, evaluation.sized.parts.conductors, evaluation.project.making)
    for item in stocks:
        used = sum(map(sum, item.plan))
        assert item.cut_m == pytest.approx(used / 1000.0)
        assert item.left_m == pytest.approx(item.units * item.unit_mm / 1000.0 - item.cut_m)
        assert item.least <= item.units
    thin = next(item for item in stocks if spoken(item.part) == "nickel 0.1 × 5 mm")
    assert thin.mass_g == pytest.approx(26 * 32.8 * 0.5 * 8908e-6)


@given(st.lists(st.floats(1.0, 1000.0), max_size=60), st.floats(1000.0, 3000.0))
def test_no_roll_is_cut_twice_and_the_plan_is_near_its_bound(
    lengths: list[float], unit: float
) -> None:
    plan, least = packed(lengths, unit)
    assert sorted(length for roll in plan for length in roll) == sorted(lengths)
    assert all(sum(roll) <= unit + 1e-6 for roll in plan)
    assert least <= len(plan) <= math.ceil(11 / 9 * max(least, 1)) + 1
