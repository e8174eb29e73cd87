"""Fields of a project as they are typed in a line: ``pack.parallel=8``."""

from __future__ import annotations

import difflib
import json
from collections.abc import Iterator, Sequence
from functools import lru_cache
from typing import Any, Literal

from lumvak.core.document.edit import ProjectError, field_of, kind_of, with_values
from lumvak.core.document.loads import bases_of
from lumvak.core.document.project import Project
from lumvak.core.fields import Accepts, Field, fields_of, is_record
from lumvak.core.need.duty import parse_duty
from lumvak.core.record import Document
from lumvak.core.said import listed, phrase
from lumvak.core.spelling import Refused
from lumvak.core.units import BY_UNIT, COUNT, QuantityError, parse

# What says that a field is not given, so that it is assumed.
NOT_GIVEN = ("", "none", "null", "auto")
SWITCH = {
    **dict.fromkeys(("yes", "true", "on", "1"), True),
    **dict.fromkeys(("no", "false", "off", "0"), False),
}
# A list of plain values may have a semicolon or a comma between them.
PLAIN = (str, float, int, Literal)


@lru_cache(maxsize=1)
def field_paths() -> dict[str, Field]:
    """Every field of a project by its dotted path, those of lists left out."""
    return dict(_paths(Project, ""))


def _paths(kind: type[Document], way: str) -> Iterator[tuple[str, Field]]:
    for name, field in fields_of(kind).items():
        if is_record(field.accepts.plain):
            yield from _paths(field.accepts.plain, f"{way}{name}.")
        else:
            yield f"{way}{name}", field


def with_typed(project: Project, items: Sequence[str]) -> Project:
    """A project with fields as they were typed, each ``path=value``, checked as in the window.

    Raises ProjectError naming the field and what is accepted.
    """
    changes = dict(map(_change, items))
    needs = [path.removeprefix("need.") for path in changes if path.startswith("need.")]
    try:
        bases = bases_of(needs)
    except Refused as error:
        raise ProjectError(error.said, "need") from error
    # What is set counts: watts that are given are what the load is given as.
    changes = {**{f"need.{name}": basis for name, basis in bases.items()}, **changes}
    return with_values(project, changes)


def _change(item: str) -> tuple[str, Any]:
    path, equals, text = item.partition("=")
    path = path.strip()
    if not equals:
        raise ProjectError(
            phrase("“{}” is no field and value; accepted: such as pack.parallel=8", item[:60]), path
        )
    if path not in field_paths():
        near = difflib.get_close_matches(path, field_paths(), 3, 0.75)
        hint = phrase("did you mean {}?", listed(near, ", ", " or ")) if near else ""
        known = phrase("no field “{}”; accepted: such as need.current_a", path[:60])
        raise ProjectError(phrase("no field “{}”; {}", path[:60], hint) if near else known, path)
    return path, typed_value(path, text.strip())


def typed_value(path: str, text: str) -> Any:
    """The value that a text means for the field at a dotted path; raises ProjectError."""
    accepts = field_of(path)
    if accepts.optional and text.casefold() in NOT_GIVEN:
        return None
    if path == "need.duty" and not text.startswith("["):
        return parse_duty(text, "W" if "w" in text.casefold() else "A")
    try:
        return _value(accepts, text, path)
    except QuantityError as error:
        raise ProjectError(phrase("{} ({}): {}", accepts.title, path, error.said), path) from error


def _value(accepts: Accepts, text: str, path: str) -> Any:
    """A text as a number, a choice, a switch, a list or a text; raises QuantityError."""
    if accepts.plain is bool:
        return SWITCH.get(text.casefold(), text)
    if accepts.plain is Literal:
        return _choice(accepts, text)
    if accepts.plain in (float, int):
        number = parse(text, kind_of(path))
        return int(number) if accepts.plain is int else number
    if accepts.plain is tuple:
        return _row(accepts, text)
    return text


def _choice(accepts: Accepts, text: str) -> Any:
    """The choice that a text is, whatever its case; the text itself where it is none."""
    folded = {str(value).casefold(): value for value in accepts.values}
    return folded.get(text.casefold(), text)


def _row(accepts: Accepts, text: str) -> Any:
    """A list as JSON, or plain values with commas or semicolons between; raises QuantityError."""
    if text[:1] in "[{":
        try:
            return json.loads(text)
        except ValueError as error:
            raise QuantityError(
                phrase("“{}” is no JSON; accepted: such as [1, 2]", text[:60])
            ) from error
    inner = accepts.items[0]
    if inner.plain not in PLAIN:
        raise QuantityError(phrase("“{}” is no list of records; accepted: JSON", text[:60]))
    words = [word.strip() for word in text.split(";" if ";" in text else ",") if word.strip()]
    if inner.plain is Literal:
        return tuple(_choice(inner, word) for word in words)
    if inner.plain is str:
        return tuple(words)
    kind = COUNT if inner.plain is int else BY_UNIT[inner.unit]
    numbers = (parse(word, kind) for word in words)
    return tuple(int(it) if inner.plain is int else it for it in numbers)
