"""A window that is at work until it is killed.

python tools/killed.py FILE SECONDS_A_SAVE edits and saves; python tools/killed.py FILE readings
takes one reading of a cell after the other.
"""

from __future__ import annotations

import sys
import time
from pathlib import Path

from PyQt6.QtCore import QTimer

from lumvak.ui.application import make_application, make_window

EDIT_MS = 40


def read() -> None:
    """Take readings as fast as it goes, and say each once it is kept."""
    app = make_application()
    window = make_window(app, Path(sys.argv[1]))
    window.open_stage("hand")
    view = window.stages["hand"].views["measure"]

    def take() -> None:
        view.entry.setText("3.61")
        number = view.number
        view.take()
        print("edit", number, time.monotonic(), flush=True)

    timer = QTimer()
    timer.timeout.connect(take)
    timer.start(0)
    app.exec()


def main() -> None:
    """Count in the project's note, and say every count and every save with its time."""
    file, every = Path(sys.argv[1]), float(sys.argv[2])
    app = make_application()
    window = make_window(app, file)
    saved = time.monotonic()
    count = 0

    def edit() -> None:
        nonlocal count, saved
        count += 1
        window.session.edit({"note": str(count)})
        print("edit", count, time.monotonic(), flush=True)
        if time.monotonic() - saved > every:
            window.session.save(file)
            saved = time.monotonic()
            print("save", count, saved, flush=True)

    timer = QTimer()
    timer.timeout.connect(edit)
    timer.start(EDIT_MS)
    app.exec()


if __name__ == "__main__":
    read() if sys.argv[2] == "readings" else main()
