"""The highest volts of a charger, by hand."""

import pytest

from lumvak.core.catalogue.chargers import Charger
from lumvak.core.charging.highest import highest_of, unknown_stages
from lumvak.core.checked import made
from lumvak.core.spelling import spoken


def lead(**more: object) -> Charger:
    return made(Charger, {"id": "one", "volts": 14.4, "amps": 8.0, "kind": "lead", **more})


def test_set_volts_count_where_nothing_is_higher() -> None:
    plain = Charger(id="one", volts=42.0, amps=2.0)
    assert highest_of(plain, -20.0) == highest_of(plain, 25.0)
    assert highest_of(plain, 25.0).volts == 42.0 and highest_of(plain, 25.0).why == "set"


def test_what_it_shows_open_counts_but_for_one_that_holds_no_volts() -> None:
    for kind, why in (("cccv", "open"), ("supply", "open"), ("nickel", "set")):
        one = made(Charger, {"id": "one", "volts": 42.0, "amps": 2.0, "kind": kind, "open_v": 48.0})
        assert highest_of(one, 25.0).why == why


def test_an_equalise_stage_counts_unless_it_is_known_to_be_off() -> None:
    """15.5 V on six lead cells that absorb at 14.4."""
    assert highest_of(lead(), 25.0).volts == pytest.approx(15.5)
    assert not highest_of(lead(), 25.0).known and highest_of(lead(equalise="on"), 25.0).known
    assert highest_of(lead(equalise="off"), 25.0).volts == 14.4
    assert "equalise stage of some 15.5 V or pulses" in spoken(unknown_stages(lead()))
    assert spoken(unknown_stages(lead(equalise="off", compensates="off"))) == ""


def test_volts_rise_in_the_cold() -> None:
    """4 mV a K and a lead cell: 24 mV a K on six, from 25 °C."""
    known = lead(equalise="off", compensates="on")
    assert highest_of(known, 15.0).volts == pytest.approx(14.4 + 10 * 0.024)
    assert highest_of(known, 30.0).volts == 14.4
    # Where nobody says so it is counted in the cold alone.
    unknown = lead(equalise="off")
    assert highest_of(unknown, 15.0).volts == 14.4
    assert highest_of(unknown, 0.0).volts == pytest.approx(14.4 + 25 * 0.024)
    assert highest_of(lead(equalise="off", compensates="off"), -20.0).volts == 14.4
    both = highest_of(lead(equalise="on", compensates="on"), 5.0)
    assert both.volts == pytest.approx(15.5 * (1.0 + 20 * 0.004 / 2.4)) and both.equalised
