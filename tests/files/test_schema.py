"""The schemas, by another program's reader."""

import json

import jsonschema
import pytest

from lumvak.files.schema import SCHEMAS, schema_of
from tests.conftest import DEMOS


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
