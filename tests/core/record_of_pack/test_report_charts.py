"""Charts of tests: bands on their own scales, and courses with what was read."""

import numpy as np
import pytest

from lumvak.core.document.proving import Proving
from lumvak.core.proving.proof import Course, Prepared, proof_of
from lumvak.core.record_of_pack.report_charts import (
    WIDE,
    bands_of,
    chart_of_staircase,
    courses_of,
)
from lumvak.core.spelling import spoken
from tests.proofs import reading


def test_a_reading_in_the_band_lies_in_it_and_one_outside_outside(ready: Prepared) -> None:
    expected = ready.expected["total.difference_v"]
    for value, inside in ((expected.value, True), (2.0 * expected.far_high, False)):
        volts = [reading("total", 1.0, f"group:{group}") for group in range(1, 15)]
        whole = reading("total", 14.0 - value, "pack")
        proof = proof_of(ready, Proving(readings=(*volts, whole)), {"cells": 30.0})
        (band,) = bands_of(proof)
        assert band.is_inside is inside
        assert (band.low <= band.at <= band.high) is inside
        assert band.far_high - band.far_low == pytest.approx(WIDE)
        assert ("inside" in spoken(band.said)) is inside


def test_a_discharge_is_drawn_where_it_was_read_on_its_way() -> None:
    course = Course(np.array([0.0, 10.0]), np.array([3.0, 2.0]), np.array([4.0, 3.0]))
    ends = (reading("full-discharge", 30.0, "pack", "ah"),)
    assert not [*courses_of(Proving(readings=ends), course)]
    volts = tuple(
        reading("full-discharge", 50.0 - minute, "terminals", amps=10.0, at_s=60.0 * minute)
        for minute in range(5)
    )
    (chart,) = courses_of(Proving(readings=(*volts, *ends)), course)
    assert chart.at_x.tolist() == [0.0, 1.0, 2.0, 3.0, 4.0]
    assert chart.at_y.tolist() == [50.0, 49.0, 48.0, 47.0, 46.0]


def test_the_line_of_a_staircase_is_its_resistance() -> None:
    """10 A drops 0.5 V, 20 A 1.1 V: 54 mΩ, so 1.08 V at 20 A."""
    volts = ((49.5, 10.0), (50.0, 0.0), (48.7, 20.0), (49.8, 0.0), (49.9, 0.0))
    readings = tuple(reading("staircase", it, amps=amps) for it, amps in volts)
    (chart,) = chart_of_staircase(Proving(readings=readings))
    assert chart.at_x.tolist() == [10.0, 20.0]
    assert chart.at_y == pytest.approx([0.5, 1.1])
    assert chart.low == pytest.approx([0.0, 1.08]) and chart.x.tolist() == [0.0, 20.0]
