"""Numbers on wrappers: which are lacking, and which are likely slips of the pen."""

from __future__ import annotations

from bisect import bisect_right as bisect
from collections.abc import Iterable, Sequence

from msgspec import Struct

# A number that lies over so many times the count of cells is no run's.
FAR_OFF = 2.0


class NumberSlip(Struct, frozen=True):
    """A number that is likely another one; ``meant`` are what it may have been."""

    number: int
    meant: tuple[int, ...]


def gaps(numbers: Iterable[int]) -> tuple[int, ...]:
    """Numbers that lack in a run from the least to the largest; strays do not make a run."""
    known = sorted(set(numbers))
    run = known[: bisect(known, _last(known))]
    if not run:
        return ()
    return tuple(sorted(set(range(run[0], run[-1] + 1)) - set(known)))


def slips(numbers: Iterable[int]) -> tuple[NumberSlip, ...]:
    """Numbers far outside of the run, with those near to them in writing: lacking, or there."""
    known = sorted(set(numbers))
    if not known or known[-1] <= _last(known):
        return ()
    lacking = gaps(known)
    found = []
    for number in known[bisect(known, _last(known)) :]:
        near = [item for item in lacking if one_slip(str(number), str(item))]
        near = near or [item for item in known if one_slip(str(number), str(item))]
        found.append(NumberSlip(number, tuple(near)))
    return tuple(found)


def _last(known: Sequence[int]) -> float:
    """What so many cells would be numbered to at most; what is larger is a stray."""
    return known[0] - 1 + FAR_OFF * len(known) if known else 0.0


def one_slip(one: str, other: str) -> bool:
    """Whether two writings differ by one digit that is changed, doubled, left out or swapped."""
    if len(one) == len(other):
        differ = [at for at, (a, b) in enumerate(zip(one, other, strict=True)) if a != b]
        if len(differ) == 2 and differ[1] == differ[0] + 1:
            return one[differ[0]] == other[differ[1]] and one[differ[1]] == other[differ[0]]
        return len(differ) == 1
    longer, shorter = (one, other) if len(one) > len(other) else (other, one)
    if len(longer) != len(shorter) + 1:
        return False
    return any(longer[:at] + longer[at + 1 :] == shorter for at in range(len(longer)))
