"""The search: every chemistry x series x parallel x cell within reach, ranked, and the refused."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import FORMS, ROUND, Cell, Form
from lumvak.core.cells.cell_table import CellTable
from lumvak.core.document.need import Kind
from lumvak.core.document.pack import Pack
from lumvak.core.need.demand import Demand
from lumvak.core.need.window import VoltageWindow
from lumvak.core.said import Text, digits, listed, phrase, say
from lumvak.core.sizing.counts import (
    NEED_NAMES,
    NEEDS,
    PARALLEL_LIMIT,
    series_max,
)
from lumvak.core.sizing.options import Options, Refusal, ranked
from lumvak.core.sizing.served import Served, folded_away, worked_out
from lumvak.core.sizing.terms import Terms

Array = NDArray[np.float64]
# A pack of a lower nominal voltage than this share of the rated one has too little power.
LEAST_OF_RATED = 0.88
UNCURABLE = {
    "sag": "no number in parallel holds the peak at the charge for it",
    "temperature": "the air is already as warm as the cells may get, and running makes them warmer",
}
SERIES_LIMIT = 300


class Filters(Struct, frozen=True):
    """Only options of this chemistry (id or family), cell, series and parallel; ``None`` is any."""

    chemistry: str | None = None
    cell: str | None = None
    series: int | None = None
    parallel: int | None = None


def series_bounds(table: CellTable, window: VoltageWindow) -> list[tuple[int, int]]:
    """Per cell, the least series count that does not run too low, and the most allowed."""
    least = np.ceil(LEAST_OF_RATED * window.rated.number / table.nominal_v - 1e-9).astype(int)
    full = table.full_v.tolist()
    highest_v = window.highest.number
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

    Those of over twice the cells of another that gives as much are folded away with the refused. It
    is long, for it names every step of the work.
    """
    wanted = _asked_for(catalogue, table, filters)
    bounds = series_bounds(table, demand.window)
    refused = _window_refusals(table, wanted, bounds, demand, filters)
    if not wanted:
        words = phrase(
            "no cell is both “{}” and of “{}”", str(filters.cell), str(filters.chemistry)
        )
        refused.append(Refusal(filters.chemistry or "", filters.series or 0, words, filters.cell))
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
    rows, series = _columns(reach)
    found = worked_out(table, terms, rows, series, filters.parallel)
    refused.extend(_not_serving(table, found, terms))
    found, past = _within_limits(table, found, pack)
    picked, own_past = _within_limits(table, _picked(table, pack, reach, found, terms), pack)
    # Of what is within the limits, for what is past them stands in for nothing.
    folded = folded_away(catalogue, table, found, demand, pack, filters.cell)
    refused.extend((*folded.values(), *past, *own_past))
    serves = found.serves & ~np.isin(np.arange(len(found.rows)) // found.steps, list(folded))
    done = None if picked.serves.any() else found.done.of(serves)
    rows, series, parallel, even, stirs = (
        np.concatenate((getattr(found, name)[serves], getattr(picked, name)[picked.serves]))
        for name in ("rows", "series", "parallel", "even", "stirs")
    )
    limited = len(past) + len(own_past)
    return ranked(
        catalogue,
        table,
        rows=rows,
        series=series,
        parallel=parallel,
        demand=demand,
        terms=terms,
        pack=pack,
        refused=tuple(refused),
        limited=limited,
        done=done,
        even=even,
        stirs=stirs,
    )


def _within_limits(
    table: CellTable, found: Served, pack: Pack
) -> tuple[Served, tuple[Refusal, ...]]:
    """What keeps the builder's limits of mass, cost and cells, and the refusals of the rest."""
    if not limited(pack):
        return found, ()
    serves, refused = found.serves.copy(), []
    for place in np.flatnonzero(serves).tolist():
        cell = table.cells[int(found.rows[place])]
        series, parallel = int(found.series[place]), int(found.parallel[place])
        reason = past_limits(cell, series * parallel, pack)
        if reason:
            serves[place] = False
            words = phrase("{} {}S{}P: {}", cell.name, series, parallel, reason)
            refused.append(Refusal(cell.chemistry, series, words, cell.id))
    return replace(found, serves=serves), tuple(refused)


def _asked_for(catalogue: Catalogue, table: CellTable, filters: Filters) -> list[int]:
    """Rows of the cells that are looked at."""
    every = range(len(table.cells))
    if filters.cell is None and filters.chemistry is None:
        return list(every)
    return [row for row in every if _matches(catalogue, table.cells[row], filters)]


def _not_serving(table: CellTable, found: Served, terms: Terms) -> list[Refusal]:
    """Why a cell and series count does not serve, of which no parallel count looked at does."""
    refused, needs = [], found.done.needs
    for first in range(0, len(found.rows), found.steps):
        if found.serves[first : first + found.steps].any():
            continue
        cell, count = table.cells[int(found.rows[first])], int(found.series[first])
        parallel = int(found.parallel[first])
        if found.met[first]:
            usable = float(found.done.usable[first])
            words = phrase("{} {}S{}P: {}", cell.name, count, parallel, gives_up(usable, terms))
            refused.append(Refusal(cell.chemistry, count, words, cell.id))
            continue
        name = max(NEEDS, key=lambda need: float(needs[need][first]))
        refused.append(_need_refusal(cell, count, parallel, name, float(needs[name][first])))
    return refused


def _columns(reach: list[tuple[int, int, int]]) -> tuple[NDArray[np.intp], Array]:
    """(K,) cell rows and (K,) series counts of every count from the least to the most of a row."""
    row, low, high = np.array(reach, dtype=np.intp).reshape(-1, 3).T
    many = high - low + 1
    first = np.cumsum(many) - many
    series = np.arange(many.sum()) - np.repeat(first - low, many)
    return np.repeat(row, many), series.astype(float)


def _picked(
    table: CellTable,
    pack: Pack,
    reach: list[tuple[int, int, int]],
    found: Served,
    terms: Terms,
) -> Served:
    """The pack that the builder picked, where it is not among those found."""
    row = table.row_of(pack.cell)
    none = found.none
    if row is None or pack.series is None or pack.parallel is None:
        return none
    if not any(own == row and low <= pack.series <= high for own, low, high in reach):
        return none
    here = (found.rows == row) & (found.series == pack.series) & (found.parallel == pack.parallel)
    if np.any(here & found.serves):
        return none
    picked = np.array([row]), np.array([float(pack.series)])
    return worked_out(table, terms, *picked, pack.parallel)


def wanted_forms(pack: Pack, kind: Kind) -> tuple[Form, ...]:
    """Forms of cells that the builder can get and join.

    Where nothing was said: round ones for vehicles and tools, all for supplies (methods 7).
    """
    return pack.forms or (ROUND if kind in ("vehicle", "tool") else FORMS)


def unwanted(cell: Cell, pack: Pack, kind: Kind, named: str | None = None) -> Text | None:
    """Why a cell is not wanted at all: its form, its origin, or because none is on hand.

    One that is asked for by name, in the pack or as ``named``, is wanted whatever its form.
    """
    forms = wanted_forms(pack, kind)
    if cell.format not in forms and cell.id not in (pack.cell, named):
        return phrase("{} is {}; wanted are {}", cell.name, cell.format, listed(forms))
    held = any(item.cell == cell.id for item in pack.drawer)
    # Reclaimed cells are taken where they are on hand or asked for by name.
    asked = pack.origin == "new" and (held or cell.id in (pack.cell, named))
    if pack.origin not in ("any", cell.origin) and not asked:
        return phrase("{} is {}; only {} cells are wanted", cell.name, cell.origin, pack.origin)
    if pack.drawer_only and not held:
        return phrase("{}: none on hand", cell.name)
    return None


def limited(pack: Pack) -> bool:
    """Whether the builder set any limit that ``past_limits`` looks at."""
    return pack.drawer_only or pack.most_mass_kg is not None or pack.most_cost is not None


def past_limits(cell: Cell, count: int, pack: Pack) -> Text | None:
    """Which of the builder's limits ``count`` cells pass; ``None`` where they keep all."""
    mass, cost = count * cell.mass_g / 1000.0, count * cell.price
    if pack.most_mass_kg is not None and mass > pack.most_mass_kg + 1e-9:
        return phrase("weighs {}, {} at most", say(mass, "kg"), say(pack.most_mass_kg, "kg"))
    if pack.most_cost is not None and cost > pack.most_cost + 1e-9:
        return phrase("costs {}, {} at most", say(cost, "money"), say(pack.most_cost, "money"))
    if pack.drawer_only:
        held = sum(item.count for item in pack.drawer if item.cell == cell.id)
        if count > held:
            return phrase("needs {} cells, {} are on hand", count, held)
    return None


def _matches(catalogue: Catalogue, cell: Cell, filters: Filters) -> bool:
    chemistry = catalogue.chemistry_of(cell)
    return (filters.cell is None or cell.id == filters.cell) and (
        filters.chemistry is None or filters.chemistry in (chemistry.id, chemistry.family)
    )


def too_cold_or_hot(cell: Cell, demand: Demand) -> Text | None:
    """Why a cell may not work in this air; ``None`` where it may."""
    if demand.coldest.number < cell.discharge_min_c:
        return phrase(
            "{} may not be discharged under {}", cell.name, say(cell.discharge_min_c, "°C")
        )
    if demand.ambient.number > cell.discharge_max_c:
        return phrase(
            "{} may not be discharged over {}", cell.name, say(cell.discharge_max_c, "°C")
        )
    return None


@lru_cache(1024)
def too_high(series: int, full_v: float, highest_v: float) -> Text:
    """Sentence for a count whose full voltage is more than the equipment survives."""
    return phrase(
        "{} too high when full: {} against a maximum of {}",
        say(series * full_v - highest_v, "V"),
        say(series * full_v, "V"),
        say(highest_v, "V"),
    )


@lru_cache(1024)
def too_low(series: int, nominal_v: float, rated_v: float) -> Text:
    """Sentence for a count whose nominal voltage is too far under the rated one."""
    return phrase(
        "too low: {} nominal is {} of the rated {}, {} is the least",
        say(series * nominal_v, "V"),
        say(series * nominal_v / rated_v, "%"),
        say(rated_v, "V"),
        say(LEAST_OF_RATED, "%"),
    )


def gives_up(usable: float, terms: Terms) -> Text:
    """Sentence for a pack of which a share ``usable`` is too little, and what would do."""
    held = (
        "before the BMS opens"
        if terms.stop_v is None
        else phrase("over {}", say(terms.stop_v, "V"))
    )
    return phrase(
        "only {} of the charge is usable {}, {} is the least",
        say(usable, "%"),
        held,
        say(terms.least_usable, "%"),
    )


def _window_refusals(
    table: CellTable,
    wanted: list[int],
    bounds: list[tuple[int, int]],
    demand: Demand,
    filters: Filters,
) -> list[Refusal]:
    highest = demand.window.highest.number
    rated = demand.window.rated.number
    found: list[Refusal] = []
    by_chemistry: dict[str, list[int]] = {}
    for index in wanted:
        by_chemistry.setdefault(table.cells[index].chemistry, []).append(index)
    for chemistry, members in by_chemistry.items():
        most = max(bounds[index][1] for index in members)
        least = min(bounds[index][0] for index in members)
        full = min(table.cells[index].voltage_full_v for index in members)
        nominal = max(table.cells[index].voltage_nominal_v for index in members)
        if filters.series is None:
            low_counts, high_counts = [least - 1], [most + 1]
            if least > most:
                low_counts, high_counts = list(range(max(1, most), least)), [most + 1]
        else:
            low_counts = [filters.series] if filters.series < least else []
            high_counts = [filters.series] if filters.series > most else []
        for count in low_counts:
            if 0 < count <= most:
                reason = too_low(count, nominal, rated)
                found.append(Refusal(chemistry, count, reason))
        for count in high_counts:
            if count <= SERIES_LIMIT:
                found.append(Refusal(chemistry, count, too_high(count, full, highest)))
    return found


def _need_refusal(cell: Cell, series: int, parallel: int, name: str, need: float) -> Refusal:
    """Why a cell does not serve: its largest need, and the parallel count that it asks for."""
    if not math.isfinite(need):
        reason = phrase("{}: {}", cell.name, UNCURABLE.get(name, "no number in parallel helps"))
    else:
        reason = phrase(
            "{}: {} asks for {} in parallel, {} are the most considered"
            if parallel == PARALLEL_LIMIT
            else "{}: {} asks for {} in parallel, {} is given"
            if parallel == 1
            else "{}: {} asks for {} in parallel, {} are given",
            cell.name,
            NEED_NAMES[name],
            digits(need, ".1f"),
            parallel,
        )
    return Refusal(cell.chemistry, series, reason, cell.id)
