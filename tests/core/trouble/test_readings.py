"""Places, states and efforts of readings."""

import pytest

from lumvak.core.trouble.readings import (
    ReadingError,
    TroubleReading,
    check_place,
    effort_of,
    state_of,
)


@pytest.mark.parametrize(
    "place", ["terminals", "pack", "group:14", "tap:0", "tap:14", "joint:13", "shown:1", "groups"]
)
def test_a_pack_has_these_places(place: str) -> None:
    check_place(place, 14)


@pytest.mark.parametrize("place", ["group:15", "joint:14", "tap:15", "group:0", "cell", "group"])
def test_it_has_no_others(place: str) -> None:
    with pytest.raises(ReadingError):
        check_place(place, 14)


def test_states_with_their_amounts() -> None:
    assert state_of("rest") == ("rest", 0.0) and state_of("load:10.5") == ("load", 10.5)
    for text in ("load", "load:x", "loud:3"):
        with pytest.raises(ReadingError):
            state_of(text)


def test_under_the_wrapper_costs_more_than_at_the_plug() -> None:
    weights = [effort_of(it, "rest")[1] for it in ("terminals", "group:3", "joint:2")]
    assert weights == sorted(weights)
    assert "load at hand" in effort_of("terminals", "load")[0]
    reading = TroubleReading("group:3")
    assert (reading.kind, reading.number, reading.sweeps) == ("group", 3, False)
