"""Places and sets of cells as people write them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.document.hand import Placed
from lumvak.core.matching.binding import apart_read, apart_said, pins_read, pins_said
from lumvak.core.units import QuantityError

PINS = st.lists(
    st.builds(
        Placed, number=st.integers(1, 999_999),
        cell=st.builds("g{}c{}".format, st.integers(1, 999), st.integers(1, 999)),
    ),
    max_size=5,
)  # fmt: skip


@given(PINS)
def test_places_are_read_as_they_are_written(pins: list[Placed]) -> None:
    assert pins_read(pins_said(pins)) == tuple(pins)


@given(st.lists(st.lists(st.integers(1, 999_999), min_size=2, max_size=4), max_size=4))
def test_sets_are_read_as_they_are_written(sets: list[list[int]]) -> None:
    assert apart_read(apart_said(sets)) == tuple(map(tuple, sets))


def test_what_is_written_otherwise_is_read_too_or_refused() -> None:
    assert pins_read(" 57 = G3C2, 58=g3c3;") == (
        Placed(number=57, cell="g3c2"),
        Placed(number=58, cell="g3c3"),
    )
    assert apart_read("12 , 15; 3,4") == ((12, 15), (3, 4))
    assert apart_read("") == pins_read("") == ()
    for wrong in ("57", "57=3", "0=g1c1", "57=g0c1", "a=b"):
        with pytest.raises(QuantityError, match="such as 57=g3c2"):
            pins_read(wrong)
    for wrong in ("12", "12,", "a,b", "0,1"):
        with pytest.raises(QuantityError, match="such as 12,15"):
            apart_read(wrong)
