"""Packs as columns of what they are and do, ranked as the builder wishes."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import FAMILY_NAMES, Cell
from lumvak.core.cells.cell_table import CellTable
from lumvak.core.document.pack import Pack
from lumvak.core.need.demand import Demand
from lumvak.core.said import Text
from lumvak.core.sizing.counts import NEEDS
from lumvak.core.sizing.packs import Packs
from lumvak.core.sizing.ranking import ALIKE, by_count, measures_of, score_of, weights_of
from lumvak.core.sizing.terms import Terms
from lumvak.core.sizing.usable import Worked, heating_k_per_min, worked

Array = NDArray[np.float64]
# Places of options that were worked out whole, and the codes of what stops each.
Stopped = tuple[tuple[int, tuple[str, ...]], ...]
# The cell and the series count of the pack that was proposed before.
Had = tuple[str, int]


class Refusal(Struct, frozen=True):
    """A combination that does not serve, and why."""

    chemistry: str
    series: int
    reason: Text
    cell: str | None = None


class Options(Struct, frozen=True):
    """The options that serve, best first, as columns (n,); and the refused.

    ``weighs`` are the parallel counts that count in the ranking (see ``served.even_count``),
    ``measures`` what counts against each (see ``ranking``), ``score`` their weighted sum;
    ``limited`` is how many serve but pass the builder's limits of weight, cost or cells;
    ``stopped`` tells of places that were worked out whole what stops them, by code; those ``alike``
    are as good as the first, for a need three hundredths away may turn them round.
    """

    table: CellTable
    rows: NDArray[np.intp]
    series: Array
    parallel: Array
    weighs: Array
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
    alike: NDArray[np.bool_]
    measures: Mapping[str, Array]
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


def keeping(options: Options, had: Had | None) -> Options:
    """The options with the best of the cell and series count that was there before in front, where
    it is as good as the first.
    """
    for place in np.flatnonzero(options.alike).tolist() if had is not None else ():
        if (options.cell(place).id, int(options.series[place])) == had:
            return led_by(options, place, ()) if place else options
    return options


def led_by(options: Options, lead: int, stopped: Stopped) -> Options:
    """The options with that of place ``lead`` first, the others as they were.

    ``stopped`` are places, as they were, with what stops them.
    """
    order = np.array([lead, *(place for place in range(len(options)) if place != lead)])
    moved: dict[str, object] = {}
    for name in options.__struct_fields__:
        value = getattr(options, name)
        if isinstance(value, np.ndarray):
            moved[name] = value[order]
    for name in ("needs", "measures"):
        columns: Mapping[str, Array] = getattr(options, name)
        moved[name] = {key: column[order] for key, column in columns.items()}
    moved["binding"] = tuple(options.binding[place] for place in order)
    now = {int(place): at for at, place in enumerate(order)}
    moved["stopped"] = {now[place]: codes for place, codes in stopped}
    return replace(options, **moved)


def worth_trying(options: Options, pack: Pack, catalogue: Catalogue, most: int) -> tuple[int, ...]:
    """Places to try one after the other where the first cannot be built as it is proposed.

    The best of each family, series count and form, of those that the builder's picks leave, for
    what stops one of a kind mostly stops all of it; then the others, ``most`` in all.
    """
    seen: set[tuple[str, float, str]] = set()
    found: list[int] = []
    others: list[int] = []
    for place in range(len(options)):
        cell, series = options.cell(place), float(options.series[place])
        if pack.cell not in (None, cell.id) or pack.series not in (None, series):
            continue
        if pack.parallel not in (None, float(options.parallel[place])):
            continue
        kind = (catalogue.chemistry_of(cell).family, series, cell.format)
        (others if kind in seen else found).append(place)
        seen.add(kind)
    return (*found, *others)[:most]


def ranked(
    catalogue: Catalogue,
    table: CellTable,
    rows: NDArray[np.intp],
    series: Array,
    parallel: Array,
    demand: Demand,
    terms: Terms,
    pack: Pack,
    refused: tuple[Refusal, ...],
    limited: int = 0,
    done: Worked | None = None,
    even: Array | None = None,
    stirs: Array | None = None,
) -> Options:
    """Packs as options, sorted by the ranking of ``pack`` (methods 7).

    Parameters: ``rows``, ``series`` and ``parallel`` of shape (n,) say which packs; whether they
    serve is not asked here. ``done`` is what ``worked`` gives for them, where that is known;
    ``even`` the parallel counts (n,) that weigh, where they are not those themselves, ``stirs`` by
    how many doublings a need three hundredths away moves them.

    It is long, for it names every column of the options.
    """
    packs = Packs(table, rows, series, parallel, terms)
    done = worked(packs) if done is None else done
    needs, current = done.needs, done.end_current_a
    stacked = np.stack([needs[name] for name in NEEDS])
    count = series * parallel
    delivered = done.aged_ah * done.usable
    mass, cost = count * table.mass_kg[rows], count * table.price[rows]
    volume = count * table.volume_cm3[rows] / 1000.0
    heating = heating_k_per_min(packs, current)
    limit = table.continuous_a[rows] * terms.derating * parallel
    weighs = parallel if even is None else even
    measures = measures_of(catalogue, packs, demand, pack, done, weighs)
    weights = weights_of(pack, demand.kind)
    balance = score_of(measures, weights)
    key = {
        "balance": balance,
        "lightest": mass,
        "cheapest": cost,
        "coolest": heating,
        "smallest": volume,
    }[pack.ranking]
    order = np.lexsort((cost, balance, key))
    stirs = np.zeros(len(rows)) if stirs is None else stirs
    alike = _alike(key, stirs, weights if pack.ranking == "balance" else None, order)
    return Options(
        table=table,
        rows=rows[order],
        series=series[order],
        parallel=parallel[order],
        weighs=weighs[order],
        needs={name: column[order] for name, column in needs.items()},
        binding=tuple(np.array(NEEDS)[np.argmax(stacked, axis=0)[order]].tolist()),
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
        measures={name: column[order] for name, column in measures.items()},
        refused=refused,
        limited=limited,
        alike=alike[order],
    )


def _alike(
    key: Array, stirs: Array, weights: Mapping[str, float] | None, order: NDArray[np.intp]
) -> NDArray[np.bool_]:
    """Which packs (n,) are as good as the first of ``order`` by their ``key``.

    That differs by less than what a need three hundredths away moves of either; ``weights`` are
    those of the balance, ``None`` where the key itself goes with the number of cells.
    """
    if not len(order):
        return np.zeros(0, dtype=bool)
    first = order[0]
    # Where no whole count lies near, the need itself is still so much away.
    stir = np.maximum(np.maximum(stirs, stirs[first]), np.log2(1.0 + ALIKE))
    if weights is None:
        return np.asarray(key <= key[first] * 2.0**stir)
    return np.asarray(key - key[first] <= by_count(weights) * stir)


def family_name(catalogue: Catalogue, chemistry: str) -> str:
    """The plain name of a chemistry's family, as tables and the ladder show it."""
    return FAMILY_NAMES[catalogue.chemistries[chemistry].family]
