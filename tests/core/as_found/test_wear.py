"""What charges and years take."""

import pytest

from lumvak.core.as_found.span import Span, exactly
from lumvak.core.as_found.wear import MEASURED_OFF, carries_still, lost_of, worn
from lumvak.core.document.afterwards.as_found import AsFound

NEW = exactly(10.0)


def test_a_life_of_charges_takes_a_fifth() -> None:
    """By the sheet: 500 charges to 80 %, on the day they were made."""
    lost = lost_of(AsFound(cycles=500.0, years=0.0), "cobalt", 500.0)
    assert lost.value == pytest.approx(0.2) and lost.low < 0.2 < lost.high
    assert lost_of(AsFound(cycles=0.0, years=0.0), "cobalt", 500.0) == exactly(0.0)


def test_years_go_with_their_root_and_faster_when_full() -> None:
    one, four = (lost_of(AsFound(cycles=0.0, years=it, stored="half"), None, None) for it in (1, 4))
    assert four.value == pytest.approx(2.0 * one.value) == pytest.approx(0.06)
    full = lost_of(AsFound(cycles=0.0, years=4.0, stored="full"), None, None)
    assert full.value > four.value


def test_phosphate_bears_more_charges() -> None:
    used = AsFound(cycles=500.0, years=2.0, stored="half")
    assert lost_of(used, "phosphate", None).value < lost_of(used, "cobalt", None).value
    assert lost_of(used, None, None).low < lost_of(used, "cobalt", None).low


def test_what_was_measured_stands_over_every_guess() -> None:
    lost = Span(0.1, 0.3, 0.5)
    found = AsFound(measured_ah=7.0, promised_ah=20.0)
    holds = worn(found, NEW, lost, 0.2)
    assert holds.by == "measured" and holds.capacity_ah.value == 7.0
    assert holds.capacity_ah.width == pytest.approx(2.0 * MEASURED_OFF * 7.0)


def test_age_and_uneven_groups_take_their_share() -> None:
    holds = worn(AsFound(), NEW, Span(0.1, 0.2, 0.3), 0.1)
    assert holds.capacity_ah.value == pytest.approx(10.0 * 0.8 * 0.9)
    assert holds.capacity_ah.low == pytest.approx(10.0 * 0.7 * 0.9)
    unread = worn(AsFound(), NEW, Span(0.1, 0.2, 0.3), None)
    assert unread.capacity_ah.width > holds.capacity_ah.width


def test_a_label_is_no_more_than_it_may_be() -> None:
    told = worn(AsFound(promised_ah=10.0), Span(5.0, 12.0, 30.0), exactly(0.0), 0.0)
    assert told.capacity_ah == Span(5.0, 9.0, 10.5)


def test_the_same_heat_with_more_resistance() -> None:
    """Twice the resistance, 1 ÷ √2 of the current."""
    still = carries_still(exactly(0.4))
    assert still.value == pytest.approx(0.5**0.5)
    assert still.low < still.value < still.high
    assert carries_still(exactly(0.0)) == exactly(1.0)
