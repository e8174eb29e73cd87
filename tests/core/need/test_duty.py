import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import asdict

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.loads import DutyStep
from lumvak.core.document.need import Need
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.need.demand import demand_of
from lumvak.core.need.duty import (
    PRESETS,
    condense,
    duty_mean,
    duty_rms,
    longest_peak_s,
    parse_duty,
    preset_steps,
    spell_duty,
)
from lumvak.core.spelling import spoken
from lumvak.core.units import QuantityError

AMPS, SECONDS = np.array([40.0, 18.0, 0.0]), np.array([8.0, 40.0, 12.0])
CHECKED = tuple(
    DutyStep(amount=float(amps), seconds=float(span))
    for amps, span in zip(AMPS, SECONDS, strict=True)
)

steps = st.lists(
    st.tuples(st.floats(0.0, 200.0), st.floats(0.5, 900.0)), min_size=1, max_size=8
).filter(lambda items: any(amount > 0.01 for amount, _ in items))


def test_the_checked_profile() -> None:
    assert duty_mean(AMPS, SECONDS) == pytest.approx(17.33, abs=5e-3)
    assert duty_rms(AMPS, SECONDS) == pytest.approx(20.72, abs=5e-3)


def test_a_short_window_is_moved_to_where_it_is_worst() -> None:
    assert duty_rms(AMPS, SECONDS, 8.0) == pytest.approx(40.0)
    by_hand = ((40.0**2 * 8.0 + 18.0**2 * 12.0) / 20.0) ** 0.5
    assert duty_rms(AMPS, SECONDS, 20.0) == pytest.approx(by_hand)


@given(steps, st.floats(1.0, 2000.0))
def test_heat_lies_between_mean_and_largest(
    items: list[tuple[float, float]], window: float
) -> None:
    amounts, seconds = np.array(items).T
    rms = duty_rms(amounts, seconds, window)
    assert duty_mean(amounts, seconds) <= duty_rms(amounts, seconds, 1e9) + 1e-9
    assert duty_rms(amounts, seconds, 1e9) <= rms * (1 + 1e-9)
    assert rms <= amounts.max() * (1 + 1e-9)


@given(steps, st.floats(20.0, 500.0))
def test_the_worst_window_is_no_milder_than_any_other(
    items: list[tuple[float, float]], window: float
) -> None:
    amounts, seconds = np.array(items).T
    whole = float(seconds.sum())
    if window >= whole:
        return
    borders = np.concatenate(([0.0], np.cumsum(np.tile(seconds, 2))))
    squares = np.concatenate(([0.0], np.cumsum(np.tile(amounts**2 * seconds, 2))))
    starts = np.linspace(0.0, whole, 97)
    sums = np.interp(starts + window, borders, squares) - np.interp(starts, borders, squares)
    worst = float(np.sqrt(np.max(sums) / window))
    assert duty_rms(amounts, seconds, window) >= worst * (1 - 1e-9)


def test_the_largest_step_lasts_across_the_end_of_a_round() -> None:
    amounts = np.array([40.0, 10.0, 40.0, 40.0])
    assert longest_peak_s(amounts, np.array([3.0, 5.0, 2.0, 4.0])) == pytest.approx(9.0)
    assert longest_peak_s(np.array([7.0]), np.array([12.0])) == pytest.approx(12.0)


@pytest.mark.parametrize(
    "text",
    [
        "40 A 8 s, 18 A 40 s, 0 A 12 s",
        "40:8; 18:40; 0:12",
        "40A:8s\n18A:40s\n0A:12s",
        "40,0 A 8 s; 18 A 40 s; 0 A 12 s",
    ],
)
def test_steps_are_read_as_people_write_them(text: str) -> None:
    assert parse_duty(text, "A") == CHECKED


@given(steps)
def test_a_duty_is_read_back_as_it_is_spelled(items: list[tuple[float, float]]) -> None:
    duty = tuple(DutyStep(amount=round(a, 3), seconds=round(s, 3)) for a, s in items)
    assert parse_duty(spoken(spell_duty(duty, "W")), "W") == duty


@pytest.mark.parametrize(
    ("text", "word"),
    [
        ("", "at least one step"),
        ("40 A 8 s; 18 A", "step 2"),
        ("40 A 8 s; x A 9 s", "step 2"),
        ("40 V 8 s", "step 1: “40 V” is not a current"),
        ("40 A 0 s", "more than 0 s"),
        ("; ".join(["1 A 1 s"] * 501), "up to 500"),
    ],
)
def test_a_bad_step_is_named(text: str, word: str) -> None:
    with pytest.raises(QuantityError, match=word):
        parse_duty(text, "A")


def test_a_duty_becomes_mean_heat_and_peak() -> None:
    demand = demand_of(Need(load_basis="duty", duty=CHECKED))
    assert demand.load_figure.number == pytest.approx(20.72, abs=5e-3)
    assert demand.load_figure.number * demand.mean_share == pytest.approx(17.33, abs=5e-3)
    assert (demand.peak.number, demand.peak_duration.number) == (40.0, 8.0)
    assert not demand.peak.assumed
    watts = demand_of(
        Need(load_basis="duty", duty=CHECKED, duty_unit="W", efficiency=0.5, stop_voltage_v=30.0)
    )
    assert watts.load.power_w == pytest.approx(2 * 20.72, abs=0.01)
    assert watts.peak.number == pytest.approx(80.0 / 30.0)


def test_a_duty_of_nothing_is_refused() -> None:
    with pytest.raises(ProjectError, match="every step is 0"):
        with_values(Project(), {"need.duty": ({"amount": 0.0, "seconds": 5.0},)})


def test_the_mean_takes_the_charge_and_the_heat_sets_the_ratings(
    plain: Project, catalogue: Catalogue
) -> None:
    duty = with_values(
        plain,
        {
            "need.load_basis": "duty",
            "need.duty": tuple(asdict(step) for step in CHECKED),
            "need.peak_current_a": None,
        },
    )
    evaluation = evaluate(duty, catalogue)
    assert evaluation.figures["demand.capacity_ah"].number == pytest.approx(17.333, abs=1e-3)
    assert evaluation.sized.pack.current.number == pytest.approx(20.72, abs=5e-3)
    run = evaluation.run.run
    assert set(np.unique(run.amps)) == {0.0, 18.0, 40.0}
    passed = float(np.sum(np.diff(run.time_s) * run.amps[1:])) / 3600.0
    assert passed == pytest.approx(run.taken_ah, rel=0.02)
    assert run.hours == pytest.approx(evaluation.figures["pack.runtime_h"].number, rel=0.1)


@given(steps, st.integers(1, 8))
def test_condensing_keeps_charge_time_and_peak(items: list[tuple[float, float]], most: int) -> None:
    amounts, seconds = np.array(items).T
    short, spans = condense(amounts, seconds, most)
    # The largest step is left alone, so that it may stand between two others.
    assert len(short) <= max(most, 2 * int(np.sum(amounts == amounts.max())) + 1)
    assert spans.sum() == pytest.approx(seconds.sum())
    assert (short * spans).sum() == pytest.approx((amounts * seconds).sum())
    assert short.max() == amounts.max()
    assert duty_rms(short, spans, 1e9) <= duty_rms(amounts, seconds, 1e9) * (1 + 1e-9)


def test_condensing_joins_the_most_alike_first() -> None:
    short, spans = condense(np.array([10.0, 11.0, 40.0, 10.0, 10.0]), np.ones(5), 3)
    assert short.tolist() == [10.5, 40.0, 10.0]
    assert spans.tolist() == [2.0, 1.0, 2.0]


def test_presets_scale_with_the_load() -> None:
    for preset in PRESETS:
        one, two = preset_steps(preset, 1.0), preset_steps(preset, 20.0)
        assert [step.amount for step in two] == pytest.approx([20.0 * s.amount for s in one])
        assert any(step.amount > 0.0 for step in one)
