"""Fuses judged, and what they carry."""

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate, stops_of
from lumvak.core.need.load_over_time import Draw
from lumvak.core.power.fuses import FuseSetting, hold_a, judge_fuse
from lumvak.core.spelling import spoken
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


def test_where_no_fuse_breaks_the_short_what_builders_do_is_told(catalogue: Catalogue) -> None:
    setting = fuse_setting(full_v=29.2, short_a=9000.0)
    point = judge_fuse(catalogue.fuses["cinder-60"], setting).reasons[0]
    assert point.code == "breaking"
    assert "breaks 11250 A or more" in spoken(point.help).replace(" 000", "000").replace(
        "11.3 kA", "11250 A"
    )
    assert "each string or block" in spoken(point.help)
    # With so much more lead a quarter is to spare.
    ohm = float(spoken(point.help).partition("leads of ")[2].partition(" mΩ")[0]) / 1e3
    assert 29.2 / (29.2 / 9000.0 + ohm) == pytest.approx(2500.0 / 1.25, rel=0.01)


def test_a_bank_of_large_blocks_comes_first_and_is_fused(catalogue: Catalogue) -> None:
    bank = with_values(
        Project(),
        {
            "need.kind": "supply",
            "need.rated_voltage_v": 12.0,
            "need.current_a": 100.0,
            "need.runtime_h": 4.0,
        },
    )
    evaluation = evaluate(bank, catalogue)
    assert evaluation.sized.choice.cell.format == "prismatic"
    assert evaluation.power.fuse.part is not None
    assert evaluation.power.fuse.part.breaking_a >= 1.25 * evaluation.power.short_a.number > 20e3
    assert not stops_of(evaluation)
