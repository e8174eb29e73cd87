"""What the cells hold for how long."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.sizing.links import cells_hold
from lumvak.core.time_current import TIMES_S


@given(st.integers(1, 40), st.floats(0.0, 1.0))
def test_cells_hold_their_pulse_for_its_length_and_the_rest_by_heat(
    catalogue: Catalogue, parallel: int, excess: float
) -> None:
    for cell in list(catalogue.cells.values())[::5]:
        share = parallel / (1.0 + excess)
        limit = cell.continuous_a * share
        held = cells_hold(cell, parallel, limit, excess)
        assert held.shape == TIMES_S.shape
        assert np.all(np.diff(held) <= 1e-9 * limit)
        assert held.min() >= limit * (1.0 - 1e-12)
        if cell.pulse_a is None or cell.pulse_s is None:
            assert held == pytest.approx(np.full(TIMES_S.shape, limit))
            continue
        within = cell.pulse_s >= TIMES_S
        assert held[within] == pytest.approx(
            np.full(int(within.sum()), max(cell.pulse_a * share, limit))
        )
        if cell.pulse_a > cell.continuous_a:
            # Beyond it the heat over the continuous rating stays what it was in the pulse.
            extra = (held[~within] ** 2 - limit**2) * TIMES_S[~within]
            pulse = ((cell.pulse_a * share) ** 2 - limit**2) * cell.pulse_s
            assert extra == pytest.approx(np.full(len(extra), pulse), rel=1e-6)
