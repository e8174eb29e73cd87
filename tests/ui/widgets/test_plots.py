import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.ui.widgets.plots import round_range


@pytest.mark.parametrize(
    ("low", "high", "shown"),
    [(0.0, 80.3, (0.0, 90.0)), (34.2, 58.8, (30.0, 60.0)), (18.0, 55.0, (15.0, 55.0))],
)
def test_ranges_are_round(low: float, high: float, shown: tuple[float, float]) -> None:
    assert round_range(low, high) == pytest.approx(shown)


@given(st.floats(-100.0, 1000.0), st.floats(1e-3, 1e4))
def test_ranges_hold_what_is_shown_and_little_more(low: float, span: float) -> None:
    shown_low, shown_high = round_range(low, low + span)
    assert shown_low <= low + 1e-6
    assert shown_high >= low + span - 1e-6 * max(1.0, span)
    assert shown_high - shown_low <= 1.6 * span + 1e-6
