"""The run of the pack in hand: its discharge in time, and the figures of it."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from lumvak.core.cellmodel import STEADY_FACTOR, time_factor
from lumvak.core.demand import Load
from lumvak.core.discharge import Pack, Run, Step, discharge
from lumvak.core.figures import Figure, computed, constant
from lumvak.core.hand import Hand
from lumvak.core.packfigures import PackFigures
from lumvak.core.sizing import aged_capacity_ah, usable_fraction

STEPS_A_RUN = 200
MOST_STEPS_RUN = 400
SHORTEST_STEP_S, LONGEST_STEP_S = 0.25, 120.0


@dataclass(frozen=True, slots=True)
class RunResult:
    """A run with its figures, and the charge from which on a peak stops the equipment."""

    run: Run
    figures: tuple[Figure, ...]
    peak_from: float


def run_of(hand: Hand, pack: PackFigures) -> RunResult:
    """Run the pack in hand at its continuous load from full until something ends it (methods 16).

    The step is about a two-hundredth of the run time that sizing expects.
    """
    figures = {figure.key: figure for figure in pack.every}
    expected = figures["pack.runtime_h"].number
    table, rows, series, parallel, terms = hand.at
    cell, choice, lump = hand.choice.cell, hand.choice, pack.warmth.lump
    step_s = min(max(expected * 3600.0 / STEPS_A_RUN, SHORTEST_STEP_S), LONGEST_STEP_S)
    run = discharge(
        Pack(
            cell=cell,
            chemistry=hand.catalogue.chemistry_of(cell),
            series=choice.series,
            parallel=choice.parallel,
            capacity_ah=float(aged_capacity_ah(table, rows, parallel, terms)[0]),
            path_ohm=hand.path.number,
            heat_path_ohm=float(terms.path.joints(rows, series, parallel)[0]),
            stop_v=terms.stop_v,
            ambient_c=terms.ambient_c,
            limit_c=terms.temperature_limit_c,
            kelvin_per_watt=float(lump.kelvin_per_watt[0]),
            joule_per_kelvin=float(lump.joule_per_kelvin[0]),
        ),
        _steps(hand, step_s, expected),
        step_s,
        longest_s=STEPS_A_RUN * 4 * LONGEST_STEP_S,
    )
    peak_from = 1.0 - _peak_usable(hand)
    return RunResult(run, _figures(hand, pack, run, figures, step_s, peak_from), peak_from)


def _steps(hand: Hand, step_s: float, expected_h: float) -> list[Step]:
    """The duty to run; one with very many steps is stretched in time, its shares kept."""
    load, duty = hand.demand.load, hand.demand.duty
    if not duty:
        return [Step(load.current_a, load.power_w, 64.0 * step_s)]
    rounds = expected_h * 3600.0 / sum(seconds for _, seconds in duty)
    stretch = max(1.0, rounds * len(duty) / MOST_STEPS_RUN)
    in_amps = load.power_w is None
    return [
        Step(amount if in_amps else None, None if in_amps else amount, seconds * stretch)
        for amount, seconds in duty
    ]


def _peak_usable(hand: Hand) -> float:
    """Share of the charge down to which the peak, for its length, holds the stop voltage."""
    table, rows, series, parallel, terms = hand.at
    seconds = hand.demand.peak_duration.number
    at_peak = replace(
        terms,
        load=Load(hand.demand.peak.number, None),
        cell_temperature_factor=terms.cell_temperature_factor
        * time_factor(seconds)
        / STEADY_FACTOR,
    )
    return float(usable_fraction(table, rows, series, parallel, at_peak)[0])


def _figures(
    hand: Hand,
    pack: PackFigures,
    run: Run,
    known: dict[str, Figure],
    step_s: float,
    peak_from: float,
) -> tuple[Figure, ...]:
    model = (
        pack.series,
        pack.parallel,
        hand.demand.load_figure,
        known["pack.usable_ah"],
        hand.path,
        hand.demand.window.stop,
        hand.demand.ambient,
        known["heat.resistance_k_per_w"],
        known["heat.time_constant_h"],
        constant(
            "run.step_s", "Step of the run", step_s, "s", "a two-hundredth of it", "methods 16"
        ),
    )
    time = computed(
        "run.time_h",
        "Runs for",
        run.hours,
        "h",
        f"midpoint rule from full until: {run.ended}",
        "methods 16",
        *model,
    )

    def of_run(key: str, label: str, value: float | str, unit: str, rule: str) -> Figure:
        return computed(f"run.{key}", label, value, unit, rule, "methods 16", time)

    finite = run.volts[np.isfinite(run.volts)]
    warmest = float(run.temperature_c.max())
    return (
        time,
        of_run("ended", "Ended by", run.ended, "", "the first limit that is met"),
        of_run("taken_ah", "Charge taken", run.taken_ah, "Ah", "current × time, summed"),
        of_run("delivered_wh", "Energy delivered", run.delivered_wh, "Wh", "volts × amps × time"),
        of_run("loss_wh", "Lost as heat", run.cell_loss_wh + run.path_loss_wh, "Wh",
               "in the cells and on the way to the equipment"),
        of_run("lowest_v", "Lowest voltage", float(finite.min()) if len(finite) else 0.0, "V",
               "least of the course, at the terminals"),
        of_run("warmest_c", "Warmest", warmest, "°C", "highest of the course, in the cells"),
        computed(
            "run.peak_from_charge",
            "A peak stops it from",
            peak_from,
            "%",
            "charge at which the peak, for its length, pulls the pack to the stop voltage",
            "methods 16",
            hand.demand.peak,
            hand.demand.peak_duration,
            hand.demand.window.stop,
            pack.series,
            pack.parallel,
            hand.path,
        ),
    )  # fmt: skip
