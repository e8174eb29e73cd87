"""The JSON Schemas of the files, generated from the documents themselves."""

from __future__ import annotations

import json
from typing import Any

import msgspec

from lumvak.core.catalogue.catalogue import PartsFile
from lumvak.core.document.project import Project
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
