"""What is typed, pasted or traced of a sheet, and the words for what was found."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour, behaviour_of
from lumvak.core.cells.sheet_reading import (
    Corner,
    curve_of,
    curve_said,
    curve_told,
    fit_told,
    parse_curve,
    pulse_of,
    traced,
)
from lumvak.core.said import Text
from lumvak.core.spelling import spoken
from lumvak.core.units import QuantityError
from tests.core.cells.test_sheet_fit import MADE, of, with_sheet


@pytest.mark.parametrize(
    ("text", "points"),
    [
        ("0 4.15\n1.25 3.62", [(0.0, 4.15), (1.25, 3.62)]),
        ("Ah\tV\n0\t4.15\n1,25\t3,62\n", [(0.0, 4.15), (1.25, 3.62)]),
        ("mAh;V\n1250;3,62\n0;4,15", [(0.0, 4.15), (1.25, 3.62)]),
        ("1250 mAh 3.62 V", [(1.25, 3.62)]),
        ("0 4.15\n\n2400 3.0", [(0.0, 4.15), (2.4, 3.0)]),
    ],
)
def test_lines_of_charge_and_volts(text: str, points: list[tuple[float, float]]) -> None:
    found = parse_curve(text, 2.5)
    assert len(found) == len(points)
    for one, other in zip(found, points, strict=True):
        assert one == pytest.approx(other)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("0 4.1\n1 2 3", "line 2, “1 2 3”: wanted are two numbers"),
        ("0 4.1\nfoo", "line 2"),
        ("3.6 900", "line 1: 900 V was given for a cell; accepted: up to 6 V"),
        ("", "nothing to read"),
        ("charge volts", "nothing to read"),
    ],
)
def test_what_cannot_be_read_names_its_line(text: str, says: str) -> None:
    with pytest.raises(QuantityError, match=says):
        parse_curve(text, 2.5)


# Places nearer to each other than their rounding are one place, or two, by chance.
CHARGES = st.integers(0, 500).map(lambda hundredths: hundredths / 100.0)


@given(
    st.lists(st.tuples(CHARGES, st.floats(2.5, 4.2)), min_size=4, max_size=30),
    st.floats(0.5, 300.0),
    st.floats(-200.0, -2.0),
    st.floats(-50.0, 50.0),
)
def test_places_on_a_picture_become_what_they_stood_for(
    points: list[tuple[float, float]], wide: float, high: float, shift: float
) -> None:
    def place(ah: float, volts: float) -> tuple[float, float]:
        return shift + ah * wide, 500.0 + (volts - 2.5) * high

    corners = [Corner(*place(ah, volts), ah, volts) for ah, volts in ((0.0, 2.0), (6.0, 4.5))]
    found = traced([place(*point) for point in points], corners[0], corners[1])
    charges = [ah for ah, _ in found]
    assert charges == sorted(set(charges))
    assert all(after[1] <= before[1] for before, after in pairwise(found))
    by_charge = {round(ah, 4): volts for ah, volts in points}
    assert charges == pytest.approx(sorted(by_charge), abs=2e-4)
    # The first is where it was; those after it never lie higher than they were clicked.
    assert found[0][1] == pytest.approx(by_charge[min(by_charge)], abs=2e-4)
    for (_, volts), at in zip(found, sorted(by_charge), strict=True):
        assert volts <= by_charge[at] + 2e-4


def test_corners_that_span_nothing_are_refused() -> None:
    one = Corner(10.0, 90.0, 0.0, 2.5)
    with pytest.raises(QuantityError, match="lie across"):
        traced([], one, Corner(10.5, 10.0, 5.0, 4.2))
    with pytest.raises(QuantityError, match="read the same"):
        traced([], one, Corner(90.0, 10.0, 5.0, 2.5))
    assert traced([], one, Corner(90.0, 10.0, 5.0, 4.2)) == []


def test_curves_and_pulses_say_what_is_wrong_with_them() -> None:
    curve = curve_of(2.5, 25.0, [(0.0, 4.1), (1.0, 3.7), (2.0, 3.4), (2.4, 3.0)])
    assert spoken(curve_said(curve)) == "2.5 A, 25 °C"
    with pytest.raises(QuantityError, match="must not rise"):
        curve_of(2.5, 25.0, [(0.0, 3.0), (1.0, 3.7), (2.0, 3.4), (2.4, 3.0)])
    with pytest.raises(QuantityError, match="current_a"):
        curve_of(0.0, 25.0, curve.points)
    with pytest.raises(QuantityError, match="charge"):
        pulse_of(1.2, 10.0, 25.0, 0.02)
    assert pulse_of(0.5, 10.0, 25.0, 0.02).ohm == 0.02


def told_of(cell: Cell, behaviour: Behaviour) -> dict[str, Text]:
    return {spoken(label): words for label, words in fit_told(cell, behaviour)}


def test_the_fit_is_told_with_how_far_it_is_off(catalogue: Catalogue) -> None:
    cell = catalogue.cells[MADE]
    plain = behaviour_of(cell, catalogue.chemistry_of(cell))
    assert curve_told(plain, 0) == ("", "")
    assert "as its family" in spoken(told_of(cell, plain)["lag"])
    assert "few points" not in told_of(cell, plain)
    sheet = with_sheet(cell, of(catalogue), cold=True)
    found = behaviour_of(sheet, catalogue.chemistry_of(sheet))
    off, end = curve_told(found, 3)
    assert spoken(off).endswith(" mV")
    assert float(spoken(off).split()[0]) < 20.0
    assert abs(float(spoken(end).split()[0].replace("\u2212", "-"))) < 1.0
    told = told_of(sheet, found)
    assert "as its family" not in spoken(told["lag"])
    assert "typical 4.8 Ah" in spoken(told["full to empty, by OCV"])
    assert "in the cold" not in told
    assert "few points" not in told
    thinned = [
        replace(curve, points=(*curve.points[:-1:3], curve.points[-1])) for curve in sheet.curves
    ]
    few = replace(sheet, curves=tuple(thinned))
    words = dict(fit_told(few, behaviour_of(few, catalogue.chemistry_of(few))))["few points"]
    assert spoken(words).startswith(f"{len(thinned[0].points)} on a curve")
