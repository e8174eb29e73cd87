"""The start of a motor through a board's stages: a fast and a slow pull of the trigger.

The motor is a resistance and a back-EMF that grows as it runs up; a chopper gives it the share of
the voltage that the trigger asks for; the winding's inductance is left out, which errs to the safe
side (methods 23).
"""

from __future__ import annotations

import math
from functools import lru_cache
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.arrays import distinct
from lumvak.core.catalogue.boards import Board, BoardStage
from lumvak.core.catalogue.power_parts import Surge
from lumvak.core.conductors.thermistor import thermistor_ohm
from lumvak.core.document.power import Start
from lumvak.core.figures.figure import Figure
from lumvak.core.need.load_over_time import Draw

Array = NDArray[np.float64]
FINE, EVEN = 130, 90
CONSTANTS = 10.0
LEAST_MOTOR = 0.1
HALVINGS = 26
HALF = 0.5
SAME_START = 1.01
LEAST_SOURCE_OHM = 1e-3


class StartCase(Struct, frozen=True):
    """One start: the source, the motor, the pull of the trigger, what limits and what trips.

    Where it is not ``known`` what the motor draws as it stands, ``start_a`` is 0.
    """

    emf_v: float
    source_ohm: float
    start_a: float
    run_a: float
    tau_s: float
    pull_s: float
    stages: tuple[BoardStage, ...]
    surge: Surge | None = None
    ambient_c: float = 25.0
    limit_a: float = math.inf

    @property
    def known(self) -> bool:
        """Whether it is known what the motor draws as it stands."""
        return self.start_a > 0.0


class StageMet(Struct, frozen=True):
    """A stage against a start: what is sustained for its delay, and how long it is passed."""

    stage: BoardStage
    sustained_a: float
    over_s: float

    @property
    def spare_a(self) -> float:
        """Amps to spare; negative where it trips."""
        return self.stage.current_a - self.sustained_a


class StartRun(Struct, frozen=True, eq=False):
    """A start in time: seconds, amps from the pack, and each stage; ``trip_s`` is ``None`` if none.

    ``surge_c`` is how warm a thermistor gets.
    """

    case: StartCase
    seconds: Array
    current_a: Array
    stages: tuple[StageMet, ...]
    trip_s: float | None
    surge_c: float
    peak_a: float = field(default=0.0)

    @property
    def worst(self) -> StageMet | None:
        """The stage with the least to spare, as a share of its current."""
        return min(self.stages, key=lambda met: met.spare_a / met.stage.current_a, default=None)


@lru_cache(maxsize=64)
def start_run(case: StartCase) -> StartRun:
    """Run one start until the motor has run up."""
    end = case.pull_s + CONSTANTS * case.tau_s
    seconds = distinct(
        np.concatenate([[0.0], np.geomspace(1e-5, end, FINE), np.linspace(0.0, end, EVEN)])
    )
    start = _integrated(case, seconds.tolist())
    current = start.current_a
    stages = tuple(
        StageMet(
            stage, _sustained(seconds, current, stage.delay_s), over_s(seconds, current, stage)
        )
        for stage in case.stages
    )
    trips = [
        _tripped(seconds, current, met.stage) for met in stages if met.over_s > met.stage.delay_s
    ]
    return StartRun(
        case,
        seconds,
        current_a=current,
        stages=stages,
        trip_s=min(trips, default=None),
        surge_c=start.hottest_c,
        peak_a=float(current.max()),
    )


@lru_cache(maxsize=64)
def largest_start(case: StartCase) -> StartRun | None:
    """The largest start that no stage ends, to a hundredth; ``None`` where even running trips.

    What a standing motor draws is tried from the running current of ``case`` up to what its source
    gives in a short circuit. The motor's own resistance is never less than a tenth of the whole.
    """
    low, high = case.run_a, case.emf_v / max(case.source_ohm, LEAST_SOURCE_OHM)
    most = start_run(replace(case, start_a=high))
    if most.trip_s is None:
        return most
    found = None
    while high > low * SAME_START:
        middle = math.sqrt(low * high)
        run = start_run(replace(case, start_a=middle))
        if run.trip_s is None:
            low, found = middle, run
        else:
            high = middle
    return found


class _Start(NamedTuple):
    """Battery current in A at each time, and the hottest the thermistor gets in degC."""

    current_a: Array
    hottest_c: float


def _integrated(case: StartCase, seconds: list[float]) -> _Start:
    """Battery current in A at each time, and the hottest the thermistor gets in °C.

    Heun's method over the speed as a share of the ideal one, and the thermistor's temperature.
    """
    emf, part = case.emf_v, case.surge
    whole = emf / case.start_a
    motor = max(whole - case.source_ohm, LEAST_MOTOR * whole)
    gain = 1.0 / (case.start_a * case.tau_s)
    leaves = 0.0 if part is None else part.dissipation_w_per_k or 0.0
    stored = leaves * (0.0 if part is None else part.time_constant_s or 0.0)
    limit, pull, run = case.limit_a, case.pull_s, case.run_a
    source, ambient = case.source_ohm, case.ambient_c

    def flow(time: float, speed: float, warm: float) -> tuple[float, float, float]:
        duty = min(1.0, time / pull) if pull > 0.0 else 1.0
        ohm = 0.0 if part is None else thermistor_ohm(part, warm)
        amps = max(0.0, (duty - speed) * emf / (motor + duty * duty * (source + ohm)))
        drawn = duty * amps
        if drawn > limit:
            drawn, amps = limit, limit / duty
        faster = (amps - run) * gain
        if speed <= 0.0 and faster < 0.0:
            faster = 0.0
        heat = 0.0 if stored <= 0.0 else (drawn * drawn * ohm - leaves * (warm - ambient)) / stored
        return drawn, faster, heat

    speed, warm, hottest = 0.0, ambient, ambient
    drawn, one, heat_one = flow(0.0, speed, warm)
    current = [drawn]
    for before, now in pairwise(seconds):
        step = now - before
        _, two, heat_two = flow(now, speed + step * one, warm + step * heat_one)
        speed = max(0.0, speed + HALF * step * (one + two))
        warm += HALF * step * (heat_one + heat_two)
        hottest = max(hottest, warm)
        drawn, one, heat_one = flow(now, speed, warm)
        current.append(drawn)
    return _Start(np.array(current), hottest)


def _spells(seconds: Array, current: Array, level: float) -> list[tuple[float, float]]:
    """Stretches (from, to) in s in which the current is over a level, crossings made straight."""
    over = current > level
    spells: list[tuple[float, float]] = []
    begun: float | None = float(seconds[0]) if over[0] else None
    for place in np.flatnonzero(over[1:] != over[:-1]) + 1:
        low, high = current[place - 1], current[place]
        share = (level - low) / (high - low)
        at = float(seconds[place - 1] + share * (seconds[place] - seconds[place - 1]))
        if over[place]:
            begun = at
        elif begun is not None:
            spells.append((begun, at))
            begun = None
    if begun is not None:
        # What is still over at the end stays so: the motor has run up.
        spells.append((begun, math.inf))
    return spells


def over_s(seconds: Array, current: Array, stage: BoardStage) -> float:
    """The longest time in s for which a stage's current is passed without a break.

    ``current`` in A (n,) flows at ``seconds`` (n,).
    """
    return max(
        (to - since for since, to in _spells(seconds, current, stage.current_a)), default=0.0
    )


def _tripped(seconds: Array, current: Array, stage: BoardStage) -> float:
    spells = _spells(seconds, current, stage.current_a)
    return min(since + stage.delay_s for since, to in spells if to - since > stage.delay_s)


def _sustained(seconds: Array, current: Array, delay_s: float) -> float:
    """The largest current that is passed for so long without a break, found by halving."""
    low, high = 0.0, float(current.max())
    for _ in range(HALVINGS):
        middle = (low + high) / 2.0
        longest = max((to - since for since, to in _spells(seconds, current, middle)), default=0.0)
        if longest >= delay_s:
            low = middle
        else:
            high = middle
    return low


def start_case(
    limit_a: float | None,
    start: Start,
    draw: Draw,
    full_v: float,
    ohm: float,
    board: Board | None,
    surge: Surge | None,
    ambient: Figure,
) -> StartCase | None:
    """A fast start of the motor on this pack; ``None`` where it draws no more than running.

    ``limit_a`` is what a controller lets by, ``ohm`` what lies in the pack and its leads.
    """
    if 0.0 < draw.start_a <= draw.continuous_a:
        return None
    source = ohm + (0.0 if board is None else board.resistance_ohm)
    return StartCase(
        full_v,
        float(f"{source:.4g}"),
        start_a=draw.start_a,
        run_a=draw.continuous_a,
        tau_s=draw.tau_s,
        pull_s=start.fast_s,
        stages=() if board is None else board.stages,
        surge=surge,
        ambient_c=ambient.number,
        limit_a=float("inf") if limit_a is None else limit_a,
    )
