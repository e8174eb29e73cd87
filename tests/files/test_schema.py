"""The schemas, by another program's reader."""

import json
from pathlib import Path

import jsonschema
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.checked import written
from lumvak.files.catalogue_file import built_in_parts
from lumvak.files.project_file import (
    load_project,
    project_text,
    with_copies,
)
from lumvak.files.schema import SCHEMAS, schema_of, schema_text
from tests.conftest import BARROW, DEMOS

SCHEMA_FOLDER = Path(__file__).parents[2] / "docs" / "schema"


@pytest.mark.parametrize("name", SCHEMAS)
def test_every_schema_is_one(name: str) -> None:
    schema = schema_of(name)
    jsonschema.Draft202012Validator.check_schema(schema)
    assert {"format", "version"} <= set(schema["required"])


@pytest.mark.parametrize("demo", sorted(DEMOS.glob("*.json")), ids=lambda path: path.name)
def test_demos_are_valid_and_what_is_spoiled_is_not(demo) -> None:  # type: ignore[no-untyped-def]
    validator = jsonschema.Draft202012Validator(schema_of("project.schema.json"))
    document = json.loads(demo.read_text("utf-8"))
    assert not list(validator.iter_errors(document))
    document["need"]["rated_voltage_v"] = -36.0
    assert list(validator.iter_errors(document))
    del document["need"], document["version"]
    assert list(validator.iter_errors(document))


@pytest.mark.parametrize("name", sorted(SCHEMAS))
def test_committed_schemas_are_the_generated_ones(name: str) -> None:
    assert (SCHEMA_FOLDER / name).read_text("utf-8") == schema_text(name)
    jsonschema.Draft202012Validator.check_schema(schema_of(name))


@pytest.mark.parametrize("path", sorted(DEMOS.glob("*.lumvak.json")), ids=lambda path: path.stem)
def test_demo_files_obey_the_schema_and_come_back_the_same(
    path: Path, catalogue: Catalogue
) -> None:
    text = path.read_text("utf-8")
    jsonschema.validate(json.loads(text), schema_of("project.schema.json"))
    project = load_project(path, catalogue)
    assert project_text(with_copies(project, catalogue)) == text


def test_the_schema_refuses_what_the_program_refuses() -> None:
    document = json.loads(BARROW.read_text("utf-8"))
    validator = jsonschema.Draft202012Validator(schema_of("project.schema.json"))
    for change in ({"version": 2}, {"format": "other"}, {"surprise": 1}, {"need": {"kind": "x"}}):
        assert not validator.is_valid({**document, **change})
    del document["format"]
    assert not validator.is_valid(document)


def test_built_in_parts_obey_the_schema() -> None:
    for parts in built_in_parts():
        document = json.loads(written(parts))
        jsonschema.validate(document, schema_of("parts.schema.json"))
