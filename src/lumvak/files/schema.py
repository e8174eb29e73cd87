"""The JSON Schemas of the files, generated from the documents themselves."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any, Literal

import msgspec

from lumvak.core.catalogue.catalogue import PartsFile
from lumvak.core.document.project import Project
from lumvak.core.fields import Accepts, Field, fields_of, is_record
from lumvak.core.record import Document

SCHEMAS: dict[str, type[Document]] = {
    "project.schema.json": Project,
    "parts.schema.json": PartsFile,
}
DIALECT = "https://json-schema.org/draft/2020-12/schema"


def schema_of(name: str) -> dict[str, Any]:
    """The schema of one kind of file; format and version must be there."""
    document = msgspec.json.schema(SCHEMAS[name])
    document["required"] = sorted({*document.get("required", ()), "format", "version"})
    return {"$schema": DIALECT, **document}


def schema_text(name: str) -> str:
    """A schema as it is committed."""
    return json.dumps(schema_of(name), ensure_ascii=False, indent=1, sort_keys=True) + "\n"


# Where the page of all fields begins, and what each kind of file is.
FIELDS_HEAD = """# Every field

Made from the records of the program (`python tools/schema.py`). A field that has a default may be
left out; “not given” means that the program takes a value by a stated rule and marks it as assumed.
Shares in % run from 0 to 1 in the file. [How to write a file](format.md) by hand comes first.
"""


def fields_text() -> str:
    """Every field of every record as a page: name, unit, what is accepted, default, what it is."""
    told: set[type[Document]] = set()
    lines = [FIELDS_HEAD]
    for title, kind in (("A project", Project), ("A file of parts", PartsFile)):
        lines += [f"## {title}", ""]
        for record in records_within(kind, told):
            lines += [*_table(record), ""]
    return "\n".join(lines).rstrip() + "\n"


def records_within(kind: type[Document], told: set[type[Document]]) -> Iterator[type[Document]]:
    """A record and those within it, each once."""
    if kind in told:
        return
    told.add(kind)
    yield kind
    for field in fields_of(kind).values():
        for inner in _inside(field.accepts):
            yield from records_within(inner, told)


def _inside(accepts: Accepts) -> Iterator[type[Document]]:
    if is_record(accepts.plain):
        yield accepts.plain
    for item in accepts.items:
        yield from _inside(item)


def _table(kind: type[Document]) -> Iterator[str]:
    first = (kind.__doc__ or "").split("\n\n")[0].replace("\n    ", " ").replace("``", "`")
    yield f"### {kind.__name__}"
    yield ""
    yield first
    yield ""
    yield "| field | unit | accepted | default | what it is |"
    yield "|---|---|---|---|---|"
    for name, field in fields_of(kind).items():
        told = field.accepts
        what = f"{told.title}: {told.description}" if told.title else told.description
        cells = (f"`{name}`", told.unit, _accepted(told), _default(field), what)
        yield f"| {' | '.join(cell.replace('|', '/') for cell in cells)} |"


def _accepted(accepts: Accepts) -> str:
    """What a field takes, in a few words."""
    if accepts.plain is Literal:
        return ", ".join(f"`{value}`" for value in accepts.values)
    if is_record(accepts.plain):
        return f"a [{accepts.plain.__name__}](#{accepts.plain.__name__.lower()})"
    if accepts.plain is tuple:
        inner = [_accepted(item) for item in accepts.items]
        if accepts.any_number:
            return f"a list: {inner[0]}"
        return f"[{', '.join(inner)}]"
    bounds = (
        ("over", accepts.gt),
        ("from", accepts.ge),
        ("under", accepts.lt),
        ("up to", accepts.le),
    )
    said = " ".join(f"{word} {bound:g}" for word, bound in bounds if bound is not None)
    plain = {float: "number", int: "whole number", str: "text", bool: "`true`, `false`"}
    if accepts.plain is str and accepts.like:
        return accepts.like
    return f"{plain[accepts.plain]} {said}".strip()


def _default(field: Field) -> str:
    """What a field is where it is left out."""
    if field.required:
        return "must be given"
    if field.default is None:
        return "not given"
    if is_record(field.accepts.plain):
        return "its own defaults"
    value = msgspec.to_builtins(field.default)
    if value in ("", [], ()):
        return "empty"
    text = json.dumps(value, ensure_ascii=False)
    return f"`{text}`" if len(text) <= MOST_DEFAULT else "as in a new project"


# A default that is longer is not written out.
MOST_DEFAULT = 40
