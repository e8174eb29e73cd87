"""All parts at hand: later ones win, and the order in which some are tried."""

from itertools import pairwise

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue, Parts, UnknownPart


def test_a_later_part_of_the_same_id_wins(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    own = replace(cell, price=99.0)
    over = catalogue.with_parts(Parts(cells=(own,)))
    assert over.cells[cell.id].price == 99.0
    assert catalogue.cells[cell.id].price == cell.price
    assert len(over.cells) == len(catalogue.cells)
    assert catalogue.with_parts(Parts()) is catalogue


def test_a_cell_of_a_chemistry_that_nobody_knows_is_refused(catalogue: Catalogue) -> None:
    stray = replace(catalogue.cells["ostrel-21-48"], id="stray", chemistry="unobtainium")
    with pytest.raises(UnknownPart, match="unobtainium"):
        catalogue.with_parts(Parts(cells=(stray,)))


def test_fuses_rise_and_the_cheapest_contacts_come_first(catalogue: Catalogue) -> None:
    fuses = catalogue.rising_fuses
    assert set(fuses) == set(catalogue.fuses.values())
    assert all((a.rating_a, a.price) <= (b.rating_a, b.price) for a, b in pairwise(fuses))
    for parts in (catalogue.cheapest_connectors, catalogue.cheapest_switches):
        assert parts and all(a.price <= b.price for a, b in pairwise(parts))


def test_the_strongest_board_is_looked_up_by_what_it_is_for(catalogue: Catalogue) -> None:
    for (family, series), amps in catalogue.strongest_board_a.items():
        alike = [
            board.continuous_a
            for board in catalogue.boards.values()
            if (board.family, board.series) == (family, series)
        ]
        assert amps == max(alike)
