"""Fuses and contacts made from the tight sides of their windows serve, and hardly more."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.power.as_specified import (
    RATINGS_A,
    connector_as_specified,
    fuse_as_specified,
    nearest,
    specified_note,
    switch_as_specified,
    usual_rating_a,
)
from lumvak.core.power.connectors import ContactSetting, judge_connector, judge_switch
from lumvak.core.power.fuses import FuseSetting, best_form, judge_fuse
from lumvak.core.time_current import TIMES_S


def drawn(load: float, peak: float, seconds: float) -> np.ndarray:
    return np.where(seconds >= TIMES_S, peak, load)


@given(load=st.floats(1.0, 200.0), times=st.floats(1.0, 5.0), seconds=st.floats(0.2, 60.0))
def test_contacts_as_specified_serve_and_hardly_more(
    load: float, times: float, seconds: float
) -> None:
    curve = drawn(load, load * times, seconds)
    asked = ContactSetting(load, curve, 58.8, curve * 0.0)
    connector, switch = connector_as_specified(asked), switch_as_specified(asked)
    assert judge_connector(connector, asked).serves and judge_switch(switch, asked).serves
    assert connector.voltage_dc_v == 58.8
    if times == 1.0:
        assert connector.continuous_a == pytest.approx(load, rel=2e-6)


@given(load=st.floats(2.0, 150.0), times=st.floats(1.0, 2.5), seconds=st.floats(0.5, 20.0))
def test_a_fuse_as_specified_serves_where_a_window_is_open(
    load: float, times: float, seconds: float
) -> None:
    curve = drawn(load, load * times, seconds)
    # A wire that stands six times the load for a second, and the load half as much again.
    harm = load * np.maximum(1.5, 6.0 / np.sqrt(np.maximum(TIMES_S, 0.05)) + 1.5)
    asked = FuseSetting(load, curve, harm, 58.8, 40.0 * load, 12.0 * load, 25.0, "a wire")
    made = fuse_as_specified(asked)
    assert (made is None) == best_form(asked).window.empty
    if made is not None:
        assert judge_fuse(made, asked).serves
        assert made.breaking_a == pytest.approx(1.25 * 40.0 * load)


def test_a_rating_is_one_that_is_sold_where_there_is_one() -> None:
    assert usual_rating_a(31.0, 36.0) == 32.0
    assert usual_rating_a(36.0, 39.0) == pytest.approx(36.0)
    assert list(RATINGS_A) == sorted(RATINGS_A)


def test_what_is_said_of_it() -> None:
    note = specified_note("bms", "BMS", nearest("X", ()), "board.continuous_a")
    assert (note.code, note.severity) == ("bms-as-specified", "note")
    assert replace(note, text="").why == "The catalogue has none."
