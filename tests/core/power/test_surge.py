"""Surge parts and pre-charge."""

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.need.load_over_time import Draw
from lumvak.core.power.surge import SurgeSetting, judge_precharge, judge_thermistor, precharge


def test_precharge_is_the_textbook_one() -> None:
    found = precharge(22.0, 58.8, 1150e-6)
    assert found.peak_a == pytest.approx(58.8 / 22.0)
    assert found.energy_j == pytest.approx(0.5 * 1150e-6 * 58.8**2)
    assert found.seconds == pytest.approx(5.0 * 22.0 * 1150e-6)
    # The energy in the resistor is that left in the capacitors, whatever the resistance.
    time = np.linspace(0.0, found.seconds * 4, 200_001)
    amps = found.peak_a * np.exp(-time / (22.0 * 1150e-6))
    assert np.trapezoid(amps**2 * 22.0, time) == pytest.approx(found.energy_j, rel=1e-4)


def test_surge_parts_are_refused_for_what_they_cannot_do(catalogue: Catalogue) -> None:
    draw = Draw(9.0, 28.0, 1.5, start_a=70.0, tau_s=0.33)
    board = catalogue.boards["wicket-5-15"]
    setting = SurgeSetting(draw, 9.0, 21.0, 25.0, 600.0, 1e-3, board)
    mild, strong = catalogue.surges["moor-0.08"], catalogue.surges["moor-0.3"]
    assert judge_thermistor(mild, setting).serves
    hasty = SurgeSetting(draw, 9.0, 21.0, 25.0, 10.0, 1e-3, board)
    assert judge_thermistor(strong, hasty).against("cools") is not None
    heavy = SurgeSetting(draw, 30.0, 21.0, 25.0, 600.0, 1e-3, None)
    assert judge_thermistor(strong, heavy).against("steady") is not None
    big = SurgeSetting(draw, 9.0, 60.0, 25.0, 600.0, 0.1, None)
    assert judge_precharge(catalogue.surges["stair-100"], big).against("slow") is not None
    assert judge_precharge(catalogue.surges["foothold-5.6"], big).against("energy") is not None
