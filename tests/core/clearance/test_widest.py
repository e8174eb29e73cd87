"""Widths by halving, against what follows from the pitch."""

import numpy as np
import pytest

from lumvak.core.arrangement.proposals import placed
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.clearance.planes import ends_of
from lumvak.core.clearance.widest import ANY_WIDTH, Fits, fits_of, rectangles
from lumvak.core.document.arrangement import Arrangement
from lumvak.core.joints.laying import lines_of


def fits(
    catalogue: Catalogue,
    cell: str,
    series: int,
    parallel: int,
    least: float | None = None,
    gap: float = 1.5,
    reach: float = 5.0,
    **more: object,
) -> Fits:
    arrangement = Arrangement(**more)  # type: ignore[arg-type]
    layout = placed(arrangement, catalogue.cells[cell], series, parallel, gap).layout
    lines = lines_of(layout, "groups", "strips", "strips")
    return fits_of(layout, ends_of(layout), lines, least, reach)


def test_in_straight_groups_a_strip_may_be_as_wide_as_an_end_with_its_distance(
    catalogue: Catalogue,
) -> None:
    # Group strips 22.8 mm apart: their foreign neighbour's bare end begins at 22.8 - 9.65 mm.
    found = fits(catalogue, "ostrel-21-48", 6, 4)
    assert found.reach_mm == 5.0
    assert found.widths.group_mm == pytest.approx(19.3, abs=0.05)
    wide = fits(catalogue, "ostrel-21-48", 6, 4, least=6.0)
    # Half a strip, six millimetres, and the other's bare end make up the pitch.
    assert wide.widths.group_mm == pytest.approx(2.0 * (22.8 - 9.65 - 6.0), abs=0.05)


def test_nested_rows_leave_less(catalogue: Catalogue) -> None:
    straight = fits(catalogue, "ostrel-18-30p", 10, 3)
    nested = fits(catalogue, "ostrel-18-30p", 10, 3, rows="nested", way="x3b1")
    assert nested.widths.group_mm < straight.widths.group_mm


def test_bars_on_thin_pouches_reach_half_of_what_is_left(catalogue: Catalogue) -> None:
    found = fits(catalogue, "tallin-p-105", 6, 1)
    # 8.0 mm thick one day and 1.5 mm apart, tabs of half a thickness: the bar ends so that two
    # millimetres are left to the next tab and to the next bar.
    assert found.reach_mm == pytest.approx((7.4 * 1.08 + 1.5 - 2.0) / 2.0, abs=0.05)


def test_lanes_and_no_limit() -> None:
    assert ANY_WIDTH.lanes(10.0, True) == 100_000
    (shape,) = rectangles(np.zeros((1, 2)), np.array([[10.0, 0.0]]), np.array([4.0]), 3.0)
    assert shape.bounds == pytest.approx((-3.0, -2.0, 13.0, 2.0))
