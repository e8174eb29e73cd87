"""Parts judged for a place in the path: what speaks against each, and which is in force."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import cached_property
from typing import Generic, Protocol, TypeVar

from msgspec import Struct

from lumvak.core.document.power import NONE
from lumvak.core.figures.point import Point


class AnyPart(Protocol):
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


P = TypeVar("P", bound=AnyPart)


class JudgedPart(Struct, Generic[P], frozen=True):
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


class Place(Struct, Generic[P], frozen=True, eq=False, dict=True):
    """A place in the path: the part in force, judged; ``None`` is none.

    ``automatic`` where it follows the recommendation. The other parts are judged when they are
    first looked at.
    """

    parts: tuple[P, ...]
    judge: Callable[[P], JudgedPart[P]]
    order: Callable[[JudgedPart[P]], tuple[float, ...]]
    chosen: JudgedPart[P] | None
    automatic: bool
    near: Callable[[JudgedPart[P]], tuple[float, ...]]

    @property
    def part(self) -> P | None:
        """The part in force."""
        return None if self.chosen is None else self.chosen.part

    @cached_property
    def found(self) -> tuple[JudgedPart[P], ...]:
        """All parts judged for the place: those that serve first, by ``order``; then the refused.

        Of these the nearest to serving come first: with the fewest reasons against them, and then
        by ``near``.
        """

        def place(item: JudgedPart[P]) -> tuple[float, ...]:
            rank = self.order if item.serves else self.near
            return (float(len(item.reasons)), *rank(item))

        return tuple(sorted(map(self.judge, self.parts), key=place))


def place_of(
    parts: Iterable[P],
    wanted: str | None,
    judge: Callable[[P], JudgedPart[P]],
    order: Callable[[JudgedPart[P]], tuple[float, ...]],
    done: Callable[[JudgedPart[P]], bool] = lambda _: False,
    able: Callable[[P], bool] = lambda _: True,
    better: Callable[[P], bool] = lambda _: True,
    near: Callable[[JudgedPart[P]], tuple[float, ...]] | None = None,
) -> Place[P]:
    """Pick the part in force for a place.

    ``wanted`` is an id, NONE, or ``None`` for the best that serves by ``order``; parts may come
    such that the first for which ``done`` holds is the best. What is not ``able`` serves for
    sure not, and is judged only when it is looked at. Once one serves, only what may be ``better``
    is judged.
    """
    offered = tuple(parts)
    if wanted is not None:
        named = next((part for part in offered if part.id == wanted), None)
        chosen = None if named is None or wanted == NONE else judge(named)
        return Place(offered, judge, order, chosen, False, near or order)
    best: JudgedPart[P] | None = None
    for part in filter(able, offered):
        if best is not None and not better(part):
            continue
        item = judge(part)
        if not item.serves:
            continue
        if best is None or order(item) < order(best):
            best = item
        if done(item):
            break
    return Place(offered, judge, order, best, True, near or order)
