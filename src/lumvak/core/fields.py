"""Fields of stored records: how each is described, and what is wrong with values from outside."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Mapping
from functools import lru_cache
from itertools import chain
from types import UnionType
from typing import (
    Annotated,
    Any,
    Literal,
    TypeVar,
    Union,
    get_args,
    get_origin,
    get_type_hints,
)

import msgspec
from msgspec import Struct
from msgspec.structs import asdict, replace

from lumvak.core.record import CONTROL, FLOOR, Document, Unfit
from lumvak.core.units import QUOTED, digits, say, shown, shown_in

D = TypeVar("D", bound=Document)
Way = tuple[str | int, ...]
# More than any bound of a field.
MOST = 1e300
NEAR = (
    f"a number nearer to 0 than {FLOOR:g} was given; accepted: 0, where it may be, or {FLOOR:g} "
    "and more"
)
# How JSON spells what is nearer to 0.
TINY = re.compile(r"[eE]-0*(?:[7-9]|[1-9]\d)|\b0\.0{7}")


class Accepts(Struct, frozen=True):
    """What a field, or a place in a list, accepts, what it is called, its unit and its bounds.

    ``plain`` is ``float``, ``int``, ``str``, ``bool``, ``tuple``, a record, or ``Literal`` with
    ``values``. A tuple has an item of ``items`` in each place, or ``any_number`` of the one there.
    ``like`` says a pattern in words; ``optional`` is whether it may be ``None``.
    """

    plain: Any
    optional: bool = False
    values: tuple[Any, ...] = ()
    items: tuple[Accepts, ...] = ()
    any_number: bool = False
    title: str = ""
    unit: str = ""
    like: str = ""
    gt: float | None = None
    ge: float | None = None
    lt: float | None = None
    le: float | None = None
    least: int | None = None
    most: int | None = None
    pattern: str | None = None


class Field(Struct, frozen=True):
    """A field of a record; ``default`` is what it is where nobody says, if it may be left out."""

    name: str
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


class Wrong(Struct, frozen=True):
    """One thing that is wrong: where, the title of the field, and what is accepted.

    ``named`` is whether the text stands beside the title alone, where fields contradict others.
    """

    way: Way
    title: str
    text: str
    named: bool = False

    @property
    def path(self) -> str:
        """Where it is, dotted."""
        return ".".join(str(step)[:QUOTED] for step in self.way)

    @property
    def sentence(self) -> str:
        """It as one sentence: what, where, what is accepted."""
        if self.named:
            return f"{self.title}: {self.text}" if self.title else self.text
        where = f"{self.title} ({self.path})" if self.title else (self.path or "the document")
        return f"{where}: {self.text}"


class NotAccepted(ValueError):
    """Values that no record can be made of; ``wrongs`` are all that is wrong with them."""

    def __init__(self, wrongs: tuple[Wrong, ...]) -> None:
        super().__init__("; ".join(item.sentence for item in wrongs[:3]))
        self.wrongs = wrongs


def made(kind: type[D], values: Mapping[str, Any], way: Way = (), title: str = "") -> D:
    """A record of a kind from values of its fields; raises NotAccepted with all that is wrong.

    Records among the values were checked when they were made. ``way`` is where the record lies,
    ``title`` what it is called there.
    """
    try:
        record = msgspec.convert(values, kind)
    except msgspec.DecodeError as error:
        raise NotAccepted(_all_wrong(kind, values, way, title, error)) from error
    if wrongs := tuple(_in_record(kind, values, way, title)):
        raise NotAccepted(wrongs)
    if wrongs := tuple(_contradictions(record, values, way, title)):
        raise NotAccepted(wrongs)
    return record


def renewed(record: D, fresh: Mapping[str, Any], way: Way = (), title: str = "") -> D:
    """A record with ``fresh`` values of some fields; raises NotAccepted with all that is wrong.

    Fields that are not changed were checked when the record was made.
    """
    kind = type(record)
    wrongs = tuple(chain.from_iterable(
        _in_value(fields_of(kind)[name].accepts, value, (*way, name), title)
        for name, value in fresh.items()
    ))  # fmt: skip
    if wrongs:
        raise NotAccepted(wrongs)
    hints = _hints(kind)
    values = {name: msgspec.convert(value, hints[name]) for name, value in fresh.items()}
    valid = replace(record, **values)
    if wrongs := tuple(_contradictions(valid, {**asdict(record), **fresh}, way, title)):
        raise NotAccepted(wrongs)
    return valid


def read(kind: type[D], text: str) -> D:
    """A record from JSON; raises NotAccepted with all that is wrong."""
    try:
        record = msgspec.json.decode(text, type=kind)
    except (msgspec.DecodeError, UnicodeEncodeError) as error:
        raise NotAccepted(_all_wrong(kind, json.loads(text), (), "", error)) from error
    if may_be_odd(text) and (wrongs := tuple(_in_record(kind, json.loads(text), (), ""))):
        raise NotAccepted(wrongs)
    if wrongs := tuple(_contradictions(record, None, (), "")):
        raise NotAccepted(wrongs)
    return record


def may_be_odd(text: str) -> bool:
    """Whether JSON may hold a control character or a number too near to 0, at a glance."""
    if "\\" in text or (not text.isascii() and CONTROL.search(text.replace("\n", ""))):
        return True
    return TINY.search(text) is not None


def written(record: Document, indent: int = 0) -> str:
    """A record as JSON on one line, or indented; what is ``None`` is left out."""
    plain = _without_none(msgspec.to_builtins(record))
    return msgspec.json.format(msgspec.json.encode(plain), indent=indent or -1).decode()


def _without_none(value: Any) -> Any:
    if isinstance(value, dict):
        return {key: _without_none(one) for key, one in value.items() if one is not None}
    if isinstance(value, list | tuple):
        return [_without_none(one) for one in value]
    return value


@lru_cache(maxsize=256)
def _hints(kind: type[Document]) -> dict[str, Any]:
    """The types of the fields of a kind of record, with what is said about them."""
    return get_type_hints(kind, include_extras=True)


@lru_cache(maxsize=256)
def fields_of(kind: type[Struct]) -> dict[str, Field]:
    """The fields of a kind of record, by name."""
    hints, names, known = _hints(kind), kind.__struct_fields__, kind.__struct_defaults__
    # Those that must be given come first, or say so.
    defaults = (*(msgspec.NODEFAULT,) * (len(names) - len(known)), *known)
    return {
        name: Field(
            name,
            _accepts(hints[name]),
            required=default is msgspec.NODEFAULT,
            default=None if default is msgspec.NODEFAULT else default,
        )
        for name, default in zip(names, defaults, strict=True)
    }


def field_at(kind: type[Document], way: Way) -> tuple[str, Field | None]:
    """The title of the innermost field on a way that has one, and the last field there is.

    Steps that are numbers go into lists of records.
    """
    title, last = "", None
    at: Any = kind
    for step in way:
        if isinstance(step, int):
            at = last.accepts.items[0].plain if last is not None and last.accepts.items else None
            continue
        found = fields_of(at).get(step) if _is_record(at) else None
        if found is None:
            break
        title, last, at = found.title or title, found, found.accepts.plain
    return title, last


def _is_record(kind: Any) -> bool:
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
        "title": meta.title, "gt": meta.gt, "ge": meta.ge, "lt": meta.lt, "le": meta.le,
        "least": meta.min_length, "most": meta.max_length, "pattern": meta.pattern,
        **(meta.extra_json_schema or {}),
    }  # fmt: skip
    return {name: value for name, value in found.items() if value is not None}


def _all_wrong(
    kind: type[Document], values: Any, way: Way, title: str, error: Exception
) -> tuple[Wrong, ...]:
    found = tuple(_in_record(kind, values, way, title))
    return found or (Wrong(way, title, str(error)),)


def _in_record(kind: type[Struct], values: Any, way: Way, title: str) -> Iterator[Wrong]:
    """What is wrong with the fields of a record, given as plain values."""
    if not isinstance(values, Mapping):
        yield Wrong(way, title, f"{_told(values)} was given; accepted: an object with its fields")
        return
    fields = fields_of(kind)
    for name in values:
        if name not in fields:
            yield Wrong((*way, name), title, "unknown field; remove it or correct its name")
    for name, field in fields.items():
        if name in values:
            yield from _in_value(field.accepts, values[name], (*way, name), title)
        elif field.required:
            yield Wrong((*way, name), field.title or title, "missing; it must be given")


def _in_value(accepts: Accepts, value: Any, way: Way, title: str) -> Iterator[Wrong]:
    """What is wrong with a value of a field or in a list."""
    title = accepts.title or title
    if value is None and accepts.optional:
        return
    if accepts.plain is tuple:
        yield from _in_list(accepts, value, way, title)
    elif _is_record(accepts.plain):
        if not isinstance(value, accepts.plain):
            yield from _in_record(accepts.plain, value, way, title)
    elif text := _in_plain(accepts, value, lines=way[-1] == "note"):
        yield Wrong(way, title, text)
    elif isinstance(value, float) and 0.0 < abs(value) < FLOOR and isinstance(way[-1], str):
        # Points of curves come as near to 0 as they were drawn.
        yield Wrong(way, title, NEAR)


def _in_list(accepts: Accepts, value: Any, way: Way, title: str) -> Iterator[Wrong]:
    if not isinstance(value, list | tuple):
        yield Wrong(way, title, f"{_told(value)} was given; accepted: a list")
        return
    items, least, most = accepts.items, accepts.least, accepts.most
    if accepts.any_number:
        items = items * len(value)
    else:
        least = most = len(items)
    if not _fits(len(value), least, most):
        accepted = _between(least, most, "of them")
        yield Wrong(way, title, f"{len(value)} were given; accepted: {accepted}")
        return
    alike = accepts.any_number and {*map(type, value)} == {accepts.items[0].plain}
    if alike and _is_record(accepts.items[0].plain):
        return
    for place, (item, one) in enumerate(zip(items, value, strict=True)):
        yield from _in_value(item, one, (*way, place), title)


def _in_plain(accepts: Accepts, value: Any, lines: bool) -> str:
    """What is wrong with a number, a text, a choice or a switch; empty where nothing is.

    A text may have several ``lines`` where it is a note.
    """
    given = f"{_told(value)} was given"
    if accepts.plain is Literal:
        fits = any(value == one and type(value) is type(one) for one in accepts.values)
        return "" if fits else f"{given}; accepted: {_one_of(accepts.values)}"
    if accepts.plain is bool:
        return "" if isinstance(value, bool) else f"{given}; accepted: true or false"
    if accepts.plain is str:
        return _in_text(accepts, value, lines)
    percent = accepts.unit == "%"
    unit = "" if percent else accepts.unit
    after = " (1 is 100 %)" if percent else ""
    if isinstance(value, bool) or not isinstance(value, int | float):
        what = "a whole number" if accepts.plain is int else "a number"
        return f"{given}; accepted: {what} {shown_in(unit)}".rstrip() + after
    if accepts.plain is int and not isinstance(value, int):
        return f"{given}; accepted: a whole number"
    if not abs(value) <= MOST:
        return f"{given}; accepted: a finite number {unit}".rstrip() + after
    if accepted := _bounded(accepts, value, unit):
        told = say(value, unit) if shown_in(unit) != unit else _told(value)
        return f"{told} was given; accepted: {accepted}{after}"
    return ""


def _bounded(node: Accepts, value: float, unit: str) -> str:
    """The bound that a number does not keep to, in words; empty where there is none."""
    if node.gt is not None and not value > node.gt:
        return f"a number over {_bound(node.gt, unit)}"
    if node.ge is not None and not value >= node.ge:
        return f"{_bound(node.ge, unit)} or more"
    if node.lt is not None and not value < node.lt:
        return f"a number under {_bound(node.lt, unit)}"
    if node.le is not None and not value <= node.le:
        return f"{_bound(node.le, unit)} or less"
    return ""


def _in_text(accepts: Accepts, value: Any, lines: bool) -> str:
    given = f"{_told(value)} was given"
    if not isinstance(value, str):
        return f"{given}; accepted: a text"
    if not _fits(len(value), accepts.least, accepts.most):
        return f"{given}; accepted: {_between(accepts.least, accepts.most, 'signs')}"
    if accepts.pattern is not None and not re.search(accepts.pattern, value):
        return f"{given}; accepted: {accepts.like or 'another spelling'}"
    plain = re.sub(r"[\n\r\t]", "", value) if lines else value
    if (found := CONTROL.search(plain)) is not None:
        sign = f"U+{ord(found[0]):04X}"
        return f"a control character ({sign}) was given; accepted: letters and signs"
    return ""


def _fits(count: int, least: int | None, most: int | None) -> bool:
    return (least is None or count >= least) and (most is None or count <= most)


def _between(least: int | None, most: int | None, what: str) -> str:
    if most is None:
        return f"{least} {what} or more"
    return f"up to {most} {what}" if not least else f"{least} to {most} {what}"


def _one_of(values: tuple[Any, ...]) -> str:
    *others, last = map(repr, values)
    return f"{', '.join(others)} or {last}" if others else last


def _told(given: Any) -> str:
    """What was given, as in a program; long texts and numbers with their beginning only."""
    if not isinstance(given, str | int | float):
        return "nothing" if given is None else "what is there"
    try:
        spelled = repr(given[: QUOTED + 1] if isinstance(given, str) else given)
    except ValueError:
        return "a number of thousands of digits"
    return spelled if len(spelled) <= QUOTED + 2 else f"{spelled[:QUOTED]}…"


def _bound(value: float, unit: str) -> str:
    """A bound with its unit, as the builder says it."""
    return f"{digits(shown(value, unit), '.6g')} {shown_in(unit)}".rstrip()


def _contradictions(record: Document, given: Any, way: Way, title: str) -> Iterator[Wrong]:
    """What records say against themselves, innermost first; those given as such are left out."""
    for name in _holding(type(record)):
        value, field = getattr(record, name), fields_of(type(record))[name]
        mine = given.get(name) if isinstance(given, Mapping) else None
        inside, called = (*way, name), field.title or title
        if isinstance(value, Document):
            if value is not mine:
                yield from _contradictions(value, mine, inside, called)
        elif isinstance(value, tuple):
            for place, one in enumerate(value):
                own = mine[place] if isinstance(mine, list | tuple) else None
                if isinstance(one, Document) and one is not own:
                    yield from _contradictions(one, own, (*inside, place), called)
    try:
        record.check()
    except Unfit as error:
        steps = tuple(error.field.split(".")) if error.field else ()
        called = field_at(type(record), steps)[0] if steps else ""
        alone = bool(called) or not way
        yield Wrong((*way, *steps), called or title, str(error), named=alone)


@lru_cache(maxsize=256)
def _holding(kind: type[Struct]) -> tuple[str, ...]:
    """The fields of a record in which records may lie that have something to check."""
    return tuple(name for name, field in fields_of(kind).items() if _checks(field.accepts))


def _checks(accepts: Accepts) -> bool:
    kind = accepts.items[0].plain if accepts.any_number else accepts.plain
    if not _is_record(kind):
        return False
    return (issubclass(kind, Document) and kind.check is not Document.check) or bool(_holding(kind))
