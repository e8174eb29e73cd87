"""Methods side by side, and cells in the order of their voltages."""

import numpy as np
import pytest

from lumvak.core.matching.dealing import METHODS, by_voltage, compared
from lumvak.core.matching.pool import WEIGHTS, pool_of
from tests.core.matching.pools import TWELVE, pool


def test_all_methods_stand_side_by_side_and_the_best_is_proven() -> None:
    found = compared(pool(TWELVE, 4, 3))
    assert [*found.methods] == [*METHODS, "optimiser"]
    assert found.gap == 0.0
    assert found.bound == pytest.approx(found.best.spread_capacity)
    assert all(found.best.worth <= item.worth for item in found.methods.values())


def test_resistance_alone_is_dealt_by_conductance() -> None:
    chance = np.random.default_rng(2)
    ohms = chance.normal(0.02, 0.001, 24)
    cells = [(place, None, float(ohm)) for place, ohm in enumerate(ohms, 1)]
    found = compared(pool_of(cells, 4, 6, WEIGHTS["resistance"]))
    assert np.isnan(found.best.spread_capacity)
    assert found.best.spread_conductance < 1e-3
    assert found.bound <= found.best.spread_conductance


def test_pairs_have_an_exact_bound() -> None:
    chance = np.random.default_rng(3)
    cells = [(place, float(ah), None) for place, ah in enumerate(chance.normal(2.5, 0.05, 40), 1)]
    found = compared(pool_of(cells, 20, 2))
    assert found.gap == pytest.approx(0.0, abs=1e-12)


def test_cells_by_voltage_are_neighbours_and_the_odd_ones_are_left_over() -> None:
    cells = [(1, 3.60), (2, 3.61), (3, 3.62), (4, 3.63), (5, 3.90), (6, 3.59), (7, 3.10)]
    groups, spares = by_voltage(cells, 2, 2)
    assert groups in ([[6, 1], [2, 3]], [[1, 2], [3, 4]])
    assert set(spares) >= {5, 7}
