"""What is looked for around the path: counts, metres, a sleeve that goes around."""

import math

import pytest

from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.around import (
    balance_spec,
    barrier_spec,
    holder_spec,
    sensor_spec,
)


def test_leads_holders_and_sensors_are_counted(evaluation: Evaluation) -> None:
    assert balance_spec(evaluation).of("pins").bounds == (15.0, 15.0)
    assert balance_spec(evaluation).quantity == pytest.approx(
        evaluation.figures["layout.taps_m"].number
    )
    assert holder_spec(evaluation).quantity == 2 * 98
    assert holder_spec(evaluation).of("diameter_mm").takes(21.3)
    assert sensor_spec(evaluation).needed and sensor_spec(evaluation).quantity == 1.0


def test_a_sleeve_goes_around_the_pack(evaluation: Evaluation) -> None:
    least = barrier_spec(evaluation).of("flat_mm").bounds[0]
    _, width, height = (item.number for item in evaluation.laid_out.lay.size)
    # Lying flat it is half of the way around.
    assert 2.0 * least > 2.0 * (width + height)
    assert least == pytest.approx(1.08 * (width + height))


def test_a_lead_fuse_is_no_larger_than_its_lead_carries(evaluation: Evaluation) -> None:
    most = balance_spec(evaluation).of("fuse_a").bounds[1]
    # AWG 24 in the air: three and a half amps by the usual tables, seven for a warm one.
    assert 2.0 < most < 8.0 and math.isfinite(most)
