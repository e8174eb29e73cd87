"""Drawn discharges that are none are refused in words."""

import pytest

from lumvak.core.catalogue.sheet_curves import SheetCurve


@pytest.mark.parametrize(
    ("points", "says"),
    [
        (((0.0, 4.1), (1.0, 3.9), (1.0, 3.7), (2.0, 3.0)), "charge taken must rise"),
        (((0.0, 4.1), (1.0, 3.6), (1.5, 3.7), (2.0, 3.0)), "must not rise"),
        (((0.0, 3.6), (1.0, 3.6), (1.5, 3.6), (2.0, 3.6)), "must end lower"),
        (((0.0, 4.1), (1.0, 3.0)), "at least 4 items"),
    ],
)
def test_a_curve_that_is_none_is_refused(
    points: tuple[tuple[float, float], ...], says: str
) -> None:
    with pytest.raises(ValueError, match=says):
        SheetCurve(current_a=1.0, points=points)
