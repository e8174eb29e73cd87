"""Thermistors against their closed form."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.power_parts import Surge
from lumvak.core.conductors.thermistor import hot_state, recovery_s, thermistor_ohm


@given(st.floats(0.5, 30.0), st.floats(-10.0, 45.0))
def test_a_hot_thermistor_gives_off_what_it_takes(current: float, ambient: float) -> None:
    part = Surge(
        id="t",
        name="T",
        kind="thermistor",
        ohm=0.2,
        energy_j=50.0,
        beta_k=2700.0,
        steady_a=35.0,
        dissipation_w_per_k=0.05,
        time_constant_s=110.0,
        price=3.0,
    )
    hot = hot_state(part, current, ambient)
    assert hot.watts == pytest.approx(0.05 * (hot.temperature_c - ambient), rel=1e-6)
    assert thermistor_ohm(part, 25.0) == pytest.approx(0.2)
    needed = recovery_s(part, hot.temperature_c, ambient)
    if needed > 0.0:
        cooled = ambient + (hot.temperature_c - ambient) * math.exp(-needed / 110.0)
        again = thermistor_ohm(part, cooled) / thermistor_ohm(part, ambient)
        assert again == pytest.approx(0.7, rel=1e-6)
