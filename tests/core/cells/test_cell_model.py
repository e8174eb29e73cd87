import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.cells.cell_model import (
    minimum_capacity,
    pulse_limit_a,
    resistance,
    warm_factor,
    warm_factors_of,
)

# Voltage drop per ampere of a measured 5 Ah cell (source 2 of docs/methods.md), milliohms.
AT_HALF_CHARGE = {1.0: 14.0, 10.0: 19.8, 30.0: 26.4}
AT_10_S = {0.05: 55.6, 0.1: 38.8, 0.2: 26.7, 0.3: 23.7, 0.5: 19.8, 0.7: 19.1, 0.9: 17.0}
AT_TEMPERATURE = {-10.0: 49.6, 0.0: 38.9, 10.0: 29.8, 25.0: 19.8, 40.0: 13.8}


def test_resistance_over_time_follows_the_measured_cell(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    seen = behaviour_of(cell, catalogue.chemistry_of(cell))
    for seconds, milliohm in AT_HALF_CHARGE.items():
        measured = milliohm / AT_HALF_CHARGE[10.0]
        over = seen.time_factor(seconds) / seen.time_factor(10.0)
        assert over == pytest.approx(measured, rel=0.03)
    assert seen.time_factor(1e6) == pytest.approx(1.0)


def test_resistance_over_charge_and_temperature_follows_the_measured_cell(
    catalogue: Catalogue,
) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    seen = behaviour_of(cell, catalogue.chemistry_of(cell))
    for charge, milliohm in AT_10_S.items():
        assert float(seen.charge_factor(np.array(charge))) == pytest.approx(
            milliohm / 19.8, rel=0.01
        )
    for celsius, milliohm in AT_TEMPERATURE.items():
        assert float(seen.ohm_factor(np.array(celsius))) == pytest.approx(milliohm / 19.8, rel=0.01)


def test_temperature_factor_is_held_outside_the_measured_range() -> None:
    for exponent in (0.5, 1.0, 2.0):
        colder, cold, warm, warmer = warm_factor(np.array([-40.0, -10.0, 40.0, 60.0]), exponent)
        assert colder == cold > 1.0 > warm == warmer


def test_every_curve_rises_and_meets_its_cells(catalogue: Catalogue) -> None:
    charge = np.linspace(0.0, 1.0, 301)
    for cell in catalogue.cell_list:
        chemistry = catalogue.chemistry_of(cell)
        volts = behaviour_of(cell, chemistry).rest(charge)
        assert np.all(np.diff(volts) >= 0.0)
        assert volts[-1] == pytest.approx(cell.voltage_full_v, abs=0.06)
        assert volts[0] <= cell.voltage_empty_v + 0.3
        assert volts[0] < cell.voltage_nominal_v < volts[-1]


def test_pulses_longer_than_the_sheets_keep_the_extra_heat(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-40p"]
    assert cell.pulse_a is not None
    assert cell.pulse_s is not None
    assert pulse_limit_a(cell, cell.pulse_s) == cell.pulse_a
    assert pulse_limit_a(cell, 0.1) == cell.pulse_a
    longer = pulse_limit_a(cell, 4 * cell.pulse_s)
    extra = (longer**2 - cell.continuous_a**2) * 4
    assert extra == pytest.approx(cell.pulse_a**2 - cell.continuous_a**2)
    assert pulse_limit_a(cell, 1e9) == pytest.approx(cell.continuous_a)


def test_a_sheet_without_a_pulse_gives_the_continuous_rating(catalogue: Catalogue) -> None:
    cell = catalogue.cells["kimbry-18-22c"]
    assert cell.pulse_a is None
    assert pulse_limit_a(cell, 0.1) == cell.continuous_a


def test_omitted_values_are_assumed_and_say_so(catalogue: Catalogue) -> None:
    given = catalogue.cells["ostrel-21-48"]
    assert not resistance(given).assumed
    assert not minimum_capacity(given).assumed
    by_ac = catalogue.cells["ostrel-18-35e"]
    assert resistance(by_ac).assumed
    assert resistance(by_ac).number == pytest.approx(1.5 * 24e-3)
    silent = replace(given, resistance_dc_ohm=None, resistance_ac_ohm=None, capacity_min_ah=None)
    assert resistance(silent).number == pytest.approx(0.099 / 4.8)
    assert resistance(silent).assumed
    assert minimum_capacity(silent).number == pytest.approx(0.97 * 4.8)
    assert minimum_capacity(silent).assumed


def test_curves_carry_their_source(catalogue: Catalogue) -> None:
    for chemistry in catalogue.chemistries.values():
        assert chemistry.curve_source
        assert chemistry.curve_assumed == chemistry.curve_source.startswith("assumed")


@pytest.mark.parametrize("celsius", [-40.0, -10.0, -3.0, 0.0, 12.5, 25.0, 33.0, 40.0, 70.0])
def test_factors_for_many_cells_are_those_of_each(celsius: float) -> None:
    exponents = np.array([0.4, 1.0, 1.4, 2.0, 3.0])
    each = [float(warm_factor(np.array(celsius), float(power))) for power in exponents]
    assert warm_factors_of(celsius, exponents) == pytest.approx(each, rel=1e-12)


def test_the_phosphate_curve_is_that_of_its_source_and_held_against_a_second(
    catalogue: Catalogue,
) -> None:
    """Half-cell curves of methods [13], written out here; the second is of [1], at C/50."""

    def graphite(x: float) -> float:
        return float(
            0.6379
            + 0.5416 * np.exp(-305.5309 * x)
            + 0.044 * np.tanh(-(x - 0.1958) / 0.1088)
            - 0.1978 * np.tanh((x - 1.0571) / 0.0854)
            - 0.6875 * np.tanh((x + 0.0117) / 0.0529)
            - 0.0175 * np.tanh((x - 0.5692) / 0.0875)
        )

    def phosphate(y: float) -> float:
        left = 1.0 - y
        return float(
            3.4323
            - 0.8428 * np.exp(-80.2493 * left**1.3198)
            - 3.2474e-6 * np.exp(20.2645 * left**3.8003)
            + 3.2482e-6 * np.exp(20.2646 * left**3.7995)
        )

    curve = catalogue.chemistries["lfp"].curve
    for charge, volts in curve:
        full = phosphate(0.98 - charge * (0.98 - 0.0229347))
        assert volts == pytest.approx(
            full - graphite(0.00333514 + charge * (0.811 - 0.00333514)), abs=1e-3
        )
    second = {0.05: 2.782, 0.1: 2.975, 0.2: 3.166, 0.3: 3.204, 0.5: 3.264, 0.7: 3.272, 0.9: 3.312}
    mine = dict(curve)
    for charge, volts in second.items():
        assert mine[charge] - volts == pytest.approx(0.0, abs=0.06 if charge >= 0.5 else 0.22)
    # What the trade reads of resting cells: 3.0 V at 5 % and 3.2 V at 10 %.
    assert mine[0.05] == pytest.approx(3.0, abs=0.05)
    assert mine[0.1] == pytest.approx(3.2, abs=0.05)
    # Cells of another empty voltage have the curve from there on.
    for cell in catalogue.cell_list:
        if cell.chemistry == "lfp":
            behaviour = behaviour_of(cell, catalogue.chemistries["lfp"])
            assert float(behaviour.rest(np.array(0.0))) == pytest.approx(cell.voltage_empty_v)
