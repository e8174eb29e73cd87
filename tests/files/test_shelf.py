"""Projects of a folder: what they are without working them out, broken ones told, many at once."""

from datetime import date
from pathlib import Path

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.record_of_pack.passport import passport_of
from lumvak.files.project_file import load_project, save_project
from lumvak.files.shelf import shelf, with_glance
from tests.conftest import DEMOS

TODAY = date(2026, 7, 1)


@pytest.fixture
def folder(tmp_path: Path, catalogue: Catalogue) -> Path:
    for name in ("seed roller", "Barrow"):
        project = Project(name=name)
        evaluation = evaluate(project, catalogue)
        built = (
            with_values(project, {"record.built": "2026-05-31"}) if name == "Barrow" else project
        )
        save_project(with_glance(built, evaluation), tmp_path / f"{name}.lumvak.json", catalogue)
    (tmp_path / "below").mkdir()
    (tmp_path / "below" / "broken.lumvak.json").write_text('{"format": "lumvak-pro')
    (tmp_path / "other.lumvak.json").write_text('{"format": "something"}')
    (tmp_path / "odd.lumvak.json").write_text(
        '{"format": "lumvak-project", "record": {"built": 3}}'
    )
    return tmp_path


def test_each_is_told_by_name_and_broken_ones_last(folder: Path, catalogue: Catalogue) -> None:
    found = shelf(folder, TODAY)
    assert [it.name for it in found[:2]] == ["Barrow", "seed roller"]
    assert all(it.problem for it in found[2:]) and len(found) == 5
    barrow = found[0]
    assert barrow.glance == passport_of(evaluate(Project(name="Barrow"), catalogue))
    assert barrow.due == date(2026, 8, 29) and found[1].due is None


def test_a_pack_beyond_a_passport_is_written_without_and_read_again(
    tmp_path: Path, catalogue: Catalogue
) -> None:
    large = with_values(Project(), {"need.rated_voltage_v": 990.0, "pack.series": 290})
    evaluation = evaluate(large, catalogue)
    assert passport_of(evaluation).full_v > 1000.0
    path = tmp_path / "large.lumvak.json"
    save_project(with_glance(large, evaluation), path, catalogue)
    assert load_project(path, catalogue).pack.series == 290
    (told,) = shelf(tmp_path, TODAY)
    assert told.glance is None and not told.problem


@pytest.mark.parametrize("path", sorted(DEMOS.glob("*.json")), ids=lambda it: it.name)
def test_demos_are_what_their_glance_says(path: Path, catalogue: Catalogue) -> None:
    project = load_project(path, catalogue)
    assert with_glance(project, evaluate(project, catalogue)).record.glance == project.record.glance
