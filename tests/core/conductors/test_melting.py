"""When thin wires melt, against the heat that they take up."""

import math

import numpy as np
import pytest

from lumvak.core.conductors.melting import link_curves, onderdonk_a, onderdonk_s
from lumvak.core.time_current import TIMES_S


@pytest.mark.parametrize(("area_mm2", "seconds"), [(3.31, 1.0), (0.823, 0.1), (0.326, 10.0)])
def test_a_wire_melts_when_its_own_heat_has_warmed_it(area_mm2: float, seconds: float) -> None:
    """Nothing given off: I²·t ÷ A² = γ·c ÷ (ρ·α) · ln of how far the resistivity rises."""
    density, heat, rho, alpha = 8960.0, 385.0, 1.724e-8, 0.00393
    rises = (1.0 + alpha * (1084.0 - 20.0)) / (1.0 + alpha * (25.0 - 20.0))
    amps = area_mm2 * 1e-6 * math.sqrt(density * heat / (rho * alpha) * math.log(rises) / seconds)
    assert onderdonk_a(area_mm2, 25.0, seconds) == pytest.approx(amps, rel=0.01)


def test_time_and_current_are_each_others_inverse() -> None:
    for seconds in (0.01, 0.5, 8.0):
        amps = onderdonk_a(0.5, 40.0, seconds)
        assert onderdonk_s(0.5, 40.0, amps) == pytest.approx(seconds)
    # Twice the current, a quarter of the time: the heat stays in the wire.
    assert onderdonk_s(0.5, 40.0, 200.0) == pytest.approx(onderdonk_s(0.5, 40.0, 100.0) / 4.0)


def test_a_link_melts_for_good_at_nearly_twice_its_rating_and_sooner_at_more() -> None:
    least, most = link_curves(15.0, 25.0)
    assert np.all(least < most) and np.all(np.diff(least) <= 0.0)
    assert least[-1] == pytest.approx(0.85 * 1.8 * 15.0, rel=0.01)
    assert most[-1] == pytest.approx(1.15 * 1.8 * 15.0, rel=0.01)
    # In its first milliseconds it follows I²·t.
    early = TIMES_S < 0.01
    energy = (most[early] / 1.15) ** 2 * TIMES_S[early]
    assert np.ptp(energy) / energy.mean() < 0.02 and math.isfinite(energy.mean())
