"""Readings of a search, as they are stored."""

from typing import get_args

import pytest

from lumvak.core.checked import made
from lumvak.core.document.afterwards.trouble import ComplaintName, FaultReading
from lumvak.core.spelling import Refused
from lumvak.core.trouble.causes import COMPLAINTS


def test_complaints_are_those_of_the_causes() -> None:
    assert get_args(ComplaintName) == tuple(COMPLAINTS)


@pytest.mark.parametrize("given", [{}, {"word": "jumps", "value": 3.0}, {"place": "cell"}])
def test_a_reading_is_one_thing_at_a_place(given: dict[str, object]) -> None:
    with pytest.raises(Refused):
        made(FaultReading, {"place": "terminals", **given})
    assert made(FaultReading, {"place": "group:3", "value": 3.7}).value == 3.7
