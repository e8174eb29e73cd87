"""A start of a motor: the simulation against closed forms, pulls, surge parts and the demo."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.boards import BoardStage
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.need.load_over_time import Draw
from lumvak.core.power.motor_start import StartCase, largest_start, start_run
from tests.length import so_many

STAGES = (BoardStage(current_a=30.0, delay_s=1.0), BoardStage(current_a=52.5, delay_s=0.1))


@given(st.floats(30.0, 200.0), st.floats(2.0, 20.0), st.floats(0.05, 1.0), st.floats(0.0, 0.05))
@settings(max_examples=so_many(8, 30))
def test_a_step_pull_decays_as_the_closed_form(
    start: float, run: float, tau: float, source: float
) -> None:
    found = start_run(StartCase(20.0, source, start, run, tau, 0.0, STAGES))
    closed = run + (start - run) * np.exp(-found.seconds / tau)
    if source < 0.9 * 20.0 / start:
        assert found.current_a == pytest.approx(closed, rel=1e-2)
    draw = Draw(run, run, 1.0, start_a=start, tau_s=tau)
    for met in found.stages:
        assert met.sustained_a == pytest.approx(draw.start_after_a(met.stage.delay_s), rel=0.01)
        trips = draw.start_after_a(met.stage.delay_s) > met.stage.current_a
        if abs(met.spare_a) > 0.02 * met.stage.current_a:
            assert trips == (met.spare_a < 0.0) == (met.over_s > met.stage.delay_s)


def test_a_trip_comes_a_delay_after_the_current_is_passed() -> None:
    found = start_run(StartCase(20.0, 0.02, 70.0, 9.0, 1.0, 0.0, STAGES))
    assert found.trip_s == pytest.approx(0.1, rel=1e-3)
    worst = found.worst
    assert worst is not None
    assert worst.stage.delay_s == 0.1
    assert worst.spare_a == pytest.approx(52.5 - (9.0 + 61.0 * math.exp(-0.1)), rel=5e-3)


def test_a_slower_pull_and_a_controller_draw_less() -> None:
    peaks = [
        start_run(StartCase(20.0, 0.02, 70.0, 9.0, 0.3, pull, STAGES)).peak_a
        for pull in (0.0, 0.1, 0.5, 2.0)
    ]
    assert peaks == sorted(peaks, reverse=True)
    held = start_run(StartCase(20.0, 0.02, 70.0, 9.0, 0.3, 0.0, STAGES, limit_a=40.0))
    assert held.peak_a == pytest.approx(40.0)


def test_a_surge_part_lowers_the_peak_by_its_cold_resistance(catalogue: Catalogue) -> None:
    part = catalogue.surges["moor-0.3"]
    bare = start_run(StartCase(20.0, 0.0, 70.0, 9.0, 0.3, 0.0, STAGES))
    soft = start_run(StartCase(20.0, 0.0, 70.0, 9.0, 0.3, 0.0, STAGES, surge=part))
    assert soft.peak_a == pytest.approx(20.0 / (20.0 / 70.0 + 0.3), rel=5e-3)
    assert soft.peak_a < bare.peak_a
    assert soft.surge_c > 25.0


def test_the_demo_trips_when_the_trigger_is_pulled_fast_and_the_surge_part_cures_it(
    trimmer: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(trimmer, catalogue)
    codes = {item.code for item in evaluation.findings}
    assert "board-start" in codes
    fast, slow = evaluation.power.start_of("fast", False), evaluation.power.start_of("slow", False)
    assert fast is not None
    assert slow is not None
    assert fast.trip_s is not None
    assert slow.trip_s is None
    soft = evaluation.power.start_of("fast", True)
    assert soft is not None
    assert soft.trip_s is None
    tried = evaluation.power.surge_tried
    assert tried is not None
    cured = evaluate(with_values(trimmer, {"power.surge": tried.part.id}), catalogue)
    assert "board-start" not in {item.code for item in cured.findings}
    larger = evaluate(with_values(trimmer, {"protection.board": None}), catalogue)
    assert "board-start" not in {item.code for item in larger.findings}


def test_without_a_stall_no_start_is_made_up(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    assert evaluation.power.start is not None
    assert not evaluation.power.start.known
    assert evaluation.power.start_of("fast", False) is None


@given(st.floats(0.0, 1.5), st.floats(0.01, 0.5), st.floats(2.0, 20.0))
@settings(max_examples=so_many(8, 20))
def test_the_largest_start_passes_and_one_a_fiftieth_larger_trips(
    pull: float, tau: float, run: float
) -> None:
    case = StartCase(20.0, 0.02, 0.0, run, tau, pull, STAGES)
    found = largest_start(case)
    assert found is not None
    assert found.trip_s is None
    more = start_run(replace(case, start_a=found.case.start_a * 1.02))
    # Some are so short that not even a dead short is passed for long enough.
    assert more.trip_s is not None or found.case.start_a == pytest.approx(20.0 / 0.02)


def test_no_start_is_let_by_where_running_trips() -> None:
    assert largest_start(StartCase(20.0, 0.02, 0.0, 60.0, 0.1, 0.0, STAGES)) is None
