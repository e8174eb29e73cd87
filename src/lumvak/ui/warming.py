"""What views need is loaded while nobody does anything, so that the first look at one is quick."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Iterator

from PyQt6.QtCore import QObject, QTimer

import lumvak.ui.stages

# After the start it waits so long, and between one module and the next: keys come first.
BEGIN_MS, EACH_MS = 1200, 40
# Libraries that single views load when they are first opened.
LIBRARIES = ("scipy.spatial", "pyqtgraph", "lumvak.ui.shell.printing", "lumvak.files.contents")


def names() -> Iterator[str]:
    """What there is to load: what views share first, then every module of every stage."""
    yield from LIBRARIES
    for found in pkgutil.walk_packages(lumvak.ui.stages.__path__, "lumvak.ui.stages."):
        yield found.name


class Warming(QObject):
    """Loads a module each time that the window has nothing to do; ``left`` are those to come."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.left = [*names()]
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self.load)
        self._timer.start(BEGIN_MS)

    def load(self) -> None:
        """Load the next one."""
        if self.left:
            importlib.import_module(self.left.pop(0))
            self._timer.start(EACH_MS)
