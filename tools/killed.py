"""A window that edits and saves until it is killed: python tools/killed.py FILE SECONDS_A_SAVE."""

from __future__ import annotations

import sys
import time
from pathlib import Path

from PyQt6.QtCore import QTimer

from lumvak.ui.application import make_application, make_window

EDIT_MS = 40


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
    main()
