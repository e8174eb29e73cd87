"""What is simulated for a view, off the window's thread, and again only where it would differ."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from lumvak.core.evaluation import Evaluation
from lumvak.ui.work import Work


def hangs_on(seen: Evaluation) -> tuple[object, ...]:
    """What the simulations of charging hang on, as objects that stay the same where it does."""
    return (
        seen.charging, seen.project.charging, seen.project.run, seen.run.pack,
        seen.demand.coldest, seen.pack.current,
    )  # fmt: skip


class Simulated(QObject):
    """One simulation of an evaluation; ``ready`` tells its result with the evaluation it is of."""

    ready = pyqtSignal(object, object)
    failed = pyqtSignal(str)

    def __init__(self, simulate: Callable[[Evaluation], Any]) -> None:
        super().__init__()
        self._simulate = simulate
        self.work = Work()
        self.work.done.connect(self.ready.emit)
        self.work.failed.connect(self.failed.emit)
        self._of: tuple[object, ...] = ()

    def try_out(self, task: Callable[[], Any], seen: Evaluation) -> None:
        """Simulate something else of an evaluation, as while a handle is dragged.

        Where the last one is not done yet, nothing is begun.
        """
        if not self.work.busy:
            self._of = ()
            self.work.start(lambda _: task(), seen)

    def ask(self, seen: Evaluation) -> bool:
        """Simulate an evaluation, unless the last one was alike; whether it is under way."""
        wanted = hangs_on(seen)
        if len(wanted) == len(self._of) and all(
            one is two or one == two for one, two in zip(wanted, self._of, strict=True)
        ):
            return self.work.busy
        self._of = wanted
        self.work.start(lambda _: self._simulate(seen), seen)
        return True
