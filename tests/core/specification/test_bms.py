"""The windows of a BMS, held against ten lines of arithmetic and against the verdicts."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.bms import bms_spec, least_short_with
from tests.length import so_many
from tests.needs import builders_need
from tests.specified import against, missed, picked, pinned, random_part


def test_the_figures_of_the_barrow_by_hand(evaluation: Evaluation) -> None:
    spec = bms_spec(evaluation)
    assert spec.of("series").bounds == (14.0, 14.0)
    assert spec.of("continuous_a").bounds[0] == pytest.approx(22.0)
    held = next(window for window in spec.windows if window.at_s == 6.0)
    assert held.bounds[0] == 46.0 and held.set_by == "peak"
    over, under = spec.of("over_voltage_v"), spec.of("under_voltage_v")
    assert over.bounds == pytest.approx((4.2, 4.3)) and under.bounds == pytest.approx((2.5, 3.0))
    # 2 % of a group's capacity in a day.
    wanted = spec.of("balance_a").wanted
    assert wanted is not None
    assert wanted.number == pytest.approx(0.02 * 7 * 4.8 / 24.0)
    # 50 K of a bare board at 12 K/W.
    assert spec.of("resistance_ohm").bounds[1] == pytest.approx(50.0 / 12.0 / 22.0**2)


def test_the_least_short_by_ohms_law(evaluation: Evaluation) -> None:
    power = evaluation.power
    board = power.board
    assert board is not None
    found = least_short_with(board, power)
    assert found.amps == pytest.approx(power.short_least_a.number)
    assert found.cell_v == pytest.approx(power.short_cell_v.number)


@settings(max_examples=so_many(12, 120), deadline=None)
@given(seed=st.integers(0, 10**6))
def test_a_random_bms_is_called_good_where_nothing_speaks_against_it(
    catalogue: Catalogue, seed: int
) -> None:
    project = builders_need(seed % 400)
    project = pinned(project, evaluate(project, catalogue))
    evaluation = evaluate(project, catalogue)
    part = random_part("bms", evaluation, random.Random(seed))
    by_engine = against(evaluate(picked(project, "bms", part), catalogue), "bms")
    by_windows = missed("bms", part, evaluation)
    assert bool(by_engine) == bool(by_windows), (by_engine, by_windows)


def test_what_is_asked_of_it_narrows_it(catalogue: Catalogue, barrow: Project) -> None:
    from lumvak.core.document.edit import with_values

    asked = with_values(barrow, {"protection.telemetry": True, "protection.feeds": True})
    spec = bms_spec(evaluate(asked, catalogue))
    assert spec.of("telemetry").one_of == ("wire", "radio")
    assert spec.of("ports").bounds[1] == 1.0
    free = with_values(barrow, {"protection.sensor": False, "protection.balancing": "matched"})
    spec = bms_spec(evaluate(free, catalogue))
    assert spec.of("sensors").open and spec.of("balance_a").least is None
