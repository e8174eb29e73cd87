"""Fields of stored records, as their types describe them."""

from __future__ import annotations

from functools import lru_cache
from types import UnionType
from typing import (
    Annotated,
    Any,
    Literal,
    Union,
    get_args,
    get_origin,
    get_type_hints,
)

import msgspec
from msgspec import Struct

from lumvak.core.record import Document

Way = tuple[str | int, ...]


class Accepts(Struct, frozen=True):
    """What a field, or a place in a list, accepts, what it is called, its unit and its bounds.

    ``plain`` is ``float``, ``int``, ``str``, ``bool``, ``tuple``, a record, or ``Literal`` with
    ``values``. A tuple has an item of ``items`` in each place, or ``any_number`` of the one there.
    ``like`` says a pattern in words, ``description`` what there is to know of it, ``also`` other
    words for it; ``optional`` is whether it may be ``None``.
    """

    plain: Any
    optional: bool = False
    values: tuple[Any, ...] = ()
    items: tuple[Accepts, ...] = ()
    any_number: bool = False
    title: str = ""
    unit: str = ""
    like: str = ""
    description: str = ""
    also: str = ""
    gt: float | None = None
    ge: float | None = None
    lt: float | None = None
    le: float | None = None
    least: int | None = None
    most: int | None = None
    pattern: str | None = None


class Field(Struct, frozen=True):
    """A field of a record; ``default`` is what it is where nobody says, if it may be left out."""

    accepts: Accepts
    required: bool
    default: Any

    @property
    def title(self) -> str:
        """Its plain name; empty where it has none."""
        return self.accepts.title

    @property
    def unit(self) -> str:
        """The unit of its value; empty where it has none."""
        return self.accepts.unit


@lru_cache(maxsize=256)
def hints_of(kind: type[Document]) -> dict[str, Any]:
    """The types of the fields of a kind of record, with what is said about them."""
    return get_type_hints(kind, include_extras=True)


@lru_cache(maxsize=256)
def fields_of(kind: type[Struct]) -> dict[str, Field]:
    """The fields of a kind of record, by name."""
    hints, names, known = hints_of(kind), kind.__struct_fields__, kind.__struct_defaults__
    # Those that must be given come first, or say so.
    defaults = (*(msgspec.NODEFAULT,) * (len(names) - len(known)), *known)
    return {
        name: Field(
            _accepts(hints[name]),
            required=default is msgspec.NODEFAULT,
            default=None if default is msgspec.NODEFAULT else default,
        )
        for name, default in zip(names, defaults, strict=True)
    }


def field_at(kind: type[Document], way: Way) -> Field | None:
    """The field on a way through records; ``None`` where there is none."""
    at, field = Accepts(kind), None
    for step in way:
        field = fields_of(at.plain).get(str(step)) if is_record(at.plain) else None
        if field is None:
            return None
        at = field.accepts
    return field


def title_at(kind: type[Document], way: Way) -> str:
    """The title of the innermost field on a way that has one; empty where none has.

    Steps that are numbers go into lists of records.
    """
    title, at = "", Accepts(kind)
    for step in way:
        if isinstance(step, int):
            at = at.items[0] if at.items else Accepts(None)
            continue
        field = fields_of(at.plain).get(step) if is_record(at.plain) else None
        if field is None:
            break
        title, at = field.title or title, field.accepts
    return title


def is_record(kind: Any) -> bool:
    """Whether a type is a record."""
    return isinstance(kind, type) and issubclass(kind, Struct)


def _accepts(hint: Any) -> Accepts:
    """What a type accepts, with what is said about it."""
    said: dict[str, Any] = {}
    optional = False
    while True:
        origin = get_origin(hint)
        if origin is Annotated:
            metas = (item for item in hint.__metadata__ if isinstance(item, msgspec.Meta))
            for meta in metas:
                said.update(_said(meta))
            hint = hint.__origin__
        elif origin in (Union, UnionType):
            held = [one for one in get_args(hint) if one is not type(None)]
            optional = True
            (hint,) = held
        else:
            break
    if origin is Literal:
        return Accepts(Literal, optional, values=get_args(hint), **said)
    if origin is tuple:
        inner = get_args(hint)
        items = tuple(_accepts(one) for one in inner if one is not Ellipsis)
        return Accepts(tuple, optional, items=items, any_number=inner[-1] is Ellipsis, **said)
    return Accepts(hint, optional, **said)


def _said(meta: msgspec.Meta) -> dict[str, Any]:
    found = {
        "title": meta.title,
        "description": meta.description,
        "gt": meta.gt,
        "ge": meta.ge,
        "lt": meta.lt,
        "le": meta.le,
        "least": meta.min_length,
        "most": meta.max_length,
        "pattern": meta.pattern,
        **(meta.extra_json_schema or {}),
    }
    return {name: value for name, value in found.items() if value is not None}
