"""Results that did not change stay the same objects, so that what hangs on them can rest."""

from __future__ import annotations

from dataclasses import fields, is_dataclass, replace
from typing import Any, TypeVar

import numpy as np

from lumvak.core.figures.figure import Figure

T = TypeVar("T")
# Longer tuples are lists of candidates, on which as such nothing hangs.
MOST_MEMBERS = 24


def settled(fresh: T, before: T) -> T:
    """``fresh`` with every part that equals that of ``before`` replaced by the old object.

    Parts are fields of dataclasses, values of dicts, members of short tuples, figures and arrays;
    where all are equal it is ``before`` itself. What it returns equals ``fresh``.
    """
    return _settled(fresh, before, {})  # type: ignore[no-any-return]


def _settled(fresh: Any, before: Any, known: dict[int, Any]) -> Any:
    if fresh is before or type(fresh) is not type(before):
        return fresh
    if isinstance(fresh, Figure):
        return _figure(fresh, before, known)
    if isinstance(fresh, tuple):
        if len(fresh) != len(before) or len(fresh) > MOST_MEMBERS:
            return fresh
        parts = tuple(_settled(one, two, known) for one, two in zip(fresh, before, strict=True))
        return before if _same(parts, before) else parts
    if isinstance(fresh, np.ndarray):
        alike = fresh.dtype == before.dtype and np.array_equal(fresh, before)
        return before if alike else fresh
    if isinstance(fresh, dict):
        if list(fresh) != list(before):
            return fresh
        made = {key: _settled(value, before[key], known) for key, value in fresh.items()}
        return before if _same(made.values(), before.values()) else made
    names = _names(type(fresh))
    if names is None:
        return before if fresh == before else fresh
    old = [getattr(before, name) for name in names]
    values = [
        _settled(getattr(fresh, name), item, known) for name, item in zip(names, old, strict=True)
    ]
    return before if _same(values, old) else replace(fresh, **dict(zip(names, values, strict=True)))


def _names(kind: type) -> tuple[str, ...] | None:
    """The fields of a dataclass; ``None`` for other types."""
    if kind not in _KNOWN:
        _KNOWN[kind] = tuple(item.name for item in fields(kind)) if is_dataclass(kind) else None
    return _KNOWN[kind]


_KNOWN: dict[type, tuple[str, ...] | None] = {}


def _same(parts: Any, old: Any) -> bool:
    return all(one is two for one, two in zip(parts, old, strict=True))


def _figure(fresh: Figure, before: Figure, known: dict[int, Any]) -> Figure:
    """The old figure where value, words and all that it was made from are the same."""
    if fresh is before or _says(fresh) != _says(before) or len(fresh.inputs) != len(before.inputs):
        return fresh
    done = known.get(id(fresh))
    if done is None or done[0] is not before:
        alike = all(
            _figure(one, two, known) is two
            for one, two in zip(fresh.inputs, before.inputs, strict=True)
        )
        # ``fresh`` is kept too, so that its place in memory is not taken by another meanwhile.
        known[id(fresh)] = done = (before, before if alike else fresh, fresh)
    return done[1]


def _says(figure: Figure) -> tuple[object, ...]:
    return (
        figure.key, type(figure.value), figure.value, figure.rule, figure.label, figure.unit,
        figure.source, figure.origin,
    )  # fmt: skip
