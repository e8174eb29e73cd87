"""Packs as columns of what they are and do, ranked as the builder wishes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, fields, replace

import numpy as np
from numpy.typing import NDArray

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import FAMILY_NAMES, Cell
from lumvak.core.cells.cell_model import CellTable
from lumvak.core.document.pack import Pack, Ranking
from lumvak.core.need.demand import Demand
from lumvak.core.sizing.counts import NEEDS
from lumvak.core.sizing.terms import Terms
from lumvak.core.sizing.usable import Worked, heating_k_per_min, worked

Array = NDArray[np.float64]
CHARGER_TOLERANCE = 0.01
# Weights of the balance: cost of one doubling of each over the best that serves; methods 7.
BALANCE_WEIGHTS = {"cost": 0.35, "mass": 0.25, "volume": 0.15, "heating": 0.15, "cells": 0.10}
BALANCE_OFF_RATED = 1.0
BALANCE_RECLAIMED = 0.25
BALANCE_CHARGER = 0.25
BALANCE_NO_BOARD = 1.0


# Places of options that were worked out whole, and the codes of what stops each.
Stopped = tuple[tuple[int, tuple[str, ...]], ...]


@dataclass(frozen=True, slots=True)
class Refusal:
    """A combination that does not serve, and why."""

    chemistry: str
    series: int
    reason: str
    cell: str | None = None


@dataclass(frozen=True, slots=True)
class Options:
    """The options that serve, best first, as columns (n,); and the refused.

    ``limited`` is how many serve but pass the builder's limits of weight, cost or cells;
    ``stopped`` tells of places that were worked out whole what stops them, by code.
    """

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
    usable_ah: Array
    warmest_c: Array
    headroom: Array
    score: Array
    refused: tuple[Refusal, ...]
    limited: int = 0
    stopped: Mapping[int, tuple[str, ...]] = field(default_factory=dict)

    def __len__(self) -> int:
        """How many options serve."""
        return len(self.rows)

    def cell(self, index: int) -> Cell:
        """The cell of option ``index``."""
        return self.table.cells[int(self.rows[index])]

    def find(self, cell: str | None, series: int | None, parallel: int | None) -> int | None:
        """Index of the best option with what is given; ``None`` where there is none."""
        wanted = np.ones(len(self), dtype=bool)
        if cell is not None:
            row = self.table.row_of(cell)
            wanted &= self.rows == (-1 if row is None else row)
        if series is not None:
            wanted &= self.series == series
        if parallel is not None:
            wanted &= self.parallel == parallel
        return int(np.argmax(wanted)) if wanted.any() else None


def led_by(options: Options, lead: int, stopped: Stopped) -> Options:
    """The options with that of place ``lead`` first, the others as they were.

    ``stopped`` are places, as they were, with what stops them.
    """
    order = np.array([lead, *(place for place in range(len(options)) if place != lead)])
    moved: dict[str, object] = {}
    for item in fields(options):
        value = getattr(options, item.name)
        if isinstance(value, np.ndarray):
            moved[item.name] = value[order]
    moved["needs"] = {name: column[order] for name, column in options.needs.items()}
    moved["binding"] = tuple(options.binding[place] for place in order)
    now = {int(place): at for at, place in enumerate(order)}
    moved["stopped"] = {now[place]: codes for place, codes in stopped}
    return replace(options, **moved)  # type: ignore[arg-type]


def worth_trying(options: Options, pack: Pack, catalogue: Catalogue, most: int) -> tuple[int, ...]:
    """Places to try one after the other where the first cannot be built as it is proposed.

    The best of each family, series count and form, of those that the builder's picks leave; what
    stops one of a kind mostly stops all of it.
    """
    seen: set[tuple[str, float, str]] = set()
    found: list[int] = []
    for place in range(len(options)):
        cell, series = options.cell(place), float(options.series[place])
        if pack.cell not in (None, cell.id) or pack.series not in (None, series):
            continue
        if pack.parallel not in (None, float(options.parallel[place])):
            continue
        kind = (catalogue.chemistry_of(cell).family, series, cell.format)
        if kind not in seen:
            seen.add(kind)
            found.append(place)
        if len(found) == most:
            break
    return tuple(found)


def ranked(
    catalogue: Catalogue,
    table: CellTable,
    rows: NDArray[np.intp],
    series: Array,
    parallel: Array,
    demand: Demand,
    terms: Terms,
    ranking: Ranking,
    refused: tuple[Refusal, ...],
    limited: int = 0,
    done: Worked | None = None,
) -> Options:
    """Packs as options, sorted by ``ranking`` (methods 7).

    Parameters: ``rows``, ``series`` and ``parallel`` of shape (n,) say which packs; whether they
    serve is not asked here. ``done`` is what ``worked`` gives for them, where that is known.

    It is long, for it names every column of the options.
    """
    done = worked(table, rows, series, parallel, terms) if done is None else done
    needs, current = done.needs, done.end_current_a
    stacked = np.stack([needs[name] for name in NEEDS])
    count = series * parallel
    delivered = done.aged_ah * done.usable
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
        usable=done.usable[order],
        current_a=current[order],
        runtime_h=(delivered / (done.mean_current_a * terms.mean_share))[order],
        capacity_ah=(parallel * table.capacity_ah[rows])[order],
        energy_wh=(count * table.capacity_ah[rows] * table.nominal_v[rows])[order],
        mass_kg=mass[order],
        cost=cost[order],
        volume_l=volume[order],
        heating_k_min=heating[order],
        usable_ah=delivered[order],
        warmest_c=(terms.ambient_c + done.warmth.rise_end_k)[order],
        headroom=(limit / current - 1.0)[order],
        score=balance[order],
        refused=refused,
        limited=limited,
    )


def charger_fits(charger_v: float, full_v: Array | float) -> NDArray[np.bool_]:
    """Whether a charger's end voltage is the full voltage of packs (any shape), within 1 %."""
    return np.asarray(np.abs(charger_v / full_v - 1.0) <= CHARGER_TOLERANCE)


def _balance_extras(
    catalogue: Catalogue,
    table: CellTable,
    rows: NDArray[np.intp],
    series: Array,
    current: Array,
    demand: Demand,
) -> Array:
    extra = BALANCE_OFF_RATED * np.abs(
        np.log2(np.maximum(series * table.nominal_v[rows], 1e-9) / demand.window.rated.number)
    )
    reclaimed = np.array([cell.origin == "reclaimed" for cell in table.cells])
    extra = extra + BALANCE_RECLAIMED * reclaimed[rows]
    strongest = _strongest_boards(catalogue, table, int(series.max(initial=0.0)))
    extra = extra + BALANCE_NO_BOARD * (strongest[rows, series.astype(int)] < current)
    if demand.charger_voltage is not None:
        fits = charger_fits(demand.charger_voltage.number, series * table.full_v[rows])
        extra = extra + BALANCE_CHARGER * ~fits
    return np.asarray(extra)


def _strongest_boards(catalogue: Catalogue, table: CellTable, most: int) -> Array:
    """(cells, most + 1) the most current in A that a board passes for each cell and count."""
    families = {catalogue.chemistry_of(cell).family for cell in table.cells}
    by_family = {family: np.zeros(most + 1) for family in families}
    for (family, series), current_a in catalogue.strongest_board_a.items():
        if family in by_family and series <= most:
            by_family[family][series] = current_a
    return np.array([by_family[catalogue.chemistry_of(cell).family] for cell in table.cells])


def family_name(catalogue: Catalogue, chemistry: str) -> str:
    """The plain name of a chemistry's family, as tables and the ladder show it."""
    return FAMILY_NAMES[catalogue.chemistries[chemistry].family]
