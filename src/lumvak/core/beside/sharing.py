"""Packs in parallel under a load: who carries how much, until the first opens and after it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray
from scipy.linalg import expm

from lumvak.core.beside.side import PackSide

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]
By = Literal["direct", "switch", "diodes", "ideal-diodes", "one-at-a-time"]
# What a diode drops in V, and the switch of an ideal one in ohm.
DIODE_V, IDEAL_OHM = 0.45, 0.002
# A course has so many steps at least of the time that the charge lasts; the first is so much
# shorter, and each grows by so much on the one before.
STEPS, FIRST, GROWS = 400, 1e-3, 1.3
ROUNDS = 4
# A course ends after so many times what the charge of all would last.
LONGEST = 3.0


class SharedLoad(Struct, frozen=True):
    """What is drawn from all: amps, or watts."""

    amps: float | None = None
    watts: float | None = None


class SharedCourse(Struct, frozen=True, eq=False):
    """Packs under a load: seconds (m,), amps of each (m, k), volts (m,), charges (m, k).

    ``ended`` says in which order they opened, by their places, and after how many seconds;
    ``why`` what ended the whole. ``given_ah`` (k,) is what each gave of its charge.
    """

    seconds: Array
    amps: Array
    volts: Array
    charge: Array
    ended: tuple[tuple[int, float], ...]
    why: str
    given_wh: float
    given_ah: Array

    @property
    def hours(self) -> float:
        """How long it lasted."""
        return float(self.seconds[-1]) / 3600.0


class _Fixed(Struct, frozen=True, eq=False):
    """The packs as arrays, (k,)."""

    sides: tuple[PackSide, ...]
    capacity_ah: Array
    ohm: Array
    drop_v: Array
    one_way: bool


def shared(
    sides: Sequence[PackSide], load: SharedLoad, by: By = "direct", step: float = 1.0
) -> SharedCourse:
    """Discharge packs together from where each stands until all have opened.

    At every instant all that conduct have one terminal voltage (methods 44). ``step`` scales the
    steps: within each the curves are straight and the currents solved exactly.
    """
    if by == "one-at-a-time":
        return _one_at_a_time(sides, load, step)
    diodes = by in ("diodes", "ideal-diodes")
    ohm = np.array([it.ohm for it in sides]) + (IDEAL_OHM if by == "ideal-diodes" else 0.0)
    drop = np.full(len(sides), DIODE_V if by == "diodes" else 0.0)
    capacity = np.array([it.capacity_ah for it in sides])
    fixed = _Fixed(tuple(sides), capacity, ohm, drop, diodes)
    return _run(fixed, load, step)


def _run(fixed: _Fixed, load: SharedLoad, step: float) -> SharedCourse:
    """Step after step until every pack has opened. It is long, for each step is decided here."""
    count = len(fixed.sides)
    charge = np.array([it.at for it in fixed.sides])
    on = np.ones(count, dtype=bool)
    nominal = float(np.mean([np.interp(0.5, it.charge, it.rest_v) for it in fixed.sides]))
    amps_about = load.amps if load.amps is not None else (load.watts or 0.0) / nominal
    lasts = float(fixed.capacity_ah @ charge) * 3600.0 / amps_about
    longest, span = step * lasts / STEPS, step * lasts / STEPS * FIRST
    now = _solved(fixed, charge, on, load)
    times, flows, volts, charges = [0.0], [now.amps], [now.volts], [charge]
    ended: list[tuple[int, float]] = []
    why, wh = "", 0.0
    while on.any() and times[-1] < LONGEST * lasts:
        fresh, end, wh_step = _advanced(fixed, charge, on, load, span)
        opens = on & ((end.volts < _stops(fixed)) | (fresh < 0.0))
        if opens.any() and span > 1e-6 * longest:
            # Find where in the step the first opens.
            span *= 0.5
            if span <= 1e-6 * longest * 2.0:
                span = 1e-6 * longest
            continue
        times.append(times[-1] + span)
        wh += wh_step
        charge = np.clip(fresh, 0.0, 1.0)
        flows.append(end.amps)
        volts.append(end.volts)
        charges.append(charge)
        span = min(span * GROWS, longest)
        if opens.any():
            ended += [(int(place), times[-1]) for place in np.flatnonzero(opens)]
            on = on & ~opens
            if not on.any():
                break
            # At the same moment the others take all.
            span, end = longest * FIRST, _solved(fixed, charge, on, load)
            times.append(times[-1])
            flows.append(end.amps)
            volts.append(end.volts)
            charges.append(charge)
        if not math.isfinite(end.volts):
            why = "the load asks for more than they give"
            break
    if not why and ended:
        last = fixed.sides[ended[-1][0]].name
        why = f"{last} is at its cut-off"
    return SharedCourse(
        np.array(times),
        np.array(flows),
        np.array(volts),
        np.array(charges),
        ended=tuple(ended),
        why=why,
        given_wh=wh,
        given_ah=(charges[0] - charges[-1]) * fixed.capacity_ah,
    )


def _stops(fixed: _Fixed) -> Array:
    return np.array([it.stop_v for it in fixed.sides])


class _Now(Struct, frozen=True, eq=False):
    """Amps of each (k,) and the volts that they share."""

    amps: Array
    volts: float


def _curves(fixed: _Fixed, charge: Array) -> tuple[Array, Array, Array]:
    """Rest volts, their slope against the charge, and ohm of each, (k,)."""
    rest, slope, ohm = np.zeros(len(charge)), np.zeros(len(charge)), np.zeros(len(charge))
    for place, side in enumerate(fixed.sides):
        at = float(charge[place])
        # Of two stretches that meet here the lower one is next.
        under = int(np.searchsorted(side.charge, at, side="left"))
        under = min(max(under, 1), len(side.charge) - 1)
        left, right = side.charge[under - 1], side.charge[under]
        slope[place] = (side.rest_v[under] - side.rest_v[under - 1]) / (right - left)
        rest[place] = side.rest_v[under - 1] + slope[place] * (at - left)
        shape = np.interp(at, side.charge, side.shape)
        ohm[place] = fixed.ohm[place] - side.ohm + side.ohm * shape
    return rest, slope, ohm


def _split(rest: Array, ohm: Array, on: Mask, amps: float, one_way: bool) -> tuple[Array, float]:
    """Currents (k,) and volts: all that conduct share one voltage; none is charged if one way."""
    conducts = on.copy()
    for _ in range(len(rest)):
        siemens = np.where(conducts, 1.0 / ohm, 0.0)
        volts = float((siemens @ rest - amps) / siemens.sum())
        flow = siemens * (rest - volts)
        if not one_way or (flow >= -1e-12).all():
            return flow, volts
        conducts &= flow > 0.0
    return flow, volts


def _asked(load: SharedLoad, volts: float) -> float:
    return load.amps if load.amps is not None else (load.watts or 0.0) / volts


def _solved(fixed: _Fixed, charge: Array, on: Mask, load: SharedLoad) -> _Now:
    rest, _, ohm = _curves(fixed, charge)
    rest = rest - fixed.drop_v
    if load.amps is not None:
        return _Now(*_split(rest, ohm, on, load.amps, fixed.one_way))
    volts = float(rest[on].max())
    for _ in range(40):
        flow, fresh = _split(rest, ohm, on, _asked(load, volts), fixed.one_way)
        if fresh <= 0.0:
            return _Now(flow, math.nan)
        if abs(fresh - volts) < 1e-10 * volts:
            break
        volts = fresh
    return _Now(flow, volts)


def _advanced(
    fixed: _Fixed, charge: Array, on: Mask, load: SharedLoad, span: float
) -> tuple[Array, _Now, float]:
    """Charges after a step (k,), what flows then, and the Wh that were given in it.

    The amps of a load in watts, and the resistances, are those of the middle of the step.
    """
    middle, amps = charge, 0.0
    fresh = charge
    for _ in range(ROUNDS if load.amps is None else 2):
        now = _solved(fixed, middle, on, load)
        if not math.isfinite(now.volts):
            return charge, now, 0.0
        amps = float(now.amps.sum())
        conducts = on & (now.amps > 0.0) if fixed.one_way else on
        fresh = _stepped(fixed, charge, middle, conducts=conducts, amps=amps, span=span)
        middle = 0.5 * (charge + fresh)
    end = _solved(fixed, fresh, on, load)
    mean = _solved(fixed, middle, on, load)
    return fresh, end, amps * mean.volts * span / 3600.0


def _stepped(
    fixed: _Fixed, charge: Array, middle: Array, conducts: Mask, amps: float, span: float
) -> Array:
    """Charges after a step of a held current, the curves straight about where each stands."""
    rest, slope, _ = _curves(fixed, charge)
    _, _, ohm = _curves(fixed, middle)
    siemens = np.where(conducts, 1.0 / ohm, 0.0)
    total = float(siemens.sum())
    rest = rest - fixed.drop_v
    # Amps are siemens × (rest + slope × change − volts), volts those at which they sum up.
    weights = siemens[:, None] * (np.eye(len(rest)) - siemens[None, :] / total)
    rate = -1.0 / (3600.0 * fixed.capacity_ah)
    matrix = rate[:, None] * weights * slope[None, :]
    steady = rate * (weights @ rest + siemens / total * amps)
    whole = np.zeros((len(rest) + 1, len(rest) + 1))
    whole[:-1, :-1], whole[:-1, -1] = matrix, steady
    return np.asarray(charge + expm(whole * span)[:-1, -1])


def _one_at_a_time(sides: Sequence[PackSide], load: SharedLoad, step: float) -> SharedCourse:
    """One after the other, in the order in which they are given."""
    count, begun = len(sides), 0.0
    parts: list[SharedCourse] = []
    columns: list[tuple[int, float]] = []
    for place, side in enumerate(sides):
        course = shared([side], load, "direct", step)
        parts.append(course)
        columns.append((place, begun))
        begun += float(course.seconds[-1])
    seconds = np.concatenate([it.seconds + at for it, (_, at) in zip(parts, columns, strict=True)])
    amps, charge, row = np.zeros((len(seconds), count)), np.zeros((len(seconds), count)), 0
    charge[:] = [it.at for it in sides]
    for place, course in enumerate(parts):
        rows = slice(row, row + len(course.seconds))
        amps[rows, place] = course.amps[:, 0]
        charge[row:, place] = course.charge[-1, 0]
        charge[rows, place] = course.charge[:, 0]
        row += len(course.seconds)
    return SharedCourse(
        seconds,
        amps,
        np.concatenate([it.volts for it in parts]),
        charge,
        ended=tuple(
            (place, at + float(it.seconds[-1]))
            for it, (place, at) in zip(parts, columns, strict=True)
        ),
        why=parts[-1].why,
        given_wh=sum(it.given_wh for it in parts),
        given_ah=np.array([float(it.given_ah[0]) for it in parts]),
    )
