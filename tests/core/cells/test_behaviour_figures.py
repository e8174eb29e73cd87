"""What is taken of a cell's behaviour says where it comes from."""

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.cells.behaviour_figures import (
    counted_capacity,
    entropy_figure,
    lag_figure,
    ten_second_resistance,
)
from lumvak.core.spelling import spoken
from tests.core.cells.test_sheet_fit import MADE, drawn, of


def test_what_the_curves_hold_is_counted(catalogue: Catalogue) -> None:
    cell, true = catalogue.cells[MADE], of(catalogue)
    curves = tuple(drawn(cell, true, rate) for rate in (0.2, 1.0))
    # The sheet calls a tenth less typical than its own curves hold.
    sheet = replace(
        cell,
        curves=curves,
        capacity_typical_ah=0.9 * cell.capacity_typical_ah,
        capacity_min_ah=0.88 * cell.capacity_typical_ah,
    )
    seen = behaviour_of(sheet, catalogue.chemistry_of(sheet))
    assert seen.capacity_scale == pytest.approx(1.0 / 0.9, rel=0.01)
    counted = counted_capacity(sheet, seen)
    assert counted.number == pytest.approx(0.88 / 0.9 * cell.capacity_typical_ah, rel=0.01)
    assert "drawn curves" in spoken(counted.rule)
    assert counted_capacity(cell, behaviour_of(cell, catalogue.chemistry_of(cell))).number == (
        cell.capacity_min_ah
    )


def test_the_ten_second_resistance_comes_from_the_curves_where_none_is_said(
    catalogue: Catalogue,
) -> None:
    cell, true = catalogue.cells[MADE], of(catalogue)
    curves = tuple(drawn(cell, true, rate) for rate in (0.2, 1.0, 2.0))
    sheet = replace(cell, curves=curves, resistance_dc_ohm=None, resistance_ac_ohm=None)
    figure = ten_second_resistance(sheet, behaviour_of(sheet, catalogue.chemistry_of(sheet)))
    assert not figure.assumed
    # The split into fast and slow is that of a measured cell then.
    assert figure.number == pytest.approx(true.steady_ohm / 1.455, rel=0.08)


def test_what_is_taken_of_the_family_is_assumed(catalogue: Catalogue) -> None:
    cell = catalogue.cells[MADE]
    chemistry = catalogue.chemistry_of(cell)
    seen = behaviour_of(cell, chemistry)
    lag, entropy = lag_figure(cell, chemistry, seen), entropy_figure(chemistry, seen)
    assert lag.assumed and entropy.assumed
    assert "cobalt type" in spoken(lag.rule)
    assert (lag.number, entropy.number) == (seen.lag_s, 1000.0 * seen.entropy_v_per_k)
    true = of(catalogue)
    sheet = replace(cell, curves=tuple(drawn(cell, true, rate) for rate in (0.2, 1.0)))
    fitted = behaviour_of(sheet, chemistry)
    assert not lag_figure(sheet, chemistry, fitted).assumed
    assert lag_figure(sheet, chemistry, fitted).number == fitted.lag_s
