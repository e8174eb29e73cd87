"""Between floor and ceiling, life, and the cold."""

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.charging.charge_window import charge_window, cold_share, cold_words


def window(catalogue: Catalogue, name: str, ceiling: float, floor: float):  # type: ignore[no-untyped-def]
    cell = catalogue.cells[name]
    chemistry = catalogue.chemistry_of(cell)
    return charge_window(
        cell, chemistry.family, behaviour_of(cell, chemistry), 10.0, ceiling, floor
    )


def test_a_tenth_of_a_volt_costs_about_a_tenth_of_a_cobalt_cell(catalogue: Catalogue) -> None:
    for name in ("ostrel-21-48", "kimbry-18-26", "ostrel-18-35e"):
        found = window(catalogue, name, 4.1, catalogue.cells[name].voltage_empty_v)
        assert 0.05 < found.given_top_ah / 10.0 < 0.14
        low, high = found.gain
        assert 1.0 < low < 2.0 < high
    lower = window(catalogue, "ostrel-21-48", 3.9, 2.5)
    assert lower.gain[0] > window(catalogue, "ostrel-21-48", 4.0, 2.5).gain[0]
    assert lower.gain[1] <= 4.0


def test_iron_phosphate_gives_little_above_three_and_a_half_volts(catalogue: Catalogue) -> None:
    assert window(catalogue, "fennimor-b-105", 3.45, 2.5).given_top_ah / 10.0 < 0.02


def test_a_window_adds_up(catalogue: Catalogue) -> None:
    found = window(catalogue, "ostrel-21-48", 4.1, 3.2)
    assert found.kept_ah + found.given_top_ah + found.given_bottom_ah == pytest.approx(10.0)
    assert found.range_share == pytest.approx(found.kept_ah / 10.0)
    whole = window(catalogue, "ostrel-21-48", 4.2, 2.5)
    assert whole.kept_ah == pytest.approx(10.0, rel=0.01)


@pytest.mark.parametrize(
    ("ceiling", "floor", "says"),
    [(4.3, 3.0, "up to 4.2"), (4.0, 4.0, "under 4 V"), (4.0, 4.1, "under 4 V")],
)
def test_floor_and_ceiling_that_cannot_be_are_named(
    catalogue: Catalogue, ceiling: float, floor: float, says: str
) -> None:
    with pytest.raises(ValueError, match=says):
        window(catalogue, "ostrel-21-48", ceiling, floor)


def test_a_cold_cell_takes_little_and_a_frozen_one_nothing(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    found = cold_share(cell, np.array([-1.0, 0.0, 7.5, 15.0, 30.0, 45.0, 46.0]))
    assert found == pytest.approx([0.0, 0.2, 0.6, 1.0, 1.0, 1.0, 0.0])


def test_what_a_sensor_does_is_said(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    assert "keeps the charge off" in cold_words(cell, -5.0, 2.0, 10.0, 1)
    assert "metal plates" in cold_words(cell, -5.0, 2.0, 10.0, 0)
    assert "on and off" in cold_words(cell, 2.0, 9.0, 10.0, 1)
    assert "take this current" in cold_words(cell, 25.0, 9.0, 10.0, 1)
    assert "cool enough" in cold_words(cell, 60.0, 9.0, 10.0, 2)
    assert "age quickly" in cold_words(cell, 60.0, 9.0, 10.0, 0)
