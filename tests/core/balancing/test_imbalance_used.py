"""What groups give in each way of evening out."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.balancing.imbalance import usable_as
from tests.straight import at


def test_each_way_gives_its_own() -> None:
    ah, charge = at(3.0, 3.0, 3.0, 1.5), at(2.0, 2.0, 2.0, 0.5)
    assert usable_as(ah, charge, "none").usable_ah == pytest.approx(1.5)
    assert usable_as(ah, charge, "top").lost_bottom_ah == pytest.approx(at(1.5, 1.5, 1.5, 0.0))
    assert usable_as(ah, charge, "bottom").lost_top_ah == pytest.approx(at(1.5, 1.5, 1.5, 0.0))
    assert usable_as(ah, charge, "active", 1e9).usable_ah == pytest.approx(ah.mean())


@given(
    sizes=st.lists(st.floats(0.5, 10.0), min_size=2, max_size=8),
    moved=st.floats(0.0, 20.0),
    efficiency=st.floats(0.5, 1.0),
)
def test_what_a_mover_leaves_adds_up(sizes: list[float], moved: float, efficiency: float) -> None:
    """What all had is given, moved with its loss, or left."""
    ah = np.array(sizes)
    found = usable_as(ah, ah, "active", moved, efficiency)
    lack = float(np.maximum(found.usable_ah - ah, 0.0).sum())
    given_up = found.usable_ah * len(ah) + float(found.lost_bottom_ah.sum())
    assert given_up + lack * (1.0 / efficiency - 1.0) == pytest.approx(float(ah.sum()), rel=1e-6)
    assert ah.min() - 1e-9 <= found.usable_ah <= ah.mean() + 1e-9
