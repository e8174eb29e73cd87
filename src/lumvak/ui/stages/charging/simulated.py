"""What is simulated for a view, off the window's thread, and again only where it would differ."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from lumvak.core.evaluation import Evaluation
from lumvak.ui.work import Report, Work

# So long nothing else is asked for before a simulation begins.
QUIET_MS = 80


def hangs_on(evaluation: Evaluation) -> tuple[object, ...]:
    """What the simulations of charging hang on, as objects that stay the same where it does."""
    pack = evaluation.run.pack
    return (
        evaluation.charging,
        evaluation.project.run,
        pack.kelvin_per_watt,
        pack.joule_per_kelvin,
        evaluation.sized.demand.coldest.number,
    )


class Simulated(QObject):
    """One simulation of an evaluation; ``ready`` tells its result with the evaluation it is of.

    ``also`` is what else of an evaluation it hangs on.
    """

    ready = pyqtSignal(object, object)
    failed = pyqtSignal(str)

    def __init__(
        self,
        simulate: Callable[[Evaluation, Report], Any],
        also: Callable[[Evaluation], object] = lambda _: None,
    ) -> None:
        super().__init__()
        self._simulate, self._also = simulate, also
        self._work = Work()
        self._work.done.connect(self.ready.emit)
        self._work.failed.connect(self.failed.emit)
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.setInterval(QUIET_MS)
        self._quiet.timeout.connect(self._begin)
        self._of: tuple[object, ...] = ()
        self._seen: Evaluation | None = None

    @property
    def busy(self) -> bool:
        """Whether a simulation is under way, or about to begin."""
        return self._work.busy or self._quiet.isActive()

    def try_out(self, task: Callable[[Report], Any], evaluation: Evaluation) -> None:
        """Simulate something else of an evaluation, as while a handle is dragged.

        Where the last one is not done yet, nothing is begun.
        """
        if not self.busy:
            self._of = ()
            self._work.start(task, evaluation)

    def ask(self, evaluation: Evaluation) -> None:
        """Simulate an evaluation once it is quiet, unless the last one was alike."""
        wanted = (*hangs_on(evaluation), self._also(evaluation))
        if len(wanted) == len(self._of) and all(
            one is two or one == two for one, two in zip(wanted, self._of, strict=True)
        ):
            return
        self._of, self._seen = wanted, evaluation
        self._work.cancel()
        self._quiet.start()

    def cancel(self) -> None:
        """Call off what is under way."""
        self._of = ()
        self._quiet.stop()
        self._work.cancel()

    def end(self) -> None:
        """Call everything off and let the thread go."""
        self.cancel()
        self._work.end()

    def _begin(self) -> None:
        seen = self._seen
        if seen is not None:
            self._work.start(lambda report: self._simulate(seen, report), seen)
