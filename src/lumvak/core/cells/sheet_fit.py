"""The cell model fitted to what a data sheet draws: discharges at several currents (methods 25).

The slowest discharge at room temperature gives the rest voltage, once what its own current takes
off is put back; the others there give resistance against charge and the lag of the surface, and
those at other temperatures how both change with it.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.catalogue.sheet_curves import SheetCurve
from lumvak.core.cells.cell_model import (
    FAST_SHARE,
    LAG_EXPONENT,
    LAG_SETTLES,
    REACH_EXPONENT,
    SLOW_SHARE,
    reached,
    warm_factor,
)

Array = NDArray[np.float64]
# Charges at which the resistance is fitted, in shares of the typical capacity taken from full.
KNOTS = np.array([-0.02, 0.02, 0.05, 0.10, 0.20, 0.35, 0.50, 0.70, 0.90, 1.00])
# Each curve is compared at as many points: even to nine tenths of it, closer after that.
EVEN_POINTS, LAST_POINTS, LAST_FROM = 40, 14, 0.9
STEEP_V = 1.5
WEIGH_V = 0.01
SMOOTH = 0.3
# An end that is further off than this share asks whether the current reaches the whole electrode.
END_OFF = 0.03
# The ends of discharges at room temperature may move by no more than this for those at others.
MOVED = 0.005
ROUNDS = 60
REACHES = (0.1, 0.4, 1.0)


class SheetFit(Struct, frozen=True, eq=False):
    """What a fit found: curves and constants of the cell, and how far it is off.

    Charge runs from 0 (empty at rest) to 1 (full); ``full_ah`` is the charge between them.
    ``residual_v`` (m,) is the root mean square of each curve's difference in V, ``end_off`` (m,)
    how far the fitted end lies over the drawn one as a share of the charge, in the order given.
    """

    charge: Array
    rest_v: Array
    ohm_charge: Array
    ohm: Array
    lag_s: float
    ohm_exponent: float
    lag_exponent: float
    reach_h: float
    reach_exponent: float
    full_ah: float
    resistance_fitted: bool
    residual_v: tuple[float, ...]
    end_off: tuple[float, ...]

    def ohm_at(self, charge: float) -> float:
        """Steady resistance in ohm at a charge and 25 degC."""
        return float(np.interp(charge, self.ohm_charge, self.ohm))


class _Drawn(Struct, frozen=True, eq=False):
    """A discharge at even points: share of the typical capacity left, s, and volts, (n,) each."""

    amps: float
    celsius: float
    left: Array
    seconds: Array
    volts: Array
    weight: Array


class _Guess(Struct, frozen=True, eq=False):
    """What is varied: log of the resistance in ohm at KNOTS, and the constants."""

    log_ohm: Array
    lag_s: float
    ohm_exponent: float = 1.0
    lag_exponent: float = LAG_EXPONENT
    reach_h: float = 0.0
    reach_exponent: float = REACH_EXPONENT


class _Curve(Struct, frozen=True, eq=False):
    """Rest voltage in V against the charge of the surface, and the guess it was made with."""

    surface: Array
    rest_v: Array
    guess: _Guess

    def volts(self, at: _Drawn, capacity_ah: float) -> Array:
        surface, ohm = _inside(at, capacity_ah, self.guess)
        return np.asarray(np.interp(surface, self.surface, self.rest_v) - at.amps * ohm)


def fitted(
    curves: Sequence[SheetCurve],
    capacity_ah: float,
    empty_v: float,
    ten_second_ohm: float,
    shape: tuple[Array, Array],
    lag_s: float,
) -> SheetFit | None:
    """Fit the cell to its drawn discharges; ``None`` without one at room temperature.

    ``capacity_ah`` is the typical one, ``ten_second_ohm`` the DC resistance after 10 s at half
    charge, ``shape`` charges and factors of the resistance (n,) that are taken where the curves do
    not say better, ``lag_s`` likewise the lag.
    """
    drawn = [_drawn(curve, capacity_ah) for curve in curves]
    room, others = (
        [item for item, curve in zip(drawn, curves, strict=True) if curve.at_room == wanted]
        for wanted in (True, False)
    )
    if not room:
        return None
    room.sort(key=lambda item: item.amps)
    steady = ten_second_ohm * (FAST_SHARE + SLOW_SHARE)
    start = _Guess(np.log(np.interp(KNOTS, *shape) * steady), lag_s)
    guess = start
    if len(room) > 1:
        guess = _at_room(room, capacity_ah, empty_v, start)
    if others:
        guess = _with_temperature(room, others, capacity_ah, empty_v, guess)
    return _told(room[0], drawn, capacity_ah, empty_v, guess, len(room) > 1)


def _drawn(curve: SheetCurve, capacity_ah: float) -> _Drawn:
    taken, volts = np.array(curve.points, dtype=float).T
    last = taken[-1]
    share = np.concatenate(
        (
            np.linspace(0.0, LAST_FROM, EVEN_POINTS, endpoint=False),
            np.linspace(LAST_FROM, 1.0, LAST_POINTS),
        )
    )
    begin = taken[0]
    at = begin + share * (last - begin)
    read = np.interp(at, taken, volts)
    left = 1.0 - at / capacity_ah
    slope = np.abs(np.gradient(read, left))
    return _Drawn(
        curve.current_a,
        curve.temperature_c,
        left,
        3600.0 * at / curve.current_a,
        read,
        1.0 / np.maximum(1.0, slope / STEEP_V),
    )


def _inside(at: _Drawn, capacity_ah: float, guess: _Guess) -> tuple[Array, Array]:
    """Charge of the surface and resistance in ohm along a discharge from full, (n,) each."""
    ohm_factor, lag_factor, reach_factor = (
        float(warm_factor(np.array(at.celsius), exponent))
        for exponent in (guess.ohm_exponent, guess.lag_exponent, guess.reach_exponent)
    )
    rate = at.amps / capacity_ah / 3600.0
    lag = guess.lag_s * lag_factor * rate * -np.expm1(-at.seconds / (LAG_SETTLES * guess.lag_s))
    share = float(reached(np.array(3600.0 * guess.reach_h * rate * reach_factor)))
    surface = 1.0 - (1.0 - at.left) / share - lag
    return surface, np.exp(np.interp(surface, KNOTS, guess.log_ohm)) * ohm_factor


def _rest(base: _Drawn, capacity_ah: float, guess: _Guess) -> _Curve:
    """The rest voltage that makes the slowest discharge come out as drawn."""
    surface, ohm = _inside(base, capacity_ah, guess)
    volts = np.minimum.accumulate(base.volts + base.amps * ohm)
    surface, volts = surface[::-1], volts[::-1]
    # Beyond both ends on the slope that it has there, never flatter than falls a nearly empty cell.
    fall = max((volts[1] - volts[0]) / (surface[1] - surface[0]), 5.0)
    rise = (volts[-1] - volts[-4]) / (surface[-1] - surface[-4])
    return _Curve(
        np.concatenate(([surface[0] - 0.5], surface, [surface[-1] + 0.05])),
        np.concatenate(([volts[0] - 0.5 * fall], volts, [volts[-1] + 0.05 * rise])),
        guess,
    )


def _end_off(curve: _Curve, at: _Drawn, capacity_ah: float, empty_v: float) -> float:
    """By how much of its charge the fitted discharge ends later than the drawn one."""
    last = at.volts[-1]
    share = np.linspace(0.5, 1.5, 400)
    taken = share * (1.0 - at.left[-1])
    longer = replace(at, left=1.0 - taken, seconds=at.seconds[-1] * share)
    volts = np.minimum.accumulate(curve.volts(longer, capacity_ah))
    # Compared where the drawn one ends, which may lie over the empty voltage.
    return float(np.interp(-max(last, empty_v), -volts, share) - 1.0)


def _at_room(room: list[_Drawn], capacity_ah: float, empty_v: float, start: _Guess) -> _Guess:
    """Resistance against charge and lag from the discharges at room temperature."""
    base, faster = room[0], room[1:]

    def of(values: Array) -> _Guess:
        return replace(start, log_ohm=values[:-2], lag_s=values[-2], reach_h=values[-1])

    def off(values: Array) -> Array:
        guess = of(values)
        curve = _rest(base, capacity_ah, guess)
        return np.concatenate(
            (
                *(_differences(curve, item, capacity_ah, empty_v) for item in faster),
                SMOOTH * np.diff(guess.log_ohm - start.log_ohm, 2),
                [0.1 * np.log(guess.lag_s / start.lag_s), 0.3 * guess.reach_h],
            )
        )

    return _best(
        off,
        of,
        np.concatenate((start.log_ohm, [start.lag_s, 0.0])),
        np.concatenate((start.log_ohm - 2.5, [2.0, 0.0])),
        np.concatenate((start.log_ohm + 2.5, [3000.0, 2.0])),
        lambda guess: max(
            abs(_end_off(_rest(base, capacity_ah, guess), item, capacity_ah, empty_v))
            for item in faster
        ),
    )


def _with_temperature(
    room: list[_Drawn], others: list[_Drawn], capacity_ah: float, empty_v: float, found: _Guess
) -> _Guess:
    """How resistance, lag and reach change with temperature, from discharges in the cold or warm.

    They add exponents and never move what the discharges at room temperature fixed: where these
    gave a reach, it stays; where they gave none, one may come in that leaves them as good as they
    were, for all of them stay among what is fitted.
    """
    base, faster = room[0], room[1:]
    fixed = found.reach_h > 0.0

    def of(values: Array) -> _Guess:
        last = "reach_exponent" if fixed else "reach_h"
        return replace(found, ohm_exponent=values[0], lag_exponent=values[1], **{last: values[2]})

    def off(values: Array) -> Array:
        curve = _rest(base, capacity_ah, of(values))
        told = others if fixed else (*faster, *others)
        return np.concatenate(
            (
                *(_differences(curve, item, capacity_ah, empty_v) for item in told),
                0.3 * (values - known),
            )
        )

    def worst(guess: _Guess, drawn: Sequence[_Drawn]) -> float:
        curve = _rest(base, capacity_ah, guess)
        return max(
            (abs(_end_off(curve, item, capacity_ah, empty_v)) for item in drawn), default=0.0
        )

    last = found.reach_exponent if fixed else found.reach_h
    known = np.array([found.ohm_exponent, found.lag_exponent, last])
    low, high = np.array([0.2, 0.2, 0.0]), np.array([3.0, 4.0, 4.0 if fixed else 2.0])
    guess = _best(off, of, known, low, high, lambda guess: worst(guess, others))
    if fixed or worst(guess, faster) <= worst(found, faster) + MOVED:
        return guess
    high[2] = 1e-9
    return replace(_best(off, of, known, low, high, lambda _: 0.0), reach_h=found.reach_h)


def _differences(curve: _Curve, at: _Drawn, capacity_ah: float, empty_v: float) -> Array:
    """Volts that the fit is off, in WEIGH_V and less where a curve is steep, and its end."""
    volts = (curve.volts(at, capacity_ah) - at.volts) * at.weight / WEIGH_V
    return np.append(volts, 3.0 * _end_off(curve, at, capacity_ah, empty_v) / WEIGH_V)


def _best(
    off: Callable[[Array], Array],
    of: Callable[[Array], _Guess],
    start: Array,
    low: Array,
    high: Array,
    worst: Callable[[_Guess], float],
) -> _Guess:
    """The guess that is off the least; its last value, the reach, is left alone if it may be."""
    # Loaded here, for few have a cell with curves, and it takes a while.
    from scipy.optimize import least_squares

    scale = np.maximum(np.abs(start), 0.3)

    def solved(begin: Array, free: slice) -> tuple[float, Array]:
        def part(values: Array) -> Array:
            whole = begin.copy()
            whole[free] = values
            return off(whole)

        found = least_squares(
            part,
            begin[free],
            bounds=(low[free], high[free]),
            x_scale=scale[free],
            max_nfev=ROUNDS,
        )
        whole = begin.copy()
        whole[free] = found.x
        return float(found.cost), whole

    _, values = solved(start, slice(0, -1))
    if worst(of(values)) <= END_OFF:
        return of(values)
    begun = [np.append(start[:-1], max(start[-1], reach)) for reach in REACHES]
    return of(min((solved(item, slice(None)) for item in begun), key=lambda done: done[0])[1])


def _told(
    base: _Drawn,
    drawn: list[_Drawn],
    capacity_ah: float,
    empty_v: float,
    guess: _Guess,
    resistance_fitted: bool,
) -> SheetFit:
    """The fit with charge from empty to full at rest, and how far it is off."""
    curve = _rest(base, capacity_ah, guess)
    empty = float(np.interp(empty_v, curve.rest_v, curve.surface))
    span = 1.0 - empty
    inside = (curve.surface > empty) & (curve.surface < 1.0)
    charge = np.concatenate(([0.0], (curve.surface[inside] - empty) / span, [1.0]))
    rest = np.concatenate(
        ([empty_v], curve.rest_v[inside], [np.interp(1.0, curve.surface, curve.rest_v)])
    )
    knots = np.clip((KNOTS - empty) / span, 0.0, 1.0)
    kept = np.append(np.diff(knots) > 0.0, True)
    return SheetFit(
        charge=charge,
        rest_v=rest,
        ohm_charge=knots[kept],
        ohm=np.exp(guess.log_ohm)[kept],
        lag_s=guess.lag_s,
        ohm_exponent=guess.ohm_exponent,
        lag_exponent=guess.lag_exponent,
        reach_h=guess.reach_h * span,
        reach_exponent=guess.reach_exponent,
        full_ah=span * capacity_ah,
        resistance_fitted=resistance_fitted,
        residual_v=tuple(
            float(np.sqrt(np.mean((curve.volts(item, capacity_ah) - item.volts) ** 2)))
            for item in drawn
        ),
        end_off=tuple(_end_off(curve, item, capacity_ah, empty_v) for item in drawn),
    )
