"""Instruments that say a command otherwise: with as many places as there are values."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.instruments import USUAL_WORDS, BenchInstrument, InstrumentWord
from lumvak.core.record import Unfit


def test_those_that_ship_are_samples_and_fit(catalogue: Catalogue) -> None:
    assert catalogue.instruments
    for item in catalogue.instruments.values():
        item.check()
        assert item.sample and {word.meant for word in item.words} <= set(USUAL_WORDS)


@pytest.mark.parametrize("says", ["LOAD", "LOAD {} {}", "LOAD {0}", "LOAD {"])
def test_a_command_with_other_places_is_refused(says: str) -> None:
    word = InstrumentWord(meant="load.turn", says=says)
    with pytest.raises(Unfit, match="must have 1 of the places"):
        BenchInstrument(id="odd", name="odd", idn="ODD", words=(word,)).check()
