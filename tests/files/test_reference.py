"""Files that a project refers to, and what becomes of them when it moves."""

from pathlib import Path

from lumvak.files.reference import reference_to, referred


def test_what_lies_with_the_project_moves_with_it(tmp_path: Path) -> None:
    project = tmp_path / "barrow" / "barrow.lumvak.json"
    picture = tmp_path / "barrow" / "cells" / "57.jpg"
    picture.parent.mkdir(parents=True)
    project.touch()
    picture.touch()
    assert reference_to(picture, project) == "cells/57.jpg"
    assert referred("cells/57.jpg", project) == picture
    moved = (tmp_path / "barrow").rename(tmp_path / "wheelbarrow")
    found = referred("cells/57.jpg", moved / project.name)
    assert found is not None
    assert found.exists()


def test_what_lies_elsewhere_is_named_whole(tmp_path: Path) -> None:
    project, picture = tmp_path / "barrow" / "barrow.lumvak.json", tmp_path / "57.jpg"
    assert reference_to(picture, project) == str(picture)
    assert reference_to(picture, None) == str(picture)
    assert referred(str(picture), None) == picture
    assert referred("cells/57.jpg", None) is None
