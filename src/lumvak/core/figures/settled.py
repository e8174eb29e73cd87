"""Results that did not change stay the same objects, so that what hangs on them can rest."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import fields, is_dataclass, replace
from typing import Any, TypeVar

import numpy as np

from lumvak.core.figures.figure import Figure

T = TypeVar("T")


def settled(fresh: T, before: T) -> T:
    """``fresh`` with every part that equals that of ``before`` replaced by the old object.

    Parts are fields of dataclasses, values of mappings, members of tuples of like length,
    figures and arrays; where all are equal it is ``before`` itself.
    """
    return _settled(fresh, before, {})  # type: ignore[no-any-return]


def _settled(fresh: Any, before: Any, known: dict[int, Any]) -> Any:
    if fresh is before or type(fresh) is not type(before):
        return fresh
    done = known.get(id(fresh))
    if done is None or done[0] is not before:
        known[id(fresh)] = done = (before, _of_kind(fresh, before, known), fresh)
    return done[1]


def _of_kind(fresh: Any, before: Any, known: dict[int, Any]) -> Any:
    if isinstance(fresh, Figure):
        return _figure(fresh, before, known)
    if isinstance(fresh, np.ndarray):
        alike = fresh.dtype == before.dtype and np.array_equal(fresh, before)
        return before if alike else fresh
    if isinstance(fresh, tuple):
        if len(fresh) != len(before):
            return fresh
        parts = tuple(_settled(*pair, known) for pair in zip(fresh, before, strict=True))
        return _whole(parts, before, parts)
    if isinstance(fresh, dict):
        if list(fresh) != list(before):
            return fresh
        made = {key: _settled(value, before[key], known) for key, value in fresh.items()}
        return _whole(made.values(), before, made)
    if is_dataclass(fresh) and not isinstance(fresh, type):
        names = [item.name for item in fields(fresh) if item.init]
        values = [_settled(getattr(fresh, name), getattr(before, name), known) for name in names]
        if all(value is getattr(before, name) for name, value in zip(names, values, strict=True)):
            return before
        changes: Mapping[str, Any] = dict(zip(names, values, strict=True))
        return replace(fresh, **changes)
    return before if fresh == before else fresh


def _whole(parts: Any, before: Any, made: Any) -> Any:
    old = before.values() if isinstance(before, dict) else before
    return before if all(map(lambda one, two: one is two, parts, old)) else made


def _figure(fresh: Figure, before: Figure, known: dict[int, Any]) -> Figure:
    inputs = _settled(fresh.inputs, before.inputs, known)
    if inputs is before.inputs and type(fresh.value) is type(before.value) and (
        fresh.key, fresh.label, fresh.value, fresh.unit, fresh.rule, fresh.source, fresh.origin,
    ) == (
        before.key, before.label, before.value, before.unit, before.rule, before.source,
        before.origin,
    ):  # fmt: skip
        return before
    return fresh if inputs is fresh.inputs else replace(fresh, inputs=inputs)
