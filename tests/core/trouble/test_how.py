"""How readings are taken, in words."""

import pytest

from lumvak.core.spelling import spoken
from lumvak.core.trouble.diagnosis import diagnosed
from lumvak.core.trouble.how import (
    OVER_60_V,
    how_said,
    place_said,
    reading_said,
    speaking,
    state_said,
    value_said,
)
from lumvak.core.trouble.readings import TroubleReading
from tests.core.trouble.test_diagnosis import CASE, THREE

PLACES = [
    "terminals", "pack", "bms", "fuse", "connector", "charger", "groups", "shown", "group:3",
    "tap:0", "tap:7", "joint:2", "shown:4",
]  # fmt: skip


@pytest.mark.parametrize("place", PLACES)
def test_every_place_says_where_the_probes_go_and_what_to_cover(place: str) -> None:
    said = spoken(how_said(place, "rest", 0.0, False, 50.0))
    assert said[0].isupper() and "Rings off" in said and OVER_60_V not in said
    assert OVER_60_V in spoken(how_said(place, "rest", 0.0, False, 70.0))
    assert spoken(place_said(place))


def test_states_values_and_ohm() -> None:
    assert spoken(state_said("load", 10.0)) == "while 10 A are drawn, by the equipment or a lamp"
    assert "in ohm" in spoken(how_said("fuse", "rest", 0.0, True, 50.0))
    assert spoken(value_said(TroubleReading("fuse", value=0.012, in_ohm=True))) == "12 mΩ"
    row = TroubleReading("groups", value=(3.7, 3.6))
    assert spoken(value_said(row)) == "3.7 V 3.6 V"
    assert spoken(reading_said(THREE[0])).endswith("jumps")


def test_a_reading_speaks_for_one_and_against_another() -> None:
    found = diagnosed(CASE, "jumps", THREE)
    best, _ = speaking(found, found.ranked[0])
    assert "terminals" in spoken(best)
    worn = next(it for it in found.ranked if it.cause.name == "connector-worn")
    assert "terminals" in spoken(speaking(found, worn)[1])
