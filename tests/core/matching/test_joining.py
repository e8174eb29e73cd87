"""What flows between cells that are joined, and how they are brought level."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.document.hand import HandCell, Meter
from lumvak.core.evaluation import Evaluation
from lumvak.core.matching.joining import SOLD, gate, sold_ohm

METER = Meter()


@pytest.fixture
def sheet(catalogue: Catalogue) -> Cell:
    return catalogue.cells["ostrel-21-48"]


@pytest.fixture
def behaviour(evaluation: Evaluation) -> Behaviour:
    return evaluation.sized.sized_pack.behaviour


def test_the_worked_pair(sheet: Cell, behaviour: Behaviour) -> None:
    pair = [HandCell(number=1, volts=3.78, mohm=28.0), HandCell(number=2, volts=3.6, mohm=31.0)]
    found = gate(pair, sheet, behaviour, METER)
    assert found is not None
    assert found.current_a == pytest.approx(0.18 / 0.059) == pytest.approx(3.05, abs=0.005)


def test_a_group_that_is_level_may_be_joined(sheet: Cell, behaviour: Behaviour) -> None:
    cells = [HandCell(number=place, volts=3.6 + 0.002 * place, mohm=25.0) for place in range(1, 6)]
    found = gate(cells, sheet, behaviour, METER)
    assert found is not None
    assert found.may_join
    assert (found.high, found.low) == (5, 1)
    assert found.volts == pytest.approx(0.008)
    # Eight millivolts are no difference to a meter of half a per cent.
    assert not found.told
    assert found.current_a == pytest.approx(0.008 / 0.05)


def test_a_difference_over_the_limit_gets_its_recipe(sheet: Cell, behaviour: Behaviour) -> None:
    cells = [
        HandCell(number=1, volts=4.05, mohm=20.0, ah=4.8),
        HandCell(number=2, volts=3.45, mohm=20.0, ah=4.8),
        HandCell(number=3, volts=3.46, mohm=22.0, ah=4.8),
    ]
    found = gate(cells, sheet, behaviour, METER)
    assert found is not None
    assert found.current_a == pytest.approx(15.0)
    assert found.told
    assert not found.may_join
    recipe = found.recipe
    assert recipe is not None
    gentle = 0.6 / (recipe.ohm + 0.04)
    assert gentle <= 0.4 * found.limit_a
    assert recipe.watts == pytest.approx(gentle**2 * recipe.ohm)
    assert 0.5 < recipe.hours < 200.0
    assert 3.5 < recipe.storage_v < 4.0
    # The charge that moves in the end is what leaves the full one.
    charge = np.interp([4.05, 3.45, 3.46], behaviour.rest_v, behaviour.rest_charge)
    assert found.flows_ah == pytest.approx(4.8 * (charge[0] - charge.mean()))


def test_a_cell_without_a_voltage_keeps_the_group_apart(sheet: Cell, behaviour: Behaviour) -> None:
    cells = [HandCell(number=1, volts=3.6), HandCell(number=2), HandCell(number=3, volts=3.6)]
    found = gate(cells, sheet, behaviour, METER)
    assert found is not None
    assert found.unread == (2,)
    assert not found.may_join
    assert gate(cells[:1], sheet, behaviour, METER) is None
    nobody = gate(cells[1:2] * 2, sheet, behaviour, METER)
    assert nobody is not None
    assert not nobody.may_join


@given(st.floats(0.05, 5e4))
def test_the_resistor_is_sold_and_no_smaller(least: float) -> None:
    found = sold_ohm(least)
    assert found >= min(max(least, 0.1), found) * (1.0 - 1e-9)
    assert found >= 0.99 * max(least, 0.1)
    assert found <= 1.6 * max(least, 0.1)
    digits = found / 10.0 ** np.floor(np.log10(found) + 1e-9)
    assert min(abs(digits - item) for item in (*SOLD, 10.0)) < 1e-6
