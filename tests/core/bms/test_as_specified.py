"""A BMS made from the tight sides of its windows serves, and is asked for no more than that."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.bms.as_specified import board_as_specified
from lumvak.core.bms.verdicts import judge
from lumvak.core.catalogue.catalogue import Catalogue
from tests.core.bms.test_verdicts import setting_for


@settings(max_examples=60, deadline=None)
@given(
    load=st.floats(0.5, 300.0),
    times=st.floats(1.0, 6.0),
    seconds=st.floats(0.05, 120.0),
    start=st.floats(0.0, 8.0),
    parallel=st.integers(1, 40),
)
def test_it_serves_whatever_is_drawn(
    catalogue: Catalogue, load: float, times: float, seconds: float, start: float, parallel: int
) -> None:
    setting = setting_for(catalogue)
    draw = replace(
        setting.draw,
        continuous_a=load,
        peak_a=times * load,
        peak_s=seconds,
        start_a=start * load,
        levels=(),
    )
    setting = replace(setting, draw=draw, parallel=parallel)
    board = board_as_specified(setting)
    board.check()
    assert judge(board, setting).serves
    assert board.continuous_a == load and board.series == setting.series


def test_its_bleed_takes_a_day(catalogue: Catalogue) -> None:
    setting = setting_for(catalogue)
    group = setting.cell.capacity_typical_ah * setting.parallel
    assert board_as_specified(setting).balance_a * 24.0 == pytest.approx(0.02 * group)
