"""Parts judged for a place in the path: what speaks against each, and which is in force."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Generic, Protocol, TypeVar

from lumvak.core.powersettings import NONE


class Part(Protocol):
    """What every part of a catalogue has."""

    @property
    def id(self) -> str:
        """Its id in the catalogue."""

    @property
    def name(self) -> str:
        """Its name in words."""

    @property
    def price(self) -> float:
        """What one costs."""


P = TypeVar("P", bound=Part)


@dataclass(frozen=True, slots=True)
class Point:
    """One thing against a part, or to know of it: a stable code, the words, what would help."""

    code: str
    text: str
    help: str = ""


@dataclass(frozen=True, slots=True)
class Judged(Generic[P]):
    """A part with every reason against it; ``headroom`` is over the continuous load."""

    part: P
    reasons: tuple[Point, ...]
    headroom: float

    @property
    def serves(self) -> bool:
        """Whether nothing speaks against it."""
        return not self.reasons

    def against(self, code: str) -> Point | None:
        """What speaks against it under a code."""
        return next((point for point in self.reasons if point.code == code), None)


@dataclass(frozen=True, slots=True)
class Place(Generic[P]):
    """A place in the path: all parts judged for it, and the one in force; ``None`` is none.

    ``automatic`` where it follows the recommendation.
    """

    found: tuple[Judged[P], ...]
    chosen: Judged[P] | None
    automatic: bool

    @property
    def part(self) -> P | None:
        """The part in force."""
        return None if self.chosen is None else self.chosen.part


def place_of(
    parts: Iterable[P],
    wanted: str | None,
    judge: Callable[[P], Judged[P]],
    order: Callable[[Judged[P]], tuple[float, ...]],
) -> Place[P]:
    """Judge all parts for a place: those that serve first, by ``order``; pick the one in force.

    ``wanted`` is an id, NONE, or ``None`` for the best that serves.
    """
    found = tuple(sorted(map(judge, parts), key=lambda item: (len(item.reasons), *order(item))))
    if wanted is None:
        best = next((item for item in found if item.serves), None)
        return Place(found, best, True)
    chosen = next((item for item in found if item.part.id == wanted), None)
    return Place(found, None if wanted == NONE else chosen, False)
