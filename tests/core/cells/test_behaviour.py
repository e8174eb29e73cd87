"""How a cell behaves where its sheet draws nothing: by its pulses, else by its family."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.sheet_curves import SheetPulse
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.cells.cell_model import TRAITS
from tests.core.cells.test_sheet_fit import MADE


def test_pulses_of_a_sheet_shape_the_resistance(catalogue: Catalogue) -> None:
    cell = catalogue.cells[MADE]
    ten = cell.resistance_dc_ohm or 0.02
    pulses = tuple(
        SheetPulse(charge=charge, ohm=factor * ten)
        for charge, factor in ((0.1, 3.0), (0.5, 1.0), (0.9, 0.8))
    )
    cold = SheetPulse(charge=0.5, temperature_c=0.0, ohm=3.0 * ten)
    sheet = replace(cell, pulses=(*pulses, cold))
    seen = behaviour_of(sheet, catalogue.chemistry_of(sheet))
    at = np.array([0.1, 0.3, 0.5, 0.9])
    assert seen.charge_factor(at) == pytest.approx([3.0, 2.0, 1.0, 0.8])
    assert float(seen.ohm_factor(np.array(0.0))) == pytest.approx(3.0)
    # Two pulses make no shape; that of the family stays.
    few = replace(cell, pulses=pulses[:2])
    assert behaviour_of(few, catalogue.chemistry_of(few)).charge_factor(at)[0] == pytest.approx(
        1.96, rel=0.01
    )


def test_families_differ_by_a_factor_of_three_near_empty(catalogue: Catalogue) -> None:
    rises = {}
    for cell in catalogue.cell_list:
        chemistry = catalogue.chemistry_of(cell)
        seen = behaviour_of(cell, chemistry)
        rises[chemistry.family] = float(seen.charge_factor(np.array(0.05)))
        assert float(seen.charge_factor(np.array(0.5))) == pytest.approx(1.0)
        assert seen.lag_s == TRAITS[chemistry.family].lag_s
        assert seen.fit is None and seen.reach_h == 0.0
    assert max(rises.values()) / min(rises.values()) == pytest.approx(3.0, rel=0.05)


@given(st.floats(0.0, 0.02), st.floats(0.0, 5.0), st.floats(0.01, 2.0))
def test_less_of_the_electrode_is_reached_by_more_current(
    catalogue: Catalogue, rate: float, factor: float, reach_h: float
) -> None:
    cell = catalogue.cells[MADE]
    seen = behaviour_of(cell, catalogue.chemistry_of(cell))
    one = seen.reached(np.array([rate, 1.5 * rate]), np.array(factor))
    assert one == pytest.approx([1.0, 1.0])
    from msgspec.structs import replace

    some = replace(seen, reach_h=reach_h)
    less = some.reached(np.array([rate, 1.5 * rate]), np.array(factor))
    assert np.all((less > 0.0) & (less <= 1.0))
    assert less[1] <= less[0]
    load = 3600.0 * reach_h * rate * factor
    if load > 2.0:
        assert less[0] == pytest.approx(1.0 / load, rel=1e-3)
