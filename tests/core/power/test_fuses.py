"""Fuses judged, and what they carry."""

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.need.load_over_time import Draw
from lumvak.core.power.fuses import FuseSetting, hold_a, judge_fuse
from lumvak.core.time_current import TIMES_S


def fuse_setting(**changes: object) -> FuseSetting:
    values: dict[str, object] = {
        "current_a": 20.0,
        "drawn_a": Draw(20.0, 35.0, 5.0).curve,
        "harm_a": np.full(TIMES_S.shape, 5000.0),
        "full_v": 42.0,
        "short_a": 500.0,
        "least_short_a": 250.0,
        "ambient_c": 25.0,
        "wire": "the main leads",
    }
    return FuseSetting(**{**values, **changes})  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({}, ""),
        ({"full_v": 60.0}, "voltage"),
        ({"short_a": 1100.0}, ""),
        ({"short_a": 1300.0}, "breaking"),
        ({"current_a": 30.0}, "load"),
        ({"drawn_a": np.full(TIMES_S.shape, 70.0)}, "melts"),
        ({"least_short_a": 45.0, "harm_a": np.full(TIMES_S.shape, 44.0)}, "never wire"),
        # What the wire carries for good harms nothing.
        ({"least_short_a": 45.0}, ""),
        ({"harm_a": np.full(TIMES_S.shape, 60.0)}, "wire"),
    ],
)
def test_each_way_a_fuse_fails_is_named(
    catalogue: Catalogue, changes: dict[str, object], code: str
) -> None:
    found = judge_fuse(catalogue.fuses["ember-h-30"], fuse_setting(**changes))
    assert [point.code for point in found.reasons] == code.split()
    for point in found.reasons:
        assert point.help


def test_a_fuse_carries_less_in_the_heat(catalogue: Catalogue) -> None:
    fuse = catalogue.fuses["ember-30"]
    assert hold_a(fuse, 25.0) == pytest.approx(24.0)
    assert hold_a(fuse, 65.0) == pytest.approx(24.0 * (1.0 - 40 * 0.002))
    assert hold_a(fuse, 0.0) == pytest.approx(24.0)
