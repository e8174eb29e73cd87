"""Starting where folders cannot be used, names are no text, and something ends it."""

import os
import re
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from tests.conftest import TRIMMER

SOURCE = Path(__file__).parents[3] / "src"
# A path that no disk takes fails as one that may not be read does.
NO_PATH = "/tmp/" + "x" * 5000
BEGUN = """
import sys
from pathlib import Path
from PyQt6.QtCore import QTimer
from lumvak.ui import application
from lumvak.ui.shell.window import Window
shown = Window.show
def show(window):
    shown(window)
    if sys.argv[2] == "edit":
        window.session.edit({"name": "Edited"})
    said = [window.windowTitle(), window.notice.text.text()]
    QTimer.singleShot(0, lambda: print(ascii(said), flush=True))
    if sys.argv[2] == "look":
        QTimer.singleShot(50, application.QApplication.quit)
Window.show = show
sys.exit(application.run(Path(sys.argv[1]) if sys.argv[1] else None))
"""


def begun(file: str, what: str, home: Path, **environment: str) -> "subprocess.Popen[bytes]":
    """A window as a process of its own: looked at and closed, or edited and left open."""
    places = {
        name: str(home / name) for name in ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME")
    }
    return subprocess.Popen(
        [sys.executable, "-c", BEGUN, file, what],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        env={
            **os.environ,
            "QT_QPA_PLATFORM": "offscreen",
            "PYTHONPATH": str(SOURCE),
            **places,
            **environment,
        },
    )


@pytest.mark.parametrize(
    ("name", "says"),
    [
        ("XDG_CONFIG_HOME", "Preferences are not read"),
        ("XDG_STATE_HOME", ""),
        ("XDG_DATA_HOME", "Own parts left out"),
    ],
)
def test_it_starts_where_a_folder_cannot_be_read_and_says_so(
    tmp_path: Path, name: str, says: str
) -> None:
    out, errors = begun(str(TRIMMER), "look", tmp_path, **{name: NO_PATH}).communicate(timeout=60)
    assert b"Hedge trimmer" in out or b"hedge-trimmer" in out, errors
    assert says.encode() in out


def test_it_opens_a_file_whose_name_is_no_text(tmp_path: Path) -> None:
    odd = os.fsencode(tmp_path) + b"/\xff.lumvak.json"
    Path(os.fsdecode(odd)).write_bytes(TRIMMER.read_bytes())
    out, errors = begun(os.fsdecode(odd), "look", tmp_path).communicate(timeout=60)
    assert errors == b"" and b"?.lumvak.json" in out


@pytest.mark.parametrize("ends", [signal.SIGHUP, signal.SIGTERM, signal.SIGINT])
def test_a_terminal_that_is_closed_leaves_the_work_for_the_next_start(
    tmp_path: Path, ends: signal.Signals
) -> None:
    process = begun(str(TRIMMER), "edit", tmp_path)
    assert process.stdout is not None
    assert process.stdout.readline()
    process.send_signal(ends)
    assert process.wait(timeout=30) == 0
    folder = tmp_path / "XDG_STATE_HOME" / "lumvak" / "recovery"
    deadline = time.monotonic() + 5.0
    while not list(folder.glob("copy-*.json")) and time.monotonic() < deadline:
        time.sleep(0.05)
    (copy,) = folder.glob("copy-*.json")
    assert '"Edited"' in copy.read_text("utf-8")


def test_what_lies_in_the_folder_at_hand_is_not_run(tmp_path: Path) -> None:
    """Every process that is started leaves the current folder out of where modules are found."""
    (tmp_path / "json.py").write_text("raise SystemExit(99)")
    started = [
        (path.name, line)
        for path in (SOURCE / "lumvak").rglob("*.py")
        for line in path.read_text("utf-8").splitlines()
        if "sys.executable" in line
    ]
    assert len(started) >= 2
    assert all(re.search(r"[\" ]-P[\" ]", line) for _, line in started), started
    done = subprocess.run(
        [sys.executable, "-P", "-m", "lumvak", "--version"],
        cwd=tmp_path,
        capture_output=True,
        env={**os.environ, "PYTHONPATH": str(SOURCE)},
        check=False,
        timeout=60,
    )
    assert done.returncode == 0
