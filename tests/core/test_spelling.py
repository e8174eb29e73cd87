"""Quantities and sentences as text: in every spelling, and where in them quantities stand."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.said import (
    Listed,
    Quantity,
    Said,
    Text,
    capital,
    listed,
    phrase,
    say,
    say_about,
    say_delay,
    say_sides,
    wire_name,
)
from lumvak.core.sizing.search import too_high
from lumvak.core.spelling import (
    MINUS,
    Spelling,
    awg_area_mm2,
    figures,
    gauge_name,
    placed,
    spelled,
    spoken,
)
from lumvak.core.units import AREA, parse, spell


@pytest.mark.parametrize(
    ("value", "unit", "text"),
    [
        (36.0, "V", "36 V"),
        (18.94, "A", "18.9 A"),
        (0.7834e-3, "ohm", "0.783 mΩ"),
        (1048.5, "Wh", "1048 Wh"),
        (0.05, "%", "5 %"),
        (0.655, "%", "66 %"),
        (-0.25, "%", "\u221225 %"),
        (1.15, "h", "1 h 09"),
        (0.4, "h", "24 min"),
        (0.01, "h", "36 s"),
        (214.0, "money", "214.00"),
        (None, "A", "—"),
        (math.inf, "A", "no limit"),
        (7, "", "7"),
        (-5.0, "°C", "\u22125 °C"),
        ("balance", "", "balance"),
    ],
)
def test_values_are_said_as_a_person_would(value: object, unit: str, text: str) -> None:
    assert spoken(say(value, unit)) == text  # type: ignore[arg-type]


def test_fixed_spelling_keeps_its_zeros() -> None:
    assert spelled(Quantity(36.0, "V", "fixed")) == "36.0 V"
    assert spelled(Quantity(2.0e-3, "ohm", "fixed")) == "2.00 mΩ"
    assert spelled(Quantity(7, "", "fixed")) == "7"


@given(st.floats(min_value=-1e6, max_value=1e6, allow_nan=False))
def test_rounding_keeps_three_figures(value: float) -> None:
    text = figures(value).replace(MINUS, "-")
    assert "e" not in text
    assert float(text) == pytest.approx(value, rel=6e-3, abs=1e-12)


@pytest.mark.parametrize(
    ("seconds", "words", "about"),
    [
        (0.0003, "300 µs", "300 µs"),
        (0.0891, "89.1 ms", "89 ms"),
        (1.5, "1.5 s", "1.5 s"),
        (316.2, "316.2 s", "320 s"),
    ],
)
def test_times_are_said_in_their_own_unit(seconds: float, words: str, about: str) -> None:
    assert spoken(say_delay(seconds)) == words
    assert spoken(say_about(seconds)) == about


@pytest.mark.parametrize(
    ("wanted", "value", "unit", "said"),
    [
        (Spelling(inches=True), 25.4, "mm", "1 in"),
        (Spelling(inches=True), 0.15, "mm", "0.00591 in"),
        (Spelling(inches=True), 0.3048, "m", "1 ft"),
        (Spelling(inches=True), 20.0, "°C", "20 °C"),
        (Spelling(fahrenheit=True), 25.0, "°C", "77 °F"),
        (Spelling(fahrenheit=True), -40.0, "°C", "\u221240 °F"),
        (Spelling(fahrenheit=True), 12.0, "K", "12 K"),
        (Spelling(comma=True), 1.25, "V", "1,25 V"),
        (Spelling(comma=True), 0.5, "ohm", "500 mΩ"),
        (Spelling(comma=True), 0.015, "%", "1,50 %"),
        (Spelling(comma=True, currency="€"), 12.5, "money", "12,50 €"),
        (Spelling(comma=True), 0.0123, "s", "12,3 ms"),
    ],
)
def test_quantities_are_said_as_is_preferred(
    wanted: Spelling, value: float, unit: str, said: str
) -> None:
    assert spoken(say(value, unit), wanted) == said


def test_sides_are_said_together() -> None:
    sides = say_sides((112.4, 70.0, 65.2))
    assert spoken(sides) == "112 × 70 × 65 mm"
    assert spoken(sides, Spelling(inches=True)) == "4.43 × 2.76 × 2.57 in"
    assert spoken(Quantity((8.0, 41.25), "mm", "sides", "g .1f")) == "8 × 41.2 mm"


def test_wires_go_by_gauge_or_by_section() -> None:
    twelve, plain = awg_area_mm2(12), Spelling(gauges=False)
    assert (gauge_name(twelve), gauge_name(4.0)) == ("AWG 12", "4 mm²")
    assert gauge_name(twelve, plain) == "3.31 mm²"
    assert spoken(wire_name(twelve)) == "AWG 12"
    assert parse(spell(twelve, AREA, plain), AREA, plain) == pytest.approx(twelve)


def test_what_was_spelled_is_not_kept_over_another_spelling() -> None:
    said = too_high(20, 4.2, 60.5)
    assert spoken(said, Spelling(comma=True)) == spoken(said).replace(".", ",")


@pytest.mark.parametrize(("awg", "area"), [(10, 5.261), (12, 3.309), (16, 1.309)])
def test_gauges_have_their_sections(awg: int, area: float) -> None:
    assert awg_area_mm2(awg) == pytest.approx(area, abs=5e-4)
    assert parse(f"AWG {awg}", AREA) == pytest.approx(area, abs=5e-4)
    assert parse(f"{awg}awg", AREA) == pytest.approx(area, abs=5e-4)
    assert gauge_name(awg_area_mm2(awg)) == f"AWG {awg}"


def test_a_section_between_gauges_is_named_in_mm2() -> None:
    assert gauge_name(4.0) == "4.00 mm²".replace("4.00", "4")


QUANTITIES = st.builds(
    Quantity, st.floats(-1e4, 1e4), st.sampled_from(["V", "A", "mm", "°C", "ohm", "%", "h", "s"])
)
TEXTS: st.SearchStrategy[Text] = st.recursive(
    st.one_of(QUANTITIES, st.sampled_from(["the strip", "Lead {3}", ""])),
    lambda inner: st.one_of(
        st.builds(lambda one, two: phrase("{} against {}", one, two), inner, inner),
        st.builds(lambda items: listed(items, "; ", " or "), st.lists(inner, max_size=4)),
        st.builds(capital, inner),
    ),
)
SPELLINGS = st.builds(Spelling, st.booleans(), st.booleans(), st.booleans(), st.booleans())


def held(text: Text | int) -> list[Quantity]:
    """The quantities of a text, in order."""
    if isinstance(text, Quantity):
        return [text]
    parts = (
        text.values if isinstance(text, Said) else text.items if isinstance(text, Listed) else ()
    )
    return [item for part in parts for item in held(part)]


@given(TEXTS, SPELLINGS)
def test_where_quantities_stand_is_where_they_are_read(text: Text, wanted: Spelling) -> None:
    plain, places = placed(text, wanted)
    assert plain == spoken(text, wanted)
    assert [place.quantity for place in places] == held(text)
    for place in places:
        shown = plain[place.start : place.end]
        assert shown.lower() == spelled(place.quantity, wanted).lower()


def test_another_language_may_turn_the_order_round() -> None:
    text = phrase("{} carries {}", "the lead", say(12.0, "A"))
    german = {"{} carries {}": "{1} trägt {0}", "the lead": "die Leitung"}
    assert spoken(text, Spelling(), german) == "12 A trägt die Leitung"
    plain, (place,) = placed(text, Spelling(), german)
    assert plain[place.start : place.end] == "12 A"


def test_what_is_given_stays_as_it_is_but_for_other_units() -> None:
    given_c = Quantity(30.0, "°C", "given", "30.0")
    assert spoken(given_c) == "30.0"
    assert spoken(given_c, Spelling(fahrenheit=True)) == "86 °F"
    bound = Quantity(0.123456789, "mm", "bound")
    assert (spoken(bound), spoken(bound, Spelling(comma=True))) == ("0.123457 mm", "0,123457 mm")
