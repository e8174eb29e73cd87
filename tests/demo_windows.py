"""Windows over copies of the demos, for hands that do what they like."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from PyQt6.QtCore import QCoreApplication, QEvent
from PyQt6.QtWidgets import QApplication
from tools.faults_killed import HOMES

from lumvak.ui.application import make_window
from lumvak.ui.shell.window import Window
from tests.conftest import DEMOS
from tests.ui.conftest import forget


@contextmanager
def demo_window(app: QApplication, seed: int) -> Iterator[Window]:
    """A window in a home of its own over one of the demos, closed without a question."""
    demos = sorted(DEMOS.iterdir())
    with tempfile.TemporaryDirectory() as name:
        os.environ.update(dict.fromkeys(HOMES, name))
        file = Path(name) / "demo.lumvak.json"
        file.write_text(demos[seed % len(demos)].read_text("utf-8"), "utf-8")
        window = make_window(app, file)
        window.show()
        app.processEvents()
        try:
            yield window
        finally:
            forget(window)
            window.close()
            window.deleteLater()
            QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
