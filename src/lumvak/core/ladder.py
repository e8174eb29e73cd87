"""The ladder of counts: each chemistry and series count near the window, and how it fits."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from lumvak.core.catalogue import FAMILY_NAMES, Catalogue
from lumvak.core.demand import Demand
from lumvak.core.options import Options, series_bounds
from lumvak.core.pack import Choice
from lumvak.core.sizing import Terms, end_ohm, parallel_needs, usable_fraction
from lumvak.core.units import say


@dataclass(frozen=True, slots=True)
class Rung:
    """One chemistry at one series count, shown with a typical cell of it; voltages in V."""

    chemistry: str
    family: str
    series: int
    cell: str
    empty_v: float
    nominal_v: float
    full_v: float
    end_v: float
    usable: float
    serves: bool
    chosen: bool
    says: str


def ladder(
    catalogue: Catalogue, options: Options, demand: Demand, terms: Terms, choice: Choice
) -> tuple[Rung, ...]:
    """Rungs by family: every count that serves and its two neighbours, with what each gives.

    A family is shown by the chemistry of its best option (the one in hand for its own family), so
    that each count stands once.
    """
    table = options.table
    bounds = series_bounds(table, terms, demand.window.highest.number)
    rungs: list[Rung] = []
    for family in FAMILY_NAMES:
        members = [
            row
            for row, cell in enumerate(table.cells)
            if catalogue.chemistry_of(cell).family == family
        ]
        if not members:
            continue
        best = next((int(row) for row in options.rows if int(row) in members), members[0])
        row = choice.row if choice.row in members else best
        low, high = bounds[row]
        counts = set(range(max(1, low - 1), high + 2)) if low <= high else {max(1, high), high + 1}
        if row == choice.row:
            counts.add(choice.series)
        shown = sorted(counts)
        if len(shown) > 6:
            keep = choice.series if row == choice.row else high
            shown = [count for count in shown if abs(count - keep) <= 2 or count > high]
        rungs.extend(
            _rung(catalogue, options, demand, terms, choice, row, count) for count in shown
        )
    return tuple(rungs)


def _rung(
    catalogue: Catalogue,
    options: Options,
    demand: Demand,
    terms: Terms,
    choice: Choice,
    row: int,
    series: int,
) -> Rung:
    table = options.table
    cell = table.cells[row]
    place = next(
        (
            index
            for index in range(len(options))
            if int(options.rows[index]) == row and options.series[index] == series
        ),
        None,
    )
    chosen = row == choice.row and series == choice.series
    parallel = float(
        choice.parallel if chosen else options.parallel[place] if place is not None else
        choice.parallel
    )  # fmt: skip
    at = (table, np.array([row]), np.array([float(series)]), np.array([parallel]), terms)
    usable = float(usable_fraction(*at)[0])
    highest, full = demand.window.highest.number, series * cell.voltage_full_v
    fixed, shared = terms.path.split(at[1], at[2])
    drop = float(terms.load.at(terms.stop_v)) / parallel
    rest = float(table.ocv_at(at[1], terms.end_charge)[0])
    sag_need = float(parallel_needs(*at)["sag"][0])
    if full > highest + 1e-9:
        says = f"{say(full - highest, 'V')} too high when full"
    elif not np.isfinite(sag_need):
        says = f"{say(usable, '%')} usable, stops too early"
    else:
        says = f"{say(usable, '%')} usable"
    return Rung(
        chemistry=catalogue.chemistry_of(cell).id,
        family=FAMILY_NAMES[catalogue.chemistry_of(cell).family],
        series=series,
        cell=cell.name,
        empty_v=series * cell.voltage_empty_v,
        nominal_v=series * cell.voltage_nominal_v,
        full_v=full,
        end_v=series * rest
        - drop * float((series * end_ohm(table, at[1], terms) + shared)[0])
        - float(terms.load.at(terms.stop_v) * fixed[0]),
        usable=usable,
        serves=bool(full <= highest + 1e-9 and np.isfinite(sag_need) and place is not None),
        chosen=chosen,
        says=says,
    )
