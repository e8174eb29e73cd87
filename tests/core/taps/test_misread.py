"""Readings that cannot be meant as they were typed."""

import numpy as np
import pytest

from lumvak.core.spelling import spoken
from lumvak.core.taps.misread import counted, misread
from lumvak.core.taps.readings import Case


def test_how_many_there_should_be_is_said() -> None:
    assert counted([0.0, 3.7, 7.4], 2) == ""
    assert spoken(counted([3.7, 7.4], 2)).startswith("2 readings for 3 leads: 2 groups have 3")
    assert "“open” for none" in spoken(counted([0.0] * 9, 2))


def test_millivolts_signs_and_more_than_the_pack_are_told_and_offered() -> None:
    case = Case(np.array([3.7, 3.7, 3.7]), np.array([0.0, 3700.0, -7.4, 300.0]))
    found = {item.lead: item for item in misread(case)}
    assert set(found) == {1, 2, 3}
    assert found[1].meant_v == pytest.approx(3.7)
    assert "millivolts may be meant: 3.7 V" in spoken(found[1].text)
    assert found[2].meant_v == pytest.approx(7.4)
    assert "black probe" in spoken(found[2].text)
    assert "the whole pack has 11.1 V" in spoken(found[3].text)
    fine = Case(np.array([3.7]), np.array([np.nan, 3.69]))
    assert not list(misread(fine))
