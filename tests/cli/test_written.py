"""Where commands write, and where never."""

from pathlib import Path

import pytest

from lumvak.cli.written import check_free, write_out
from lumvak.files.problem import FileProblem
from tests.conftest import BARROW


def test_a_file_that_is_there_stays_without_force(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "a.txt"
    write_out(path, b"one", force=False)
    assert capsys.readouterr().out == f"{path}\n"
    with pytest.raises(FileProblem, match="--force"):
        write_out(path, b"two", force=False)
    assert path.read_bytes() == b"one"
    write_out(path, b"two", force=True, told=False)
    assert path.read_bytes() == b"two" and capsys.readouterr().out == ""


def test_no_folder_is_made(tmp_path: Path) -> None:
    with pytest.raises(FileProblem, match="make it"):
        check_free(tmp_path / "no" / "a.txt", force=True)
    assert not (tmp_path / "no").exists()


def test_a_project_is_written_over_by_projects_only(tmp_path: Path) -> None:
    path = tmp_path / "a.lumvak.json"
    path.write_bytes(BARROW.read_bytes())
    with pytest.raises(FileProblem, match="is a project"):
        write_out(path, b"svg", force=True)
    write_out(path, b"{}", force=True, project=True)
    assert path.read_bytes() == b"{}"
