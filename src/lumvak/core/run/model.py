"""A pack that is discharged, modelled: the equations of a run over columns (methods 16).

A column stands for moments of one run, for lengths of one step, or for many packs side by side.
"""

from __future__ import annotations

from typing import Literal, NamedTuple

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.cells.cell_model import TIME_CONSTANT_S, ZERO_C_K

Array = NDArray[np.float64]
End = Literal["low-voltage cut-off", "empty cell", "too warm", "power not to be had", "time is up"]
ENDS: tuple[End, ...] = ("low-voltage cut-off", "empty cell", "too warm")


class RunStep(Struct, frozen=True):
    """A part of a duty: a current in A, or else a power in W at the terminals, for ``seconds``."""

    current_a: float | None
    power_w: float | None
    seconds: float


# What stands for the low-voltage cut-off where nothing but the cells ends a run.
NO_STOP_V = 0.01


class ModelledPack(Struct, frozen=True):
    """What is discharged: S x P cells behind ``path_ohm``, as one warm lump in the air."""

    cell: Cell
    behaviour: Behaviour
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


class States(Struct):
    """Where discharges stand, (n,) each.

    Mean charge, volts of a cell's slow branch, by how much of the charge the surface lags, and
    temperature in degC.
    """

    charge: Array
    slow_v: Array
    lag: Array
    celsius: Array

    def part(self, chosen: slice | NDArray[np.intp]) -> States:
        """Some of them."""
        return States(
            self.charge[chosen], self.slow_v[chosen], self.lag[chosen], self.celsius[chosen]
        )


class Loads(Struct):
    """What is asked for, (n,): amps, and watts, NaN where amps count; ``None`` where all do."""

    amps: Array
    watts: Array | None

    def part(self, chosen: slice) -> Loads:
        """Some of them."""
        return Loads(self.amps[chosen], None if self.watts is None else self.watts[chosen])


class Spans(Struct):
    """Lengths of steps in s, (n,) or one for all, and what only they decide.

    ``_left`` is what is left of a state's way after the step, ``_mean`` the mean of that over it,
    ``lag_way`` where the mean of the lag lies between its begin and its end.
    """

    seconds: Array
    slow_left: Array
    slow_mean: Array
    lag_left: Array
    lag_way: Array
    celsius_left: Array


class CellDraw(Struct):
    """What is drawn from cells at some moment, (n,), and where the slow branch tends with it.

    ``sag`` is amps of a cell times its factor over the resistance at 25 degC and half charge.
    ``short`` is where the power cannot be had; the current there is the one of the most power.
    """

    amps: Array
    surface_v: Array
    sag: Array
    slow_to: Array
    short: NDArray[np.bool_] | None


class RunCourse(Struct):
    """Steps at a held draw, (n,): where the temperature tends, and the energies.

    ``emf_w`` is what the cells give at the rest voltage of their mean charge, ``given_w`` what
    leaves the terminals, means over the step.
    """

    draw: CellDraw
    celsius_to: Array
    emf_w: Array
    given_w: Array


class Stepped(NamedTuple):
    """Where steps end, and how they went."""

    ends: States
    course: RunCourse


class AtTerminals(NamedTuple):
    """Volts and amps (n,) at the terminals, and how far from the limits of ENDS (3, n)."""

    volts: Array
    amps: Array
    margins: Array


class Model:
    """A pack with its equations; drawn packs have factors and an ambient of their own, (n,).

    The factors are over what the pack has: ``capacity``, ``resistance`` of the cells, ``cooling``,
    the thermal resistance to the air.
    """

    def __init__(
        self,
        pack: ModelledPack,
        capacity: float | Array = 1.0,
        resistance: float | Array = 1.0,
        ambient_c: float | Array | None = None,
        cooling: float | Array = 1.0,
    ) -> None:
        seen = pack.behaviour
        self.pack, self.seen = pack, seen
        self.fast_ohm, self.slow_ohm = seen.fast_ohm * resistance, seen.slow_ohm * resistance
        self.charge_per_as = 1.0 / (3600.0 * pack.capacity_ah * capacity)
        self.ambient_c = pack.ambient_c if ambient_c is None else ambient_c
        self.kelvin_per_watt = pack.kelvin_per_watt * cooling
        self.cooling_s = self.kelvin_per_watt * pack.joule_per_kelvin

    def start(self, charge: float, count: int = 1) -> States:
        """At rest at a charge, as warm as the air."""
        still = np.zeros(count)
        return States(still + charge, still, still, still + self.ambient_c)

    def spans(self, seconds: Array) -> Spans:
        """What the lengths of steps decide by themselves."""
        slow_left, slow_mean, _ = _settling(seconds, TIME_CONSTANT_S)
        lag_left, _, lag_way = _settling(seconds, self.seen.lag_settles_s)
        cool = np.exp(seconds / -self.cooling_s)
        return Spans(seconds, slow_left, slow_mean, lag_left, lag_way, cool)

    def draw(self, at: States, loads: Loads) -> CellDraw:
        """What is drawn where discharges stand."""
        pack, seen = self.pack, self.seen
        surface = at.charge - at.lag
        surface_v = seen.rest(surface)
        factor = seen.charge_factor(surface) * seen.ohm_factor(at.celsius)
        amps, short = loads.amps, None
        if loads.watts is not None:
            emf = pack.series * (surface_v - at.slow_v)
            ohm = pack.path_ohm + pack.series / pack.parallel * self.fast_ohm * factor
            root = emf * emf - 4.0 * ohm * loads.watts
            by_amps = np.isnan(loads.watts)
            short = ~by_amps & ((root < 0.0) | (emf <= 0.0))
            below = np.maximum(emf + np.sqrt(np.maximum(root, 0.0)), 1e-9)
            amps = np.where(by_amps, loads.amps, 2.0 * loads.watts / below)
        sag = amps * factor / pack.parallel
        return CellDraw(amps, surface_v, sag, sag * self.slow_ohm, short)

    def course(self, middle: States, slow_v: Array, draw: CellDraw) -> RunCourse:
        """Steps with the draw of their middle; ``slow_v`` is the mean of the slow branch in them.

        The loss of a cell is what its rest voltage gives and its terminals do not, and warms it at
        once, with the reversible heat.
        """
        pack, seen = self.pack, self.seen
        through = draw.amps * pack.series
        emf_w = through * seen.rest(middle.charge)
        cells_w = through * (draw.surface_v - slow_v - draw.sag * self.fast_ohm)
        reversible = through * (middle.celsius + ZERO_C_K) * -seen.entropy_v_per_k
        square = draw.amps * draw.amps
        heat_w = emf_w - cells_w + reversible + square * pack.heat_path_ohm
        return RunCourse(
            draw,
            heat_w * self.kelvin_per_watt + self.ambient_c,
            emf_w,
            cells_w - square * pack.path_ohm,
        )

    def lag_to(self, amps: Array, middle: States) -> Array:
        """Where the lag tends at a current."""
        seen = self.seen
        rate = amps * self.charge_per_as
        settled = rate * seen.lag_factor(middle.celsius) * seen.lag_s
        if seen.reach_h == 0.0:
            return settled
        taken = np.clip(1.0 - middle.charge, 0.0, 1.0)
        return settled + taken * (1.0 / seen.reached(rate, seen.reach_factor(middle.celsius)) - 1.0)

    def stepped(self, at: States, loads: Loads, spans: Spans, rounds: int) -> Stepped:
        """Where steps end, each begun at its own state, by so many rounds of the midpoint rule."""
        middle = at
        for count in range(rounds):
            draw = self.draw(middle, loads)
            slow_v = draw.slow_to + (at.slow_v - draw.slow_to) * spans.slow_mean
            course = self.course(middle, slow_v, draw)
            lag_to = self.lag_to(draw.amps, middle)
            ends = States(
                at.charge - draw.amps * self.charge_per_as * spans.seconds,
                draw.slow_to + (at.slow_v - draw.slow_to) * spans.slow_left,
                lag_to + (at.lag - lag_to) * spans.lag_left,
                course.celsius_to + (at.celsius - course.celsius_to) * spans.celsius_left,
            )
            if count + 1 < rounds:
                middle = States(
                    0.5 * (at.charge + ends.charge),
                    slow_v,
                    at.lag + (ends.lag - at.lag) * spans.lag_way,
                    0.5 * (at.celsius + ends.celsius),
                )
        return Stepped(ends, course)

    def seen_at(self, at: States, loads: Loads) -> AtTerminals:
        """Terminal volts, amps (n,), and how far discharges are from the limits of ENDS, (3, n).

        Under 0 past a limit; volts, amps and the first limit are NaN where the power cannot be had.
        """
        pack, draw = self.pack, self.draw(at, loads)
        amps = draw.amps
        cell_v = draw.surface_v - at.slow_v - draw.sag * self.fast_ohm
        volts = pack.series * cell_v - amps * pack.path_ohm
        if draw.short is not None:
            amps, volts = np.where(draw.short, np.nan, amps), np.where(draw.short, np.nan, volts)
        empty = pack.cell.voltage_empty_v
        margins = np.array(
            np.broadcast_arrays(
                (volts - pack.stop_v) / pack.stop_v,
                np.minimum((cell_v - empty) / empty, at.charge),
                (pack.limit_c - at.celsius) / 100.0,
            )
        )
        return AtTerminals(volts, amps, margins)


def _settling(seconds: Array, constant_s: float) -> tuple[Array, Array, Array]:
    """What is left of a way after ``seconds``, the mean of it, and the place of the mean."""
    share = seconds / constant_s
    left = np.exp(-share)
    mean = -np.expm1(-share) / share
    # For a short step the mean lies halfway; the difference would be lost in the digits.
    way = np.where(share > 1e-4, (1.0 - mean) / np.maximum(1.0 - left, 1e-300), 0.5)
    return left, mean, way
