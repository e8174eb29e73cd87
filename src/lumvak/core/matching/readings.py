"""Readings taken into the pool: one after the other, or a table of them; who is next."""

from __future__ import annotations

from bisect import bisect_right as bisect
from collections.abc import Collection, Iterable, Mapping, Sequence
from operator import attrgetter
from typing import Any, Literal

from msgspec import Struct
from msgspec.structs import asdict, replace

from lumvak.core.checked import made, renewed
from lumvak.core.document.hand import Hand, HandCell, Placed
from lumvak.core.matching.matched import place_name

Cells = tuple[HandCell, ...]


def with_reading(cells: Cells, number: int, lot: str, field: str, value: object) -> Cells:
    """The cells with one reading taken; a cell that is not there yet is added to a lot."""
    for place, cell in enumerate(cells):
        if cell.number == number:
            fresh = renewed(cell, {field: value})
            return (*cells[:place], fresh, *cells[place + 1 :])
    return (*cells, made(HandCell, {"number": number, "lot": lot, field: value}))


def next_number(cells: Sequence[HandCell], field: str, after: int) -> int:
    """The next cell that lacks a reading, by number; where none does, a new one after the last.

    Cells before ``after`` are come back to only where none follows it.
    """
    read = attrgetter(field)
    lacking = sorted([cell.number for cell in cells if read(cell) is None])
    if lacking and lacking[-1] > after:
        return lacking[bisect(lacking, after)]
    last = max(map(attrgetter("number"), cells), default=0)
    if after > last:
        return after + 1
    return lacking[0] if lacking and lacking[0] != after and after == last else last + 1


class Merged(Struct, frozen=True):
    """Cells with a table taken in: how many are new, how many changed."""

    cells: Cells
    added: int
    changed: int


def merged(cells: Cells, rows: Iterable[Mapping[str, Any]], lot: str) -> Merged:
    """The cells with every row of a table; what a row does not have stays as it was.

    New cells go to a lot. Raises ValueError where a value is out of range.
    """
    known = {cell.number: cell for cell in cells}
    fresh: dict[int, HandCell] = {}
    added = changed = 0
    for row in rows:
        number = int(row["number"])
        before = known.get(number)
        base = {"lot": lot} if before is None else asdict(before)
        fresh[number] = made(HandCell, {**base, **row})
        added += before is None
        changed += before is not None and fresh[number] != before
    kept = tuple(fresh.get(cell.number, cell) for cell in cells)
    new = tuple(cell for number, cell in fresh.items() if number not in known)
    return Merged((*kept, *new), added, changed)


def with_verdict(
    cells: Cells, numbers: Collection[int], verdict: Literal["", "keep", "reject"], why: str
) -> Cells:
    """The cells with what is judged of some overruled, or left to the judging again."""
    update = {"verdict": verdict, "why": why if verdict else ""}
    return tuple(replace(cell, **update) if cell.number in numbers else cell for cell in cells)


def without(hand: Hand, numbers: Collection[int]) -> dict[str, Any]:
    """The changes that take cells out of the pool, and out of their places."""
    return {
        "hand.cells": tuple(cell for cell in hand.cells if cell.number not in numbers),
        "hand.placed": tuple(item for item in hand.placed if item.number not in numbers),
        "hand.pins": tuple(item for item in hand.pins if item.number not in numbers),
        "hand.soldered": tuple(number for number in hand.soldered if number not in numbers),
    }


def seats(groups: Sequence[Sequence[int]], pins: Iterable[Placed] = ()) -> tuple[Placed, ...]:
    """A place for each cell of each group, in the order of their numbers.

    Who is pinned has its very place.
    """
    wanted = {item.number: item.cell for item in pins}
    placed = []
    for group, numbers in enumerate(groups):
        names = [place_name(group, seat) for seat in range(len(numbers))]
        own = {number: wanted[number] for number in numbers if wanted.get(number) in names}
        free = iter([name for name in names if name not in own.values()])
        for number in sorted(numbers):
            placed.append(Placed(number=number, cell=own.get(number) or next(free)))
    return tuple(placed)
