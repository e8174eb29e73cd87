"""lumvak export."""

import os
import stat
import subprocess
from pathlib import Path

from lumvak.cli.main import main
from tests.cli.test_cli import lumvak
from tests.conftest import BARROW, TRIMMER


def test_an_export_never_goes_over_its_project(tmp_path: Path) -> None:
    path = tmp_path / "barrow.lumvak.json"
    path.write_bytes(BARROW.read_bytes())
    other = tmp_path / "other.lumvak.json"
    other.symlink_to(path)
    for out in (path, other):
        assert main(["export", str(path), "--to", "csv", "-o", str(out)]) == 2
    assert path.read_bytes() == BARROW.read_bytes()


def test_an_export_goes_into_what_is_never_replaced(tmp_path: Path) -> None:
    """A pipe, a terminal's device, our own output; and over no project, no folder, no circle."""
    drawing = lumvak("export", str(TRIMMER), "--to", "svg", "-o", "/dev/stdout").stdout
    assert drawing.startswith(b"<?xml") and b"hedge" not in drawing.splitlines()[-1]
    whole = tmp_path / "whole.svg"
    with whole.open("wb") as out:
        lumvak("export", str(TRIMMER), "--to", "svg", "-o", "/dev/stdout", out=out)
    assert whole.read_bytes() == drawing
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    with subprocess.Popen(["cat", str(pipe)], stdout=subprocess.PIPE) as reader:
        assert lumvak("export", str(TRIMMER), "--to", "svg", "-o", str(pipe)).returncode < 2
        assert reader.communicate(timeout=60)[0] == drawing
    assert stat.S_ISFIFO(pipe.stat().st_mode)
    other = tmp_path / "other.lumvak.json"
    other.write_bytes(BARROW.read_bytes())
    circle = tmp_path / "circle"
    circle.symlink_to(circle)
    for path, says in (
        (other, b"is a project"),
        (circle, b"lead in a circle"),
        (tmp_path, b"no plain file"),
    ):
        done = lumvak("export", str(TRIMMER), "--to", "svg", "-o", str(path))
        assert (done.returncode, says in done.stderr) == (2, True), done.stderr
    assert other.read_bytes() == BARROW.read_bytes()
