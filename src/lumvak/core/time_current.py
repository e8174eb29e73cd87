"""Currents over time on one grid: what is drawn, what opens when, what is harmed when.

Every curve is an array of pack currents in A over TIMES_S. A load curve gives the most that is
drawn for so long; an opening curve the current from which on a part has opened after that time,
infinite where it has not; a harm curve the current that a part stands for that long.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

Array = NDArray[np.float64]
SHORTEST_S, LONGEST_S, PER_DECADE = 1e-4, 1e4, 20
TIMES_S: Array = np.logspace(
    math.log10(SHORTEST_S),
    math.log10(LONGEST_S),
    round(PER_DECADE * math.log10(LONGEST_S / SHORTEST_S)) + 1,
)
LOG_TIMES: Array = np.log(TIMES_S)
FIRST_LOG, LOG_STEP = float(LOG_TIMES[0]), float(LOG_TIMES[1] - LOG_TIMES[0])
# A strip may rise so many times as far for a short peak as for good, falling to once in between.
PEAK_RISE_FACTOR = 2.0
PEAK_SHORT_S, STEADY_S = 60.0, 600.0


def peak_allowance(seconds: float) -> float:
    """How many times its continuous rise a conductor may reach for a peak (methods 9).

    Twice up to a minute, falling to the continuous rise itself at ten minutes.
    """
    share = math.log(max(seconds, PEAK_SHORT_S) / PEAK_SHORT_S) / math.log(STEADY_S / PEAK_SHORT_S)
    return PEAK_RISE_FACTOR + (1.0 - PEAK_RISE_FACTOR) * min(share, 1.0)


ALLOWANCES: Array = np.array([peak_allowance(float(time)) for time in TIMES_S])
HALVINGS = 32
# A fall by more than this between two times of the grid is a step, not a slope.
STEP = 1.3


class Lump(Struct, frozen=True):
    """A body that a current warms: heated by I², cooled in proportion to its rise.

    ``rise_per_a2`` is its steady rise in K at 1 A with the resistance it has at ``start_c``;
    ``tau_s`` its time constant; ``per_kelvin`` how its resistance grows, at ``start_c``.
    """

    rise_per_a2: float
    tau_s: float
    per_kelvin: float = 0.0


def rise_after_k(lump: Lump, current_a: Array, seconds: Array) -> Array:
    """Rise in K (any shape) after so many seconds at a current, from cold (methods 22).

    With u' = a I² (1 + k u) − u ÷ τ, a = rise ÷ τ: u = a I² (e^(λ t) − 1) ÷ λ, λ = a I² k − 1 ÷ τ.
    """
    heat = lump.rise_per_a2 / lump.tau_s * current_a**2
    growth = heat * lump.per_kelvin - 1.0 / lump.tau_s
    exponent = np.clip(growth * seconds, None, 60.0)
    near = np.abs(exponent) < 1e-9
    safe = np.where(near, 1.0, growth)
    return np.asarray(heat * np.where(near, seconds, np.expm1(exponent) / safe))


@lru_cache(maxsize=512)
def current_for_rise(lump: Lump, rises_k: tuple[float, ...], seconds: tuple[float, ...]) -> Array:
    """(n,) currents in A that warm a body by ``rises_k`` in ``seconds``, each found by halving."""
    rise, time = np.array(rises_k), np.array(seconds)
    # Without growth of the resistance the answer is closed, and never less than with it.
    high = np.sqrt(rise / (lump.rise_per_a2 * -np.expm1(-time / lump.tau_s)))
    if lump.per_kelvin == 0.0:
        return np.asarray(high)
    low = np.zeros_like(high)
    for _ in range(HALVINGS):
        middle = (low + high) / 2.0
        over = rise_after_k(lump, middle, time) > rise
        high = np.where(over, middle, high)
        low = np.where(over, low, middle)
    return (low + high) / 2.0


def lump_curve(lump: Lump, rise_k: float | Array) -> Array:
    """The harm curve in A, (T,), of a body that may rise by ``rise_k``, one or (T,)."""
    rises = np.broadcast_to(np.asarray(rise_k, dtype=float), TIMES_S.shape)
    return current_for_rise(lump, tuple(rises.tolist()), tuple(TIMES_S.tolist()))


def hold_curve(limit_a: float, tau_s: float) -> Array:
    """What a conductor holds in A for each time, (T,), from its continuous limit (methods 9)."""
    return np.asarray(limit_a * np.sqrt(ALLOWANCES / -np.expm1(-TIMES_S / tau_s)))


def rated_curve(continuous_a: float, short_a: float, short_s: float) -> Array:
    """What a part rated for good and for a short time holds in A, (T,) (methods 22).

    One time constant through both: τ = −t ÷ ln(1 − (I ÷ I_short)²).
    """
    tau = -short_s / math.log1p(-((continuous_a / short_a) ** 2))
    return lump_curve(Lump(1.0 / continuous_a**2, tau), 1.0)


def allowed_rise(short_k: float, steady_k: float, short_s: float, steady_s: float) -> Array:
    """Rise in K allowed for each time, (T,): ``short_k`` up to ``short_s``, then falling."""
    share = np.clip(
        (LOG_TIMES - math.log(short_s)) / (math.log(steady_s) - math.log(short_s)), 0.0, 1.0
    )
    return np.asarray(short_k + (steady_k - short_k) * share)


def stages_curve(stages: Iterable[tuple[float, float]]) -> Array:
    """Opening curve in A, (T,), of over-current stages, each a current in A and a delay in s.

    Each opens once its current is passed for its delay.
    """
    curve = np.full(TIMES_S.shape, np.inf)
    for current_a, delay_s in stages:
        reached = delay_s * (1.0 - 1e-9) <= TIMES_S
        curve[reached] = np.minimum(curve[reached], current_a)
    return curve


def going_over(peak_a: Array, continuous_a: float) -> Array:
    """What a peak may be in A, (T,), going over into the continuous current in ten minutes.

    So strips do (methods 9).
    """
    share = np.clip(ALLOWANCES - 1.0, 0.0, 1.0)
    return np.asarray(continuous_a * (peak_a / continuous_a) ** share)


def band_curves(
    band: Sequence[tuple[float, float, float | None]], rating_a: float
) -> tuple[Array, Array]:
    """Least and most current in A of a melting band, (T,) each.

    Under the one it holds, over the other it has opened.


    ``band`` are points of times the rating, least and most seconds (``None``: it need not open).
    Between points both are straight in log-log; past the last I² t stays as it is (methods 22).
    """
    least = [(ratio, seconds) for ratio, seconds, _ in band]
    most = [(ratio, seconds) for ratio, _, seconds in band if seconds is not None]
    return rating_a * _along(*np.array(least).T), rating_a * _along(*np.array(most).T)


def _along(ratio: Array, seconds: Array) -> Array:
    """Times the rating over TIMES_S, through points whose times fall as the ratio rises."""
    inside = np.exp(np.interp(LOG_TIMES, np.log(seconds[::-1]), np.log(ratio[::-1])))
    beyond = ratio[-1] * np.sqrt(seconds[-1] / TIMES_S)
    return np.where(seconds[-1] > TIMES_S, beyond, inside)


def at_time(curve: Array, seconds: float) -> float:
    """The current in A of a curve (T,) at a time, straight in log-log; infinite where it is."""
    last = len(TIMES_S) - 1
    place = min(max((math.log(seconds) - FIRST_LOG) / LOG_STEP, 0.0), float(last))
    low = int(place)
    high = min(low + 1, last)
    one, two = float(curve[low]), float(curve[high])
    if place - low < 1e-9 or one == two:
        return one
    if max(one, two) > STEP * min(one, two) or min(one, two) <= 0.0:
        return two if place - low > 1.0 - 1e-9 else one
    return math.exp(math.log(one) + (place - low) * (math.log(two) - math.log(one)))


def times_at(curve: Array, currents_a: Array) -> Array:
    """(n,) times in s from which on a curve lies at or under currents (n,); infinite where never.

    Between two times of the grid straight in log-log, but where the curve steps.
    """
    under = curve[None, :] <= (currents_a * (1.0 + 1e-12))[:, None]
    first = np.argmax(under, axis=1)
    before = np.maximum(first - 1, 0)
    above, below = curve[before], curve[first]
    with np.errstate(divide="ignore", invalid="ignore"):
        share = np.log(above / currents_a) / np.log(above / below)
        sloped = np.exp(LOG_TIMES[before] + share * (LOG_TIMES[first] - LOG_TIMES[before]))
    steps = (first == 0) | (above > STEP * below) | (above == below)
    return np.where(under.any(axis=1), np.where(steps, TIMES_S[first], sloped), np.inf)
