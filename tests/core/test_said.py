"""What is said before it is spelled: put together, compared, and never a text by itself."""

import pytest

from lumvak.core.said import (
    Quantity,
    Said,
    capital,
    digits,
    first_of,
    in_line,
    listed,
    phrase,
    say,
    say_exact,
    say_hours,
    say_span,
    sentences,
    small,
    unit_name,
)
from lumvak.core.spelling import Spelling, spoken


def test_what_is_said_is_no_text_until_it_is_spelled() -> None:
    for said in (say(36.0, "V"), phrase("{} cells", 40), listed(["a", "b"])):
        with pytest.raises(TypeError, match="spelled at the edge"):
            f"{said}"
        with pytest.raises(TypeError, match="spelled at the edge"):
            str(said)


def test_equal_things_said_are_equal_and_others_are_not() -> None:
    assert phrase("{} left", say(1.0, "V")) == Said("{} left", (Quantity(1.0, "V"),))
    assert say(1.0, "V") != say(1.0 + 1e-12, "V")
    assert len({say(1.0, "V"), say(1.0, "V"), say(1.0, "A")}) == 2


def test_rows_and_sentences() -> None:
    assert spoken(listed(["a", "b", "c"], ", ", " and ")) == "a, b and c"
    assert spoken(listed(["a"], ", ", " and ")) == "a"
    assert listed([]) == ""
    assert spoken(sentences("One.", "", phrase("{}.", "Two"))) == "One. Two."
    assert first_of(listed(["one", "two"])) == "one"
    assert spoken(first_of(listed([7, 8]))) == "7"
    assert first_of("one") == "one"


def test_first_letters() -> None:
    assert spoken(capital("the strip")) == "The strip"
    assert spoken(capital(phrase("{} left", "one"))) == "One left"
    assert spoken(in_line("Series connections carry")) == "series connections carry"
    assert spoken(in_line(phrase("Both {}", "leads"))) == "both leads"
    assert small("BMS limit") == "BMS limit"


def test_values_that_are_words_are_said_as_they_are() -> None:
    assert say("balance", "") == "balance"
    assert spoken(say(None, "A")) == "—"
    inner = phrase("at {}", say(25.0, "°C"))
    assert say(inner, "°C") is inner


def test_forms() -> None:
    assert spoken(digits(-1.26, "+.1f"), Spelling(comma=True)) == "\u22121,3"
    assert spoken(say_exact(1.0 / 3.0, "h")) == "20 min"
    assert spoken(say_hours(1.15)) == "1 h 09"
    assert spoken(say_span(0.5, 2.0)) == "from 500 ms to 2 s"
    assert spoken(say_span(0.5, 1e4)) == "from 500 ms on"
    assert spoken(unit_name("mm"), Spelling(inches=True)) == "in"
