"""Slow work off the window's thread: progress, a way to call it off, and no stale results."""

from __future__ import annotations

import traceback
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from threading import Event

from msgspec import Struct
from PyQt6.QtCore import QObject, pyqtSignal

Report = Callable[[float], bool]
Task = Callable[[Report], object]


class _TaskRaised(Struct, frozen=True):
    """What a task raised; a problem that it returns is a result like any other."""

    error: Exception


class Work(QObject):
    """One task at a time; starting another calls the running one off.

    ``done`` carries the result and the tag given to ``start``; of a task that was called off
    nothing is heard any more.
    """

    progressed = pyqtSignal(int, float)
    done = pyqtSignal(object, object)
    failed = pyqtSignal(str)
    _finished = pyqtSignal(int, object, object)

    def __init__(self) -> None:
        super().__init__()
        self._pool = ThreadPoolExecutor(1, thread_name_prefix="work")
        self._number = 0
        self._stop = Event()
        self.busy = False
        self._finished.connect(self._take)

    def start(self, task: Task, tag: object) -> None:
        """Run ``task`` with a function to report to; ``tag`` comes back with its result."""
        self.cancel()
        self._stop = Event()
        self._number += 1
        self.busy = True
        self._pool.submit(self._run, task, tag, self._number, self._stop)

    def cancel(self) -> None:
        """Call the running task off."""
        self._stop.set()
        self._number += 1
        self.busy = False

    def end(self) -> None:
        """Call everything off and let the thread go."""
        self.cancel()
        self._pool.shutdown(wait=True, cancel_futures=True)

    def _run(self, task: Task, tag: object, number: int, stop: Event) -> None:
        """Runs on the work's own thread; signals cross back to the window's."""

        def report(share: float) -> bool:
            self.progressed.emit(number, share)
            return not stop.is_set()

        try:
            result: object = task(report)
        except Exception as error:
            # Whatever went wrong is told in the window; one called off is not listened to.
            if not stop.is_set():
                traceback.print_exc()
            result = _TaskRaised(error)
        self._finished.emit(number, result, tag)

    def _take(self, number: int, result: object, tag: object) -> None:
        if number != self._number:
            return
        self.busy = False
        if isinstance(result, _TaskRaised):
            self.failed.emit(f"{type(result.error).__name__}: {result.error}")
        else:
            self.done.emit(result, tag)

    def listens(self, number: int) -> bool:
        """Whether progress of task ``number`` is still of interest."""
        return number == self._number
