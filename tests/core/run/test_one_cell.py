"""One cell as its sheet draws it."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.run.one_cell import one_cell


@pytest.mark.parametrize("name", ["ostrel-21-48", "fennimor-26-25x", "rondel-18-13"])
def test_more_current_and_more_cold_give_less(catalogue: Catalogue, name: str) -> None:
    cell = catalogue.cells[name]
    seen = behaviour_of(cell, catalogue.chemistry_of(cell))
    one = cell.capacity_typical_ah
    slow, fast, cold = (
        one_cell(cell, seen, amps, celsius)
        for amps, celsius in ((0.2 * one, 25.0), (1.5 * one, 25.0), (1.5 * one, 0.0))
    )
    assert slow.ended == fast.ended == cold.ended == "empty cell"
    assert slow.taken_ah > fast.taken_ah >= cold.taken_ah > 0.5 * one
    assert 0.9 * one < slow.taken_ah <= one
    means = [run.delivered_wh / run.taken_ah for run in (slow, fast, cold)]
    assert means == sorted(means, reverse=True)
    # Held at its temperature.
    assert cold.temperature_c == pytest.approx(0.0, abs=1e-6)
