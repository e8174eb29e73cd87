"""Lots of cells with planted faults, and small pools with their best dealing by all ways."""

from __future__ import annotations

import random
from collections.abc import Iterator
from itertools import combinations

from lumvak.core.document.hand import HandCell, Lot, Meter
from lumvak.core.matching.judging import judge_lot

# The rest voltage of a lot, and below which such a cell is never charged again.
RESTS_V = {"cobalt": (3.62, 2.0), "phosphate": (3.29, 1.5), "titanate": (2.3, 1.2)}


def all_ways(left: tuple[int, ...], parallel: int) -> Iterator[list[tuple[int, ...]]]:
    """Every way to put cells into groups of ``parallel``."""
    if not left:
        yield []
        return
    first, rest = left[0], left[1:]
    for others in combinations(rest, parallel - 1):
        remaining = tuple(place for place in rest if place not in others)
        for more in all_ways(remaining, parallel):
            yield [(first, *others), *more]


def least_spread_ah(capacities: list[float], parallel: int) -> float:
    """The least that largest less least group sum can be, in Ah, by trying all ways."""
    return min(
        max(sums) - min(sums)
        for way in all_ways(tuple(range(len(capacities))), parallel)
        for sums in [[sum(capacities[place] for place in group) for group in way]]
    )


def small_pool(seed: int) -> tuple[list[tuple[int, float, float]], int, int]:
    """Numbers, Ah and ohm of a few cells, and how many groups of how many."""
    draw = random.Random(f"pool {seed}")
    series, parallel = draw.choice(((2, 2), (3, 2), (4, 2), (5, 2), (2, 3), (3, 3), (2, 4), (4, 3)))
    cells = [
        (number, round(draw.gauss(2.4, 0.08), draw.choice((2, 3))), draw.gauss(0.03, 0.004))
        for number in range(1, series * parallel + 1)
    ]
    return cells, series, parallel


def lot_with_faults(seed: int) -> tuple[list[HandCell], dict[int, str], str]:
    """Cells of one lot, which of them are what, and the chemistry that nobody named.

    A lot of two readings, fourteen days apart: one cell leaks, one is dead, one rests off the lot.
    The faults are such that the meter can tell them.
    """
    draw = random.Random(f"lot {seed}")
    chemistry = draw.choice([*RESTS_V])
    rest_v, least_v = RESTS_V[chemistry]
    leaks, dead, off = draw.sample(range(1, 41), 3)
    days = draw.choice((7.0, 14.0, 30.0))
    cells = []
    for number in range(1, 41):
        volts = rest_v + draw.gauss(0.0, 0.0007)
        if number == off:
            volts += draw.choice((-1.0, 1.0)) * draw.uniform(0.025, 0.06)
        lost = draw.uniform(0.0, 0.0015)
        if number == leaks:
            lost = days * draw.uniform(0.0025, 0.01) + 0.012
        if number == dead:
            volts = draw.uniform(0.2, least_v - 0.05)
        cells.append(
            HandCell(
                number=number,
                volts=round(volts, 3),
                later_v=round(volts - lost, 3),
                days=days,
                ah=round(draw.gauss(2.4, 0.02), 3),
            )
        )
    return cells, {leaks: "leaks", dead: "dead", off: "family-volts"}, chemistry


def missed(seed: int) -> list[str]:
    """Planted faults that are not found or not for their reason, and good cells that are not."""
    cells, planted, _ = lot_with_faults(seed)
    judged = judge_lot(Lot(origin="new"), cells, None, None, Meter())
    wrong = []
    for item in judged.cells:
        number = item.cell.number
        codes = {reason.code for reason in item.reasons}
        if number in planted and (planted[number] not in codes or item.state != "reject"):
            wrong.append(f"cell {number} is {planted[number]}, told {sorted(codes)}")
        if number not in planted and codes - {"family-ah"}:
            wrong.append(f"cell {number} is good, told {sorted(codes)}")
    return wrong
