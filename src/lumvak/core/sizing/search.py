"""The search: every chemistry x series x parallel x cell within reach, ranked, and the refused."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import FORMS, ROUND, Cell, Form
from lumvak.core.cells.cell_table import CellTable
from lumvak.core.document.need import Kind
from lumvak.core.document.pack import Pack
from lumvak.core.need.demand import Demand
from lumvak.core.sizing.counts import (
    NEED_NAMES,
    NEEDS,
    PARALLEL_LIMIT,
    largest_need,
    series_max,
    smallest_parallel,
)
from lumvak.core.sizing.options import Options, Refusal, ranked
from lumvak.core.sizing.terms import Terms
from lumvak.core.sizing.usable import Packs, worked
from lumvak.core.units import digits, keeps_words, say

Array = NDArray[np.float64]
EXTRA_PARALLEL = 2
UNCURABLE = {
    "sag": "no number in parallel holds the stop voltage",
    "temperature": "the air is already as warm as the cells may get, and running makes them warmer",
}
SERIES_LIMIT = 300


@dataclass(frozen=True, slots=True)
class Filters:
    """Only options of this chemistry (id or family), cell, series and parallel; ``None`` is any."""

    chemistry: str | None = None
    cell: str | None = None
    series: int | None = None
    parallel: int | None = None


def series_bounds(table: CellTable, terms: Terms, highest_v: float) -> list[tuple[int, int]]:
    """Per cell, the least series count that can hold the stop voltage, and the most allowed."""
    rest = table.ocv_at(np.arange(len(table.cells)), terms.end_charge)
    least = np.floor(terms.stop_v / rest).astype(int) + 1
    full = table.full_v.tolist()
    most = {volts: min(SERIES_LIMIT, series_max(highest_v, volts)) for volts in set(full)}
    return [(low, most[volts]) for low, volts in zip(least.tolist(), full, strict=True)]


def search(
    catalogue: Catalogue,
    table: CellTable,
    demand: Demand,
    terms: Terms,
    pack: Pack,
    filters: Filters,
) -> Options:
    """Every option within reach: the smallest parallel count that serves and up to two more.

    The pack picked is among them if it serves, whatever its parallel count. Options that serve but
    pass the limits of ``pack`` (weight, cost, cells) are refused. Returns Options sorted by its
    ranking (methods 7); refused combinations carry their reason.

    It is long, for its columns go through every step together.
    """
    wanted = list(range(len(table.cells)))
    if filters.cell is not None or filters.chemistry is not None:
        wanted = [row for row in wanted if _matches(catalogue, table.cells[row], filters)]
    bounds = series_bounds(table, terms, demand.window.highest.number)
    refused: list[Refusal] = []
    reach: list[tuple[int, int, int]] = []
    for index in wanted:
        cell = table.cells[index]
        barred = unwanted(cell, pack, demand.kind, filters.cell) or too_cold_or_hot(cell, demand)
        if barred:
            refused.append(Refusal(cell.chemistry, 0, barred, cell.id))
            continue
        low, high = bounds[index]
        if filters.series is not None:
            low, high = max(low, filters.series), min(high, filters.series)
        if low <= high:
            reach.append((index, low, high))
    if not wanted:
        refused.append(
            Refusal(
                filters.chemistry or "",
                filters.series or 0,
                f"no cell is both “{filters.cell}” and of “{filters.chemistry}”",
                filters.cell,
            )
        )
    refused = _window_refusals(table, wanted, bounds, demand, terms, filters) + refused
    rows, series = _columns(reach)
    if filters.parallel is None:
        least = smallest_parallel(table, rows, series, terms) if len(rows) else np.zeros(0)
    else:
        least = np.full(len(rows), float(filters.parallel))
    steps = EXTRA_PARALLEL + 1 if filters.parallel is None else 1
    rows_all = np.repeat(rows, steps)
    series_all = np.repeat(series, steps)
    parallel_all = np.repeat(least, steps) + np.tile(np.arange(steps, dtype=float), len(rows))
    rows_all, series_all, parallel_all = _with_picked(
        table, pack, reach, (rows_all, series_all, parallel_all)
    )
    checked = np.where(np.isfinite(parallel_all), parallel_all, float(PARALLEL_LIMIT))
    done = worked(Packs(table, rows_all, series_all, checked, terms))
    needs = done.needs
    serves = np.isfinite(parallel_all) & (largest_need(needs) <= parallel_all + 1e-9)
    failing = np.flatnonzero(~serves[: len(rows) * steps])
    failing = failing[failing % steps == 0]
    asked = np.stack([needs[name][failing] for name in NEEDS])
    worst = np.argmax(asked, axis=0)
    columns = (rows_all[failing], series_all[failing], checked[failing], worst, asked.max(axis=0))
    for row, count, held, need, value in zip(*(item.tolist() for item in columns), strict=True):
        refused.append(_need_refusal(table.cells[row], int(count), int(held), NEEDS[need], value))
    limits = pack.most_mass_kg is not None or pack.most_cost is not None or pack.drawer_only
    past = {} if not limits else {
        place: reason
        for place in np.flatnonzero(serves).tolist()
        if (reason := past_limits(table.cells[int(rows_all[place])],
                                  int(series_all[place] * parallel_all[place]), pack))
    }  # fmt: skip
    for place, reason in past.items():
        cell = table.cells[int(rows_all[place])]
        words = f"{cell.name} {int(series_all[place])}S{int(parallel_all[place])}P: {reason}"
        refused.append(Refusal(cell.chemistry, int(series_all[place]), words, cell.id))
    serves[list(past)] = False
    return ranked(
        catalogue,
        table,
        rows_all[serves],
        series_all[serves],
        parallel_all[serves],
        demand,
        terms,
        pack,
        tuple(refused),
        len(past),
        done.of(serves),
    )


def _columns(reach: list[tuple[int, int, int]]) -> tuple[NDArray[np.intp], Array]:
    """(K,) cell rows and (K,) series counts of every count from the least to the most of a row."""
    row, low, high = np.array(reach, dtype=np.intp).reshape(-1, 3).T
    many = high - low + 1
    first = np.cumsum(many) - many
    series = np.arange(many.sum()) - np.repeat(first - low, many)
    return np.repeat(row, many), series.astype(float)


def _with_picked(
    table: CellTable,
    pack: Pack,
    reach: list[tuple[int, int, int]],
    columns: tuple[NDArray[np.intp], Array, Array],
) -> tuple[NDArray[np.intp], Array, Array]:
    """The columns and, at their end, the pack picked, where it is not among them yet."""
    rows, series, parallel = columns
    row = table.row_of(pack.cell)
    if row is None or pack.series is None or pack.parallel is None:
        return columns
    if not any(own == row and low <= pack.series <= high for own, low, high in reach):
        return columns
    if np.any((rows == row) & (series == pack.series) & (parallel == pack.parallel)):
        return columns
    return (
        np.append(rows, np.intp(row)),
        np.append(series, float(pack.series)),
        np.append(parallel, float(pack.parallel)),
    )


def wanted_forms(pack: Pack, kind: Kind) -> tuple[Form, ...]:
    """Forms of cells that the builder can get and join.

    Where nothing was said: round ones for vehicles and tools, all for supplies (methods 7).
    """
    return pack.forms or (ROUND if kind in ("vehicle", "tool") else FORMS)


def unwanted(cell: Cell, pack: Pack, kind: Kind, named: str | None = None) -> str | None:
    """Why a cell is not wanted at all: its form, its origin, or because none is on hand.

    One that is asked for by name, in the pack or as ``named``, is wanted whatever its form.
    """
    forms = wanted_forms(pack, kind)
    if cell.format not in forms and cell.id not in (pack.cell, named):
        return f"{cell.name} is {cell.format}; wanted are {', '.join(forms)}"
    if pack.origin not in ("any", cell.origin):
        return f"{cell.name} is {cell.origin}; only {pack.origin} cells are wanted"
    if pack.drawer_only and not any(held.cell == cell.id for held in pack.drawer):
        return f"{cell.name}: none on hand"
    return None


def past_limits(cell: Cell, count: int, pack: Pack) -> str | None:
    """Which of the builder's limits ``count`` cells pass; ``None`` where they keep all."""
    mass, cost = count * cell.mass_g / 1000.0, count * cell.price
    if pack.most_mass_kg is not None and mass > pack.most_mass_kg + 1e-9:
        return f"weighs {say(mass, 'kg')}, {say(pack.most_mass_kg, 'kg')} at most"
    if pack.most_cost is not None and cost > pack.most_cost + 1e-9:
        return f"costs {say(cost, 'money')}, {say(pack.most_cost, 'money')} at most"
    if pack.drawer_only:
        held = sum(item.count for item in pack.drawer if item.cell == cell.id)
        if count > held:
            return f"needs {count} cells, {held} are on hand"
    return None


def _matches(catalogue: Catalogue, cell: Cell, filters: Filters) -> bool:
    chemistry = catalogue.chemistry_of(cell)
    return (filters.cell is None or cell.id == filters.cell) and (
        filters.chemistry is None or filters.chemistry in (chemistry.id, chemistry.family)
    )


def too_cold_or_hot(cell: Cell, demand: Demand) -> str | None:
    """Why a cell may not work in this air; ``None`` where it may."""
    if demand.coldest.number < cell.discharge_min_c:
        return f"{cell.name} may not be discharged under {say(cell.discharge_min_c, '°C')}"
    if demand.ambient.number > cell.discharge_max_c:
        return f"{cell.name} may not be discharged over {say(cell.discharge_max_c, '°C')}"
    return None


@keeps_words(1024)
def too_high(series: int, full_v: float, highest_v: float) -> str:
    """Sentence for a count whose full voltage is more than the equipment survives."""
    return (
        f"{say(series * full_v - highest_v, 'V')} too high when full: "
        f"{say(series * full_v, 'V')} against the {say(highest_v, 'V')} it survives"
    )


@keeps_words(1024)
def too_low(series: int, rest_v: float, end_charge: float, stop_v: float) -> str:
    """Sentence for a count that cannot hold the stop voltage at the end charge."""
    return (
        f"too low: at {say(end_charge, '%')} charge it rests at {say(series * rest_v, 'V')}, "
        f"not over the {say(stop_v, 'V')} at which it stops"
    )


def _window_refusals(
    table: CellTable,
    wanted: list[int],
    bounds: list[tuple[int, int]],
    demand: Demand,
    terms: Terms,
    filters: Filters,
) -> list[Refusal]:
    highest = demand.window.highest.number
    found: list[Refusal] = []
    by_chemistry: dict[str, list[int]] = {}
    for index in wanted:
        by_chemistry.setdefault(table.cells[index].chemistry, []).append(index)
    for chemistry, members in by_chemistry.items():
        most = max(bounds[index][1] for index in members)
        least = min(bounds[index][0] for index in members)
        full = min(table.cells[index].voltage_full_v for index in members)
        rest = float(table.ocv_at(np.array(members), terms.end_charge).max())
        if filters.series is None:
            low_counts, high_counts = [least - 1], [most + 1]
            if least > most:
                low_counts, high_counts = list(range(max(1, most), least)), [most + 1]
        else:
            low_counts = [filters.series] if filters.series < least else []
            high_counts = [filters.series] if filters.series > most else []
        for count in low_counts:
            if 0 < count <= most:
                reason = too_low(count, rest, terms.end_charge, terms.stop_v)
                found.append(Refusal(chemistry, count, reason))
        for count in high_counts:
            if count <= SERIES_LIMIT:
                found.append(Refusal(chemistry, count, too_high(count, full, highest)))
    return found


def _need_refusal(cell: Cell, series: int, parallel: int, name: str, need: float) -> Refusal:
    """Why a cell does not serve: its largest need, and the parallel count that it asks for."""
    if not math.isfinite(need):
        reason = f"{cell.name}: {UNCURABLE.get(name, 'no number in parallel helps')}"
    else:
        reason = (
            f"{cell.name}: {NEED_NAMES[name]} asks for {digits(need, '.1f')} in parallel, "
            f"{parallel} {'is' if parallel == 1 else 'are'} "
            f"{'the most considered' if parallel == PARALLEL_LIMIT else 'given'}"
        )
    return Refusal(cell.chemistry, series, reason, cell.id)
