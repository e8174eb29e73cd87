"""Two sources in parallel, discharged together: who carries how much of the current, and when."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

Array = NDArray[np.float64]
# Steps of a course; the first are as much shorter as that one over the other, for shares settle.
STEPS, FIRST_SHORTER = 200, 40.0


class SharedSource(Struct, frozen=True, eq=False):
    """What stands beside another: rest volts against charge, Ah and ohm of each of n, (n,).

    ``shape`` is its resistance at each of the charges over that which ``ohm`` gives.
    """

    charge: Array
    volts: Array
    shape: Array
    ah: Array
    ohm: Array


class SharedDischarge(Struct, frozen=True, eq=False):
    """n pairs discharged by one current: hours (m,), amps of the one and volts, (m, n).

    It ends a step before the first pair is under the end voltage, or one of it is empty.
    """

    hours: Array
    one_a: Array
    volts: Array
    current_a: float

    @property
    def other_a(self) -> Array:
        """Amps of the other, (m, n)."""
        return np.asarray(self.current_a - self.one_a)


def shared(
    one: SharedSource,
    other: SharedSource,
    current_a: float,
    end_v: float,
    start_v: float | None = None,
) -> SharedDischarge:
    """Discharge n pairs by ``current_a`` until the first is at ``end_v`` (methods 29).

    Both rest at ``start_v`` first, full where that is ``None``. At every instant both have one
    terminal voltage. Steps are implicit in the charge, so that they hold however quickly the shares
    settle.
    """
    first, second = _begun(one, start_v), _begun(other, start_v)
    hours = _times(float((one.ah * first + other.ah * second).max()) / current_a)
    one_ohm, other_ohm = _ohm(one, first), _ohm(other, second)
    apart = _at(one, first) - _at(other, second)
    amps = [(apart + current_a * other_ohm) / (one_ohm + other_ohm)]
    volts = [_at(one, first) - amps[0] * one_ohm]
    for span in np.diff(hours):
        # What a step takes away lowers the rest voltage as a resistance more would.
        one_more = _slope(one, first) * span / one.ah
        other_more = _slope(other, second) * span / other.ah
        one_ohm = _ohm(one, first) + one_more
        other_ohm = _ohm(other, second) + other_more
        apart = _at(one, first) - _at(other, second)
        carried = (apart + current_a * other_ohm) / (one_ohm + other_ohm)
        first = first - carried * span / one.ah
        second = second - (current_a - carried) * span / other.ah
        at_poles = _at(one, first) - carried * _ohm(one, first)
        if (at_poles < end_v).any() or (first < 0.0).any() or (second < 0.0).any():
            break
        amps.append(carried)
        volts.append(at_poles)
    return SharedDischarge(hours[: len(amps)], np.array(amps), np.array(volts), current_a)


def _begun(source: SharedSource, start_v: float | None) -> Array:
    """Charge at first, (n,)."""
    if start_v is None:
        return np.ones_like(source.ah)
    return np.full_like(source.ah, np.interp(start_v, source.volts, source.charge))


def _times(longest_h: float) -> Array:
    """Hours of a course: short steps at first, that grow to the usual ones."""
    spans = np.minimum(np.geomspace(1.0, FIRST_SHORTER, STEPS // 4), FIRST_SHORTER)
    spans = np.concatenate([spans, np.full(STEPS - len(spans), FIRST_SHORTER)])
    starts: Array = np.concatenate([[0.0], np.cumsum(spans)])
    return starts * (longest_h / float(spans.sum()))


def _at(source: SharedSource, charge: Array) -> Array:
    return np.asarray(np.interp(charge, source.charge, source.volts))


def _ohm(source: SharedSource, charge: Array) -> Array:
    return np.asarray(source.ohm * np.interp(charge, source.charge, source.shape))


def _slope(source: SharedSource, charge: Array) -> Array:
    """Rest volts a whole charge, at each charge (n,)."""
    steps = np.diff(source.volts) / np.diff(source.charge)
    place = np.searchsorted(source.charge, charge, side="left") - 1
    return np.asarray(steps[np.clip(place, 0, len(steps) - 1)])
