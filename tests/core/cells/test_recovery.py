"""The voltage under which a cell is never charged again."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.recovery import HARM_UNDER_V, recovery_v


def test_a_cell_is_harmed_under_its_empty_voltage(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    family = catalogue.chemistry_of(cell).family
    assert recovery_v(cell, family) == pytest.approx(cell.voltage_empty_v - HARM_UNDER_V[family])
    for other in catalogue.cell_list:
        least = recovery_v(other, catalogue.chemistry_of(other).family)
        assert 0.5 <= least < other.voltage_empty_v
