"""Writes the JSON Schemas of project and parts files into docs/schema."""

from __future__ import annotations

from pathlib import Path

from lumvak.files.schema import SCHEMAS, schema_text

FOLDER = Path(__file__).parents[1] / "docs" / "schema"

if __name__ == "__main__":
    for name in SCHEMAS:
        (FOLDER / name).write_text(schema_text(name), "utf-8")
        print(f"wrote docs/schema/{name}")
