"""Middle pools settled with a proof."""

import numpy as np
import pytest

from lumvak.core.matching.exact import can_settle, settled
from tests.core.matching.pools import least_by_all_ways


def test_the_best_is_found_from_a_poor_one_and_proven() -> None:
    chance = np.random.default_rng(4)
    for series, parallel in ((4, 3), (3, 4), (5, 2)):
        mah = chance.integers(2000, 2600, series * parallel).tolist()
        least = least_by_all_ways(mah, series, parallel)
        values = np.array(mah, dtype=float)
        groups, proven = settled(values, parallel, least + 60.0)
        assert proven
        assert groups is not None
        assert np.ptp(values[groups].sum(axis=1)) == pytest.approx(least)
        assert sorted(groups.ravel().tolist()) == list(range(series * parallel))
        # Nothing is better than the best.
        assert settled(values, parallel, float(least)) == (None, True)


def test_what_is_too_large_is_left_alone() -> None:
    assert can_settle(24, 6)
    assert not can_settle(40, 10)
    # Near to the mean are more groups than are looked at: nothing is claimed.
    values = np.full(24, 2.5) + np.linspace(0.0, 1e-6, 24)
    assert settled(values, 6, 1.0) == (None, False)
