"""A window that is told to end does so at once, and its work is kept."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.files.kept.recovery import left_over, recovery_folder
from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from tests.conftest import BARROW

PROGRAM = """
import sys
from pathlib import Path
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication
from lumvak.ui.application import run
from lumvak.ui.shell.window import Window

def edit():
    window = next(item for item in QApplication.topLevelWidgets() if isinstance(item, Window))
    window.session.edit({"need.current_a": 23.5})
    print("edited", flush=True)
    if sys.argv[2] == "asked":
        window.close()

import lumvak.ui.application as application
make = application.make_window
def make_window(app, file):
    QTimer.singleShot(200, edit)
    return make(app, file)
application.make_window = make_window
sys.exit(run(Path(sys.argv[1])))
"""


@pytest.mark.parametrize("state", ["open", "asked"])
def test_a_signal_ends_the_window_within_two_seconds_and_keeps_the_work(
    catalogue: Catalogue, tmp_path: Path, state: str
) -> None:
    file = tmp_path / "barrow.lumvak.json"
    file.write_bytes(BARROW.read_bytes())
    child = subprocess.Popen(
        [sys.executable, "-c", PROGRAM, str(file), state],
        stdout=subprocess.PIPE,
        env={**os.environ, "PYTHONPATH": str(Path(__file__).parents[2] / "src")},
    )
    assert child.stdout is not None
    assert child.stdout.readline() == b"edited\n"
    time.sleep(0.3)
    child.send_signal(signal.SIGTERM)
    try:
        child.wait(timeout=2.0)
    finally:
        child.kill()
    ((copy,), problems) = left_over(recovery_folder(), catalogue)
    assert problems == []
    assert copy.project.need.current_a == 23.5
    assert copy.saved_as == file
    assert file.read_bytes() == BARROW.read_bytes()


def test_work_is_kept_when_somebody_logs_out(session: Session) -> None:
    session.edit({"need.current_a": 23.5})
    session.keep_now()
    (copy,) = recovery_folder().glob("*.json")
    assert "23.5" in copy.read_text("utf-8")


def test_widgets_stay_as_many_over_changes_of_sheet_and_edits(window: Window, qtbot: QtBot) -> None:
    def count() -> int:
        QApplication.sendPostedEvents(None, 52)
        QApplication.processEvents()
        return len(window.findChildren(QWidget))

    window.open_stage("cells")
    window.swap_sheet()
    before = count()
    for _ in range(6):
        window.swap_sheet()
    for place in range(20):
        window.session.edit({"need.current_a": 20.0 + 0.1 * place})
    assert count() == before
