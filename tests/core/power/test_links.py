"""The links of the power path, each with the limit of its part."""

import numpy as np
import pytest

from lumvak.core.evaluation import Evaluation
from lumvak.core.power.links import surge_hold
from lumvak.core.time_current import TIMES_S, at_time


def test_every_part_that_is_there_is_a_link_with_its_own_limit(evaluation: Evaluation) -> None:
    links = {item.key: item for item in evaluation.path.links}
    power = evaluation.power
    assert links["fuse"].continuous_a == pytest.approx(0.8 * power.fuse.part.rating_a, rel=0.15)
    assert links["connector"].continuous_a == power.connector.part.continuous_a
    assert power.board is not None
    assert links["board"].continuous_a <= power.board.continuous_a + 1e-9
    for item in evaluation.path.links:
        assert item.peak_a >= item.continuous_a * (1.0 - 1e-9)
        assert item.demand_a == evaluation.sized.load.load_a
        assert item.headroom == pytest.approx(item.continuous_a / item.demand_a - 1.0)


def test_a_thermistor_holds_the_heat_of_a_second_and_its_rating_for_good() -> None:
    held = surge_hold(8.0, 60.0)
    assert at_time(held, 1.0) == pytest.approx(8.0 / np.sqrt(1.0 - np.exp(-1.0 / 60.0)), rel=0.02)
    assert held[-1] == pytest.approx(8.0, rel=0.02)
    assert np.all(np.diff(held) <= 1e-9) and len(held) == len(TIMES_S)
