import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.document.need import Need
from lumvak.core.need.demand import Load, consumption_of, demand_of, power_current


def test_the_checked_power_load_at_two_voltages() -> None:
    demand = demand_of(Need(load_basis="power", power_w=600.0, efficiency=0.88))
    assert float(demand.load.at(36.0)) == pytest.approx(18.94, abs=5e-3)
    assert float(demand.load.at(30.0)) == pytest.approx(22.73, abs=5e-3)


@given(st.floats(10.0, 100.0), st.floats(1e-4, 0.5), st.floats(0.01, 0.99))
def test_power_current_delivers_the_power_at_the_smaller_root(
    emf: float, ohm: float, share: float
) -> None:
    power = share * emf**2 / (4 * ohm)
    current = float(power_current(emf, ohm, power))
    assert (emf - current * ohm) * current == pytest.approx(power, rel=1e-9)
    assert current <= emf / (2 * ohm) * (1 + 1e-12)


def test_more_power_than_the_source_can_give_has_no_current() -> None:
    assert math.isnan(float(power_current(36.0, 0.5, 36.0**2 / 2.0 * 1.001)))
    assert float(power_current(36.0, 0.5, 36.0**2 / 2.0)) == pytest.approx(36.0)


def test_power_current_without_resistance_is_the_quotient() -> None:
    assert float(power_current(40.0, 0.0, 800.0)) == pytest.approx(20.0)


def test_a_current_load_does_not_care_for_the_voltage() -> None:
    load = Load(12.0, None)
    volts = np.array([20.0, 30.0, 40.0])
    assert load.at(volts).tolist() == [12.0] * 3
    assert load.behind(volts, volts * 0).tolist() == [12.0] * 3


def test_missing_peak_ambient_and_efficiency_are_assumed() -> None:
    demand = demand_of(Need(current_a=15.0))
    assert demand.peak.number == 15.0
    assert demand.peak.assumed
    assert demand.peak_duration.number == 10.0
    assert demand.ambient.number == 25.0
    assert demand.ambient.assumed
    power = demand_of(Need(load_basis="power", power_w=85.0))
    assert power.load_figure.number == pytest.approx(100.0)
    assert power.load_figure.assumed


def test_a_power_load_draws_most_at_the_stop_voltage() -> None:
    need = Need(load_basis="power", power_w=600.0, efficiency=0.88, stop_voltage_v=30.0)
    demand = demand_of(need)
    assert demand.highest_current.number == pytest.approx(22.73, abs=5e-3)


def test_distance_becomes_energy() -> None:
    need = Need(endurance_basis="distance", distance_km=30.0, consumption_wh_per_km=12.0)
    endurance = demand_of(need).endurance
    assert endurance is not None
    assert (endurance.number, endurance.unit) == (360.0, "Wh")
    assert demand_of(Need(endurance_basis="open")).endurance is None


def test_a_consumption_nobody_gave_is_assumed_by_the_class() -> None:
    need = Need(endurance_basis="distance", distance_km=30.0, rated_voltage_v=36.0)
    endurance = demand_of(need).endurance
    assert endurance is not None
    assert endurance.number == pytest.approx(30.0 * 13.0)
    assert endurance.assumed
    usual = [
        consumption_of(Need(rated_voltage_v=volts)).number for volts in (24.0, 48.0, 60.0, 72.0)
    ]
    assert usual == sorted(usual)
