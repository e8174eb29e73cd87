"""Changes of a project by dotted path, and what is wrong with one in a sentence."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any, TypeVar, get_args

from pydantic import ValidationError
from pydantic.fields import FieldInfo

from lumvak.core.document.project import Project
from lumvak.core.record import Document
from lumvak.core.units import QUOTED, digits, say, shown, shown_in

D = TypeVar("D", bound=Document)


class ProjectError(ValueError):
    """An edit that cannot be accepted; the message says what could, ``path`` names the field."""

    def __init__(self, message: str, path: str) -> None:
        super().__init__(message)
        self.path = path


class _Branch(dict[str, Any]):
    """Changes of one record by the names of its fields; records in it have branches as well."""


def with_values(project: Project, changes: Mapping[str, Any]) -> Project:
    """A copy of ``project`` with ``changes`` by dotted path (``need.current_a``), validated.

    Only the records on the way to a change are made anew; all others stay the same objects.
    Raises ProjectError with one sentence naming the field and what would be accepted, and
    KeyError where there is no such field.
    """
    root = _Branch()
    for path, value in changes.items():
        *way, leaf = path.split(".")
        branch = root
        for step in way:
            branch = branch.setdefault(step, _Branch())
        branch[leaf] = value
    return _changed(project, root, ())


def _changed(record: D, changes: _Branch, way: tuple[str, ...]) -> D:
    """A record with what was changed in it; what was not stays as it is."""
    names = type(record).model_fields if isinstance(record, Document) else {}
    if unknown := changes.keys() - names.keys():
        raise KeyError(".".join((*way, *sorted(unknown))))
    fresh = {
        name: _changed(getattr(record, name), changes[name], (*way, name))
        if isinstance(changes[name], _Branch)
        else changes[name]
        for name in names
        if name in changes
    }
    try:
        valid = type(record).model_validate({**dict(record), **fresh})
    except ValidationError as error:
        raise ProjectError(sentences(error, way)[0], _path_of(error, way)) from error
    return record.model_copy(update={name: getattr(valid, name) for name in fresh})


def _path_of(error: ValidationError, way: tuple[str, ...]) -> str:
    """Dotted path of the first field at fault; a rule between fields names it by its title."""
    item = error.errors()[0]
    path = ".".join(str(step) for step in (*way, *item["loc"]))
    if item["type"] == "value_error" and path in Project.model_fields:
        title = str(item["ctx"]["error"]).partition(": ")[0]
        model = Project.model_fields[path].annotation
        for name, info in getattr(model, "model_fields", {}).items():
            if info.title == title:
                return f"{path}.{name}"
    return path


def sentences(error: ValidationError, way: tuple[str, ...] = ()) -> list[str]:
    """What a validation error says, each as a sentence naming the field and what is accepted.

    ``way`` is where in the project the record lies that was validated.
    """
    return [_sentence(item, (*way, *item["loc"])) for item in error.errors()]


def _sentence(item: Any, location: tuple[Any, ...]) -> str:
    path = ".".join(str(step)[:QUOTED] for step in location)
    title, unit = _title_of(location)
    where = f"{title} ({path})" if title else (path or "the document")
    kind, context = item["type"], item.get("ctx", {})
    given = item.get("input")
    after = " (1 is 100 %)" if unit == "%" else ""
    unit = "" if unit == "%" else unit
    told = _shown(given) if isinstance(given, str | int | float | bool) else "what is there"
    if kind == "value_error":
        text = str(context.get("error", item["msg"]))
        return text if title_in(text) or not path else f"{where}: {text}"
    if kind in ("greater_than", "greater_than_equal", "less_than", "less_than_equal"):
        key, wanted = {
            "greater_than": ("gt", "a number over"),
            "greater_than_equal": ("ge", ""),
            "less_than": ("lt", "a number under"),
            "less_than_equal": ("le", ""),
        }[kind]
        side = {"ge": " or more", "le": " or less"}.get(key, "")
        bound = f"{wanted} {_bound(context[key], unit)}{side}".strip()
        if shown_in(unit) != unit and isinstance(given, int | float):
            told = say(given, unit)
        return f"{where}: {told} was given; accepted: {bound}{after}"
    if kind == "extra_forbidden":
        return f"{where}: unknown field; remove it or correct its name"
    if kind == "missing":
        return f"{where}: missing; it must be given"
    if kind == "literal_error":
        return f"{where}: {told} was given; accepted: {context['expected']}"
    if kind == "string_pattern_mismatch" and "like" in _extra_of(location):
        return f"{where}: {told} was given; accepted: {_extra_of(location)['like']}"
    if kind == "finite_number":
        return f"{where}: {told} was given; accepted: a finite number {unit}{after}".rstrip()
    return f"{where}: {told} was given; {item['msg'][0].lower()}{item['msg'][1:]}"


def _shown(given: str | float) -> str:
    """What was given, as in a program; long texts and numbers with their beginning only."""
    try:
        spelled = repr(given[: QUOTED + 1] if isinstance(given, str) else given)
    except ValueError:
        return "a number of thousands of digits"
    return spelled if len(spelled) <= QUOTED + 2 else f"{spelled[:QUOTED]}…"


def _bound(value: float, unit: str) -> str:
    """A bound with its unit, as the builder says it."""
    return f"{digits(shown(value, unit), '.6g')} {shown_in(unit)}".rstrip()


def _extra_of(location: tuple[Any, ...]) -> dict[str, Any]:
    """What the schema of a field says beside its type."""
    info = _field_of(location)[1]
    extra = None if info is None else info.json_schema_extra
    return extra if isinstance(extra, dict) else {}


def title_in(text: str) -> bool:
    """Whether a message already names its field, as those of this module's own rules do."""
    head, colon, _ = text.partition(": ")
    return bool(colon) and head[:1].isupper()


def _title_of(location: tuple[Any, ...]) -> tuple[str, str]:
    """Title of the innermost field that has one, and the unit of the field."""
    return _field_of(location)[0], str(_extra_of(location).get("unit", ""))


def _field_of(location: tuple[Any, ...]) -> tuple[str, FieldInfo | None]:
    """Title and description of a field; records in lists are looked into."""
    model: Any = Project
    title, last = "", None
    for step in location:
        if isinstance(step, int):
            model = next(iter(get_args(model)), None)
            continue
        info = getattr(model, "model_fields", {}).get(step)
        if info is None:
            break
        title, last, model = info.title or title, info, info.annotation
    return title, last


@lru_cache(maxsize=256)
def default_value(path: str) -> Any:
    """What a field is in a new project, by dotted path; ``None`` where there is no such field."""
    node: Any = Project()
    for step in path.split("."):
        node = getattr(node, step, None)
    return node


def field_title(path: str) -> str:
    """The plain name of a field by dotted path."""
    return _title_of(tuple(path.split(".")))[0]
