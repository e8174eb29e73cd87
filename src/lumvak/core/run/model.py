"""A pack that is discharged, modelled: volts, current and the state after a step."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np

from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.cells.cell_model import (
    FAST_SHARE,
    SLOW_SHARE,
    TIME_CONSTANT_S,
    charge_factor,
    resistance,
    temperature_factor,
)

End = Literal["stop voltage", "empty cell", "too warm", "power not to be had", "time is up"]
# Even steps of charge and of temperature in the grids.
GRID = 1000
TEMPERATURE_LOW_C, TEMPERATURE_STEP_C, TEMPERATURE_POINTS = -60.0, 0.5, 481


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


@dataclass(slots=True)
class State:
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


class Model:
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

    def start(self, charge: float) -> State:
        """At rest at a charge, as warm as the air."""
        celsius = self.pack.ambient_c
        return State(charge, 0.0, celsius, self.ocv(charge), self.factor(charge, celsius))

    def ocv(self, charge: float) -> float:
        """Rest voltage in V of a cell at a charge."""
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

    def current(self, state: State, step: Step) -> float:
        """Current in A of the pack now; NaN where the power cannot be had."""
        if step.power_w is None:
            return step.current_a or 0.0
        pack = self.pack
        emf = pack.series * (state.rest_v - state.slow_v)
        ohm = pack.path_ohm + pack.series * self.fast_ohm * state.factor / pack.parallel
        root = emf * emf - 4.0 * ohm * step.power_w
        return math.nan if root < 0.0 else 2.0 * step.power_w / (emf + math.sqrt(root))

    def volts(self, state: State, amps: float) -> tuple[float, float]:
        """Terminal volts of the pack, and of one cell, at ``amps``."""
        each = amps / self.pack.parallel
        cell = state.rest_v - state.slow_v - each * self.fast_ohm * state.factor
        return self.pack.series * cell - amps * self.pack.path_ohm, cell

    def advance(self, state: State, amps: float, factor: float, seconds: float) -> State:
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
        return State(
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

    def halfway(self, state: State, amps: float, seconds: float) -> State:
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
        return State(charge, slow_v, celsius, self.ocv(charge), self.factor(charge, celsius))

    def midway(self, state: State, step: Step, seconds: float) -> tuple[State, float]:
        """One step of the midpoint rule; the current held is that of the middle."""
        amps = self.current(state, step)
        if math.isnan(amps):
            return state, amps
        half = self.halfway(state, amps, 0.5 * seconds)
        middle = self.current(half, step)
        if math.isnan(middle):
            return state, middle
        return self.advance(state, middle, half.factor, seconds), middle

    def verdict(self, state: State, volts: float, cell_v: float) -> End | None:
        """What ends the run in this state; ``None`` to go on."""
        pack = self.pack
        if volts < pack.stop_v:
            return "stop voltage"
        if cell_v < pack.cell.voltage_empty_v or state.charge <= 0.0:
            return "empty cell"
        return "too warm" if state.celsius > pack.limit_c else None
