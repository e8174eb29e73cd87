"""Many steps of a run at once: rounds over a whole block until nothing in it moves (methods 16)."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.cells.cell_model import TEMPERATURE_POINTS_C
from lumvak.core.run.model import Loads, Model, RunCourse, Spans, States

Array = NDArray[np.float64]
MOST_ROUNDS = 15
# A state has settled once a round moves it by less: volts, shares of the charge, or hundreds of K.
SETTLED = 1e-6
# The product of what is left of a way is divided by; its logarithm is kept over this.
LEAST_LEFT = -400.0
LEAST_FOLLOWED = 16
# Share of the resistance that a cell loses for each kelvin, near enough for the rounds.
LESS_PER_K = 0.026


class Block(Struct):
    """Steps one after the other, (n,): where each ends, and its course.

    ``settled`` is how many from the first on are what the rule gives step by step.
    """

    ends: States
    course: RunCourse
    settled: int


def block(model: Model, first: States, loads: Loads, spans: Spans) -> Block:
    """All steps of ``spans`` (n,) under ``loads`` (n,), the first begun at ``first`` (1,).

    A round works all steps out from where the round before had them begin and end, and then
    follows the states through, which are straight in themselves; the first steps settle first.
    """
    count = len(spans.seconds)
    ends = States(*(np.full(count, column[0]) for column in _columns(first)))
    settled = 0
    # To begin with, as if all were drawn from the cells as they are at first.
    draw = model.draw(first, loads)
    slow_v = first.slow_v
    for _ in range(MOST_ROUNDS):
        charge = first.charge - model.charge_per_as * np.cumsum(draw.amps * spans.seconds)
        celsius = 0.5 * (_begun(first.celsius, ends.celsius) + ends.celsius)
        middle = States(0.5 * (_begun(first.charge, charge) + charge), slow_v, celsius, celsius)
        # What hangs on little goes first, so that the rest of the round has it as it will be.
        lag = _followed(first.lag, model.lag_to(draw.amps, middle), spans.lag_left)
        begun = _begun(first.lag, lag)
        middle.lag = begun + (lag - begun) * spans.lag_way
        draw = model.draw(middle, loads)
        slow = _followed(first.slow_v, draw.slow_to, spans.slow_left)
        slow_v = draw.slow_to + (_begun(first.slow_v, slow) - draw.slow_to) * spans.slow_mean
        course = model.course(middle, slow_v, draw)
        warm = _warmed(model, first.celsius, celsius, course, spans.celsius_left)
        after = States(charge, slow, lag, warm)
        moved = np.abs(after.slow_v - ends.slow_v)
        np.maximum(moved, np.abs(charge - ends.charge), out=moved)
        np.maximum(moved, 0.01 * np.abs(warm - ends.celsius), out=moved)
        ends = after
        moves = moved > SETTLED
        settled = int(moves.argmax()) if moves.any() else count
        if settled == count:
            break
    return Block(ends, course, max(settled, 1))


def _columns(at: States) -> tuple[Array, Array, Array, Array]:
    return at.charge, at.slow_v, at.lag, at.celsius


def _begun(first: Array, ends: Array) -> Array:
    """Where steps begin: the first, then where the one before ends."""
    return np.concatenate((first, ends[:-1]))


def _warmed(model: Model, first: Array, middle: Array, course: RunCourse, left: Array) -> Array:
    """Temperatures after each step, (n,), with the heat on the slope that it has in temperature.

    A warmer cell has less resistance; with that in the way it is followed, a round comes far
    nearer to where the rounds end, which stays the same.
    """
    inside = (middle > TEMPERATURE_POINTS_C[0]) & (middle < TEMPERATURE_POINTS_C[-1])
    losses = course.emf_w - course.given_w
    slope = losses * inside * (model.kelvin_per_watt * -LESS_PER_K)
    turn = 0.5 * slope * (1.0 - left)
    bent = (left + turn) / (1.0 - turn)
    aim = (course.celsius_to - slope * middle) / (1.0 - slope)
    return _followed(first, aim, bent)


def _followed(first: Array, to: Array, left: Array) -> Array:
    """A state after each step, (n,), from ``first`` (1,) on, each ``left`` short of ``to``."""
    together = int(LEAST_LEFT / math.log(max(float(left.min()), 1e-300)))
    if together >= len(left):
        kept = np.multiply.accumulate(left)
        return np.asarray(kept * (first + np.cumsum(to * (1.0 - left) / kept)))
    if together >= LEAST_FOLLOWED:
        parts = []
        for place in range(0, len(left), together):
            chosen = slice(place, place + together)
            parts.append(_followed(first, to[chosen], left[chosen]))
            first = parts[-1][-1:]
        return np.concatenate(parts)
    found, value = [], float(first[0])
    for aim, rest in zip(to.tolist(), left.tolist(), strict=True):
        value = aim + (value - aim) * rest
        found.append(value)
    return np.array(found)
