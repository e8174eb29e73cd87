"""The search: every chemistry x series x parallel x cell within reach, ranked, and the refused."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lumvak.core.catalogue import FAMILY_NAMES, Catalogue, Cell
from lumvak.core.cellmodel import CellTable
from lumvak.core.demand import Demand
from lumvak.core.project import Ranking
from lumvak.core.sizing import (
    NEED_NAMES,
    NEEDS,
    PARALLEL_LIMIT,
    Terms,
    aged_capacity_ah,
    end_current_a,
    heating_k_per_min,
    largest_need,
    mean_load,
    parallel_needs,
    series_max,
    smallest_parallel,
    usable_fraction,
)
from lumvak.core.units import say

Array = NDArray[np.float64]

EXTRA_PARALLEL = 2
UNCURABLE = {
    "sag": "no number in parallel holds the stop voltage",
    "temperature": "the air is already as warm as the cells may get, and running makes them warmer",
}
CHARGER_TOLERANCE = 0.01
# Weights of the balance: cost of one doubling of each over the best that serves; methods 7.
BALANCE_WEIGHTS = {"cost": 0.35, "mass": 0.25, "volume": 0.15, "heating": 0.15, "cells": 0.10}
BALANCE_OFF_RATED = 1.0
BALANCE_RECLAIMED = 0.25
BALANCE_CHARGER = 0.25
BALANCE_NO_BOARD = 1.0
SERIES_LIMIT = 300


@dataclass(frozen=True, slots=True)
class Filters:
    """Only options of this chemistry (id or family), cell, series and parallel; ``None`` is any."""

    chemistry: str | None = None
    cell: str | None = None
    series: int | None = None
    parallel: int | None = None


@dataclass(frozen=True, slots=True)
class Refusal:
    """A combination that does not serve, and why."""

    chemistry: str
    series: int
    reason: str
    cell: str | None = None


@dataclass(frozen=True, slots=True)
class Options:
    """The options that serve, best first, as columns (n,); and the refused."""

    table: CellTable
    rows: NDArray[np.intp]
    series: Array
    parallel: Array
    needs: Mapping[str, Array]
    binding: tuple[str, ...]
    usable: Array
    current_a: Array
    runtime_h: Array
    capacity_ah: Array
    energy_wh: Array
    mass_kg: Array
    cost: Array
    volume_l: Array
    heating_k_min: Array
    headroom: Array
    score: Array
    refused: tuple[Refusal, ...]

    def __len__(self) -> int:
        """How many options serve."""
        return len(self.rows)

    def cell(self, index: int) -> Cell:
        """The cell of option ``index``."""
        return self.table.cells[int(self.rows[index])]

    def find(self, cell: str | None, series: int | None, parallel: int | None) -> int | None:
        """Index of the best option with what is given; ``None`` where there is none."""
        for index in range(len(self)):
            if (
                (cell is None or self.cell(index).id == cell)
                and (series is None or self.series[index] == series)
                and (parallel is None or self.parallel[index] == parallel)
            ):
                return index
        return None


def series_bounds(table: CellTable, terms: Terms, highest_v: float) -> list[tuple[int, int]]:
    """Per cell, the least series count that can hold the stop voltage, and the most allowed."""
    rest = table.ocv_at(np.arange(len(table.cells)), terms.end_charge)
    least = np.floor(terms.stop_v / rest).astype(int) + 1
    return [
        (int(low), min(SERIES_LIMIT, series_max(highest_v, cell.voltage_full_v)))
        for low, cell in zip(least, table.cells, strict=True)
    ]


def search(
    catalogue: Catalogue,
    table: CellTable,
    demand: Demand,
    terms: Terms,
    ranking: Ranking,
    filters: Filters,
) -> Options:
    """Every option within reach: the smallest parallel count that serves and up to two more.

    Returns Options sorted by ``ranking`` (methods 7); refused combinations carry their reason.
    """
    wanted = [index for index, cell in enumerate(table.cells) if _matches(catalogue, cell, filters)]
    bounds = series_bounds(table, terms, demand.window.highest.number)
    refused: list[Refusal] = []
    pairs: list[tuple[int, int]] = []
    for index in wanted:
        cell = table.cells[index]
        if cold := _too_cold_or_hot(cell, demand):
            refused.append(Refusal(cell.chemistry, 0, cold, cell.id))
            continue
        low, high = bounds[index]
        counts = range(low, high + 1) if filters.series is None else (filters.series,)
        pairs.extend((index, count) for count in counts if low <= count <= high)
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
    rows = np.array([pair[0] for pair in pairs], dtype=np.intp)
    series = np.array([pair[1] for pair in pairs], dtype=float)
    if filters.parallel is None:
        least = smallest_parallel(table, rows, series, terms) if pairs else np.zeros(0)
    else:
        least = np.full(len(pairs), float(filters.parallel))
    steps = EXTRA_PARALLEL + 1 if filters.parallel is None else 1
    rows_all = np.repeat(rows, steps)
    series_all = np.repeat(series, steps)
    parallel_all = np.repeat(least, steps) + np.tile(np.arange(steps, dtype=float), len(rows))
    checked = np.where(np.isfinite(parallel_all), parallel_all, float(PARALLEL_LIMIT))
    needs = parallel_needs(table, rows_all, series_all, checked, terms)
    serves = np.isfinite(parallel_all) & (largest_need(needs) <= parallel_all + 1e-9)
    for place in np.flatnonzero(~serves):
        if place % steps == 0:
            refused.append(
                _need_refusal(
                    table.cells[int(rows_all[place])],
                    int(series_all[place]),
                    int(checked[place]),
                    {name: float(needs[name][place]) for name in NEEDS},
                )
            )
    return _ranked(
        catalogue,
        table,
        rows_all[serves],
        series_all[serves],
        parallel_all[serves],
        demand,
        terms,
        ranking,
        tuple(refused),
    )


def _matches(catalogue: Catalogue, cell: Cell, filters: Filters) -> bool:
    chemistry = catalogue.chemistry_of(cell)
    return (filters.cell is None or cell.id == filters.cell) and (
        filters.chemistry is None or filters.chemistry in (chemistry.id, chemistry.family)
    )


def _too_cold_or_hot(cell: Cell, demand: Demand) -> str | None:
    ambient = demand.ambient.number
    if ambient < cell.discharge_min_c:
        return f"{cell.name} may not be discharged under {say(cell.discharge_min_c, '°C')}"
    if ambient > cell.discharge_max_c:
        return f"{cell.name} may not be discharged over {say(cell.discharge_max_c, '°C')}"
    return None


def too_high(series: int, full_v: float, highest_v: float) -> str:
    """Sentence for a count whose full voltage is more than the equipment survives."""
    return (
        f"{say(series * full_v - highest_v, 'V')} too high when full: "
        f"{say(series * full_v, 'V')} against the {say(highest_v, 'V')} it survives"
    )


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


def _need_refusal(cell: Cell, series: int, parallel: int, needs: dict[str, float]) -> Refusal:
    name = max(NEEDS, key=lambda need: needs[need])
    if not np.isfinite(needs[name]):
        reason = f"{cell.name}: {UNCURABLE.get(name, 'no number in parallel helps')}"
    else:
        reason = (
            f"{cell.name}: {NEED_NAMES[name]} asks for {needs[name]:.1f} in parallel, "
            f"{parallel} {'is' if parallel == 1 else 'are'} "
            f"{'the most considered' if parallel == PARALLEL_LIMIT else 'given'}"
        )
    return Refusal(cell.chemistry, series, reason, cell.id)


def _ranked(
    catalogue: Catalogue,
    table: CellTable,
    rows: NDArray[np.intp],
    series: Array,
    parallel: Array,
    demand: Demand,
    terms: Terms,
    ranking: Ranking,
    refused: tuple[Refusal, ...],
) -> Options:
    needs = parallel_needs(table, rows, series, parallel, terms)
    stacked = np.stack([needs[name] for name in NEEDS])
    usable = usable_fraction(table, rows, series, parallel, terms)
    current = end_current_a(table, rows, series, parallel, terms)
    mean_current, _ = mean_load(table, rows, series, parallel, terms)
    count = series * parallel
    delivered = aged_capacity_ah(table, rows, parallel, terms) * usable
    mass, cost = count * table.mass_kg[rows], count * table.price[rows]
    volume = count * table.volume_cm3[rows] / 1000.0
    heating = heating_k_per_min(table, rows, parallel, current, terms)
    limit = table.continuous_a[rows] * terms.derating * parallel
    measures = {"cost": cost, "mass": mass, "volume": volume, "heating": heating, "cells": count}
    balance = sum(
        (
            weight * np.log2(np.maximum(measures[name], 1e-9) / max(measures[name].min(), 1e-9))
            for name, weight in BALANCE_WEIGHTS.items()
            if len(rows)
        ),
        np.zeros(len(rows)),
    ) + _balance_extras(catalogue, table, rows, series, current, demand)
    key = {
        "balance": balance,
        "lightest": mass,
        "cheapest": cost,
        "coolest": heating,
        "smallest": volume,
    }[ranking]
    order = np.lexsort((cost, balance, key))
    return Options(
        table=table,
        rows=rows[order],
        series=series[order],
        parallel=parallel[order],
        needs={name: column[order] for name, column in needs.items()},
        binding=tuple(NEEDS[int(place)] for place in np.argmax(stacked, axis=0)[order])
        if len(rows)
        else (),
        usable=usable[order],
        current_a=current[order],
        runtime_h=(delivered / (mean_current * terms.mean_share))[order],
        capacity_ah=(parallel * table.capacity_ah[rows])[order],
        energy_wh=(count * table.capacity_ah[rows] * table.nominal_v[rows])[order],
        mass_kg=mass[order],
        cost=cost[order],
        volume_l=volume[order],
        heating_k_min=heating[order],
        headroom=(limit / current - 1.0)[order],
        score=balance[order],
        refused=refused,
    )


def charger_fits(charger_v: float, full_v: float) -> bool:
    """Whether a charger's end voltage is the pack's full voltage, within 1 %."""
    return abs(charger_v / full_v - 1.0) <= CHARGER_TOLERANCE


def _balance_extras(
    catalogue: Catalogue,
    table: CellTable,
    rows: NDArray[np.intp],
    series: Array,
    current: Array,
    demand: Demand,
) -> Array:
    strongest: dict[tuple[str, int], float] = {}
    for board in catalogue.boards.values():
        place = (board.family, board.series)
        strongest[place] = max(strongest.get(place, 0.0), board.continuous_a)
    extra = BALANCE_OFF_RATED * np.abs(
        np.log2(np.maximum(series * table.nominal_v[rows], 1e-9) / demand.window.rated.number)
    )
    charger = demand.charger_voltage
    for index, row in enumerate(rows):
        cell = table.cells[int(row)]
        count = int(series[index])
        if cell.origin == "reclaimed":
            extra[index] += BALANCE_RECLAIMED
        if strongest.get((catalogue.chemistry_of(cell).family, count), 0.0) < current[index]:
            extra[index] += BALANCE_NO_BOARD
        if charger is not None and not charger_fits(charger.number, count * cell.voltage_full_v):
            extra[index] += BALANCE_CHARGER
    return np.asarray(extra)


def family_name(catalogue: Catalogue, chemistry: str) -> str:
    """The plain name of a chemistry's family, as tables and the ladder show it."""
    return FAMILY_NAMES[catalogue.chemistries[chemistry].family]
