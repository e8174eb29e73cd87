"""A cell in a short circuit: quick at first, slow when cold, worn and nearly empty."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour, behaviour_of
from lumvak.core.cells.cell_model import DC_OVER_AC, resistance
from lumvak.core.cells.worst_cells import quickest_ohm, worst_cells
from lumvak.core.figures.figure import Figure, typed


def at(celsius: float) -> Figure:
    return typed("need.ambient_c", "Ambient temperature", celsius, "°C")


def seen_of(catalogue: Catalogue, cell: Cell) -> Behaviour:
    return behaviour_of(cell, catalogue.chemistry_of(cell))


def test_every_cell_is_quicker_than_slow(catalogue: Catalogue) -> None:
    for cell in catalogue.cells.values():
        seen = seen_of(catalogue, cell)
        worst = worst_cells(cell, seen, at(20.0))
        steady = resistance(cell).number
        assert 0.0 < worst.quick_ohm.number == quickest_ohm(cell, seen) < steady
        # 1.455 steady, the rise of its family at 10 % charge, 1.96 at 0 °C, half more for wear.
        rise = float(seen.charge_factor(np.array(0.1)))
        assert worst.slow_ohm.number == pytest.approx(steady * 1.455 * rise * 1.96 * 1.5)
        assert worst.slow_ohm.assumed
        assert cell.voltage_empty_v * 0.8 < worst.empty_v.number < cell.voltage_full_v


def test_what_the_sheet_does_not_say_is_assumed(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    seen = seen_of(catalogue, cell)
    known = worst_cells(cell, seen, at(20.0)).quick_ohm
    assert known.number == cell.resistance_ac_ohm
    assert not known.assumed
    silent = replace(cell, resistance_ac_ohm=None)
    guessed = worst_cells(silent, seen, at(20.0)).quick_ohm
    assert guessed.assumed
    assert guessed.number == pytest.approx(resistance(cell).number / DC_OVER_AC)


def test_colder_air_than_freezing_counts_and_warmer_does_not(catalogue: Catalogue) -> None:
    cell = catalogue.cells["fennimor-26-33"]
    seen = seen_of(catalogue, cell)
    ohm = [worst_cells(cell, seen, at(c)).slow_ohm.number for c in (-10.0, 0.0, 35.0)]
    assert ohm[0] > ohm[1] == ohm[2]
