"""Chargers as their labels give them."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.chargers import Charger
from lumvak.core.checked import NotAccepted, made


def test_a_charger_that_contradicts_itself_is_refused() -> None:
    with pytest.raises(NotAccepted, match="Turns off under: 3 A is no less than it gives"):
        made(Charger, {"id": "one", "volts": 42.0, "amps": 2.0, "end_a": 3.0})
    with pytest.raises(NotAccepted, match="At the least: 15 V is over its volts"):
        made(Charger, {"id": "one", "volts": 14.4, "amps": 2.0, "kind": "supply", "low_v": 15.0})
    with pytest.raises(NotAccepted):
        made(Charger, {"id": "one", "volts": 0.0, "amps": 2.0})


def test_the_samples_are_in_the_catalogue_and_marked_as_made_up(catalogue: Catalogue) -> None:
    assert {"cccv", "lead", "nickel", "supply"} == {
        item.kind for item in catalogue.chargers.values()
    }
    assert all(item.sample for item in catalogue.chargers.values())
