"""What was tried against files and documents, and what failed: python tools/faults.py [share]."""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
import tempfile
import time
import warnings
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from types import FrameType
from typing import TYPE_CHECKING, Any

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.conftest import BARROW, DEMOS
from tests.edits import random_edit
from tests.extremes import not_finite, random_charging, random_document, simulated
from tests.mutations import spoiled
from tests.storms import window_storm
from tests.test_faults import READERS

from lumvak.core.document.edit import ProjectError
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.units import QuantityError
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.own_parts import load_own, merged, parts_text
from lumvak.files.problem import FileProblem
from lumvak.files.project_file import load_project, project_text
from lumvak.files.recovery import RecoveryCopy, left_over

if TYPE_CHECKING:
    from PyQt6.QtWidgets import QApplication

HOMES = ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME")
# How many of each are tried, at a share of 1.
TRIED = {
    "project": 20_000, "parts": 5_000, "cells": 5_000, "log": 5_000, "curve": 5_000,
    ".svg": 2_000, ".dxf": 2_000,
}  # fmt: skip
DOCUMENTS, CHARGES = 5_000, 1_000
KILLS, READ_KILLS, LOST_S = 1000, 300, 2.0
STORMS, STORM = 50, 200
# Nothing takes longer.
LONGEST_S = 20.0


class TookTooLong(Exception):
    """Something went on for longer than LONGEST_S."""


def _too_long(_: int, __: FrameType | None) -> None:
    raise TookTooLong


def tried(name: str, count: int, one: Callable[[int], None], longest_s: float = LONGEST_S) -> int:
    """Try ``one`` with so many seeds and print the row; how many failed."""
    failed: dict[str, int] = {}
    begin = time.perf_counter()
    for seed in range(count):
        signal.setitimer(signal.ITIMER_REAL, longest_s)
        try:
            one(seed)
        except Exception as error:
            failed.setdefault(f"{type(error).__name__}: {str(error)[:80]}", seed)
        finally:
            signal.setitimer(signal.ITIMER_REAL, 0.0)
    seconds = time.perf_counter() - begin
    print(f"{name:<44} tried {count:7d}   failed {len(failed):4d}   {seconds:6.0f} s", flush=True)
    for text, seed in failed.items():
        print(f"    seed {seed}: {text}", flush=True)
    return len(failed)


@dataclass(frozen=True)
class Killed:
    """What is left of a window: when it ended, what it said, its file and its copies."""

    at: float
    said: list[list[str]]
    file: Project
    copies: list[Project]


def counted(project: Project) -> int:
    """How far the window had counted in the project's note."""
    return int(project.note) if project.note.isdigit() else 0


def _killed(seed: int, how: str, longest_s: float) -> Killed:
    """Start a window that is at work in its own way, kill it, and look at what is left."""
    draw = random.Random(seed)
    with tempfile.TemporaryDirectory() as name:
        home = Path(name)
        file = home / "barrow.lumvak.json"
        file.write_text(BARROW.read_text("utf-8"), "utf-8")
        homes = dict.fromkeys(HOMES, name)
        child = subprocess.Popen(
            [sys.executable, str(Path(__file__).with_name("killed.py")), str(file), how],
            stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True,
            env={**os.environ, **homes, "QT_QPA_PLATFORM": "offscreen"},
        )  # fmt: skip
        assert child.stdout is not None
        child.stdout.readline()
        time.sleep(draw.uniform(0.0, longest_s))
        child.kill()
        at = time.monotonic()
        said = [line.split() for line in child.stdout.read().splitlines()]
        child.stdout.close()
        child.wait()
        catalogue, _ = load_catalogue()
        copies, problems = left_over(home / "lumvak" / "recovery", catalogue)
        if problems:
            raise ValueError(str(problems))
        kept = [copy.project for copy in copies]
        return Killed(at, said, load_project(file, catalogue), kept)


def killed(seed: int) -> None:
    """Kill a window that edits and saves; raises ValueError where a file or work is lost."""
    left = _killed(seed, str(random.Random(seed + 1).uniform(0.02, 3.0)), 4.0)
    times = {int(count): float(when) for kind, count, when in left.said if kind == "edit"}
    kept = [counted(left.file), *map(counted, left.copies)]
    saves = [int(count) for kind, count, _ in left.said if kind == "save"]
    if kept[0] < max(saves, default=0):
        raise ValueError(f"file at {kept[0]}, saved {max(saves, default=0)}")
    lost = [when for count, when in times.items() if count > max(kept)]
    if lost and left.at - min(lost) > LOST_S:
        raise ValueError(f"{left.at - min(lost):.1f} s of edits lost")


def killed_reading(seed: int) -> None:
    """Kill a window that takes readings; raises ValueError where one that was kept is lost."""
    left = _killed(seed, "readings", 2.0)
    taken = {int(count) for kind, count, _ in left.said if kind == "edit"}
    kept = {cell.number for project in (left.file, *left.copies) for cell in project.hand.cells}
    if lost := sorted(taken - kept):
        raise ValueError(f"{len(lost)} readings lost, the first of cell {lost[0]}")


@cache
def application() -> QApplication:
    """The one application; Qt does not outlive it."""
    from lumvak.ui.application import make_application

    return make_application()


def storm(actions: int, bases: list[Project], seed: int) -> None:
    """Random edits, undos and redos in a session; raises ValueError where a state is not the same.

    The whole document and the builder's own parts are compared to the byte.
    """
    from lumvak.ui.session import Session

    app = application()
    catalogue, _ = load_catalogue()
    draw = random.Random(seed)
    with tempfile.TemporaryDirectory() as name:
        os.environ["XDG_DATA_HOME"] = name
        session = Session(catalogue, RecoveryCopy(Path(name) / "recovery"), draw.choice(bases))

        def state() -> tuple[str, str]:
            return project_text(session.project), parts_text(load_own())

        states, place = [state()], 0
        for _ in range(actions):
            kind = draw.random()
            if kind < 0.25 and place > 0:
                session.undo_stack.undo()
                place -= 1
            elif kind < 0.4 and place + 1 < len(states):
                session.undo_stack.redo()
                place += 1
            else:
                try:
                    if kind < 0.55:
                        cell = draw.choice(session.catalogue.cell_list)
                        own = cell.model_copy(
                            update={"id": f"own-{draw.randrange(5)}", "sample": False,
                                    "price": round(draw.uniform(1.0, 9.0), 2)}
                        )  # fmt: skip
                        session.edit_own(merged(session.own, (own,)), "own")
                    else:
                        path, fresh = random_edit(session.project, session.catalogue, draw)
                        value: Any = fresh
                        for step in path.split("."):
                            value = getattr(value, step)
                        session.edit({path: value})
                except ProjectError:
                    continue
                if session.undo_stack.index() == place:
                    continue
                place += 1
                states[place:] = [state()]
            if state() != states[place]:
                raise ValueError(f"state {place} is not what it was")
        while place:
            session.undo_stack.undo()
            place -= 1
            if state() != states[place]:
                raise ValueError(f"state {place} is not what it was, on the way back")
        session.undo_stack.setClean()
        session.end()
        app.processEvents()


def storm_in_the_window(actions: int, seed: int) -> None:
    """Random actions of hands in a window over one of the demos; raises NotTheSame."""
    from PyQt6.QtCore import QCoreApplication, QEvent

    from lumvak.ui.application import make_window

    app, demos = application(), sorted(DEMOS.iterdir())
    with tempfile.TemporaryDirectory() as name:
        os.environ.update(dict.fromkeys(HOMES, name))
        file = Path(name) / "demo.lumvak.json"
        file.write_text(demos[seed % len(demos)].read_text("utf-8"), "utf-8")
        window = make_window(app, file)
        window.show()
        app.processEvents()
        try:
            window_storm(window, actions, seed)
        finally:
            window.session.undo_stack.setClean()
            window.close()
            window.deleteLater()
            QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)


def main() -> int:
    signal.signal(signal.SIGALRM, _too_long)
    warnings.simplefilter("error")
    share = float(sys.argv[1]) if len(sys.argv) > 1 else 1.0
    catalogue, _ = load_catalogue()
    bases = [*(load_project(path, catalogue) for path in sorted(DEMOS.iterdir())), Project()]

    def document(seed: int) -> None:
        seen = evaluate(random_document(seed, bases, catalogue), catalogue)
        if endless := not_finite(seen):
            raise ValueError(f"not finite: {', '.join(endless)}")

    failed = tried("documents near every limit", round(share * DOCUMENTS), document)

    def charge(seed: int) -> None:
        base = random_document(seed, bases, catalogue) if seed % 2 else bases[seed % len(bases)]
        seen = evaluate(random_charging(base, seed), catalogue)
        if endless := (*not_finite(seen), *simulated(seen)):
            raise ValueError(f"not finite: {', '.join(endless)}")

    failed += tried("charges near every limit", round(share * CHARGES), charge)
    with tempfile.TemporaryDirectory() as folder:
        for kind, count in TRIED.items():
            text, read = READERS[kind](catalogue, Path(folder))

            def spoil(seed: int, text: str = text, read: Callable[[str], object] = read) -> None:
                try:
                    taken = read(spoiled(text, random.Random(seed)))
                except (FileProblem, QuantityError) as problem:
                    if len(str(problem)) > 900:
                        raise ValueError("a refusal that quotes too much") from problem
                    return
                if isinstance(taken, Project):
                    evaluate(taken, catalogue)

            failed += tried(f"spoiled input, {kind}", round(share * count), spoil)
    failed += tried(
        f"storms of {STORM} actions with undo", round(share * STORMS),
        lambda seed: storm(STORM, bases, seed), STORM * LONGEST_S,
    )  # fmt: skip
    failed += tried(
        f"storms of {STORM} actions in the window", round(share * STORMS),
        lambda seed: storm_in_the_window(STORM, seed), STORM * LONGEST_S,
    )  # fmt: skip
    failed += tried("kills while editing and saving", round(share * KILLS), killed)
    failed += tried("kills while taking readings", round(share * READ_KILLS), killed_reading)
    print("nothing failed" if not failed else f"{failed} kinds of failure")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
