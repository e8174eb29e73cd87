"""Readings taken one by one and as tables; who is next; places for groups."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.document.hand import Hand, HandCell, Placed
from lumvak.core.matching.readings import (
    merged,
    next_number,
    seats,
    with_reading,
    with_verdict,
    without,
)

LOT = "lot 1"


def test_a_reading_goes_to_its_cell_or_to_a_new_one() -> None:
    cells = with_reading((), 3, LOT, "volts", 3.6)
    cells = with_reading(cells, 3, LOT, "ah", 4.7)
    cells = with_reading(cells, 1, LOT, "ah", 4.6)
    assert [(cell.number, cell.volts, cell.ah) for cell in cells] == [(3, 3.6, 4.7), (1, None, 4.6)]
    with pytest.raises(ValueError, match="accepted: 6 V or less"):
        with_reading(cells, 3, LOT, "volts", 36.0)


@given(
    st.lists(st.tuples(st.integers(1, 40), st.booleans()), unique_by=lambda item: item[0]),
    st.integers(0, 45),
)
def test_the_next_cell_lacks_the_reading_or_is_new(
    items: list[tuple[int, bool]], after: int
) -> None:
    cells = [HandCell(number=number, volts=3.6 if read else None) for number, read in items]
    found = next_number(cells, "volts", after)
    known = {cell.number: cell.volts for cell in cells}
    assert known.get(found) is None
    later = [number for number, read in items if not read and number > after]
    if later:
        assert found == min(later)


def test_a_table_adds_and_changes_and_leaves_the_rest() -> None:
    cells = (HandCell(number=1, volts=3.6, remark="dented"), HandCell(number=2, ah=4.7))
    taken = merged(cells, ({"number": 1, "ah": 4.6}, {"number": 9, "ah": 4.5}), LOT)
    assert (taken.added, taken.changed) == (1, 1)
    assert [cell.number for cell in taken.cells] == [1, 2, 9]
    assert (taken.cells[0].volts, taken.cells[0].ah, taken.cells[0].remark) == (3.6, 4.6, "dented")
    assert taken.cells[1] is cells[1]


def test_verdicts_and_cells_that_are_taken_out() -> None:
    cells = (HandCell(number=1), HandCell(number=2))
    kept = with_verdict(cells, {2}, "keep", "read again")
    assert (kept[0].verdict, kept[1].verdict, kept[1].why) == ("", "keep", "read again")
    assert with_verdict(kept, {2}, "", "x")[1] == cells[1]
    hand = Hand(cells=cells, placed=(Placed(number=2, cell="g1c1"),), soldered=(2,))
    assert without(hand, {2}) == {
        "hand.cells": (cells[0],),
        "hand.placed": (),
        "hand.pins": (),
        "hand.soldered": (),
    }


def test_each_cell_of_a_group_has_a_place_and_pins_their_own() -> None:
    placed = seats([[5, 1], [4, 2]], (Placed(number=5, cell="g1c1"),))
    assert {item.number: item.cell for item in placed} == {
        5: "g1c1",
        1: "g1c2",
        2: "g2c1",
        4: "g2c2",
    }
