"""Passports as text: there and back, by another alphabet's own examples, and nothing is trusted."""

import json
import zlib

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.document.afterwards.passport import Passport
from lumvak.core.spelling import spoken
from lumvak.files import passport as module
from lumvak.files.passport import PACKED, PLAIN, passport_text, read_passport
from lumvak.files.problem import FileProblem
from tests.core.record_of_pack.test_label import PACK


@pytest.mark.parametrize("packed", [False, True])
def test_there_and_back(packed: bool) -> None:
    whole = replace(PACK, standing="proven", modified=True, resistance_mohm=41.5, name="Ä “x”")
    read = read_passport(passport_text(whole, packed))
    assert read.passport == whole and not read.dropped


def test_the_alphabet_is_that_of_its_standard() -> None:
    # The examples of RFC 9285, sections 4.3 and 4.4.
    assert module.base45(b"AB") == "BB8" and module.base45(b"Hello!!") == "%69 VD92EX0"
    assert module.from_base45("QED8WEX0") == b"ietf!"
    with pytest.raises(ValueError, match="more bytes"):
        module.from_base45("GGW")


def test_what_is_not_accepted_is_dropped_and_named() -> None:
    values = json.loads(passport_text(PACK).removeprefix(PLAIN))
    text = PLAIN + json.dumps({**values, "a": -4, "zz": 1, "d": "yesterday"})
    read = read_passport(text)
    assert read.passport == replace(PACK, continuous_a=None, built=None)
    told = " ".join(spoken(it) for it in read.dropped)
    assert "Continuous" in told and "Built" in told and "zz" in told


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("hello", "does not begin with"),
        (PLAIN + "{", "no JSON"),
        (PLAIN + "[1]", "no list of names"),
        (PLAIN + "{}", "no passport"),
        (PLAIN + "[" * 3000, "no JSON"),
        (PLAIN + '{"n":NaN}', "no JSON"),
        (PLAIN + "x" * 5000, "signs; accepted"),
        (PACKED + "GGW", "does not unpack"),
        (
            PACKED + module.base45(zlib.compress(b" " * 900_000, wbits=-15)),
            "more than 16384 bytes",
        ),
        (PLAIN + '{"n":"x","s":0,"p":1,"c":1,"f":4,"e":3}', "Series"),
    ],
)
def test_what_is_none_is_refused_in_a_line(text: str, says: str) -> None:
    with pytest.raises(FileProblem, match=says) as caught:
        read_passport(text)
    assert "\n" not in str(caught.value)


@given(st.text(max_size=200))
def test_no_text_raises_anything_else(text: str) -> None:
    for mark in (PLAIN, PACKED):
        with pytest.raises(FileProblem):
            read_passport(mark + text)


def test_every_field_has_a_short_name() -> None:
    assert set(module.SHORT) == set(Passport.__struct_fields__)
    assert len(module.LONG) == len(module.SHORT)
