"""Packs in parallel under a load: who carries how much, until the first opens and after it."""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray
from scipy.linalg import expm

from lumvak.core.beside.side import PackSide
from lumvak.core.document.afterwards.beside import By

Array = NDArray[np.float64]
# What a diode drops in V, and the switch of an ideal one in ohm.
DIODE_V, IDEAL_OHM = 0.45, 0.002
# A course has so many steps at least of the time that the charge lasts; the first is so much
# shorter, and each grows by so much on the one before.
STEPS, FIRST, GROWS = 400, 1e-3, 1.3
ROUNDS = 4
# Where a pack opens is found to such a share of the longest step.
FOUND = 1e-7
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


class _SideCurve:
    """The curve of a pack as plain numbers, for thousands of looks at it."""

    def __init__(self, side: PackSide, more_ohm: float, drop_v: float) -> None:
        self.charge, self.rest = side.charge.tolist(), (side.rest_v - drop_v).tolist()
        self.slope = (np.diff(side.rest_v) / np.diff(side.charge)).tolist()
        self.ohm = (more_ohm + side.ohm * side.shape).tolist()
        self.more = (np.diff(self.ohm) / np.diff(side.charge)).tolist()
        self.coulomb = 3600.0 * side.capacity_ah
        self.stop_v, self.name, self.floor = side.stop_v, side.name, side.floor

    def at(self, charge: float) -> tuple[float, float, float]:
        """Rest volts, their slope against the charge, and ohm, at a charge.

        Where two stretches meet, the lower one is next.
        """
        place = min(max(bisect_left(self.charge, charge) - 1, 0), len(self.slope) - 1)
        along = charge - self.charge[place]
        slope = self.slope[place]
        return self.rest[place] + slope * along, slope, self.ohm[place] + self.more[place] * along


def shared(
    sides: Sequence[PackSide], load: SharedLoad, by: By = "direct", step: float = 1.0
) -> SharedCourse:
    """Discharge packs together from where each stands until all have opened.

    At every instant all that conduct have one terminal voltage (methods 44). ``step`` scales the
    steps: within each the curves are straight and the currents solved exactly.
    """
    if by == "one-at-a-time":
        return _one_at_a_time(sides, load, step)
    more = IDEAL_OHM if by == "ideal-diodes" else 0.0
    drop = DIODE_V if by == "diodes" else 0.0
    packs = _Packs([_SideCurve(it, more, drop) for it in sides], load, "diodes" in by)
    return _run(packs, [it.at for it in sides], step)


def now_shared(sides: Sequence[PackSide], amps: float) -> tuple[float, ...]:
    """Amps of each at this moment, where ``amps`` are drawn from all; negative charges them."""
    packs = _Packs([_SideCurve(it, 0.0, 0.0) for it in sides], SharedLoad(amps=amps), False)
    return tuple(packs.solved([it.at for it in sides], [True] * len(sides)).amps)


def _run(packs: _Packs, charge: list[float], step: float) -> SharedCourse:
    """Step after step until every pack has opened. It is long, for each step is decided here."""
    curves, on = packs.curves, [True] * len(charge)
    nominal = sum(it.at(0.5)[0] for it in curves) / len(curves)
    about_a = packs.load.amps or (packs.load.watts or 0.0) / nominal
    lasts = sum(it.coulomb * at for it, at in zip(curves, charge, strict=True)) / about_a
    longest = step * lasts / STEPS
    span, now = longest * FIRST, packs.solved(charge, on)
    rows = [(0.0, now, charge)]
    ended: list[tuple[int, float]] = []
    why, wh, time_s = "", 0.0, 0.0
    while any(on) and time_s < LONGEST * lasts and not why:
        fresh, end, given = packs.advanced(charge, on, span)
        if packs.over(fresh, end, on):
            # The first of them opens within the step.
            low, high = 0.0, span
            while high - low > FOUND * longest:
                middle = 0.5 * (low + high)
                fresh, end, given = packs.advanced(charge, on, middle)
                low, high = (low, middle) if packs.over(fresh, end, on) else (middle, high)
            span = high
            fresh, end, given = packs.advanced(charge, on, span)
        opens = packs.over(fresh, end, on)
        time_s, wh, charge = time_s + span, wh + given, [min(max(it, 0.0), 1.0) for it in fresh]
        rows.append((time_s, end, charge))
        span = min(span * GROWS, longest)
        if not math.isfinite(end.volts):
            why = "the load asks for more than they give"
        elif opens:
            ended += [(place, time_s) for place in opens]
            on = [is_on and place not in opens for place, is_on in enumerate(on)]
            if any(on):
                # At the same moment the others take all.
                span = longest * FIRST
                rows.append((time_s, packs.solved(charge, on), charge))
    if not why and ended:
        why = f"{curves[ended[-1][0]].name} is at its cut-off"
    charges = np.array([row[2] for row in rows])
    coulombs = np.array([it.coulomb for it in curves])
    return SharedCourse(
        np.array([row[0] for row in rows]),
        np.array([row[1].amps for row in rows]),
        np.array([row[1].volts for row in rows]),
        charges,
        ended=tuple(ended),
        why=why,
        given_wh=wh,
        given_ah=(charges[0] - charges[-1]) * coulombs / 3600.0,
    )


class _Now(Struct, frozen=True):
    """Amps of each and the volts that they share; NaN where they cannot give what is asked."""

    amps: list[float]
    volts: float


class _Packs:
    """Packs under a load; none is charged where they are ``one_way``."""

    def __init__(self, curves: list[_SideCurve], load: SharedLoad, one_way: bool) -> None:
        self.curves, self.load, self.one_way = curves, load, one_way

    def over(self, charge: list[float], now: _Now, on: list[bool]) -> list[int]:
        """Which of those that are on have opened: at their cut-off, or empty."""
        if not math.isfinite(now.volts):
            return []
        return [
            place
            for place, (it, at) in enumerate(zip(self.curves, charge, strict=True))
            if on[place] and (now.volts < it.stop_v or at < it.floor)
        ]

    def solved(self, charge: list[float], on: list[bool]) -> _Now:
        """What flows at charges: all that conduct share one voltage."""
        looks = [it.at(at) for it, at in zip(self.curves, charge, strict=True)]
        conducts = [place for place, is_on in enumerate(on) if is_on]
        while True:
            siemens = sum(1.0 / looks[place][2] for place in conducts)
            open_v = sum(looks[place][0] / looks[place][2] for place in conducts) / siemens
            if self.load.amps is not None:
                volts = open_v - self.load.amps / siemens
            else:
                # Volts times what flows is what is asked: the higher of two answers.
                square = open_v * open_v - 4.0 * (self.load.watts or 0.0) / siemens
                if square < 0.0:
                    return _Now([0.0] * len(on), math.nan)
                volts = 0.5 * (open_v + math.sqrt(square))
            amps = [0.0] * len(on)
            for place in conducts:
                amps[place] = (looks[place][0] - volts) / looks[place][2]
            back = [place for place in conducts if amps[place] < -1e-12]
            if not self.one_way or not back:
                return _Now(amps, volts)
            conducts = [place for place in conducts if place not in back]

    def advanced(
        self, charge: list[float], on: list[bool], span: float
    ) -> tuple[list[float], _Now, float]:
        """Charges after a step, what flows then, and the Wh that were given in it.

        The amps of a load in watts, and the resistances, are those of the middle of the step.
        """
        middle = fresh = charge
        for _ in range(2 if self.load.amps is not None else ROUNDS):
            now = self.solved(middle, on)
            if not math.isfinite(now.volts):
                return charge, now, 0.0
            conducts = [
                place
                for place, is_on in enumerate(on)
                if is_on and (not self.one_way or now.amps[place] > 0.0)
            ]
            fresh = self._stepped(charge, middle, conducts, sum(now.amps), span)
            middle = [0.5 * (one + other) for one, other in zip(charge, fresh, strict=True)]
        mean = self.solved(middle, on)
        given = sum(mean.amps) * mean.volts * span / 3600.0
        return fresh, self.solved(fresh, on), given

    def _stepped(
        self,
        charge: list[float],
        middle: list[float],
        conducts: list[int],
        amps: float,
        span: float,
    ) -> list[float]:
        """Charges after a step of a held current, the curves straight about where each stands.

        Two that share have one time constant; of more the equations are solved as a whole.
        """
        fresh = list(charge)
        looks = [self.curves[place].at(charge[place]) for place in conducts]
        ohms = [self.curves[place].at(middle[place])[2] for place in conducts]
        coulombs = [self.curves[place].coulomb for place in conducts]
        if len(conducts) == 2:
            begins = (looks[0][0] - looks[1][0] + amps * ohms[1]) / sum(ohms)
            falls = [look[1] / coulomb for look, coulomb in zip(looks, coulombs, strict=True)]
            rate = sum(falls) / sum(ohms)
            ends = amps * falls[1] / sum(falls) if rate > 0.0 else begins
            settles = -math.expm1(-rate * span) / rate if rate > 0.0 else span
            moved = ends * span + (begins - ends) * settles
            gone = [moved, amps * span - moved]
        elif len(conducts) == 1:
            gone = [amps * span]
        else:
            rests = np.array([look[0] for look in looks])
            slopes = np.array([look[1] for look in looks])
            gone = _solved_as_whole(
                rests, slopes / np.array(coulombs), np.array(ohms), amps, span
            ).tolist()
        for place, coulomb, taken in zip(conducts, coulombs, gone, strict=True):
            fresh[place] -= taken / coulomb
        return fresh


def _solved_as_whole(rest: Array, fall: Array, ohm: Array, amps: float, span: float) -> Array:
    """Coulombs (k,) that each gives in a step; ``fall`` is by how many V it falls for each."""
    siemens = 1.0 / ohm
    total = float(siemens.sum())
    # Amps are siemens × (rest − fall × given − volts), volts those at which they sum up.
    weights = siemens[:, None] * (np.eye(len(rest)) - siemens[None, :] / total)
    whole = np.zeros((len(rest) + 1, len(rest) + 1))
    whole[:-1, :-1] = -weights * fall[None, :]
    whole[:-1, -1] = weights @ rest + siemens / total * amps
    return np.asarray(expm(whole * span)[:-1, -1])


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
