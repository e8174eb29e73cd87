"""Steps that run again only where something that they are given has changed."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any, ParamSpec, TypeVar

from lumvak.core.figures.settled import PLAIN, settled

P = ParamSpec("P")
R = TypeVar("R")


class Steps:
    """One slot a step: the same objects given, the same object returned.

    A step is a function of what it is given and of nothing else. ``ran`` names those that ran in
    the evaluation at hand.
    """

    def __init__(self) -> None:
        self._slots: dict[str, tuple[tuple[object, ...], Any]] = {}
        self._place = ""
        self.ran: list[str] = []

    def at(self, place: str) -> Steps:
        """The same steps for a place of their own: one step may stand in several."""
        other = Steps()
        other._slots, other.ran, other._place = self._slots, self.ran, f"{self._place}{place} "
        return other

    def of(self, step: Callable[P, R], *given: P.args, **named: P.kwargs) -> R:
        """What ``step`` makes of what it is given; from its slot where that is the same."""
        return self._slot(step.__name__, step, given, settle=False)

    def settled(self, step: Callable[P, R], *given: P.args, **named: P.kwargs) -> R:
        """The same, for a step whose result often stays as it was though it ran.

        What is equal to the last result stays the same object, so that steps after it rest.
        """
        return self._slot(step.__name__, step, given, settle=True)

    def told(
        self, step: Callable[P, Iterable[Any]], *given: P.args, **named: P.kwargs
    ) -> tuple[Any, ...]:
        """The same, for a step that yields one thing after the other."""
        return self._slot(step.__name__, lambda *given: tuple(step(*given)), given, settle=True)  # type: ignore[call-arg]

    def _slot(
        self, name: str, step: Callable[..., R], given: tuple[object, ...], settle: bool
    ) -> R:
        name = self._place + name
        slot = self._slots.get(name)
        if slot is not None and len(slot[0]) == len(given) and all(map(_same, slot[0], given)):
            return slot[1]  # type: ignore[no-any-return]
        result = step(*given)
        if settle and slot is not None:
            result = settled(result, slot[1])
        self._slots[name] = (given, result)
        self.ran.append(name)
        return result


def _same(one: object, two: object) -> bool:
    if one is two:
        return True
    return isinstance(one, PLAIN) and type(one) is type(two) and one == two
