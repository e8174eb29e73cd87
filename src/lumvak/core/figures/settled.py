"""Results that did not change stay the same objects, so that what hangs on them can rest."""

from __future__ import annotations

from typing import Any, TypeVar

import numpy as np
from msgspec.structs import replace

from lumvak.core.figures.figure import Figure

T = TypeVar("T")
# Longer tuples are lists of candidates, on which as such nothing hangs.
MOST_MEMBERS = 24
PLAIN = (float, int, str, bool, type(None))


def settled(fresh: T, before: T) -> T:
    """``fresh`` with every part that equals that of ``before`` replaced by the old object.

    Parts are fields of records, values of dicts, members of short tuples, figures and arrays;
    where all are equal it is ``before`` itself. What it returns equals ``fresh``.
    """
    return _settled(fresh, before, {})  # type: ignore[no-any-return]


def _settled(fresh: Any, before: Any, known: dict[int, Any]) -> Any:
    kind = type(fresh)
    if fresh is before or kind is not type(before):
        return fresh
    if kind in PLAIN:
        return before if fresh == before else fresh
    if kind is Figure:
        return _figure(fresh, before, known)
    if kind is tuple:
        if len(fresh) != len(before) or len(fresh) > MOST_MEMBERS:
            return fresh
        found = _parts(fresh, before, known)
        return before if found is None else found
    if kind is np.ndarray:
        alike = fresh.dtype == before.dtype and np.array_equal(fresh, before)
        return before if alike else fresh
    if kind is dict:
        if list(fresh) != list(before):
            return fresh
        old = tuple(before.values())
        found = _parts(tuple(fresh.values()), old, known)
        return before if found is None else dict(zip(fresh, found, strict=True))
    names = getattr(kind, "__struct_fields__", None)
    if names is None and issubclass(kind, tuple):
        found = _parts(tuple(fresh), tuple(before), known)
        return before if found is None else kind(*found)
    if names is None:
        return before if fresh == before else fresh
    new = tuple([getattr(fresh, name) for name in names])
    found = _parts(new, tuple([getattr(before, name) for name in names]), known)
    if found is None:
        return before
    return fresh if found is new else replace(fresh, **dict(zip(names, found, strict=True)))


def _parts(
    fresh: tuple[Any, ...], old: tuple[Any, ...], known: dict[int, Any]
) -> tuple[Any, ...] | None:
    """Parts with the old ones for those that equal them; ``None`` where all do.

    It is ``fresh`` itself where nothing but plain values is the same: on those nothing hangs.
    """
    made, alike, kept = list(fresh), True, True
    for place, (one, two) in enumerate(zip(fresh, old, strict=True)):
        if one is two:
            continue
        part = _settled(one, two, known)
        alike = alike and part is two
        if part is not one and type(one) not in PLAIN:
            made[place], kept = part, False
    if alike:
        return None
    return fresh if kept else tuple(made)


def _figure(fresh: Figure, before: Figure, known: dict[int, Any]) -> Figure:
    """The old figure where value, words and all that it was made from are the same."""
    if fresh is before or not _says_the_same(fresh, before):
        return fresh
    done = known.get(id(fresh))
    if done is None or done[0] is not before:
        alike = True
        for one, two in zip(fresh.inputs, before.inputs, strict=True):
            if one is not two and _figure(one, two, known) is not two:
                alike = False
                break
        # ``fresh`` is kept too, so that its place in memory is not taken by another meanwhile.
        known[id(fresh)] = done = (before, before if alike else fresh, fresh)
    return done[1]


def _says_the_same(one: Figure, two: Figure) -> bool:
    return (
        one.value == two.value
        and type(one.value) is type(two.value)
        and one.key == two.key
        and one.rule == two.rule
        and one.label == two.label
        and one.unit == two.unit
        and one.source == two.source
        and one.origin == two.origin
        and len(one.inputs) == len(two.inputs)
    )
