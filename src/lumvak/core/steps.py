"""Steps that run again only where something that they are given has changed."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any, ParamSpec, TypeVar

from msgspec import Struct

from lumvak.core.figures.settled import PLAIN, settled

P = ParamSpec("P")
R = TypeVar("R")


class Steps:
    """One slot a step: the same objects given, the same object returned.

    A step is a function of what it is given, by place or by name, and of nothing else. ``ran``
    names those that ran in the evaluation at hand.
    """

    def __init__(self) -> None:
        self._slots: dict[tuple[str, Callable[..., Any]], _Slot] = {}
        self._place = ""
        self.ran: list[str] = []

    def __copy__(self) -> Steps:
        """Steps that go on from here by themselves."""
        other = Steps()
        other._slots, other._place = dict(self._slots), self._place
        return other

    def at(self, place: str) -> Steps:
        """The same steps for a place of their own: one step may stand in several."""
        other = Steps()
        other._slots, other.ran, other._place = self._slots, self.ran, f"{self._place}{place} "
        return other

    def of(self, step: Callable[P, R], *given: P.args, **named: P.kwargs) -> R:
        """What ``step`` makes of what it is given; from its slot where that is the same."""
        return self._slot(step, given, named)  # type: ignore[no-any-return]

    def settled(self, step: Callable[P, R], *given: P.args, **named: P.kwargs) -> R:
        """The same, for a step whose result often stays as it was though it ran.

        What is equal to the last result stays the same object, so that steps after it rest.
        """
        return self._slot(step, given, named, settle=True)  # type: ignore[no-any-return]

    def going_on(self, step: Callable[..., R], *given: object) -> R:
        """The same, for a step that takes what it made last as ``before``: it works out the rest.

        What it makes must not hang on ``before``; that only makes it fast.
        """
        return self._slot(step, given, {}, follow=True)  # type: ignore[no-any-return]

    def told(
        self, step: Callable[P, Iterable[Any]], *given: P.args, **named: P.kwargs
    ) -> tuple[Any, ...]:
        """The same, for a step that yields one thing after the other."""
        return self._slot(step, given, named, settle=True, tell=True)  # type: ignore[no-any-return]

    def _slot(
        self,
        step: Callable[..., Any],
        given: tuple[object, ...],
        named: dict[str, object],
        *,
        settle: bool = False,
        tell: bool = False,
        follow: bool = False,
    ) -> Any:
        key = self._place, step
        slot = self._slots.get(key)
        if slot is not None and _alike(slot, given, named):
            return slot.result
        last = None if slot is None else slot.result
        result = step(*given, **named, **({"before": last} if follow else {}))
        if tell:
            result = tuple(result)
        if settle and slot is not None:
            result = settled(result, last)
        self._slots[key] = _Slot(given, named, result)
        self.ran.append(self._place + step.__name__)
        return result


class _Slot(Struct, frozen=True, eq=False):
    """What a step was last given, and what it made of that."""

    given: tuple[object, ...]
    named: dict[str, object]
    result: Any


def _alike(slot: _Slot, given: tuple[object, ...], named: dict[str, object]) -> bool:
    return (
        len(slot.given) == len(given)
        and slot.named.keys() == named.keys()
        and all(map(_same, slot.given, given))
        and all(_same(slot.named[name], value) for name, value in named.items())
    )


def _same(one: object, two: object) -> bool:
    if one is two:
        return True
    return isinstance(one, PLAIN) and type(one) is type(two) and one == two
