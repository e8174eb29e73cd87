"""Changes of a project by dotted path, and what its fields are called."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any, TypeVar

from lumvak.core.checked import NotAccepted, renewed
from lumvak.core.document.project import Project
from lumvak.core.fields import Accepts, Way, field_at, fields_of, title_at
from lumvak.core.record import Document
from lumvak.core.said import Text, phrase
from lumvak.core.spelling import Refused
from lumvak.core.units import BY_UNIT, COUNT, Kind

D = TypeVar("D", bound=Document)


class ProjectError(Refused):
    """An edit that cannot be accepted; the message says what could, ``path`` names the field.

    ``here`` is what to say beside the field itself.
    """

    def __init__(self, message: Text, path: str, here: Text = "") -> None:
        super().__init__(message)
        self.path, self.here = path, here or message


class _Branch(dict[str, Any]):
    """Changes of one record by the names of its fields; records in it have branches as well."""


def with_values(project: Project, changes: Mapping[str, Any]) -> Project:
    """A copy of ``project`` with ``changes`` by dotted path (``need.current_a``), checked.

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


def _changed(record: D, changes: _Branch, way: Way) -> D:
    """A record with what was changed in it; what was not stays as it is."""
    names = fields_of(type(record)) if isinstance(record, Document) else {}
    if unknown := changes.keys() - names.keys():
        raise KeyError(".".join((*map(str, way), *sorted(unknown))))
    fresh = {
        name: _changed(getattr(record, name), changes[name], (*way, name))
        if isinstance(changes[name], _Branch)
        else changes[name]
        for name in names
        if name in changes
    }
    try:
        return renewed(record, fresh, way, title_at(Project, way))
    except NotAccepted as error:
        first = error.wrongs[0]
        here = phrase("{}: {}", first.title, first.text) if first.title else first.text
        raise ProjectError(first.sentence, first.path, here) from error


@lru_cache(maxsize=256)
def default_value(path: str) -> Any:
    """What a field is in a new project, by dotted path; ``None`` where there is no such field."""
    node: Any = Project()
    for step in path.split("."):
        node = getattr(node, step, None)
    return node


def value_at(project: Project, path: str) -> Any:
    """What a project has at a dotted path."""
    node: Any = project
    for step in path.split("."):
        node = getattr(node, step)
    return node


@lru_cache(maxsize=256)
def field_of(path: str) -> Accepts:
    """What the field at a dotted path accepts, is called and is in.

    Raises KeyError where there is no such field.
    """
    field = field_at(Project, tuple(path.split(".")))
    if field is None:
        raise KeyError(path)
    return field.accepts


@lru_cache(maxsize=256)
def kind_of(path: str) -> Kind:
    """The kind of quantity that the field at a dotted path takes."""
    accepts = field_of(path)
    return COUNT if accepts.plain is int else BY_UNIT[accepts.unit]


def field_title(path: str) -> str:
    """The plain name of a field by dotted path."""
    return title_at(Project, tuple(path.split(".")))
