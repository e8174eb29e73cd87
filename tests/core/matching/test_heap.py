"""Heaps that can be dealt, and what is said of those that cannot."""

import pytest

from lumvak.core.matching.heap import HeapError
from tests.core.matching.heaps import TWELVE, heap


def test_what_cannot_be_dealt_is_said() -> None:
    with pytest.raises(HeapError, match="11 good cells for 12 places: 1 are missing") as caught:
        heap(list(TWELVE[:11]), 4, 3)
    assert caught.value.missing == 1
    with pytest.raises(HeapError, match="cell 99 is to have its place"):
        heap(TWELVE, 4, 3, pins={99: 0})
    with pytest.raises(HeapError, match="group 2 is to take 4 cells"):
        heap(TWELVE, 4, 3, pins={1: 1, 2: 1, 3: 1, 4: 1})
    with pytest.raises(HeapError, match="kept apart in 4 groups"):
        heap(TWELVE, 4, 3, apart=[[1, 2, 3, 4, 5]])
    with pytest.raises(HeapError, match="kept apart and to be in one group"):
        heap(TWELVE, 4, 3, apart=[[1, 2]], pins={1: 0, 2: 0})
