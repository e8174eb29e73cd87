"""What to look for in a cell for the counts in force (methods 41): methods 6 as windows."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.catalogue.cells import FAMILY_NAMES, Cell
from lumvak.core.cells.cell_model import minimum_capacity, resistance
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure
from lumvak.core.said import phrase
from lumvak.core.sizing.packs import one_pack
from lumvak.core.sizing.usable import worked
from lumvak.core.specification.window import FigureWindow, Maker, PartSpec, by, named

CELL = Maker("cell")
# Of the rated voltage, what the nominal one may be under it; methods 2.
LEAST_OF_RATED = 0.88


def cell_spec(evaluation: Evaluation) -> PartSpec:
    """The windows of a cell, all else being as it is with the one in force."""
    choice = evaluation.sized.choice
    return PartSpec(
        "cell", tuple(_windows(evaluation)), quantity=float(choice.series * choice.parallel)
    )


def _windows(evaluation: Evaluation) -> Iterator[FigureWindow]:
    """It is long, for each need has its figure."""
    sized = evaluation.sized
    pack, choice, window = sized.pack, sized.choice, sized.demand.window
    cell, count, series = choice.cell, pack.parallel, pack.series
    family = sized.parts.chemistry_of(cell).family
    yield CELL.window(
        "family",
        "Chemistry",
        one_of=(family,),
        set_by="count in series",
        reason=phrase("the count is for {} cells", FAMILY_NAMES[family]),
    )
    yield CELL.window(
        "voltage_full_v",
        "Full voltage",
        "V",
        most=by(
            window.highest.number / series.number,
            "maximum voltage ÷ in series",
            window.highest,
            series,
        ),
        set_by="maximum voltage",
        reason="the equipment bears no more",
    )
    for name, label, unit, value, need, rule in _needs(evaluation):
        yield CELL.window(
            name,
            label,
            unit,
            least=by(value * need.number / count.number, rule, need, count),
            set_by=NEED_SETS[name],
            reason=NEED_WHY[name],
        )
    ohm = pack.resistance
    times, sets = _times_ohm(evaluation)
    # No resistance does where no number in parallel would.
    if 0.0 < times < math.inf:
        yield CELL.window(
            "resistance_dc_ohm",
            "Resistance after 10 s",
            "ohm",
            most=by(
                ohm.number * times,
                "of the cell in force × as much as leaves sag, warmth and charge within the count",
                ohm,
                count,
                pack.needs[sets],
            ),
            set_by=OHM_SETS[sets],
            reason="a 1 kHz figure reads two thirds of it",
        )
    yield CELL.window(
        "format",
        "Form",
        one_of=(cell.format,),
        set_by="arrangement",
        reason="the pack is laid for it",
        must=False,
    )


def _times_ohm(evaluation: Evaluation) -> tuple[float, str]:
    """How many times its resistance the cell in force may have, and the need that sets it.

    The needs are straight in the resistance, for joints and entropy keep their heat: those of
    twice as much give the slope.
    """
    parallel = evaluation.sized.choice.parallel
    now, twice = needs_with(evaluation), needs_with(evaluation, ohm=2.0)
    found = [(math.inf, "sag")]
    for name in OHM_SETS:
        slope = twice[name] - now[name]
        if 0.0 < slope < math.inf:
            found.append((1.0 + (parallel - now[name]) / slope, name))
    return min(found)


def needs_with(evaluation: Evaluation, ohm: float = 1.0, ah: float = 1.0) -> dict[str, float]:
    """How many in parallel each need asks for, with so many times the resistance and capacity."""
    sized_pack, choice = evaluation.sized.sized_pack, evaluation.sized.choice
    table, row = sized_pack.table, choice.row

    def times(column: NDArray[np.float64], share: float) -> NDArray[np.float64]:
        changed = column.copy()
        changed[row] *= share
        return changed

    changed = replace(
        table,
        steady_ohm=times(table.steady_ohm, ohm),
        capacity_min_ah=times(table.capacity_min_ah, ah),
        capacity_ah=times(table.capacity_ah, ah),
    )
    packs = one_pack(changed, row, choice.series, choice.parallel, sized_pack.terms)
    return {name: float(need[0]) for name, need in worked(packs).needs.items()}


# The needs that a resistance raises, as they are called.
OHM_SETS = {"sag": "peak", "temperature": "cell temperature", "capacity": "run time"}
NEED_SETS = {
    "capacity_min_ah": "run time",
    "continuous_a": "continuous load",
    "pulse_a": "peak",
    "charge_max_a": "charger",
}
NEED_WHY = {
    "capacity_min_ah": "the least that its sheet promises, at 0.2 C",
    "continuous_a": "with the cell no hotter than you allow: many a sheet means a hot one",
    "pulse_a": "for as long as the peak lasts",
    "charge_max_a": "a standard charge is gentler",
}


def _needs(
    evaluation: Evaluation,
) -> Iterator[tuple[str, str, str, float, Figure, str]]:
    """Figures that a larger one of is better, with the need that each meets."""
    pack = evaluation.sized.pack
    rule = "of the cell in force × what the need asks for ÷ parallel"
    for name, label, unit, place, need in (
        ("capacity_min_ah", "Capacity, least", "Ah", 1, "capacity"),
        ("continuous_a", "Continuous current", "A", 1, "continuous"),
        ("pulse_a", "Pulse current, for the peak", "A", 1, "peak"),
        ("charge_max_a", "Charge current", "A", 1, "charge"),
    ):
        asked = pack.needs.get(need)
        if asked is not None and 0.0 < asked.at_most < math.inf and len(asked.inputs) > place:
            yield name, label, unit, asked.inputs[place].number, asked, rule


def cell_missed(spec: PartSpec, cell: Cell, evaluation: Evaluation) -> tuple[str, ...]:
    """Fields of a cell that lie outside the windows that must hold.

    More capacity leaves room for more resistance, and the other way round: both are judged as they
    are together.
    """
    now, ampere_hours = evaluation.sized.choice.cell, minimum_capacity(cell).number
    given: dict[str, float | str | None] = {
        "family": evaluation.sized.parts.chemistry_of(cell).family,
        "voltage_full_v": cell.voltage_full_v,
        "continuous_a": cell.continuous_a,
        "pulse_a": max(cell.pulse_a or 0.0, cell.continuous_a),
        "charge_max_a": cell.charge_max_a or cell.charge_standard_a,
    }
    missed = named(spec.windows, {name: it for name, it in given.items() if it is not None})
    needs = needs_with(
        evaluation,
        ohm=resistance(cell).number / resistance(now).number,
        ah=ampere_hours / minimum_capacity(now).number,
    )
    most = evaluation.sized.choice.parallel * (1.0 + 1e-9)
    if needs["capacity"] > most:
        return (*missed, "capacity_min_ah")
    return (
        missed if max(needs[name] for name in OHM_SETS) <= most else (*missed, "resistance_dc_ohm")
    )
