"""A cell's own figures by hand, and what its sheet may not say."""

import msgspec
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.checked import NotAccepted, made


def test_figures_of_a_cell_are_plain_arithmetic(catalogue: Catalogue) -> None:
    for cell in catalogue.cells.values():
        energy_wh = cell.capacity_typical_ah * cell.voltage_nominal_v
        assert cell.wh_per_kg == pytest.approx(energy_wh / (cell.mass_g / 1000.0))
        assert cell.price_per_wh == pytest.approx(cell.price / energy_wh)
        length, width = cell.footprint_mm
        assert cell.volume_cm3 == pytest.approx(length * width * cell.height_mm / 1e3)
        assert cell.pitch_mm == min(length, width)
        # No cell that is sold lies outside: lead has 30 Wh/kg, the best lithium cells under 350.
        assert 50.0 < cell.wh_per_kg < 350.0, cell.id


@pytest.mark.parametrize(
    ("changed", "said"),
    [
        ({"voltage_empty_v": 3.9}, "must rise from empty over nominal to full"),
        ({"capacity_min_ah": 9.9}, "must not exceed capacity_typical_ah"),
        ({"pulse_a": 40.0, "pulse_s": None}, "belong together"),
        ({"pulse_a": 1.0, "pulse_s": 10.0}, "must not be under continuous_a"),
        ({"diameter_mm": None}, "give diameter_mm, or width_mm and thickness_mm"),
        ({"measured": ("mass_g",), "guessed": ("mass_g",)}, "either measured or guessed"),
        ({"guessed": ("colour",)}, "no field of a cell"),
    ],
)
def test_a_sheet_that_contradicts_itself_is_refused(
    catalogue: Catalogue, changed: dict[str, object], said: str
) -> None:
    sound = msgspec.to_builtins(catalogue.cells["ostrel-21-48"])
    assert made(Cell, sound)
    with pytest.raises(NotAccepted, match=said):
        made(Cell, {**sound, **changed})
