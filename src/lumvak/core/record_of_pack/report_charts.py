"""Charts of the tests in a report: what was expected, and what was measured on it."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.document.proving import Proving
from lumvak.core.proving.measured import counted, stair_levels
from lumvak.core.proving.proof import Course, JudgedFigure, PackProof
from lumvak.core.said import Text, phrase, say

Array = NDArray[np.float64]


class Band(Struct, frozen=True):
    """A figure of a test on its own scale, from 0 to 1: nine in ten, 99 in 100, and the reading.

    What lies outside of 99 in 100 is drawn at the end of its scale.
    """

    label: Text
    said: Text
    low: float
    high: float
    far_low: float
    far_high: float
    at: float
    is_inside: bool


class CourseChart(Struct, frozen=True, eq=False):
    """A course ``x`` (m,) with its band, ``low`` and ``high`` (m,); readings ``at_x``, ``at_y``."""

    title: Text
    x_label: str
    y_label: str
    x: Array
    low: Array
    high: Array
    at_x: Array
    at_y: Array


# The band of 99 in 100 takes so much of a scale.
WIDE = 0.6


def bands_of(proof: PackProof) -> tuple[Band, ...]:
    """Every figure that was measured, in the order of the tests."""
    return tuple(
        _band(it) for test in proof.tests for it in test.figures if it.measured is not None
    )


def _band(item: JudgedFigure) -> Band:
    expected, measured = item.expected, item.measured
    assert measured is not None

    def place(value: float) -> float:
        return float(np.clip(0.5 * (1.0 - WIDE) + WIDE * expected.along(value), 0.0, 1.0))

    unit = item.observable.unit
    said = say(measured.value, unit), say(expected.value, unit), item.verdict
    return Band(
        item.observable.label,
        phrase("{}, expected {}: {}", *said),
        low=place(expected.low),
        high=place(expected.high),
        far_low=0.5 * (1.0 - WIDE),
        far_high=place(expected.far_high),
        at=place(measured.value),
        is_inside=item.verdict == "inside",
    )


def courses_of(proving: Proving, course: Course) -> Iterator[CourseChart]:
    """The full discharge, where it was read more than at its end."""
    read = [
        it
        for it in counted(proving, "full-discharge")
        if it.what == "volts" and it.place == "terminals" and it.at_s is not None
    ]
    if len(read) > 2:
        yield CourseChart(
            "Full discharge: the output, and where nine in ten sound packs run",
            "minutes",
            "V",
            x=course.minutes,
            low=course.low_v,
            high=course.high_v,
            at_x=np.array([(it.at_s or 0.0) / 60.0 for it in read]),
            at_y=np.array([it.value for it in read]),
        )


def chart_of_staircase(proving: Proving) -> Iterator[CourseChart]:
    """Volts of the pack against amps, with the line whose slope is the resistance."""
    pairs = list(zip(*stair_levels(counted(proving, "staircase")), strict=False))
    if len(pairs) > 1:
        amps = np.array([one.amps or 0.0 for one, _ in pairs])
        drops = np.array([after.value - one.value for one, after in pairs])
        ends = np.array([0.0, float(amps.max())])
        line = ends * float(drops @ amps / (amps @ amps))
        yield CourseChart(
            "Staircase: what falls in cells and joints, and the line of their resistance",
            "A",
            "V",
            x=ends,
            low=line,
            high=line,
            at_x=amps,
            at_y=drops,
        )
