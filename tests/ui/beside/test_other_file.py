"""The project of the second pack is read once, and anew when it was written."""

from pathlib import Path

from lumvak.core.document.edit import with_values
from lumvak.files.project_file import save_project
from lumvak.ui.session import Session
from lumvak.ui.stages.beside.other_file import OtherFile


def test_it_is_read_once_and_anew_when_written(session: Session, tmp_path: Path) -> None:
    other, path = OtherFile(session), tmp_path / "second.lumvak.json"
    assert other.side() is None and other.problem == ""
    save_project(with_values(session.project, {"name": "Twin"}), path, session.catalogue)
    session.edit({"beside.file": str(path)})
    first = other.side()
    assert first is not None and first.name == "Twin" and other.side() is first
    save_project(with_values(session.project, {"name": "Other"}), path, session.catalogue)
    again = other.side()
    assert again is not None and again.name == "Other"


def test_one_that_is_gone_or_broken_says_why(session: Session, tmp_path: Path) -> None:
    other = OtherFile(session)
    session.edit({"beside.file": str(tmp_path / "gone.lumvak.json")})
    assert other.side() is None and other.problem
    session.start(session.project, None)
    session.edit({"beside.file": "beside.lumvak.json"})
    assert other.side() is None and "not to be found" in other.problem
