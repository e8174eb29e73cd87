"""A discharge in time: volts, amps, charge and temperature until something ends it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.cells.cell_model import (
    FAST_SHARE,
    SLOW_SHARE,
    TIME_CONSTANT_S,
    charge_factor,
    resistance,
    temperature_factor,
)

Array = NDArray[np.float64]


End = Literal["stop voltage", "empty cell", "too warm", "power not to be had", "time is up"]


GRID = 1000


TEMPERATURE_LOW_C, TEMPERATURE_STEP_C, TEMPERATURE_POINTS = -60.0, 0.5, 481


LONGEST_S = 1000.0 * 3600.0


@dataclass(frozen=True, slots=True)
class Step:
    """A part of a duty: a current in A, or else a power in W at the terminals, for ``seconds``."""

    current_a: float | None
    power_w: float | None
    seconds: float


@dataclass(frozen=True, slots=True)
class ModelledPack:
    """What is discharged: S x P cells behind ``path_ohm``, as one warm lump in the air."""

    cell: Cell
    chemistry: Chemistry
    series: int
    parallel: int
    capacity_ah: float
    path_ohm: float
    heat_path_ohm: float
    stop_v: float
    ambient_c: float
    limit_c: float
    kelvin_per_watt: float
    joule_per_kelvin: float


@dataclass(frozen=True, slots=True)
class Run:
    """A discharge: its course as columns (n,), what ended it, and where the energy went.

    Charge in Ah and energies in Wh are those of the whole pack; ``emf_wh`` is what the cells gave
    at their rest voltage, ``stored_wh`` what is left in their slow branch.
    """

    time_s: Array
    volts: Array
    amps: Array
    charge: Array
    temperature_c: Array
    ended: End
    taken_ah: float
    delivered_wh: float
    emf_wh: float
    cell_loss_wh: float
    path_loss_wh: float
    stored_wh: float

    @property
    def hours(self) -> float:
        """How long it ran, in h."""
        return float(self.time_s[-1]) / 3600.0


@dataclass(slots=True)
class _State:
    """Where a discharge stands: charge, volts of a cell's slow branch, temperature, and sums.

    ``rest_v`` and ``factor`` follow from charge and temperature; they are kept, for each is wanted
    more than once.
    """

    charge: float
    slow_v: float
    celsius: float
    rest_v: float
    factor: float
    emf_j: float = 0.0
    delivered_j: float = 0.0
    cell_loss_j: float = 0.0
    path_loss_j: float = 0.0


@lru_cache(maxsize=64)
def _rest_grid(curve: tuple[tuple[float, float], ...]) -> list[float]:
    """Rest voltage at even steps of charge, and one more value so that a look-up may end at 1."""
    charge, volts = np.array(curve).T
    return [*np.interp(np.linspace(0.0, 1.0, GRID + 1), charge, volts).tolist(), 0.0]


@lru_cache(maxsize=1)
def _resistance_grids() -> tuple[list[float], list[float]]:
    """Resistance factors at even steps of charge, and of temperature."""
    celsius = TEMPERATURE_LOW_C + TEMPERATURE_STEP_C * np.arange(TEMPERATURE_POINTS)
    shape = charge_factor(np.linspace(0.0, 1.0, GRID + 1))
    return [*shape.tolist(), 0.0], [temperature_factor(value) for value in celsius]


class _Model:
    """A pack with its curves on even grids, so that a step is a few look-ups."""

    def __init__(self, pack: ModelledPack) -> None:
        self.pack = pack
        self.rest = _rest_grid(pack.chemistry.curve)
        self.shape, self.warm = _resistance_grids()
        ohm = resistance(pack.cell).number
        self.fast_ohm, self.slow_ohm = FAST_SHARE * ohm, SLOW_SHARE * ohm
        self.cells = pack.series * pack.parallel
        self.charge_per_as = 1.0 / (3600.0 * pack.capacity_ah)
        self.cooling_s = pack.kelvin_per_watt * pack.joule_per_kelvin
        # The capacitance is fixed, so that the energy in it is a function of its voltage alone.
        self.farad = TIME_CONSTANT_S / self.slow_ohm

    def start(self, charge: float) -> _State:
        """At rest at a charge, as warm as the air."""
        celsius = self.pack.ambient_c
        return _State(charge, 0.0, celsius, self.ocv(charge), self.factor(charge, celsius))

    def ocv(self, charge: float) -> float:
        place = 0.0 if charge <= 0.0 else GRID if charge >= 1.0 else charge * GRID
        low = int(place)
        under = self.rest[low]
        return under + (self.rest[low + 1] - under) * (place - low)

    def factor(self, charge: float, celsius: float) -> float:
        """Resistance over that at half charge and 25 degC."""
        place = 0.0 if charge <= 0.0 else GRID if charge >= 1.0 else charge * GRID
        low = int(place)
        under = self.shape[low]
        shape = under + (self.shape[low + 1] - under) * (place - low)
        spot = (celsius - TEMPERATURE_LOW_C) / TEMPERATURE_STEP_C
        if not 0.0 <= spot <= TEMPERATURE_POINTS - 1.001:
            spot = min(max(spot, 0.0), TEMPERATURE_POINTS - 1.001)
        near = int(spot)
        under = self.warm[near]
        return shape * (under + (self.warm[near + 1] - under) * (spot - near))

    def current(self, state: _State, step: Step) -> float:
        """Current in A of the pack now; NaN where the power cannot be had."""
        if step.power_w is None:
            return step.current_a or 0.0
        pack = self.pack
        emf = pack.series * (state.rest_v - state.slow_v)
        ohm = pack.path_ohm + pack.series * self.fast_ohm * state.factor / pack.parallel
        root = emf * emf - 4.0 * ohm * step.power_w
        return math.nan if root < 0.0 else 2.0 * step.power_w / (emf + math.sqrt(root))

    def volts(self, state: _State, amps: float) -> tuple[float, float]:
        """Terminal volts of the pack, and of one cell, at ``amps``."""
        each = amps / self.pack.parallel
        cell = state.rest_v - state.slow_v - each * self.fast_ohm * state.factor
        return self.pack.series * cell - amps * self.pack.path_ohm, cell

    def advance(self, state: _State, amps: float, factor: float, seconds: float) -> _State:
        """The state after ``seconds`` at a held current and resistance factor, in closed form."""
        pack = self.pack
        cells = self.cells
        each = amps / pack.parallel
        charge = state.charge - amps * seconds * self.charge_per_as
        fast, slow = self.fast_ohm * factor, self.slow_ohm * factor
        tau = slow * self.farad
        level = each * slow
        gap = state.slow_v - level
        fade = math.exp(-seconds / tau)
        slow_v = level + gap * fade
        # Integrals of v and v^2 of the slow branch over the step.
        area = level * seconds + gap * tau * (1.0 - fade)
        square = (
            level * level * seconds
            + 2.0 * level * gap * tau * (1.0 - fade)
            + 0.5 * gap * gap * tau * (1.0 - fade * fade)
        )
        rest_v = self.ocv(charge)
        emf = 0.5 * (state.rest_v + rest_v) * each * seconds
        loss = each * each * fast * seconds + square / slow
        path = amps * amps * pack.path_ohm * seconds
        given = (emf - each * area - each * each * fast * seconds) * cells - path
        heat_w = loss * cells / seconds + amps * amps * pack.heat_path_ohm if seconds > 0.0 else 0.0
        steady = pack.ambient_c + heat_w * pack.kelvin_per_watt
        cool = math.exp(-seconds / self.cooling_s)
        celsius = steady + (state.celsius - steady) * cool
        return _State(
            charge,
            slow_v,
            celsius,
            rest_v,
            self.factor(charge, celsius),
            state.emf_j + emf * cells,
            state.delivered_j + given,
            state.cell_loss_j + loss * cells,
            state.path_loss_j + path,
        )

    def halfway(self, state: _State, amps: float, seconds: float) -> _State:
        """As ``advance`` from the state's own resistance, but without the sums, and with the heat
        of steady current.
        """
        factor = state.factor
        pack = self.pack
        each = amps / pack.parallel
        slow = self.slow_ohm * factor
        level = each * slow
        slow_v = level + (state.slow_v - level) * math.exp(-seconds / (slow * self.farad))
        loss = (
            each * each * self.fast_ohm * factor
            + 0.5 * (state.slow_v * state.slow_v + slow_v * slow_v) / slow
        )
        heat_w = loss * self.cells + amps * amps * pack.heat_path_ohm
        steady = pack.ambient_c + heat_w * pack.kelvin_per_watt
        cool = math.exp(-seconds / self.cooling_s)
        charge = state.charge - amps * seconds * self.charge_per_as
        celsius = steady + (state.celsius - steady) * cool
        return _State(charge, slow_v, celsius, self.ocv(charge), self.factor(charge, celsius))

    def midway(self, state: _State, step: Step, seconds: float) -> tuple[_State, float]:
        """One step of the midpoint rule; the current held is that of the middle."""
        amps = self.current(state, step)
        if math.isnan(amps):
            return state, amps
        half = self.halfway(state, amps, 0.5 * seconds)
        middle = self.current(half, step)
        if math.isnan(middle):
            return state, middle
        return self.advance(state, middle, half.factor, seconds), middle

    def verdict(self, state: _State, volts: float, cell_v: float) -> End | None:
        """What ends the run in this state; ``None`` to go on."""
        pack = self.pack
        if volts < pack.stop_v:
            return "stop voltage"
        if cell_v < pack.cell.voltage_empty_v or state.charge <= 0.0:
            return "empty cell"
        return "too warm" if state.celsius > pack.limit_c else None


def discharge(
    pack: ModelledPack,
    duty: Sequence[Step],
    step_s: float,
    charge: float = 1.0,
    longest_s: float = LONGEST_S,
) -> Run:
    """Repeat ``duty`` from ``charge`` until something ends it (methods 16).

    One fast resistance and one slow branch a cell, both following charge and temperature; one warm
    lump. Midpoint rule with steps of at most ``step_s``; the last step is cut where the limit is
    met. Raises ValueError for a duty without time.
    """
    if not duty or any(step.seconds <= 0.0 for step in duty) or step_s <= 0.0:
        raise ValueError("a duty wants steps of more than 0 s")
    model = _Model(pack)
    state = model.start(charge)
    first = model.current(state, duty[0])
    volts = math.nan if math.isnan(first) else model.volts(state, first)[0]
    course = [(0.0, volts, first, charge, pack.ambient_c)]
    ended: End | None = None
    place, done = 0, 0
    while ended is None:
        state, place, done = _whole_steps(
            model, state, duty, place, done, step_s, longest_s, course
        )
        step = duty[place % len(duty)]
        pieces, size = pieces_of(step, step_s)
        span = min(size, longest_s - course[-1][0])
        if span <= 0.0:
            ended = "time is up"
            break
        state, span, ended, current, terminal = _one_step(model, state, step, span)
        course.append((course[-1][0] + span, terminal, current, state.charge, state.celsius))
        place, done = (place, done + 1) if done + 1 < pieces else (place + 1, 0)
    times, volts_n, amps_n, charges, celsius = np.array(course).T
    cells = pack.series * pack.parallel
    return Run(
        time_s=times,
        volts=volts_n,
        amps=amps_n,
        charge=charges,
        temperature_c=celsius,
        ended=ended,
        taken_ah=(charge - state.charge) * pack.capacity_ah,
        delivered_wh=state.delivered_j / 3600.0,
        emf_wh=state.emf_j / 3600.0,
        cell_loss_wh=state.cell_loss_j / 3600.0,
        path_loss_wh=state.path_loss_j / 3600.0,
        stored_wh=0.5 * model.farad * state.slow_v**2 * cells / 3600.0,
    )


def pieces_of(step: Step, step_s: float) -> tuple[int, float]:
    """Into how many equal pieces of at most ``step_s`` a step is cut, and their seconds."""
    pieces = max(1, math.ceil(step.seconds / step_s - 1e-9))
    return pieces, step.seconds / pieces


def _whole_steps(  # noqa: PLR0912, PLR0915
    model: _Model,
    state: _State,
    duty: Sequence[Step],
    place: int,
    done: int,
    step_s: float,
    longest_s: float,
    course: list[tuple[float, float, float, float, float]],
) -> tuple[_State, int, int]:
    """Whole pieces of the duty, repeated, as long as nothing ends the run.

    Begins after ``done`` pieces of step ``place``, writes each piece to ``course``, and returns
    the state and where it stopped. This is ``midway`` and ``_end_of`` with all names at hand: it
    is where a run spends its time, and calls would take most of it. It is long for that reason.
    """
    pack = model.pack
    rest, shape, warm = model.rest, model.shape, model.warm
    series, parallel, cells = pack.series, pack.parallel, model.cells
    path_ohm, heat_ohm, ambient = pack.path_ohm, pack.heat_path_ohm, pack.ambient_c
    fast_ohm, slow_ohm, farad = model.fast_ohm, model.slow_ohm, model.farad
    stop_v, empty_v, limit_c = pack.stop_v, pack.cell.voltage_empty_v, pack.limit_c
    exp, sqrt = math.exp, math.sqrt
    kelvin, charge_per_as = pack.kelvin_per_watt, model.charge_per_as
    cooling_s, count = model.cooling_s, len(duty)
    top = TEMPERATURE_POINTS - 1.001
    now = course[-1][0]
    charge, slow_v, celsius = state.charge, state.slow_v, state.celsius
    rest_v, factor = state.rest_v, state.factor
    emf_j, delivered_j = state.emf_j, state.delivered_j
    cell_loss_j, path_loss_j = state.cell_loss_j, state.path_loss_j
    pieces, size, cool, cool_half = 0, -1.0, 0.0, 0.0
    power: float | None = None
    amps = held_a = half = 0.0
    while True:
        if done >= pieces:
            # The next step of the duty, or the one to begin with.
            if pieces:
                place, done = place + 1, 0
            step = duty[place % count]
            pieces = max(1, math.ceil(step.seconds / step_s - 1e-9))
            span = step.seconds / pieces
            if span != size:
                size, half = span, 0.5 * span
                cool, cool_half = exp(-size / cooling_s), exp(-half / cooling_s)
            power, held_a = step.power_w, step.current_a or 0.0
            amps = held_a
        if now + size > longest_s:
            break
        # To the middle, at the current of the start.
        if power is not None:
            emf = series * (rest_v - slow_v)
            ohm = path_ohm + series * fast_ohm * factor / parallel
            root = emf * emf - 4.0 * ohm * power
            if root < 0.0:
                break
            amps = 2.0 * power / (emf + sqrt(root))
        each = amps / parallel
        slow = slow_ohm * factor
        level = each * slow
        half_v = level + (slow_v - level) * exp(-half / (slow * farad))
        loss = each * each * fast_ohm * factor + 0.5 * (slow_v * slow_v + half_v * half_v) / slow
        steady = ambient + (loss * cells + amps * amps * heat_ohm) * kelvin
        half_charge = charge - amps * half * charge_per_as
        half_c = steady + (celsius - steady) * cool_half
        along = 0.0 if half_charge <= 0.0 else GRID if half_charge >= 1.0 else half_charge * GRID
        low = int(along)
        share = along - low
        under = shape[low]
        half_factor = under + (shape[low + 1] - under) * share
        spot = (half_c - TEMPERATURE_LOW_C) / TEMPERATURE_STEP_C
        if not 0.0 <= spot <= top:
            spot = min(max(spot, 0.0), top)
        near = int(spot)
        under = warm[near]
        half_factor *= under + (warm[near + 1] - under) * (spot - near)
        if power is not None:
            under = rest[low]
            emf = series * (under + (rest[low + 1] - under) * share - half_v)
            ohm = path_ohm + series * fast_ohm * half_factor / parallel
            root = emf * emf - 4.0 * ohm * power
            if root < 0.0:
                break
            amps = 2.0 * power / (emf + sqrt(root))
            each = amps / parallel
        # The whole step, at the current and the resistance of the middle.
        next_charge = charge - amps * size * charge_per_as
        fast, slow = fast_ohm * half_factor, slow_ohm * half_factor
        tau = slow * farad
        level = each * slow
        gap = slow_v - level
        fade = exp(-size / tau)
        next_v = level + gap * fade
        area = level * size + gap * tau * (1.0 - fade)
        square = (
            level * level * size
            + 2.0 * level * gap * tau * (1.0 - fade)
            + 0.5 * gap * gap * tau * (1.0 - fade * fade)
        )
        along = 0.0 if next_charge <= 0.0 else GRID if next_charge >= 1.0 else next_charge * GRID
        low = int(along)
        share = along - low
        under = rest[low]
        next_rest = under + (rest[low + 1] - under) * share
        emf = 0.5 * (rest_v + next_rest) * each * size
        loss = each * each * fast * size + square / slow
        path = amps * amps * path_ohm * size
        given = (emf - each * area - each * each * fast * size) * cells - path
        steady = ambient + (loss * cells / size + amps * amps * heat_ohm) * kelvin
        next_c = steady + (celsius - steady) * cool
        under = shape[low]
        next_factor = under + (shape[low + 1] - under) * share
        spot = (next_c - TEMPERATURE_LOW_C) / TEMPERATURE_STEP_C
        if not 0.0 <= spot <= top:
            spot = min(max(spot, 0.0), top)
        near = int(spot)
        under = warm[near]
        next_factor *= under + (warm[near + 1] - under) * (spot - near)
        # Whether it may stand there.
        drawn = held_a
        if power is not None:
            emf_v = series * (next_rest - next_v)
            ohm = path_ohm + series * fast_ohm * next_factor / parallel
            root = emf_v * emf_v - 4.0 * ohm * power
            if root < 0.0:
                break
            drawn = 2.0 * power / (emf_v + sqrt(root))
        cell_v = next_rest - next_v - drawn / parallel * fast_ohm * next_factor
        volts = series * cell_v - drawn * path_ohm
        if volts < stop_v or cell_v < empty_v or next_charge <= 0.0 or next_c > limit_c:
            break
        charge, slow_v, celsius, rest_v, factor = (
            next_charge, next_v, next_c, next_rest, next_factor,
        )  # fmt: skip
        emf_j += emf * cells
        delivered_j += given
        cell_loss_j += loss * cells
        path_loss_j += path
        now += size
        done += 1
        course.append((now, volts, drawn, charge, celsius))
    after = _State(
        charge, slow_v, celsius, rest_v, factor, emf_j, delivered_j, cell_loss_j, path_loss_j
    )
    return after, place, done


def _one_step(
    model: _Model, state: _State, step: Step, span: float
) -> tuple[_State, float, End | None, float, float]:
    """Advance by ``span`` seconds, or to where a limit is met within it.

    Returns the state, the seconds, what ended it, and amps and terminal volts there.
    """
    fresh, held = model.midway(state, step, span)
    end, amps, volts = _end_of(model, fresh, held, step)
    if end is None:
        return fresh, span, None, amps, volts
    low, high, reached = 0.0, span, (state, 0.0)
    for _ in range(30):
        middle = 0.5 * (low + high)
        tried, held = model.midway(state, step, middle)
        if _end_of(model, tried, held, step)[0] is None:
            low, reached = middle, (tried, middle)
        else:
            high = middle
    current = model.current(reached[0], step)
    volts = math.nan if math.isnan(current) else model.volts(reached[0], current)[0]
    return *reached, end, current, volts


def _end_of(
    model: _Model, state: _State, held: float, step: Step
) -> tuple[End | None, float, float]:
    """What ends the run in this state, if anything does, with its amps and terminal volts."""
    amps = model.current(state, step)
    if math.isnan(held) or math.isnan(amps):
        return "power not to be had", amps, math.nan
    volts, cell_v = model.volts(state, amps)
    return model.verdict(state, volts, cell_v), amps, volts
