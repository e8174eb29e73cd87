"""Tolerance: many packs drawn from the spreads, each run until something ends it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.document.run import RunSettings
from lumvak.core.figures.figure import Figure, Rule, typed
from lumvak.core.need.demand import Demand
from lumvak.core.run.figures import duty_steps, step_of
from lumvak.core.run.model import Loads, Model, ModelledPack, RunStep
from lumvak.core.sizing.sized_pack import SizedPack

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
TOLERANCE_H = Rule("tolerance.{}_h", "{}", "h", "{} point of the run times of the drawn packs",
                   "methods 17")
CHANCE = Rule("tolerance.chance", "Meets the need", "%",
              "share of the drawn packs that give what is wanted", "methods 17")
# fmt: on

Array = NDArray[np.float64]
Report = Callable[[float], bool]
# No draw lies further out than this many standard deviations.
FURTHEST = 3.0
BAND = (0.05, 0.50, 0.95)
# A run is followed for this many times the run time expected.
TIMES_EXPECTED = 3


class Cancelled(Exception):
    """The draw was called off."""


class DrawnPacks(Struct, frozen=True):
    """What was drawn for each of n packs: factors, and the ambient temperature in degC."""

    capacity: Array
    resistance: Array
    ambient_c: Array
    load: Array


class Tolerance(Struct, frozen=True):
    """How n drawn packs ran: columns (n,), and the band of the volts over time.

    ``band_v`` is (3, m) at ``time_s`` (m,): 5, 50 and 95 % of the packs that still run; NaN where
    fewer than one in twenty does. ``chance`` is the share that meets the need, ``None`` if open.
    """

    drawn: DrawnPacks
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


def draw(
    pack: ModelledPack, settings: RunSettings, capacity_off: Figure | None = None
) -> DrawnPacks:
    """Draw packs; the same seed gives the same packs (methods 17).

    The capacity of a pack is that of its weakest group: cells differ one from the other, and a
    group is the mean of its cells. Where all were measured they differ by no more than the error
    of that, ``capacity_off``. Resistance and load differ for the pack as a whole.
    """
    generator = np.random.default_rng(settings.seed)
    count = settings.draws

    def normal(*shape: int) -> Array:
        return np.clip(generator.standard_normal(shape), -FURTHEST, FURTHEST)

    spread = settings.capacity_spread if capacity_off is None else capacity_off.number
    each = spread / math.sqrt(pack.parallel)
    return DrawnPacks(
        capacity=1.0 + each * normal(count, pack.series).min(axis=1),
        resistance=1.0 + settings.resistance_spread * normal(count),
        ambient_c=pack.ambient_c + settings.ambient_spread_k * normal(count),
        load=np.maximum(1.0 + settings.load_spread * normal(count), 0.05),
    )


def _loads(step: RunStep, drawn: DrawnPacks) -> Loads:
    """What each pack is asked for in a step."""
    return Loads(
        (step.current_a or 0.0) * drawn.load,
        None if step.power_w is None else step.power_w * drawn.load,
    )


class ManyRuns(NamedTuple):
    """Runs of many packs: columns (n,) at their ends, times (m,) and volts (m, n)."""

    ended_s: Array
    ah: Array
    wh: Array
    warmest_c: Array
    times_s: Array
    volts: Array


def run_many(
    pack: ModelledPack,
    duty: Sequence[RunStep],
    step_s: float,
    drawn: DrawnPacks,
    start_charge: float,
    longest_s: float,
    report: Report,
) -> ManyRuns:
    """Run all packs together; the end of each is placed between two steps on a straight line.

    Returns seconds, Ah, Wh and warmest of each (n,), the times (m,) and the volts (m, n), NaN once
    a pack has ended. ``report`` is told the share that is done and returns whether to go on; where
    not, Cancelled is raised.

    It is long, for a step of all packs at once has one set of columns.
    """
    model = Model(pack, drawn.capacity, drawn.resistance, drawn.ambient_c)
    count = len(drawn.load)
    at = model.start(start_charge, count)
    ended = np.full(count, np.nan)
    ah, wh, warmest = np.zeros(count), np.zeros(count), drawn.ambient_c.copy()
    volts, _, margins = model.seen_at(at, _loads(duty[0], drawn))
    ended[~(margins.min(axis=0) >= 0.0)] = 0.0
    times, courses = [0.0], [np.where(np.isnan(ended), volts, np.nan)]
    now, place = 0.0, 0
    while np.any(np.isnan(ended)) and now < longest_s:
        step = duty[place % len(duty)]
        loads = _loads(step, drawn)
        place += 1
        pieces = max(1, math.ceil(step.seconds / step_s - 1e-9))
        span = step.seconds / pieces
        # Anew at the start of the step, for the load may have changed.
        margin = model.seen_at(at, loads)[2].min(axis=0)
        spans = model.spans(np.array([span]))
        for _ in range(pieces):
            alive = np.isnan(ended)
            fresh, course = model.stepped(at, loads, spans, 2)
            volts, _, margins = model.seen_at(fresh, loads)
            after = margins.min(axis=0)
            stops = alive & ~(after >= 0.0)
            room = np.maximum(margin, 0.0)
            share = np.where(np.isfinite(after), room / np.maximum(room - after, 1e-12), 0.0)
            part = np.where(stops, np.clip(share, 0.0, 1.0), 1.0) * alive
            ah += course.draw.amps * span * part / 3600.0
            wh += course.given_w * span * part / 3600.0
            warmest = np.where(
                alive,
                np.maximum(warmest, at.celsius + part * (fresh.celsius - at.celsius)),
                warmest,
            )
            ended[stops] = (now + span * part)[stops]
            at, margin, now = fresh, after, now + span
            times.append(now)
            courses.append(np.where(np.isnan(ended), volts, np.nan))
            if not report(min(TIMES_EXPECTED * now / longest_s, 0.99)):
                raise Cancelled
            if not np.any(np.isnan(ended)) or now >= longest_s:
                break
    ended[np.isnan(ended)] = now
    return ManyRuns(ended, ah, wh, warmest, np.array(times), np.array(courses))


def tolerance(
    sized_pack: SizedPack,
    pack: ModelledPack,
    expected_h: float,
    settings: RunSettings,
    report: Report = lambda _: True,
    capacity_off: Figure | None = None,
) -> Tolerance:
    """How surely the pack in hand does what is asked, over many drawn packs (methods 17).

    ``pack`` is what its run discharges, ``expected_h`` its run time as counted on;
    ``capacity_off`` is how far off the capacities of its cells may be where all were measured.
    Raises Cancelled.
    """
    drawn = draw(pack, settings, capacity_off)
    step_s = step_of(expected_h)
    duty = duty_steps(sized_pack, step_s, expected_h)
    runs = run_many(
        pack,
        duty,
        step_s=step_s,
        drawn=drawn,
        start_charge=settings.start_charge,
        longest_s=TIMES_EXPECTED * 3600.0 * expected_h,
        report=report,
    )
    running = np.mean(np.isfinite(runs.volts), axis=1) >= BAND[0]
    band = np.full((len(BAND), len(runs.times_s)), np.nan)
    band[:, running] = np.nanquantile(runs.volts[running], BAND, axis=1)
    met = _met(sized_pack.demand, runs.ended_s / 3600.0, runs.ah, runs.wh)
    return Tolerance(
        drawn,
        runs.ended_s / 3600.0,
        taken_ah=runs.ah,
        delivered_wh=runs.wh,
        warmest_c=runs.warmest_c,
        time_s=runs.times_s,
        band_v=band,
        chance=None if met is None else float(np.mean(met)),
    )


def _met(demand: Demand, hours: Array, ah: Array, wh: Array) -> NDArray[np.bool_] | None:
    """Which packs give what is wanted; ``None`` where that was left open."""
    wanted = demand.endurance
    if wanted is None:
        return None
    column = {"h": hours, "Ah": ah, "Wh": wh}[wanted.unit]
    return np.asarray(column >= wanted.number)


def tolerance_figures(
    result: Tolerance,
    run_time: Figure,
    demand: Demand,
    settings: RunSettings,
    capacity_off: Figure | None = None,
) -> tuple[Figure, ...]:
    """The band of run times and the chance as figures."""
    typed_in = tuple(
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
    spreads = typed_in if capacity_off is None else (capacity_off, *typed_in[1:])
    low, middle, high = result.run_band_h()
    names = (
        ("low", "Nineteen of twenty run", low, "5 %"),
        ("middle", "Half of them run", middle, "50 %"),
        ("high", "One of twenty runs", high, "95 %"),
    )
    made = [
        TOLERANCE_H.of(value, run_time, *spreads, key=key, label=label, rule=share)
        for key, label, value, share in names
    ]
    if result.chance is not None and demand.endurance is not None:
        made.append(CHANCE.of(result.chance, demand.endurance, run_time, *spreads))
    return tuple(made)
