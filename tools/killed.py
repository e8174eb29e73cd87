"""A window that is at work until it is killed.

python tools/killed.py FILE SECONDS_A_SAVE edits and saves; python tools/killed.py FILE WORK does
one of WORKS as fast as it goes, and says each step once it is kept.
"""

from __future__ import annotations

import hashlib
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QTimer

from lumvak.files.project_file import project_text
from lumvak.ui.application import make_application, make_window
from lumvak.ui.shell.window import Window

EDIT_MS = 40
# A sheet turns at most so often, for everything is made anew.
TURN_MS = 150


def _view(window: Window, stage: str, view: str) -> Any:
    window.open_stage(stage)
    window.stages[stage].show_view(view)
    return window.stages[stage].views[view]


def _cells(window: Window) -> Callable[[], int]:
    view = _view(window, "hand", "measure")

    def take() -> int:
        number = int(view.number)
        view.entry.setText("3.61")
        view.take()
        return number

    return take


def _cells_at_the_bench(window: Window) -> Callable[[], int]:
    view = _view(window, "hand", "measure")

    def take() -> int:
        view.begin_bench()
        number = int(view.bench.step.place.removeprefix("cell "))
        view.bench.entry.setText("3.61")
        view.bench._keep()
        view.bench.close()
        return number

    return take


def _leads(window: Window) -> Callable[[], int]:
    """Lead after lead, then all over again with another last digit."""
    view, taken = _view(window, "taps", "check"), [0]

    def take() -> int:
        taken[0] += 1
        level = window.session.evaluation.balance.check.level_v
        view.at = taken[0] % len(level)
        view._keep({view.at: round(float(level[view.at]) + taken[0] * 1e-4, 4)}, "a reading")
        return taken[0]

    return take


def _leads_at_the_bench(window: Window) -> Callable[[], int]:
    view, taken = _view(window, "taps", "check"), [0]

    def take() -> int:
        taken[0] += 1
        if view.bench is None or not view.bench.isVisible():
            view.begin_bench()
        level = window.session.evaluation.balance.check.level_v
        step = view.bench.at % len(level)
        view.bench.entry.setText(f"{float(level[step]) + taken[0] * 1e-4:.4f}")
        view.bench._keep()
        return taken[0]

    return take


def _charge(window: Window) -> Callable[[], int]:
    view, taken = _view(window, "charging", "log"), [0]

    def take() -> int:
        taken[0] += 1
        view.entry.setText(f"{50.0 + taken[0] * 1e-3:.3f} 2.0 25")
        view.take()
        return len(window.session.project.charging.log.rows)

    return take


def _charge_at_the_bench(window: Window) -> Callable[[], int]:
    view = _view(window, "charging", "log")

    def take() -> int:
        if view.bench is None or not view.bench.isVisible():
            view.begin_bench()
        count = len(window.session.project.charging.log.rows) + 1
        view.bench.entry.setText(f"{50.0 + count * 1e-3:.3f} 2.0 25")
        view.bench._keep()
        return len(window.session.project.charging.log.rows)

    return take


def _preferences(window: Window) -> Callable[[], int]:
    """The text size and the sheet, one after the other; a note is counted in between."""
    turned = [0]

    def turn() -> int:
        turned[0] += 1
        window.session.edit({"note": str(turned[0])})
        window.session.keep_now()
        if turned[0] % 2:
            window.swap_sheet()
        else:
            window.set_text(100 + 25 * (turned[0] % 3))
        return turned[0]

    return turn


WORKS: dict[str, tuple[int, Callable[[Window], Callable[[], int]]]] = {
    "cells": (0, _cells), "cells-bench": (0, _cells_at_the_bench), "leads": (0, _leads),
    "leads-bench": (0, _leads_at_the_bench), "charge": (0, _charge),
    "charge-bench": (0, _charge_at_the_bench), "preferences": (TURN_MS, _preferences),
}  # fmt: skip


def digest(text: str) -> str:
    """A project in a word."""
    return hashlib.sha256(text.encode("utf-8")).hexdigest()[:24]


def work(name: str) -> None:
    """Do one of WORKS until the end."""
    app = make_application()
    window = make_window(app, Path(sys.argv[1]))
    # Where it is not seen, the end of a bench would be the end of all.
    window.show()
    every, begin = WORKS[name]
    step = begin(window)

    def one() -> None:
        count = step()
        # What is kept is held against this: it is the last of them, or a later one.
        kept = digest(project_text(window.session.project))
        print("edit", count, time.monotonic(), kept, flush=True)

    timer = QTimer()
    timer.timeout.connect(one)
    timer.start(every)
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
    work(sys.argv[2]) if sys.argv[2] in WORKS else main()
