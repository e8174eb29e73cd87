"""Writes the JSON Schemas of project and parts files, and the page of all their fields."""

from __future__ import annotations

from pathlib import Path

from lumvak.files.schema import SCHEMAS, fields_text, schema_text

FOLDER = Path(__file__).parents[1] / "docs" / "schema"

if __name__ == "__main__":
    for name in SCHEMAS:
        (FOLDER / name).write_text(schema_text(name), "utf-8")
        print(f"wrote docs/schema/{name}")
    (FOLDER.parent / "fields.md").write_text(fields_text(), "utf-8")
    print("wrote docs/fields.md")
