"""What stops the window for longer than a hand notices, on the largest packs that anyone builds.

python tools/heartbeat.py prints every act that took longer than HELD_S without the window
answering; ``beats`` is what the campaign of faults asks for.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.conftest import BARROW
from tools.bench import loop_ms

from lumvak.core.document.charging import LogRow
from lumvak.core.document.edit import with_values
from lumvak.core.document.hand import HandCell
from lumvak.core.document.project import Project
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.project_file import load_project, save_project

if TYPE_CHECKING:
    from lumvak.ui.shell.window import Window

# An act of the hand holds the window no longer, the first view of a stage no longer than FIRST_S.
HELD_S, FIRST_S = 0.2, 0.5
CELLS, ROWS = 20_000, 20_000
# The fixed loop of tools/bench.py where these limits were set: a slower machine is given more.
LOOP_MS = 30.0
Act = tuple[str, float, Callable[[], object]]


def packs() -> dict[str, Project]:
    """The barrow grown to what anyone builds at most, and full lists of cells and readings."""
    catalogue, _ = load_catalogue()
    barrow = load_project(BARROW, catalogue)
    cells = tuple(
        HandCell(
            number=n,
            volts=3.6 + 0.0001 * (n % 97),
            ah=4.0 + 0.001 * (n % 131),
            mohm=18.0 + 0.01 * (n % 41),
        )
        for n in range(1, CELLS - 9)
    )
    rows = tuple(
        LogRow(seconds=float(n), volts=40.0 + 14.0 * n / ROWS, amps=2.0, warm_c=25.0)
        for n in range(ROWS - 9)
    )
    return {
        "100S4P": with_values(barrow, {"pack.series": 100, "pack.parallel": 4}),
        "60S60P": with_values(barrow, {"pack.series": 60, "pack.parallel": 60}),
        "20,000 cells": with_values(barrow, {"hand.cells": cells}),
        "20,000 readings": with_values(barrow, {"charging.log.rows": rows}),
    }


def acts(window: Window, name: str) -> Iterator[Act]:
    """What a hand does with such a pack: its name, how long it may take, and how it is done."""
    session = window.session

    def at(stage: str, view: str) -> Any:
        window.open_stage(stage)
        window.stages[stage].show_view(view)
        return window.stages[stage].views[view]

    def read(view: Any, what: str, *texts: str) -> Iterator[Act]:
        for text in texts:
            yield (
                f"a reading of {what}",
                HELD_S,
                lambda text=text: (view.entry.setText(text), view.take()),
            )

    if name in {"100S4P", "60S60P"}:
        yield "balance leads, check", FIRST_S, lambda: at("taps", "check")
        check = at("taps", "check")
        yield from read(check, "a lead", "0", "3.7", "7.4")
        yield "next lead", HELD_S, lambda: check.step(1)
        for view in ("guide", "voltages", "harness"):
            yield f"balance leads, {view}", FIRST_S, lambda view=view: at("taps", view)
        yield "joints", FIRST_S, lambda: window.open_stage("joints")
        yield "joints, making", FIRST_S, lambda: at("joints", "making")
        making = at("joints", "making")
        for page in ("order", "check", "cut"):
            yield f"making, {page}", HELD_S, lambda page=page: making.show_page(page)
    if name == "20,000 cells":
        yield "cells in hand, measure", FIRST_S, lambda: at("hand", "measure")
        view = at("hand", "measure")
        yield from read(view, "a cell", "3.61", "3.62")
        yield "next cell", HELD_S, lambda: view.turn_to(view.number + 1)
        yield "look for a word", HELD_S, lambda: view.look.setText("rejected")
        yield "look no more", HELD_S, lambda: view.look.setText("")
        yield "cells in hand, judge", FIRST_S, lambda: at("hand", "judge")
        yield "cells in hand, groups", FIRST_S, lambda: at("hand", "groups")
    if name == "20,000 readings":
        yield "charging, log", FIRST_S, lambda: at("charging", "log")
        view = at("charging", "log")
        yield from read(view, "the charge", "54.1 2.0 25", "54.2")
        yield "forget the last", HELD_S, view.forget
    yield "a note", HELD_S, lambda: session.edit({"note": "x"})
    yield "undo", HELD_S, session.undo_stack.undo
    path = session.path
    assert path is not None
    yield "save", HELD_S, lambda: session.save(path)
    # Its pages are made anew.
    yield "open", FIRST_S, lambda: window.files.open(path)


def _held(act: Callable[[], object]) -> float:
    """How long an act holds the window, in s; not what else runs on the machine or beside it."""
    begin, used = time.perf_counter(), time.process_time()
    act()
    return min(time.perf_counter() - begin, time.process_time() - used)


def beats(name: str, project: Project) -> Iterator[tuple[str, float, float]]:
    """Acts of a hand on one pack, how long each may hold the window, and how long it did, in s.

    A machine whose fixed loop takes longer than LOOP_MS is given as much longer.
    """
    from lumvak.ui.application import make_application, make_window, settle_down

    app = make_application()
    catalogue, _ = load_catalogue()
    with tempfile.TemporaryDirectory() as folder:
        for home in ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME"):
            os.environ[home] = folder
        file = Path(folder) / "large.lumvak.json"
        save_project(project, file, catalogue)
        window = make_window(app, file)
        window.resize(1280, 800)
        window.show()
        app.processEvents()
        settle_down()
        for what, most_s, act in acts(window, name):
            pace = loop_ms() / LOOP_MS
            took_s = _held(act)
            while window.files.reading.busy:
                took_s = max(took_s, _held(app.processEvents))
            took_s = max(took_s, _held(app.processEvents))
            yield what, most_s, took_s / max(pace, loop_ms() / LOOP_MS)
        window.session.refused.clear()
        window.session.undo_stack.setClean()
        window.close()
        window.deleteLater()


def main() -> None:
    """Print every act."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    wanted = sys.argv[1:]
    for name, project in packs().items():
        if wanted and name not in wanted:
            continue
        for what, most_s, took_s in beats(name, project):
            print(f"{name:<18}{what:<28}{took_s:7.3f} s{'  over' * (took_s > most_s)}", flush=True)


if __name__ == "__main__":
    main()
