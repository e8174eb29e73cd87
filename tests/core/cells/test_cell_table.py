"""Cells laid out as arrays say what each says by itself."""

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.cells.cell_table import cell_table


def test_the_table_gives_the_same_voltage_as_the_curve(catalogue: Catalogue) -> None:
    table = cell_table(catalogue, catalogue.cell_list, 0.07)
    rows = np.arange(len(catalogue.cell_list))
    for charge in (0.0, 0.03, 0.07, 0.5, 0.99, 1.0):
        direct = [
            float(behaviour_of(cell, catalogue.chemistry_of(cell)).rest(np.array(charge)))
            for cell in catalogue.cell_list
        ]
        assert table.ocv_at(rows, charge) == pytest.approx(direct)
    assert 0.07 in table.charge


def test_the_table_gives_the_same_resistance_as_the_cell(catalogue: Catalogue) -> None:
    table = cell_table(catalogue, catalogue.cell_list, 0.07)
    rows = np.arange(len(catalogue.cell_list))
    for charge in (0.0, 0.03, 0.07, 0.5, 1.0):
        direct = [float(seen.charge_factor(np.array(charge))) for seen in table.behaviours]
        assert table.shape_at(rows, charge) == pytest.approx(direct)
    assert table.steady_ohm.tolist() == [seen.steady_ohm for seen in table.behaviours]
