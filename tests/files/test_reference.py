"""Files that a project refers to, and what becomes of them when it moves."""

from pathlib import Path

from lumvak.core.document.afterwards.record_of_pack import LogEntry
from lumvak.files.reference import copied_beside, log_named_whole, reference_to, referred


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


def test_photographs_are_copied_beside_the_project_and_named_there(tmp_path: Path) -> None:
    away, home = tmp_path / "camera", tmp_path / "packs"
    away.mkdir()
    home.mkdir()
    (away / "side.jpg").write_bytes(b"one")
    (home / "near.jpg").write_bytes(b"two")
    project = home / "kayak.lumvak.json"
    log = (
        entry("a" * 8, str(away / "side.jpg"), "near.jpg"),
        entry("b" * 8, str(away / "gone.jpg")),
        entry("c" * 8),
    )
    done = copied_beside(log, project)
    assert (done.copied, done.missing) == (1, (str(away / "gone.jpg"),))
    assert done.log[0].photos == ("kayak photographs/side.jpg", "near.jpg")
    assert (home / "kayak photographs" / "side.jpg").read_bytes() == b"one"
    # Again: the same picture is not copied twice, another one of its name gets a number.
    assert copied_beside(done.log, project).copied == 0
    assert copied_beside(log, project).log[0].photos == done.log[0].photos
    (away / "side.jpg").write_bytes(b"three")
    assert copied_beside(log, project).log[0].photos[0] == "kayak photographs/side-2.jpg"


def test_a_log_named_whole_is_found_from_any_folder(tmp_path: Path) -> None:
    (named,) = log_named_whole((entry("a" * 8, "near.jpg"),), tmp_path / "kayak.lumvak.json")
    assert named.photos == (str(tmp_path.resolve() / "near.jpg"),)


def entry(name: str, *photos: str) -> LogEntry:
    return LogEntry(id=name, when="2026-05-31", text=name, photos=photos)
