"""How far off a meter may be."""

import numpy as np
import pytest

from lumvak.core.document.hand import Meter
from lumvak.core.matching.meter import volts_within, within


def test_a_meter_is_off_by_a_share_and_by_digits() -> None:
    meter = Meter(percent=0.005, digits=2, counts=6000)
    # 4.1 V is read to a millivolt, 48 V to ten.
    assert volts_within(meter, 4.1) == pytest.approx(0.0205 + 0.002)
    assert volts_within(meter, 48.0) == pytest.approx(0.24 + 0.02)
    assert within(meter, np.array([4.1, np.nan, -48.0])) == pytest.approx(
        [0.0225, np.nan, 0.26], nan_ok=True
    )
