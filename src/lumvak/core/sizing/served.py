"""Cells and series counts with the parallel counts that may serve; which are folded away."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import ROUND
from lumvak.core.cells.cell_table import CellTable
from lumvak.core.document.pack import Pack
from lumvak.core.need.demand import Demand
from lumvak.core.said import phrase
from lumvak.core.sizing.counts import PARALLEL_LIMIT, gives_enough, largest_need, smallest_parallel
from lumvak.core.sizing.options import Refusal
from lumvak.core.sizing.packs import Packs
from lumvak.core.sizing.ranking import ALIKE
from lumvak.core.sizing.terms import Array, Rows, Terms
from lumvak.core.sizing.usable import Worked, worked

EXTRA_PARALLEL = 2
# Needs of so much less and more are meant in the count that weighs; methods 7.
EVEN = 0.05
# Over so many times the cells of another that gives at least so much of the charge: folded away.
MOST_TIMES, AS_MUCH = 2.0, 0.95


class Served(Struct, frozen=True, eq=False):
    """Packs of every cell and series count, (n,): ``steps`` parallel counts of each, from the
    least that meets the needs up.

    ``even`` is the count that weighs in the ranking, ``stirs`` by how many doublings a need
    three hundredths away moves it; ``met`` are those that meet every need, of which those serve
    that give enough of their charge.
    """

    steps: int
    rows: Rows
    series: Array
    parallel: Array
    even: Array
    stirs: Array
    done: Worked
    met: NDArray[np.bool_]
    serves: NDArray[np.bool_]

    @property
    def none(self) -> Served:
        """None of them, one parallel count of each."""
        nothing = np.zeros(len(self.rows), dtype=bool)
        columns = ("rows", "series", "parallel", "even", "stirs", "met", "serves")
        empty = {name: getattr(self, name)[:0] for name in columns}
        return Served(steps=1, done=self.done.of(nothing), **empty)


def worked_out(
    table: CellTable, terms: Terms, rows: Rows, series: Array, given: int | None
) -> Served:
    """Every cell and series count, (k,), at its least parallel count and a few more."""
    if given is not None:
        least, offsets = np.full(len(rows), float(given)), np.array([0.0])
    else:
        least = smallest_parallel(table, rows, series, terms) if len(rows) else np.zeros(0)
        offsets = np.arange(-1.0, EXTRA_PARALLEL + 1.0)
    steps = len(offsets)
    tried = np.repeat(least, steps) + np.tile(offsets, len(rows))
    checked = np.where(np.isfinite(tried), np.maximum(tried, 1.0), float(PARALLEL_LIMIT))
    done = worked(Packs(table, np.repeat(rows, steps), np.repeat(series, steps), checked, terms))
    needed = largest_need(done.needs)
    even, stirred = least, ALIKE * least
    if steps > 1:
        under, at = needed.reshape(-1, steps)[:, :2].T
        crossing = crossing_of(np.where(np.isfinite(least), least, PARALLEL_LIMIT), under, at)
        even, stirred = even_count(crossing), stirred_by(crossing)
        # The count below was only wanted for that.
        keep = np.tile(offsets >= 0.0, len(rows))
        steps -= 1
    else:
        keep = np.ones(len(rows), dtype=bool)
    met = np.isfinite(tried) & (needed <= checked + 1e-9)
    enough = gives_enough(done.usable, terms)
    counted = np.repeat(even - np.where(np.isfinite(least), least, 0.0), len(offsets)) + checked
    return Served(
        steps=steps,
        rows=np.repeat(rows, steps),
        series=np.repeat(series, steps),
        parallel=checked[keep],
        even=counted[keep],
        stirs=np.log2(1.0 + np.repeat(stirred, len(offsets)) / counted)[keep],
        done=done.of(keep),
        met=met[keep],
        serves=(met & enough)[keep],
    )


def crossing_of(least: Array, under: Array, at: Array) -> Array:
    """Where the largest need crosses the parallel count, as a real number (k,).

    ``least`` is the smallest whole count that serves, ``at`` the largest need there and ``under``
    that at one less; straight between the two.
    """
    over, room = under - (least - 1.0), at - least
    with np.errstate(invalid="ignore", divide="ignore"):
        between = least - 1.0 + np.where(np.isfinite(over), over / (over - room), 0.5)
    return np.where(least > 1.0, between, np.minimum(at, 1.0))


def even_count(crossing: Array) -> Array:
    """Parallel count (k,) that weighs in the ranking, by where the need crosses it (methods 7).

    The mean of the whole counts that needs ``EVEN`` smaller up to as much larger ask for, so that a
    hundredth of the load more or less does not move the ranking by a whole cell a group.
    """
    low, high = (1.0 - EVEN) * crossing, (1.0 + EVEN) * crossing
    return np.asarray((_whole_sum(high) - _whole_sum(low)) / np.maximum(high - low, 1e-12))


def stirred_by(crossing: Array) -> Array:
    """By how much (k,) the count that weighs moves where the need is ``ALIKE`` away."""
    even, less, more = (even_count(share * crossing) for share in (1.0, 1.0 - ALIKE, 1.0 + ALIKE))
    return np.maximum(more - even, even - less)


def _whole_sum(count: Array) -> Array:
    """Integral of the count rounded up, from 0 to ``count`` (any shape)."""
    whole = np.floor(count)
    return np.asarray(whole * (whole + 1.0) / 2.0 + (count - whole) * (whole + 1.0))


def folded_away(
    catalogue: Catalogue,
    table: CellTable,
    found: Served,
    demand: Demand,
    pack: Pack,
    named: str | None,
) -> dict[int, Refusal]:
    """Which cells and series counts take over ``MOST_TIMES`` the cells of another that gives as
    much, by their place, and what to say of each.

    Compared are cells of one family, round ones with round ones; one that is named or on hand
    stays.
    """
    served = found.serves.reshape(-1, found.steps)
    first = np.argmax(served, axis=1) + found.steps * np.arange(len(served))
    pairs = np.flatnonzero(served.any(axis=1))
    rows, counts = found.rows[first], found.series[first] * found.parallel[first]
    done = found.done
    delivered_wh = (done.aged_ah * done.usable * done.mean_voltage_v)[first]
    stays = {pack.cell, named, *(held.cell for held in pack.drawer)}
    kinds = _kinds(catalogue, table)[rows]
    folded = {}
    for kind in np.unique(kinds[pairs]).tolist():
        alike = pairs[kinds[pairs] == kind]
        best = int(alike[np.argmin(counts[alike])])
        many = counts[alike] > MOST_TIMES * counts[best]
        if demand.endurance is None:
            many &= delivered_wh[best] >= AS_MUCH * delivered_wh[alike]
        for place in alike[many].tolist():
            at, cell, other = first[place], table.cells[rows[place]], table.cells[rows[best]]
            if cell.id in stays:
                continue
            words = phrase(
                "{}: {} cells, where {} of {}, {}S{}P, give as much",
                cell.name,
                int(counts[place]),
                int(counts[best]),
                other.name,
                int(found.series[first[best]]),
                int(found.parallel[first[best]]),
            )
            folded[place] = Refusal(cell.chemistry, int(found.series[at]), words, cell.id)
    return dict(sorted(folded.items()))


@lru_cache(maxsize=4)
def _kinds(catalogue: Catalogue, table: CellTable) -> NDArray[np.intp]:
    """A number for each cell (n,): the same for those of one family, round or not."""
    names = [
        f"{catalogue.chemistry_of(cell).family} {cell.format in ROUND}" for cell in table.cells
    ]
    return np.unique(names, return_inverse=True)[1]
