"""Why not this one? The first need that a pack fails, by how much, and what would cure it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.cells.cell_table import CellTable
from lumvak.core.need.demand import Load
from lumvak.core.said import Text, digits, listed, phrase, round_figures, say, say_hours
from lumvak.core.sizing.counts import (
    NEED_NAMES,
    NEEDS,
    gives_enough,
    series_max,
    serving,
    smallest_parallel,
)
from lumvak.core.sizing.options import Options
from lumvak.core.sizing.packs import Packs, one_pack
from lumvak.core.sizing.search import (
    LEAST_OF_RATED,
    gives_up,
    past_limits,
    series_bounds,
    too_cold_or_hot,
    too_high,
    too_low,
    unwanted,
)
from lumvak.core.sizing.served import EXTRA_PARALLEL
from lumvak.core.sizing.sized_pack import SizedPack
from lumvak.core.sizing.terms import Terms
from lumvak.core.sizing.usable import usable_fraction, worked

SEARCH_STEPS = 40
REACH = 4
LEAST_SHARE = 0.05
HOTTEST_C = 100.0


class Answer(Struct, frozen=True):
    """What is said of a pack that was asked for.

    ``failed`` is what it fails first: ``window``, ``cell``, a need of NEEDS, ``limit``,
    ``usable`` (too little of the charge), or empty where it serves. ``cure`` is the smallest
    change of the pack, as cell, series and parallel.
    """

    pack: tuple[str, int, int]
    failed: str
    text: Text
    change: Text
    cure: tuple[str, int, int] | None


def why_not(sized_pack: SizedPack, row: int, series: int | None, parallel: int | None) -> Answer:
    """Answer for the cell ``row`` of the table; a count left open takes the best for it."""
    table, terms = sized_pack.table, sized_pack.terms
    cell = table.cells[row]
    if series is None:
        found = _cures(
            sized_pack, row, sized_pack.choice.series, parallel or sized_pack.choice.parallel
        )
        low, high = _bounds(sized_pack, row)
        near = (
            min(max(sized_pack.choice.series, low), max(high, 1)) if low <= high else max(high, 1)
        )
        series = found[0][1] if found and parallel is None else near
    if parallel is None:
        least = _least(table, terms, row, series)
        parallel = int(least) if np.isfinite(least) else sized_pack.choice.parallel
    pack = (cell.id, series, parallel)
    failed, text = _failure(sized_pack, row, series, parallel)
    if not failed:
        return Answer(pack, "", phrase("{} serves: {}", _name(sized_pack, pack), text), "", None)
    cures = _cures(sized_pack, row, series, parallel)
    said: list[Text] = [phrase("smallest change: {}", _change(pack, cures[0]))] if cures else []
    said.extend(_relief(sized_pack, row, series, parallel, failed))
    if not cures and failed != "cell":
        said.extend(_wider_window(sized_pack, row))
    return Answer(
        pack,
        failed,
        phrase("{} does not serve: {}", _name(sized_pack, pack), text),
        listed(said, "; or ") if said else phrase("no count of {} serves this need", cell.name),
        cures[0] if cures else None,
    )


def typical_row(sized_pack: SizedPack, options: Options, wanted: str) -> int | None:
    """Row of the cell to ask about for a cell id, a chemistry or a family; ``None`` if unknown.

    Of several, the one whose option ranks first, else the first in the catalogue.
    """
    catalogue = sized_pack.catalogue
    rows = [
        row
        for row, cell in enumerate(sized_pack.table.cells)
        if wanted in (cell.id, cell.chemistry, catalogue.chemistry_of(cell).family)
    ]
    return next((int(row) for row in options.rows if int(row) in rows), rows[0] if rows else None)


def _name(sized_pack: SizedPack, pack: tuple[str, int, int]) -> Text:
    return phrase("{}S{}P of {}", pack[1], pack[2], sized_pack.catalogue.cells[pack[0]].name)


def _bounds(sized_pack: SizedPack, row: int) -> tuple[int, int]:
    return series_bounds(sized_pack.table, sized_pack.demand.window)[row]


def _least(table: CellTable, terms: Terms, row: int, series: int) -> float:
    return float(smallest_parallel(table, np.array([row]), np.array([float(series)]), terms)[0])


class _Failure(NamedTuple):
    """What a pack fails first, none where it serves, and the sentence."""

    need: str
    said: Text


def _failure(sized_pack: SizedPack, row: int, series: int, parallel: int) -> _Failure:
    """What a pack fails first, and the sentence; an empty name where it serves."""
    table, terms, demand = sized_pack.table, sized_pack.terms, sized_pack.demand
    cell, highest = table.cells[row], demand.window.highest.number
    if series > series_max(highest, cell.voltage_full_v):
        return _Failure("window", too_high(series, cell.voltage_full_v, highest))
    low, _ = _bounds(sized_pack, row)
    if series < low:
        return _Failure(
            "window", too_low(series, cell.voltage_nominal_v, demand.window.rated.number)
        )
    if barred := too_cold_or_hot(cell, demand):
        return _Failure("cell", barred)
    done = worked(one_pack(table, row, series, parallel, terms))
    needs = {name: float(done.needs[name][0]) for name in NEEDS}
    for name in NEEDS:
        asked = needs[name]
        if not np.isfinite(asked):
            return _Failure(name, phrase("{}: no number in parallel meets it", NEED_NAMES[name]))
        if asked > parallel + 1e-9:
            return _Failure(name, _shortfall(name, asked, parallel))
    barred = unwanted(cell, sized_pack.pack, demand.kind, cell.id)
    if barred := barred or past_limits(cell, series * parallel, sized_pack.pack):
        return _Failure("limit", barred)
    if not gives_enough(done.usable, terms)[0]:
        return _Failure("usable", gives_up(float(done.usable[0]), terms))
    name = max(NEEDS, key=lambda need: needs[need])
    return _Failure(
        "", phrase("{} asks for most, {} in parallel", NEED_NAMES[name], digits(needs[name], ".2f"))
    )


def _shortfall(name: str, asked: float, parallel: int) -> Text:
    there = phrase("{} is there" if parallel == 1 else "{} are there", parallel)
    ratio = asked / parallel
    short = (
        phrase("{} more", say(ratio - 1.0, "%"))
        if ratio < 2.0
        else phrase("{} times as many", round_figures(ratio))
    )
    return phrase(
        "{} asks for {} in parallel, {}: {}", NEED_NAMES[name], round_figures(asked), there, short
    )


def _cures(
    sized_pack: SizedPack, row: int, series: int, parallel: int
) -> list[tuple[str, int, int]]:
    """Packs of the same cell that serve, those first that change fewest things, then fewest cells.

    One thing changed beats two; then the number of cells that come or go decides.
    """
    low, high = _bounds(sized_pack, row)
    cell = sized_pack.table.cells[row]
    barred = unwanted(cell, sized_pack.pack, sized_pack.demand.kind, cell.id)
    if low > high or too_cold_or_hot(cell, sized_pack.demand) or barred:
        return []
    counts = np.arange(low, high + 1)
    rows = np.full(len(counts), row, dtype=np.intp)
    least = smallest_parallel(sized_pack.table, rows, counts.astype(float), sized_pack.terms)
    found = []
    for count, fewest in zip(counts.tolist(), least.tolist(), strict=True):
        needed = _enough(sized_pack, row, count, fewest, parallel)
        if needed is None:
            continue
        wanted = needed if count == series else max(needed, parallel)
        if past_limits(cell, count * wanted, sized_pack.pack):
            wanted = needed
            if past_limits(cell, count * wanted, sized_pack.pack):
                continue
        changed = (count != series) + (wanted != parallel)
        found.append((changed, abs(count * wanted - series * parallel), (cell.id, count, wanted)))
    return [pack for _, _, pack in sorted(found)]


def _enough(
    sized_pack: SizedPack, row: int, count: int, fewest: float, parallel: int
) -> int | None:
    """The fewest in parallel, from ``fewest`` that meet the needs up, that give enough charge."""
    if not np.isfinite(fewest):
        return None
    tried = np.arange(fewest, max(fewest + EXTRA_PARALLEL, float(parallel)) + 1.0)
    rows, series = np.full(len(tried), row, dtype=np.intp), np.full(len(tried), float(count))
    usable = usable_fraction(Packs(sized_pack.table, rows, series, tried, sized_pack.terms))
    enough = tried[gives_enough(usable, sized_pack.terms)]
    return int(enough[0]) if len(enough) else None


def _change(pack: tuple[str, int, int], cure: tuple[str, int, int]) -> Text:
    words = list[Text]()
    if cure[1] != pack[1]:
        words.append(phrase("{} in series", cure[1]))
    if cure[2] != pack[2]:
        words.append(phrase("{} in parallel", cure[2]))
    extra = cure[1] * cure[2] - pack[1] * pack[2]
    change = listed(words, " and ")
    if not extra:
        return change
    if abs(extra) == 1:
        return phrase("{} (1 cell more)" if extra > 0 else "{} (1 cell fewer)", change)
    cells = "{} ({} cells more)" if extra > 0 else "{} ({} cells fewer)"
    return phrase(cells, change, abs(extra))


def _relief(
    sized_pack: SizedPack, row: int, series: int, parallel: int, failed: str
) -> Iterator[Text]:
    """What less to ask for so that the pack serves as it is, where one thing would do."""
    terms, load, endurance = (
        sized_pack.terms,
        sized_pack.demand.load_figure,
        sized_pack.demand.endurance,
    )

    def limit_c(share: float) -> float:
        return HOTTEST_C - (HOTTEST_C - terms.temperature_limit_c) * share

    def lasting(share: float) -> Text:
        assert endurance is not None, "asked only where one is wanted"
        value = endurance.number * share
        return say_hours(value) if endurance.unit == "h" else say(value, endurance.unit)

    # For each need: the terms with a share of what is asked, and that share in words.
    eased: dict[str, tuple[Callable[[float], Terms], Callable[[float], Text]]] = {
        "capacity": (
            lambda share: replace(terms, endurance=terms.endurance * share),
            lambda share: phrase("be content with {}", lasting(share)),
        ),
        "continuous": (
            lambda share: replace(terms, load=_less(terms.load, share)),
            lambda share: phrase("a load of {}", say(load.number * share, load.unit)),
        ),
        "peak": (
            lambda share: replace(terms, peak_a=terms.peak_a * share),
            lambda share: phrase("a peak of {}", say(terms.peak_a * share, "A")),
        ),
        "charge": (
            lambda share: replace(terms, charger_a=terms.charger_a * share),
            lambda share: phrase("charge with {}", say(terms.charger_a * share, "A")),
        ),
        "sag": (
            lambda share: replace(terms, peak_a=terms.peak_a * share),
            lambda share: phrase("a peak of {}", say(terms.peak_a * share, "A")),
        ),
        "usable": (
            lambda share: replace(terms, stop_v=(terms.stop_v or 0.0) * share),
            lambda share: phrase(
                "equipment that runs down to {}", say(_down((terms.stop_v or 0.0) * share), "V")
            ),
        ),
        "temperature": (
            lambda share: replace(terms, temperature_limit_c=limit_c(share)),
            lambda share: phrase("allow the cells {}", say(float(np.ceil(limit_c(share))), "°C")),
        ),
    }
    if failed not in eased or (failed == "usable" and terms.stop_v is None):
        return
    ease, words = eased[failed]
    share = _largest_share(sized_pack.table, row, series, parallel, ease)
    if share > 0.0:
        yield words(share)


def _less(load: Load, share: float) -> Load:
    return Load(
        None if load.current_a is None else load.current_a * share,
        None if load.power_w is None else load.power_w * share,
    )


def _down(volts: float) -> float:
    """Rounded down to a tenth, so that what is said would do."""
    return float(np.floor(volts * 10.0) / 10.0)


def _largest_share(
    table: CellTable, row: int, series: int, parallel: int, eased: Callable[[float], Terms]
) -> float:
    """The largest share, under 1, of a thing asked for at which all needs are met; 0 for none."""

    def serves(share: float) -> bool:
        terms = eased(share)
        done = worked(one_pack(table, row, series, parallel, terms))
        return bool(serving(done.needs, done.usable, parallel, terms)[0])

    low, high = LEAST_SHARE, 1.0
    if not serves(low):
        return 0.0
    for _ in range(SEARCH_STEPS):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if serves(middle) else (low, middle)
    return low


def _wider_window(sized_pack: SizedPack, row: int) -> Iterator[Text]:
    """Where no count of a cell serves: the window in which its nearest counts would."""
    table, terms, cell = sized_pack.table, sized_pack.terms, sized_pack.table.cells[row]
    highest = sized_pack.demand.window.highest.number
    fits = series_max(highest, cell.voltage_full_v)
    above = range(fits + 1, fits + 1 + REACH)
    up = next((count for count in above if np.isfinite(_least(table, terms, row, count))), None)
    if up is not None:
        yield phrase(
            "{} in series for equipment of at most {}", up, say(up * cell.voltage_full_v, "V")
        )
    rated_v = fits * cell.voltage_nominal_v / LEAST_OF_RATED
    if 1 <= fits < _bounds(sized_pack, row)[0]:
        yield phrase("{} in series for equipment rated for {}", fits, say(_down(rated_v), "V"))
