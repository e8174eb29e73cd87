"""Conductors: their sizes are said in the unit of lengths that is shown."""

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.spelling import Spelling, spoken

INCHES = Spelling(inches=True)


def test_every_conductor_says_its_sizes_in_either_unit(catalogue: Catalogue) -> None:
    for part in catalogue.conductors.values():
        assert spoken(part.said) == part.name
        said = spoken(part.said, INCHES)
        assert " in" in said and "mm" not in said


def test_inches_are_those_of_the_sheet_and_other_names_stay(catalogue: Catalogue) -> None:
    strip = catalogue.conductors["nickel-0.2x10"]
    thick, wide = (float(word) for word in spoken(strip.said, INCHES).split() if word[0].isdigit())
    assert (thick * 25.4, wide * 25.4) == pytest.approx((0.2, 10.0), rel=3e-3)
    named = replace(strip, name="from the drawer, 0.3 × 8 mm on the label")
    assert spoken(named.said, INCHES) == named.name
