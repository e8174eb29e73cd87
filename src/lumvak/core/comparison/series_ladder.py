"""The ladder of counts: each chemistry and series count near the window, and how it fits."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.cells import FAMILY_NAMES
from lumvak.core.document.need import Need
from lumvak.core.need.motor_speed import speed_words
from lumvak.core.said import Text, digits, phrase, say
from lumvak.core.sizing.choice import Choice
from lumvak.core.sizing.options import Options
from lumvak.core.sizing.packs import Packs
from lumvak.core.sizing.search import LEAST_OF_RATED, series_bounds
from lumvak.core.sizing.sized_pack import SizedPack
from lumvak.core.sizing.usable import usable_fraction

MOST_RUNGS = 6


class Rung(Struct, frozen=True):
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
    says: Text


def ladder(sized_pack: SizedPack, options: Options, need: Need) -> tuple[Rung, ...]:
    """Rungs by family: every count that serves and its two neighbours, with what each gives.

    A family is shown by the chemistry of its best option (the one in hand for its own family), so
    that each count stands once.
    """
    table, choice = sized_pack.table, sized_pack.choice
    bounds = series_bounds(table, sized_pack.demand.window)
    places: list[tuple[int, int]] = []
    families = np.array([sized_pack.catalogue.chemistry_of(cell).family for cell in table.cells])
    for family in FAMILY_NAMES:
        own = families == family
        if own.any():
            best = options.rows[own[options.rows]]
            row = int(best[0] if len(best) else np.argmax(own))
            row = choice.row if own[choice.row] else row
            places.extend((row, count) for count in _counts(bounds[row], row, choice))
    return _rungs(sized_pack, options, need, places)


def _counts(bounds: tuple[int, int], row: int, choice: Choice) -> list[int]:
    """Series counts worth a rung: those within the bounds and one on each side."""
    low, high = bounds
    counts = set(range(max(1, low - 1), high + 2)) if low <= high else {max(1, high), high + 1}
    keep = high
    if row == choice.row:
        counts.add(choice.series)
        keep = choice.series
    shown = sorted(counts)
    if len(shown) > MOST_RUNGS:
        shown = [count for count in shown if abs(count - keep) <= 2 or count > high]
    return shown


def _smallest_parallel(
    options: Options, places: list[tuple[int, int]]
) -> dict[tuple[int, int], float]:
    """The smallest parallel count that serves, by cell row and series count, where one does."""
    wide = int(options.series.max(initial=0)) + 1
    key = options.rows * wide + options.series.astype(np.intp)
    wanted = np.array([row * wide + series for row, series in places if series < wide])
    near = np.flatnonzero(np.isin(key, wanted))
    found: dict[int, float] = {}
    for spot, count in zip(key[near].tolist(), options.parallel[near].tolist(), strict=True):
        found[spot] = min(count, found.get(spot, math.inf))
    return {divmod(spot, wide): count for spot, count in found.items()}


def _rungs(
    sized_pack: SizedPack, options: Options, need: Need, places: list[tuple[int, int]]
) -> tuple[Rung, ...]:
    table, terms, choice = sized_pack.table, sized_pack.terms, sized_pack.choice
    smallest = _smallest_parallel(options, places)
    in_hand = (choice.row, choice.series)
    counts = {**smallest, in_hand: float(choice.parallel)}
    rows = np.array([row for row, _ in places], dtype=np.intp)
    series_n = np.array([float(series) for _, series in places])
    parallel_n = np.array([counts.get(place, float(choice.parallel)) for place in places])
    packs = Packs(table, rows, series_n, parallel_n, terms)
    usable = usable_fraction(packs)
    fixed, shared = packs.outside
    inside = (series_n * packs.end_ohm + shared) / parallel_n
    end = packs.rest_end_v - packs.at_stop_a * (inside + fixed)
    highest, rated = sized_pack.demand.window.highest.number, sized_pack.demand.window.rated.number
    rungs = []
    for index, place in enumerate(places):
        cell, series = table.cells[place[0]], place[1]
        full = series * cell.voltage_full_v
        over = full > highest + 1e-9
        share = float(usable[index])
        if over:
            says = phrase("{} too high when full", say(full - highest, "V"))
        else:
            says = phrase("gives up {} %", digits(100.0 * (1.0 - share), ".0f"))
            if rated * LEAST_OF_RATED > series * cell.voltage_nominal_v + 1e-9:
                says = phrase(
                    "{} of the rated voltage", say(series * cell.voltage_nominal_v / rated, "%")
                )
            speed = speed_words(need, series * cell.voltage_nominal_v)
            says = phrase("{}, {}", says, speed) if speed else says
        chemistry = sized_pack.catalogue.chemistry_of(cell)
        rungs.append(
            Rung(
                chemistry=chemistry.id,
                family=FAMILY_NAMES[chemistry.family],
                series=series,
                cell=cell.name,
                empty_v=series * cell.voltage_empty_v,
                nominal_v=series * cell.voltage_nominal_v,
                full_v=full,
                end_v=float(end[index]),
                usable=share,
                serves=bool(not over and place in smallest),
                chosen=place == in_hand,
                says=says,
            )
        )
    return tuple(rungs)
