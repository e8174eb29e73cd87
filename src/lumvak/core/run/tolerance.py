"""Tolerance: many packs drawn from the spreads, each run until something ends it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lumvak.core.cells.cell_model import (
    FAST_SHARE,
    SLOW_SHARE,
    TEMPERATURE_FACTORS,
    TEMPERATURE_POINTS_C,
    TIME_CONSTANT_S,
    charge_factor,
    resistance,
)
from lumvak.core.document.run import RunSettings
from lumvak.core.figures.figure import Figure, computed, typed
from lumvak.core.need.demand import Demand
from lumvak.core.run.figures import duty_steps, step_of
from lumvak.core.run.model import ModelledPack, Step
from lumvak.core.sizing.sized_pack import SizedPack

Array = NDArray[np.float64]
Report = Callable[[float], bool]
# No draw lies further out than this many standard deviations.
FURTHEST = 3.0
BAND = (0.05, 0.50, 0.95)
# A run is followed for this many times the run time expected.
TIMES_EXPECTED = 3


class Cancelled(Exception):
    """The draw was called off."""


@dataclass(frozen=True, slots=True)
class Drawn:
    """What was drawn for each of n packs: factors, and the ambient temperature in degC."""

    capacity: Array
    resistance: Array
    ambient_c: Array
    load: Array


@dataclass(frozen=True, slots=True)
class Tolerance:
    """How n drawn packs ran: columns (n,), and the band of the volts over time.

    ``band_v`` is (3, m) at ``time_s`` (m,): 5, 50 and 95 % of the packs that still run; NaN where
    fewer than one in twenty does. ``chance`` is the share that meets the need, ``None`` if open.
    """

    drawn: Drawn
    hours: Array
    taken_ah: Array
    delivered_wh: Array
    warmest_c: Array
    time_s: Array
    band_v: Array
    chance: float | None

    def run_band_h(self) -> tuple[float, float, float]:
        """Run time in h that 95, 50 and 5 % of the packs reach."""
        low, middle, high = np.quantile(self.hours, BAND)
        return float(low), float(middle), float(high)


def draw(pack: ModelledPack, settings: RunSettings) -> Drawn:
    """Draw packs; the same seed gives the same packs (methods 17).

    The capacity of a pack is that of its weakest group: cells differ one from the other, and a
    group is the mean of its cells. Resistance and load differ for the pack as a whole.
    """
    generator = np.random.default_rng(settings.seed)
    count = settings.draws

    def normal(*shape: int) -> Array:
        return np.clip(generator.standard_normal(shape), -FURTHEST, FURTHEST)

    each = settings.capacity_spread / math.sqrt(pack.parallel)
    return Drawn(
        capacity=1.0 + each * normal(count, pack.series).min(axis=1),
        resistance=1.0 + settings.resistance_spread * normal(count),
        ambient_c=pack.ambient_c + settings.ambient_spread_k * normal(count),
        load=np.maximum(1.0 + settings.load_spread * normal(count), 0.05),
    )


@dataclass(slots=True)
class _Packs:
    """Where the packs stand: charge, volts of the slow branch and temperature, (n,) each."""

    charge: Array
    slow_v: Array
    celsius: Array


class _Model:
    """The equations of a run (methods 16), over many packs at once."""

    def __init__(self, pack: ModelledPack, drawn: Drawn) -> None:
        self.pack, self.drawn = pack, drawn
        self.curve = np.array(pack.chemistry.curve).T
        ohm = resistance(pack.cell).number * drawn.resistance
        self.fast_ohm, self.slow_ohm = FAST_SHARE * ohm, SLOW_SHARE * ohm
        self.capacity_ah = pack.capacity_ah * drawn.capacity

    def ocv(self, charge: Array) -> Array:
        return np.asarray(np.interp(charge, self.curve[0], self.curve[1]))

    def factor(self, at: _Packs) -> Array:
        warm = np.interp(at.celsius, TEMPERATURE_POINTS_C, TEMPERATURE_FACTORS)
        return np.asarray(charge_factor(at.charge) * warm)

    def currents(self, at: _Packs, step: Step, factor: Array) -> Array:
        """Current of each pack in A; NaN where the power cannot be had."""
        if step.power_w is None:
            return np.asarray((step.current_a or 0.0) * self.drawn.load)
        pack = self.pack
        emf = pack.series * (self.ocv(at.charge) - at.slow_v)
        ohm = pack.path_ohm + pack.series * self.fast_ohm * factor / pack.parallel
        power = step.power_w * self.drawn.load
        root = emf * emf - 4.0 * ohm * power
        with np.errstate(invalid="ignore"):
            return np.asarray(2.0 * power / (emf + np.sqrt(root)))

    def volts(self, at: _Packs, amps: Array, factor: Array) -> tuple[Array, Array]:
        pack = self.pack
        cell = self.ocv(at.charge) - at.slow_v - amps / pack.parallel * self.fast_ohm * factor
        return pack.series * cell - amps * pack.path_ohm, cell

    def advance(self, at: _Packs, amps: Array, factor: Array, seconds: float) -> _Packs:
        pack = self.pack
        each = amps / pack.parallel
        slow = self.slow_ohm * factor
        tau = slow * (TIME_CONSTANT_S / self.slow_ohm)
        level = each * slow
        slow_v = level + (at.slow_v - level) * np.exp(-seconds / tau)
        heat_w = (
            each**2 * self.fast_ohm * factor + 0.5 * (at.slow_v**2 + slow_v**2) / slow
        ) * pack.series * pack.parallel + amps**2 * pack.heat_path_ohm
        steady = self.drawn.ambient_c + heat_w * pack.kelvin_per_watt
        cool = math.exp(-seconds / (pack.kelvin_per_watt * pack.joule_per_kelvin))
        return _Packs(
            at.charge - amps * seconds / (3600.0 * self.capacity_ah),
            slow_v,
            steady + (at.celsius - steady) * cool,
        )

    def margin(self, at: _Packs, volts: Array, cell_v: Array) -> Array:
        """How far each pack is from its nearest limit; under 0 past it, NaN without power."""
        pack = self.pack
        empty = pack.cell.voltage_empty_v
        limits = (
            (volts - pack.stop_v) / pack.stop_v,
            (cell_v - empty) / empty,
            at.charge,
            (pack.limit_c - at.celsius) / 100.0,
        )
        return np.asarray(np.minimum.reduce(limits))


def run_many(
    pack: ModelledPack,
    duty: Sequence[Step],
    step_s: float,
    drawn: Drawn,
    start_charge: float,
    longest_s: float,
    report: Report,
) -> tuple[Array, Array, Array, Array, Array, Array]:
    """Run all packs together; the end of each is placed between two steps on a straight line.

    Returns seconds, Ah, Wh and warmest of each (n,), the times (m,) and the volts (m, n), NaN once
    a pack has ended. ``report`` is told the share that is done and returns whether to go on; where
    not, Cancelled is raised.

    It is long, for a step of all packs at once has one set of columns.
    """
    model = _Model(pack, drawn)
    count = len(drawn.load)
    at = _Packs(np.full(count, start_charge), np.zeros(count), drawn.ambient_c.copy())
    ended = np.full(count, np.nan)
    wh, warmest = np.zeros(count), drawn.ambient_c.copy()
    factor = model.factor(at)
    amps = model.currents(at, duty[0], factor)
    volts, cell_v = model.volts(at, amps, factor)
    margin = model.margin(at, volts, cell_v)
    ended[~(margin >= 0.0)] = 0.0
    ah = np.zeros(count)
    times, courses = [0.0], [np.where(np.isnan(ended), volts, np.nan)]
    now, place = 0.0, 0
    while np.any(np.isnan(ended)) and now < longest_s:
        step = duty[place % len(duty)]
        place += 1
        pieces = max(1, math.ceil(step.seconds / step_s - 1e-9))
        span = step.seconds / pieces
        for _ in range(pieces):
            alive = np.isnan(ended)
            factor = model.factor(at)
            amps = model.currents(at, step, factor)
            # Anew at the start of the step, for the load may have changed.
            volts, cell_v = model.volts(at, amps, factor)
            margin = model.margin(at, volts, cell_v)
            half = model.advance(at, amps, factor, 0.5 * span)
            factor = model.factor(half)
            held = model.currents(half, step, factor)
            fresh = model.advance(at, held, factor, span)
            factor = model.factor(fresh)
            later = model.currents(fresh, step, factor)
            volts_later, cell_later = model.volts(fresh, later, factor)
            after = model.margin(fresh, volts_later, cell_later)
            stops = alive & ~(after >= 0.0)
            room = np.maximum(margin, 0.0)
            share = np.where(np.isfinite(after), room / np.maximum(room - after, 1e-12), 0.0)
            part = np.where(stops, np.clip(share, 0.0, 1.0), 1.0) * alive
            held = np.nan_to_num(held)
            ah += held * span * part / 3600.0
            mean_v = np.nan_to_num(0.5 * (volts + volts_later), nan=0.0)
            wh += mean_v * held * span * part / 3600.0
            warmest = np.where(alive, np.maximum(warmest, at.celsius + part * (
                fresh.celsius - at.celsius)), warmest)  # fmt: skip
            ended[stops] = (now + span * part)[stops]
            at, now = fresh, now + span
            times.append(now)
            courses.append(np.where(np.isnan(ended), volts_later, np.nan))
            if not report(min(TIMES_EXPECTED * now / longest_s, 0.99)):
                raise Cancelled
            if not np.any(np.isnan(ended)) or now >= longest_s:
                break
    ended[np.isnan(ended)] = now
    return ended, ah, wh, warmest, np.array(times), np.array(courses)


def tolerance(
    hand: SizedPack,
    pack: ModelledPack,
    expected_h: float,
    settings: RunSettings,
    report: Report = lambda _: True,
) -> Tolerance:
    """How surely the pack in hand does what is asked, over many drawn packs (methods 17).

    ``pack`` is what its run discharges, ``expected_h`` its run time as counted on. Raises
    Cancelled.
    """
    drawn = draw(pack, settings)
    step_s = step_of(expected_h)
    duty = duty_steps(hand, step_s, expected_h)
    seconds, ah, wh, warmest, times, courses = run_many(
        pack,
        duty,
        step_s,
        drawn,
        settings.start_charge,
        TIMES_EXPECTED * 3600.0 * expected_h,
        report,
    )
    running = np.mean(np.isfinite(courses), axis=1) >= BAND[0]
    band = np.full((len(BAND), len(times)), np.nan)
    band[:, running] = np.nanquantile(courses[running], BAND, axis=1)
    met = _met(hand.demand, seconds / 3600.0, ah, wh)
    return Tolerance(
        drawn, seconds / 3600.0, ah, wh, warmest, times, band,
        None if met is None else float(np.mean(met)),
    )  # fmt: skip


def _met(demand: Demand, hours: Array, ah: Array, wh: Array) -> NDArray[np.bool_] | None:
    """Which packs give what is wanted; ``None`` where that was left open."""
    wanted = demand.endurance
    if wanted is None:
        return None
    column = {"h": hours, "Ah": ah, "Wh": wh}[wanted.unit]
    return np.asarray(column >= wanted.number)


def tolerance_figures(
    result: Tolerance, run_time: Figure, demand: Demand, settings: RunSettings
) -> tuple[Figure, ...]:
    """The band of run times and the chance as figures."""
    spreads = tuple(
        typed(f"run.{name}", label, getattr(settings, name), unit)
        for name, label, unit in (
            ("capacity_spread", "Capacity differs by", "%"),
            ("resistance_spread", "Resistance differs by", "%"),
            ("ambient_spread_k", "Ambient differs by", "K"),
            ("load_spread", "Load differs by", "%"),
            ("draws", "Packs drawn", ""),
            ("seed", "Seed", ""),
        )
    )
    low, middle, high = result.run_band_h()
    names = (
        ("low", "Nineteen of twenty run", low, "5 %"),
        ("middle", "Half of them run", middle, "50 %"),
        ("high", "One of twenty runs", high, "95 %"),
    )
    made = [
        computed(f"tolerance.{key}_h", label, value, "h",
                 f"{share} point of the run times of the drawn packs", "methods 17", run_time,
                 *spreads)
        for key, label, value, share in names
    ]  # fmt: skip
    if result.chance is not None and demand.endurance is not None:
        made.append(
            computed(
                "tolerance.chance",
                "Meets the need",
                result.chance,
                "%",
                "share of the drawn packs that give what is wanted",
                "methods 17",
                demand.endurance,
                run_time,
                *spreads,
            )
        )
    return tuple(made)
