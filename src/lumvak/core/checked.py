"""Records from outside: made and read with all that is wrong with them named, and written."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Iterator, Mapping
from functools import lru_cache
from typing import Any, Literal, TypeVar

import msgspec
from msgspec import Struct
from msgspec.structs import asdict, replace

from lumvak.core.fields import Accepts, Way, fields_of, hints_of, is_record, title_at
from lumvak.core.record import CONTROL, FLOOR, Document, Unfit
from lumvak.core.said import Quantity, Text, listed, phrase, unit_name
from lumvak.core.spelling import Refused
from lumvak.core.units import QUOTED

D = TypeVar("D", bound=Document)
# More than any bound of a field.
MOST = 1e300
NEAR = phrase(
    "a number nearer to 0 than {} was given; accepted: 0, where it may be, or {} and more",
    f"{FLOOR:g}",
    f"{FLOOR:g}",
)
# How JSON spells what is nearer to 0.
TINY = re.compile(r"\d[eE]-0*(?:[7-9]|[1-9]\d)|\b0\.0{7}")


class Wrong(Struct, frozen=True):
    """One thing that is wrong: where, the title of the field, and what is accepted.

    ``named`` is whether the text stands beside the title alone, where fields contradict others.
    """

    way: Way
    title: str
    text: Text
    named: bool = False

    @property
    def path(self) -> str:
        """Where it is, dotted."""
        return ".".join(str(step)[:QUOTED] for step in self.way)

    @property
    def sentence(self) -> Text:
        """It as one sentence: what, where, what is accepted."""
        if self.named:
            return phrase("{}: {}", self.title, self.text) if self.title else self.text
        where = (
            phrase("{} ({})", self.title, self.path)
            if self.title
            else (self.path or "the document")
        )
        return phrase("{}: {}", where, self.text)


class NotAccepted(Refused):
    """Values that no record can be made of; ``wrongs`` are all that is wrong with them."""

    def __init__(self, wrongs: tuple[Wrong, ...]) -> None:
        super().__init__(listed([item.sentence for item in wrongs[:3]], "; "))
        self.wrongs = wrongs


def made(kind: type[D], values: Mapping[str, Any], way: Way = (), title: str = "") -> D:
    """A record of a kind from values of its fields; raises NotAccepted with all that is wrong.

    Records among the values were checked when they were made. ``way`` is where the record lies,
    ``title`` what it is called there.
    """
    _refuse(_in_record(kind, values, way, title))
    record: D = _converted(values, kind, way, title)
    _refuse(_contradictions(record, values, way, title))
    return record


def renewed(record: D, fresh: Mapping[str, Any], way: Way = (), title: str = "") -> D:
    """A record with ``fresh`` values of some fields; raises NotAccepted with all that is wrong.

    Fields that are not changed were checked when the record was made.
    """
    fields, hints = fields_of(type(record)), hints_of(type(record))
    _refuse(
        wrong
        for name, value in fresh.items()
        for wrong in _in_value(fields[name].accepts, value, (*way, name), title)
    )
    values = {
        name: _converted(value, hints[name], (*way, name), fields[name].title or title)
        for name, value in fresh.items()
    }
    valid = replace(record, **values)
    _refuse(_contradictions(valid, {**asdict(record), **fresh}, way, title))
    return valid


def read(kind: type[D], text: str, plain: Mapping[str, Any] | None = None) -> D:
    """A record from JSON; raises NotAccepted with all that is wrong.

    ``plain`` is what the text was parsed to, where it was parsed already.
    """

    def wrongs() -> Iterator[Wrong]:
        return _in_record(kind, json.loads(text) if plain is None else plain, (), "")

    try:
        record = msgspec.json.decode(text, type=kind)
    except (msgspec.DecodeError, UnicodeEncodeError) as error:
        _refuse(wrongs())
        raise NotAccepted((Wrong((), "", str(error)),)) from error
    if may_be_odd(text):
        _refuse(wrongs())
    _refuse(_contradictions(record, None, (), ""))
    return record


def _refuse(wrongs: Iterable[Wrong]) -> None:
    """Raise NotAccepted where anything is wrong."""
    if found := tuple(wrongs):
        raise NotAccepted(found)


def _converted(value: Any, kind: Any, way: Way, title: str) -> Any:
    """A value in which nothing was found wrong, as its type has it."""
    try:
        return msgspec.convert(value, kind)
    except msgspec.ValidationError:
        try:
            return msgspec.convert(_plain(value), kind)
        except msgspec.ValidationError as error:
            raise NotAccepted((Wrong(way, title, str(error)),)) from error


def _plain(value: Any) -> Any:
    """A value with the numbers of NumPy in it as plain ones."""
    if isinstance(value, Mapping):
        return {key: _plain(one) for key, one in value.items()}
    if isinstance(value, list | tuple):
        return [_plain(one) for one in value]
    return float(value) if isinstance(value, float) else value


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


def _in_record(kind: type[Struct], values: Any, way: Way, title: str) -> Iterator[Wrong]:
    """What is wrong with the fields of a record, given as plain values."""
    if not isinstance(values, Mapping):
        yield Wrong(
            way, title, phrase("{} was given; accepted: an object with its fields", _told(values))
        )
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
    elif is_record(accepts.plain):
        if not isinstance(value, accepts.plain):
            yield from _in_record(accepts.plain, value, way, title)
    elif text := _in_plain(accepts, value, lines=way[-1] == "note"):
        yield Wrong(way, title, text)
    elif isinstance(value, float) and 0.0 < abs(value) < FLOOR and isinstance(way[-1], str):
        # Points of curves come as near to 0 as they were drawn.
        yield Wrong(way, title, NEAR)


def _in_list(accepts: Accepts, value: Any, way: Way, title: str) -> Iterator[Wrong]:
    if not isinstance(value, list | tuple):
        yield Wrong(way, title, phrase("{} was given; accepted: a list", _told(value)))
        return
    items, least, most = accepts.items, accepts.least, accepts.most
    if accepts.any_number:
        items = items * len(value)
    else:
        least = most = len(items)
    if not _fits(len(value), least, most):
        accepted = _between(least, most, "of them")
        yield Wrong(way, title, phrase("{} were given; accepted: {}", len(value), accepted))
        return
    alike = accepts.any_number and {*map(type, value)} == {accepts.items[0].plain}
    if alike and is_record(accepts.items[0].plain):
        return
    for place, (item, one) in enumerate(zip(items, value, strict=True)):
        yield from _in_value(item, one, (*way, place), title)


def _in_plain(accepts: Accepts, value: Any, lines: bool) -> Text:
    """What is wrong with a number, a text, a choice or a switch; empty where nothing is.

    A text may have several ``lines`` where it is a note.
    """
    given = phrase("{} was given", _told(value))
    if accepts.plain is Literal:
        fits = any(value == one and type(value) is type(one) for one in accepts.values)
        return "" if fits else phrase("{}; accepted: {}", given, _one_of(accepts.values))
    if accepts.plain is bool:
        return "" if isinstance(value, bool) else phrase("{}; accepted: true or false", given)
    if accepts.plain is str:
        return _in_text(accepts, value, lines)
    percent = accepts.unit == "%"
    unit = "" if percent or accepts.unit == "money" else accepts.unit
    if isinstance(value, bool) or not isinstance(value, int | float):
        what = "a whole number" if accepts.plain is int else "a number"
        wanted = phrase("{} {}", what, unit_name(unit)) if unit else what
        return phrase("{}; accepted: {}", given, _share(wanted) if percent else wanted)
    if accepts.plain is int and not isinstance(value, int):
        return phrase("{}; accepted: a whole number", given)
    if not abs(value) <= MOST:
        wanted = phrase("a finite number {}", unit) if unit else "a finite number"
        return phrase("{}; accepted: {}", given, _share(wanted) if percent else wanted)
    if accepted := _bounded(accepts, value, unit):
        told = Quantity(value, unit, "given", _told(value))
        return phrase("{} was given; accepted: {}", told, _share(accepted) if percent else accepted)
    return ""


def _share(accepted: Text) -> Text:
    return phrase("{} (1 is 100 %)", accepted)


def _bounded(accepts: Accepts, value: float, unit: str) -> Text:
    """The bound that a number does not keep to, in words; empty where there is none."""
    if accepts.gt is not None and not value > accepts.gt:
        return phrase("a number over {}", _bound(accepts.gt, unit))
    if accepts.ge is not None and not value >= accepts.ge:
        return phrase("{} or more", _bound(accepts.ge, unit))
    if accepts.lt is not None and not value < accepts.lt:
        return phrase("a number under {}", _bound(accepts.lt, unit))
    if accepts.le is not None and not value <= accepts.le:
        return phrase("{} or less", _bound(accepts.le, unit))
    return ""


def _in_text(accepts: Accepts, value: Any, lines: bool) -> Text:
    given = phrase("{} was given", _told(value))
    if not isinstance(value, str):
        return phrase("{}; accepted: a text", given)
    if not _fits(len(value), accepts.least, accepts.most):
        return phrase("{}; accepted: {}", given, _between(accepts.least, accepts.most, "signs"))
    if accepts.pattern is not None and not re.search(accepts.pattern, value):
        return phrase("{}; accepted: {}", given, accepts.like or "another spelling")
    plain = re.sub(r"[\n\r\t]", "", value) if lines else value
    if (found := CONTROL.search(plain)) is not None:
        sign = f"U+{ord(found[0]):04X}"
        return phrase("a control character ({}) was given; accepted: letters and signs", sign)
    return ""


def _fits(count: int, least: int | None, most: int | None) -> bool:
    return (least is None or count >= least) and (most is None or count <= most)


def _between(least: int | None, most: int | None, what: str) -> Text:
    if most is None:
        return phrase("{} {} or more", least or 0, what)
    if not least:
        return phrase("up to {} {}", most, what)
    return phrase("{} to {} {}", least, most, what)


def _one_of(values: tuple[Any, ...]) -> Text:
    return listed(map(repr, values), ", ", " or ")


def _told(given: Any) -> str:
    """What was given, as in a program; long texts and numbers with their beginning only."""
    if not isinstance(given, str | int | float):
        return "nothing" if given is None else "what is there"
    try:
        spelled = repr(given[: QUOTED + 1] if isinstance(given, str) else given)
    except ValueError:
        return "a number of thousands of digits"
    return spelled if len(spelled) <= QUOTED + 2 else f"{spelled[:QUOTED]}…"


def _bound(value: float, unit: str) -> Text:
    """A bound with its unit, as the builder says it."""
    return Quantity(value, unit, "bound")


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
        called = title_at(type(record), steps)
        alone = bool(called) or not way
        yield Wrong((*way, *steps), called or title, error.said, named=alone)


@lru_cache(maxsize=256)
def _holding(kind: type[Struct]) -> tuple[str, ...]:
    """The fields of a record in which records may lie that have something to check."""
    return tuple(name for name, field in fields_of(kind).items() if _checks(field.accepts))


def _checks(accepts: Accepts) -> bool:
    kind = accepts.items[0].plain if accepts.any_number else accepts.plain
    if not is_record(kind):
        return False
    return (issubclass(kind, Document) and kind.check is not Document.check) or bool(_holding(kind))
