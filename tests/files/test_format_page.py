"""docs/format.md, read by a stranger: what it shows can be loaded, evaluated and checked."""

import json
import re
from pathlib import Path

import pytest

from lumvak.cli.main import main
from lumvak.core.catalogue.catalogue import PART_KINDS, Catalogue, PartsFile
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.fields import fields_of
from lumvak.files.catalogue_file import load_catalogue, read_parts
from lumvak.files.project_file import parse_project
from lumvak.files.schema import fields_text, records_within

DOCS = Path(__file__).parents[2] / "docs"
BLOCKS = re.findall(r"```json\n(.*?)```", (DOCS / "format.md").read_text("utf-8"), re.S)
WHOLE = [block for block in BLOCKS if block.startswith("{")]
PROJECTS = [block for block in WHOLE if '"lumvak-project"' in block]
PARTS = [block for block in WHOLE if '"lumvak-parts"' in block]


def test_there_is_enough_to_learn_from() -> None:
    assert len(PROJECTS) >= 8 and PARTS
    shown = {name for block in PROJECTS for name in json.loads(block)}
    assert {"need", "pack", "arrangement", "joints", "protection", "power", "charging"} <= shown


@pytest.mark.parametrize("block", PROJECTS)
def test_a_project_on_the_page_is_evaluated_without_a_stop(
    block: str, catalogue: Catalogue
) -> None:
    evaluation = evaluate(parse_project(block, "page", catalogue), catalogue)
    stops = [item.code for item in evaluation.findings if item.severity == "stop"]
    found = evaluation.project.as_found.begun
    assert not stops or found


def test_parts_on_the_page_join_those_that_ship(tmp_path: Path) -> None:
    for place, block in enumerate(PARTS):
        path = tmp_path / f"parts-{place}.json"
        path.write_text(block, "utf-8")
        catalogue, problems = load_catalogue([path])
        assert not problems
        given = read_parts(block, "page")
        for kind in PART_KINDS:
            for part in getattr(given, kind):
                assert getattr(catalogue, kind)[part.id] == part
        assert main(["check", str(path)]) == 0


def test_curves_on_the_page_belong_to_its_cell() -> None:
    (curves,) = (block for block in BLOCKS if block.startswith('"curves"'))
    parts = json.loads(next(block for block in PARTS if '"cells"' in block))
    parts["cells"][0] |= json.loads(f"{{{curves}}}")
    (cell,) = read_parts(json.dumps(parts), "page").cells
    assert len(cell.curves) == 3 and cell.pulses[0].ohm == 0.021


def test_every_field_has_a_name_and_says_what_it_is() -> None:
    for kind in (Project, PartsFile):
        for record in records_within(kind, set()):
            for name, field in fields_of(record).items():
                told = field.accepts
                assert told.title and told.description, f"{record.__name__}.{name}"
                assert told.description[0] == told.description[0].upper()


def test_the_page_of_all_fields_is_that_of_the_records() -> None:
    assert (DOCS / "fields.md").read_text("utf-8") == fields_text(), "run tools/schema.py"
