"""Spans of what is known only so far."""

import math

from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.as_found.span import NO_LIMIT, Span, about, exactly, in_both, least_of

ENDS = st.floats(0.01, 1e4)


@st.composite
def spans(draw: st.DrawFn) -> Span:
    low, value, high = sorted(draw(st.tuples(ENDS, ENDS, ENDS)))
    return Span(low, value, high)


@given(spans(), spans())
def test_the_least_of_two_lies_under_both(one: Span, other: Span) -> None:
    least = least_of([one, other])
    assert least.low <= least.value <= least.high
    assert least.high == min(one.high, other.high) and least.low == min(one.low, other.low)


@given(spans(), spans())
def test_two_ways_to_know_leave_no_more_than_either(one: Span, other: Span) -> None:
    both = in_both(one, other)
    assert both.low <= both.value <= both.high
    if max(one.low, other.low) <= min(one.high, other.high):
        assert both.width <= min(one.width, other.width)
    else:
        assert both in (one, other) and both.value == min(one.value, other.value)


@given(spans(), spans())
def test_a_product_has_the_products_of_the_ends(one: Span, other: Span) -> None:
    made = one.scaled(other)
    assert (made.low, made.high) == (one.low * other.low, one.high * other.high)
    assert one.scaled(2.0).value == 2.0 * one.value


def test_powers_are_those_of_the_ratio() -> None:
    assert math.isclose(Span(1.0, 2.0, math.e).powers, 1.0)
    assert exactly(3.0).powers == 0.0 and exactly(3.0).width == 0.0
    assert about(10.0, 0.1) == Span(9.0, 10.0, 11.0)
    assert NO_LIMIT.powers == 0.0 and Span(1.0, 2.0, math.inf).powers == math.inf
