"""A quantity of which only a span is known: least, likely, most."""

from __future__ import annotations

import math
from collections.abc import Iterable

from msgspec import Struct


class Span(Struct, frozen=True):
    """A likely value between the least and the most that it may be; infinite is no limit."""

    low: float
    value: float
    high: float

    @property
    def width(self) -> float:
        """How far apart least and most are; infinite where there is no most."""
        return self.high - self.low

    @property
    def powers(self) -> float:
        """How many powers of e least and most lie apart; infinite where there is no most."""
        return math.log(self.high / self.low) if self.low < self.high else 0.0

    def scaled(self, by: Span | float) -> Span:
        """Each end multiplied by that of another, or by one number."""
        if isinstance(by, Span):
            return Span(self.low * by.low, self.value * by.value, self.high * by.high)
        return Span(self.low * by, self.value * by, self.high * by)


NO_LIMIT = Span(math.inf, math.inf, math.inf)


def exactly(value: float) -> Span:
    """A ``value`` that is known."""
    return Span(value, value, value)


def about(value: float, share: float) -> Span:
    """A ``value`` known to a ``share`` either way."""
    return Span(value * (1.0 - share), value, value * (1.0 + share))


def least_of(spans: Iterable[Span]) -> Span:
    """The least of several: of their least, of their likely and of their most."""
    row = tuple(spans)
    return Span(min(it.low for it in row), min(it.value for it in row), min(it.high for it in row))


def in_both(one: Span, other: Span) -> Span:
    """What two ways to know the same leave, likely as the ``other`` says; the lower if none."""
    low, high = max(one.low, other.low), min(one.high, other.high)
    if low > high:
        return min(one, other, key=lambda it: it.value)
    return Span(low, min(max(other.value, low), high), high)
