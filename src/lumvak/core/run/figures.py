"""The run of the pack in hand: its discharge in time, and the figures of it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.document.need import Need
from lumvak.core.document.run import RunSettings
from lumvak.core.figures.figure import Figure, Rule, computed, typed
from lumvak.core.need.demand import Load, consumption_of
from lumvak.core.run.discharge import Run, discharge
from lumvak.core.run.model import NO_STOP_V, ModelledPack, RunStep
from lumvak.core.said import Text, phrase
from lumvak.core.sizing.figures import PackFigures
from lumvak.core.sizing.packs import mean_load, one_pack
from lumvak.core.sizing.sized_pack import SizedPack
from lumvak.core.sizing.usable import usable_fraction

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
STEP_S = Rule("run.step_s", "Step of the run", "s", "1/{} of the run time expected", "methods 16")
TIME_H = Rule("run.time_h", "Run time", "h", "midpoint rule from the start until: {}", "methods 16")
WARMEST_C = Rule("run.warmest_c", "Warmest", "°C",
                 "highest of the course, in the cells, begun at the warmest that the air gets",
                 "methods 16")
DISTANCE_KM = Rule("run.distance_km", "Range", "km", "energy delivered ÷ consumption", "methods 16")
PEAK_FROM_CHARGE = Rule("run.peak_from_charge", "A peak stops it from", "%",
                        "charge at which the peak, for its length, pulls the pack to the stop "
                        "voltage", "methods 16")
# fmt: on

STEPS_A_RUN = 160
MOST_STEPS_RUN = 400
# A duty as long as a log runs at least this often before it is stretched.
LEAST_ROUNDS = 2
SHORTEST_STEP_S = 0.25
# A run goes on for so many times what is expected before nothing is taken to end it.
TIMES_EXPECTED = 8.0
MOST_OVERLAID = 2


class RunResult(Struct, frozen=True):
    """A run of ``pack`` with its figures, and from which charge on a peak stops the equipment.

    ``run`` is that at the coldest; ``warm`` that at the warmest, the same where there is one
    temperature.
    """

    pack: ModelledPack
    run: Run
    warm: Run
    figures: tuple[Figure, ...]
    peak_from: float
    warmest_c: Figure


class RunBeside(Struct, frozen=True):
    """The run of a pack beside the one in hand, with its name."""

    name: Text
    run: Run


def run_of(
    sized_pack: SizedPack,
    joint_ohm: Figure | None,
    pack: PackFigures,
    need: Need,
    settings: RunSettings,
    weakest_ah: Figure | None = None,
) -> RunResult:
    """Run the pack in hand at its load until something ends it (methods 16).

    The step is a share of the run time that sizing expects, so that all runs have like many;
    ``joint_ohm`` is what all joints are where the network was solved. ``weakest_ah`` is the charge
    of the weakest group where all its cells were measured: it counts instead of the sheet's, with
    the same reserve.
    """
    expected = pack.runtime.number
    step_s = step_of(expected)
    choice = sized_pack.choice
    modelled = modelled_pack(sized_pack, choice.row, choice.series, choice.parallel, joint_ohm)
    if weakest_ah is not None:
        reserve = modelled.capacity_ah / pack.capacity.number
        modelled = replace(modelled, capacity_ah=weakest_ah.number * reserve)
    run = warm = _run(sized_pack, modelled, expected, settings)
    if sized_pack.terms.ambient_c > sized_pack.terms.coldest_c:
        warm = _run(
            sized_pack, replace(modelled, ambient_c=sized_pack.terms.ambient_c), expected, settings
        )
    peak_from = 1.0 - _peak_usable(sized_pack)
    made, warmest = _figures(
        sized_pack,
        joint_ohm,
        pack=pack,
        modelled=modelled,
        run=run,
        warm_run=warm,
        step_s=step_s,
        peak_from=peak_from,
        need=need,
        settings=settings,
        charge=pack.usable_ah if weakest_ah is None else weakest_ah,
    )
    return RunResult(modelled, run, warm, made, peak_from, warmest)


def overlaid(
    sized_pack: SizedPack, packs: Sequence[tuple[str, int, int]], settings: RunSettings
) -> tuple[RunBeside, ...]:
    """The runs of up to two other packs (cell id, series, parallel) under the same load."""
    rows = [(sized_pack.table.row_of(cell), series, parallel) for cell, series, parallel in packs]
    known = [(row, series, parallel) for row, series, parallel in rows if row is not None]
    courses = []
    for row, series, parallel in known[:MOST_OVERLAID]:
        modelled = modelled_pack(sized_pack, row, series, parallel)
        own = one_pack(sized_pack.table, row, series, parallel, sized_pack.terms)
        mean = float(mean_load(own)[0][0]) * sized_pack.terms.mean_share
        expected = modelled.capacity_ah * float(usable_fraction(own)[0]) / mean
        run = _run(sized_pack, modelled, expected, settings)
        courses.append(
            RunBeside(
                phrase("{}S{}P of {}", series, parallel, sized_pack.table.cells[row].name), run
            )
        )
    return tuple(courses)


def _run(
    sized_pack: SizedPack, pack: ModelledPack, expected_h: float, settings: RunSettings
) -> Run:
    step_s = step_of(expected_h)
    return discharge(
        pack,
        duty_steps(sized_pack, step_s, expected_h),
        step_s,
        settings.start_charge,
        longest_s=max(TIMES_EXPECTED * 3600.0 * expected_h, 3600.0),
    )


def step_of(expected_h: float) -> float:
    """The longest step of a run in s, from the run time that is expected."""
    return max(expected_h * 3600.0 / STEPS_A_RUN, SHORTEST_STEP_S)


def modelled_pack(
    sized_pack: SizedPack, row: int, series: int, parallel: int, joint_ohm: Figure | None = None
) -> ModelledPack:
    """What a run discharges: charge counted on, one warm lump, and the path of sizing.

    ``joint_ohm`` is what all its joints are, where they were solved; else they are as sizing
    counts them.
    """
    table, terms = sized_pack.table, sized_pack.terms
    packs = one_pack(sized_pack.table, row, series, parallel, sized_pack.terms)
    cell = table.cells[row]
    path_ohm = float(packs.outside_ohm[0])
    joints_ohm = float(terms.path.joints(packs.rows, packs.series, packs.parallel)[0])
    if joint_ohm is not None:
        joints_ohm = joint_ohm.number
        path_ohm = terms.path.fixed_ohm + joints_ohm
    lump = packs.lump
    return ModelledPack(
        cell=cell,
        behaviour=table.behaviours[row],
        series=series,
        parallel=parallel,
        capacity_ah=float(packs.aged_ah[0]),
        path_ohm=path_ohm,
        heat_path_ohm=joints_ohm,
        stop_v=NO_STOP_V if terms.stop_v is None else terms.stop_v,
        ambient_c=terms.coldest_c,
        limit_c=terms.temperature_limit_c,
        kelvin_per_watt=float(lump.kelvin_per_watt[0]),
        joule_per_kelvin=float(lump.joule_per_kelvin[0]),
    )


def duty_steps(sized_pack: SizedPack, step_s: float, expected_h: float) -> list[RunStep]:
    """The duty to run; one with very many steps is stretched in time, its shares kept."""
    load, duty = sized_pack.demand.load, sized_pack.demand.duty
    if not duty:
        return [RunStep(load.current_a, load.power_w, 64.0 * step_s)]
    rounds = expected_h * 3600.0 / sum(seconds for _, seconds in duty)
    most = max(MOST_STEPS_RUN, LEAST_ROUNDS * len(duty))
    stretch = max(1.0, rounds * len(duty) / most)
    in_amps = load.power_w is None
    return [
        RunStep(amount if in_amps else None, None if in_amps else amount, seconds * stretch)
        for amount, seconds in duty
    ]


def _peak_usable(sized_pack: SizedPack) -> float:
    """Share of the charge down to which the peak, for its length, holds the low-voltage cut-off."""
    terms = sized_pack.terms
    seconds = sized_pack.demand.peak_duration.number
    at_peak = replace(
        terms,
        load=Load(sized_pack.demand.peak.number, None),
        ohm_factor=terms.ohm_factor * sized_pack.behaviour.time_factor(seconds),
        # In so short a time the surface hardly lags by more.
        lag_factor=terms.lag_factor * sized_pack.behaviour.lag_begun(seconds),
    )
    return float(usable_fraction(replace(sized_pack.packs, terms=at_peak))[0])


def worst_sag_v(pack: ModelledPack, run: Run) -> float:
    """The most in V by which the terminals lie under the rest voltage during a run."""
    rest = pack.series * pack.behaviour.rest(run.charge)
    sag = (rest - run.volts)[np.isfinite(run.volts)]
    return float(sag.max()) if len(sag) else 0.0


class _Made(NamedTuple):
    """The figures of a run, and how warm it gets."""

    every: tuple[Figure, ...]
    warmest: Figure


def _figures(
    sized_pack: SizedPack,
    joint_ohm: Figure | None,
    pack: PackFigures,
    modelled: ModelledPack,
    run: Run,
    warm_run: Run,
    step_s: float,
    peak_from: float,
    need: Need,
    settings: RunSettings,
    charge: Figure,
) -> _Made:
    """It is long, for it lists figures one after the other, each made from those above it."""
    start = typed("run.start_charge", "Starts at", settings.start_charge, "%")
    model = (
        pack.series,
        pack.parallel,
        sized_pack.demand.load_figure,
        charge,
        *_path(sized_pack, joint_ohm),
        sized_pack.demand.window.stop,
        sized_pack.demand.coldest,
        start,
        pack.cooling,
        pack.time_constant,
        STEP_S.of(step_s, origin="constant", rule=STEPS_A_RUN),
    )
    time = TIME_H.of(run.hours, *model, rule=run.ended)

    def of_run(key: str, label: str, value: float | str, unit: str, rule: str) -> Figure:
        return computed(f"run.{key}", label, value, unit, rule, "methods 16", time)

    finite = run.volts[np.isfinite(run.volts)]
    warmest = float(warm_run.temperature_c.max())
    delivered = of_run(
        "delivered_wh", "Energy delivered", run.delivered_wh, "Wh", "volts × amps × time"
    )
    warm = WARMEST_C.of(warmest, time, sized_pack.demand.ambient)
    made = (
        time,
        of_run("ended", "Ended by", run.ended, "", "the first limit that is met"),
        of_run("taken_ah", "Charge taken", run.taken_ah, "Ah", "current × time, summed"),
        delivered,
        *_distance(need, delivered),
        of_run(
            "loss_wh",
            "Lost as heat",
            run.cell_loss_wh + run.path_loss_wh,
            "Wh",
            "in the cells and on the way to the equipment",
        ),
        of_run(
            "lowest_v",
            "Lowest voltage",
            float(finite.min()) if len(finite) else 0.0,
            "V",
            "least of the course, at the terminals",
        ),
        of_run(
            "worst_sag_v",
            "Worst sag",
            worst_sag_v(modelled, run),
            "V",
            "most by which the terminals lie under the OCV",
        ),
        warm,
        PEAK_FROM_CHARGE.of(
            peak_from,
            sized_pack.demand.peak,
            sized_pack.demand.peak_duration,
            sized_pack.demand.window.stop,
            pack.series,
            pack.parallel,
            sized_pack.path,
        ),
    )
    return _Made(made, warm)


def _path(sized_pack: SizedPack, joint_ohm: Figure | None) -> tuple[Figure, ...]:
    """What lies between cells and equipment in a run: solved joints with leads and board."""
    if joint_ohm is None:
        return (sized_pack.path,)
    fixed = [item for item in sized_pack.path.inputs if item.key != "path.joint_ohm"]
    return (joint_ohm, *fixed)


def _distance(need: Need, delivered: Figure) -> tuple[Figure, ...]:
    """How far the energy goes, where a consumption is known."""
    said = need.consumption_wh_per_km is not None
    if need.endurance_basis != "distance" and not (need.kind == "vehicle" and said):
        return ()
    consumption = consumption_of(need)
    far = DISTANCE_KM.of(delivered.number / consumption.number, delivered, consumption)
    return (far,)
