"""What the load draws for how long, from the need, a duty and the start of a motor."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.document.loads import DutyStep
from lumvak.core.document.need import Need
from lumvak.core.document.power import Start
from lumvak.core.need.demand import demand_of
from lumvak.core.need.duty import longest_stretch_s
from lumvak.core.need.load_over_time import Draw, draw_of, start_current
from lumvak.core.time_current import TIMES_S


def test_a_peak_holds_for_its_length_and_the_load_for_good() -> None:
    draw = Draw(20.0, 45.0, 8.0)
    assert draw.most_a(8.0) == 45.0
    assert draw.most_a(8.1) == 20.0
    assert draw.start_after_a(0.1) == 0.0


def test_a_start_falls_to_the_running_current() -> None:
    draw = Draw(9.0, 9.0, 1.0, start_a=70.0, tau_s=0.1)
    assert draw.most_a(0.0) == 70.0
    assert draw.start_after_a(0.1) == pytest.approx(9.0 + 61.0 / math.e)
    assert draw.most_a(100.0) == pytest.approx(9.0)


@given(
    st.floats(1.0, 50.0),
    st.floats(1.0, 5.0),
    st.floats(0.01, 100.0),
    st.floats(0.0, 300.0),
    st.floats(0.01, 3.0),
    st.lists(st.tuples(st.floats(0.0, 80.0), st.floats(0.01, 500.0))),
)
def test_the_curve_is_what_each_time_says_and_never_rises(
    steady: float,
    factor: float,
    peak_s: float,
    start: float,
    tau: float,
    levels: list[tuple[float, float]],
) -> None:
    draw = Draw(steady, steady * factor, peak_s, start, tau, tuple(levels))
    curve = draw.curve
    assert np.all(np.diff(curve) <= 1e-9)
    for place in range(0, len(TIMES_S), 23):
        assert curve[place] == pytest.approx(draw.most_a(float(TIMES_S[place])))
    assert curve[-1] >= steady * (1.0 - 1e-12)


@given(st.floats(0.0, 2.0))
def test_a_resistance_in_the_path_limits_a_start_by_ohms_law(ohm: float) -> None:
    draw = Draw(9.0, 9.0, 1.0, start_a=70.0)
    limited = draw.limited(ohm, 21.0)
    assert limited.start_a == pytest.approx(max(21.0 / (21.0 / 70.0 + ohm), 9.0))
    assert Draw(9.0, 9.0, 1.0).limited(ohm, 21.0).start_a == 0.0


def test_a_controller_limits_the_start_of_a_vehicle_only() -> None:
    need = Need(kind="vehicle", stall_current_a=120.0, controller_limit_a=45.0)
    figure = start_current(need)
    assert figure is not None
    assert figure.number == 45.0
    tool = start_current(Need(kind="tool", stall_current_a=120.0, controller_limit_a=45.0))
    assert tool is not None
    assert tool.number == 120.0
    assert start_current(Need()) is None
    guessed = start_current(Need(kind="tool", stall_current_a=120.0, peak_given="estimated"))
    assert guessed is not None
    assert guessed.assumed


def test_levels_of_a_duty_have_their_longest_stretches() -> None:
    steps = (
        DutyStep(amount=30.0, seconds=4.0),
        DutyStep(amount=20.0, seconds=6.0),
        DutyStep(amount=5.0, seconds=20.0),
        DutyStep(amount=20.0, seconds=3.0),
    )
    need = Need(load_basis="duty", duty=steps)
    draw, _ = draw_of(demand_of(need), need, Start())
    levels = {round(amps): seconds for amps, seconds in draw.levels}
    # The stretch of 20 A runs across the end of a round: 3 + 4 + 6 s.
    assert levels == {30: 4.0, 20: 13.0, 5: 33.0}


@given(
    st.lists(
        st.tuples(st.sampled_from([1.0, 2.0, 3.0]), st.floats(0.1, 9.0)), min_size=1, max_size=12
    )
)
def test_the_longest_stretch_is_that_of_two_rounds_walked(
    duty: list[tuple[float, float]],
) -> None:
    amounts, seconds = (np.array(column) for column in zip(*duty, strict=True))
    found = longest_stretch_s(amounts, seconds, 2.0)
    if np.all(amounts >= 2.0):
        assert found == pytest.approx(seconds.sum())
        return
    longest = run = 0.0
    for amount, span in [*duty, *duty]:
        run = run + span if amount >= 2.0 else 0.0
        longest = max(longest, run)
    assert found == pytest.approx(longest)
