"""Holders as they are bought."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.holders import Holder
from lumvak.core.checked import NotAccepted, made


def test_a_holder_that_cannot_be_is_refused() -> None:
    with pytest.raises(NotAccepted, match=r"at least the diameter of a cell, 18\.6"):
        made(Holder, {"id": "one", "name": "One", "diameter_mm": 18.6, "pitch_mm": 18.0})
    with pytest.raises(NotAccepted, match="leave the end open"):
        made(
            Holder,
            {"id": "one", "name": "One", "diameter_mm": 18.6, "pitch_mm": 20.0, "rim_mm": 5.0},
        )


def test_every_round_cell_has_a_sample_that_holds_it(catalogue: Catalogue) -> None:
    assert all(item.sample for item in catalogue.holders.values())
    for cell in catalogue.cells.values():
        if cell.diameter_mm is not None:
            spare = [item.diameter_mm - cell.diameter_mm for item in catalogue.holders.values()]
            assert any(0.0 <= each < 0.8 for each in spare), cell.id
