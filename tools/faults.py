"""What was tried against files, documents, windows and surroundings, and what failed.

python tools/faults.py [share [words]]: only rows that hold one of the words, where some are given.
"""

from __future__ import annotations

import atexit
import json
import os
import random
import shutil
import signal
import sys
import tempfile
import time
import warnings
from collections.abc import Callable
from functools import cache
from pathlib import Path
from types import FrameType
from typing import TYPE_CHECKING, Any
from unittest.mock import patch

from msgspec.structs import replace

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.by_schema import mutated, small, whole
from tests.conftest import BARROW, DEMOS
from tests.edits import random_edit
from tests.extremes import not_finite, random_charging, random_document, simulated
from tests.mutations import spoiled
from tests.second_project import EVERY, second_project
from tests.storms import window_storm
from tests.test_faults import READERS
from tools.faults_killed import HOMES, end_children, killed, killed_entering
from tools.faults_outside import batch, streams, surroundings
from tools.heartbeat import beats, packs

import lumvak.data
from lumvak.cli.at_bench.charge import ChargeError, charger_of
from lumvak.cli.at_bench.taps import TapsError
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import ProjectError
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.units import VOLTAGE, QuantityError, parse
from lumvak.files.catalogue_file import load_catalogue, read_parts
from lumvak.files.kept.recovery import RecoveryCopy, sweep
from lumvak.files.own_parts import load_own, merged, parts_text
from lumvak.files.problem import FileProblem
from lumvak.files.project_file import load_project, parse_project, project_text

if TYPE_CHECKING:
    from PyQt6.QtWidgets import QApplication

PART_FILES = Path(next(iter(lumvak.data.__path__))) / "parts"
# How many of each are tried, at a share of 1.
TRIED = {
    "project": 20_000, "parts": 5_000, "cells": 5_000, "log": 5_000, "curve": 5_000,
    "readings": 5_000, "tester": 5_000, "charge": 5_000, "volts": 5_000, ".svg": 2_000,
    ".dxf": 2_000,
}  # fmt: skip
DOCUMENTS, CHARGES, SCHEMAS, PARTS = 5_000, 1_000, 20_000, 5_000
BATCHES, READ_TAPS, CHARGERS = 5_000, 5_000, 5_000
KILLS, ENTRY_KILLS, WINDOW_KILLS = 500, 100, 50
ENTRIES = ("cells", "cells-bench", "leads", "leads-bench", "charge", "charge-bench", "preferences")
STORMS, STORM = 50, 200
SECOND, SECOND_ACTIONS = 330, 12
PLACED, STREAMS, CLOCKS = 50, 20, 200
# So often an act of a large pack is tried until it counts as slow.
BEATS = 6
# Nothing takes longer, in time of the processor; what only waits is ended by its own limits.
LONGEST_S = 20.0
WANTED: list[str] = []


class TookTooLong(Exception):
    """Something went on for longer than LONGEST_S."""


def _too_long(_: int, __: FrameType | None) -> None:
    raise TookTooLong


def tried(name: str, count: int, one: Callable[[int], None], longest_s: float = LONGEST_S) -> int:
    """Try ``one`` with so many seeds and print the row; how many failed."""
    if WANTED and not any(word in name for word in WANTED):
        return 0
    failed: dict[str, int] = {}
    begin = time.perf_counter()
    for seed in range(count):
        signal.setitimer(signal.ITIMER_PROF, longest_s)
        try:
            one(seed)
        except Exception as error:
            failed.setdefault(f"{type(error).__name__}: {str(error)[:80]}", seed)
        finally:
            signal.setitimer(signal.ITIMER_PROF, 0.0)
    seconds = time.perf_counter() - begin
    print(f"{name:<44} tried {count:7d}   failed {len(failed):4d}   {seconds:6.0f} s", flush=True)
    for text, seed in failed.items():
        print(f"    seed {seed}: {text}", flush=True)
    return len(failed)


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
                        own = replace(
                            cell,
                            id=f"own-{draw.randrange(5)}",
                            sample=False,
                            price=round(draw.uniform(1.0, 9.0), 2),
                        )
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
        session.refused.clear()
        session.undo_stack.setClean()
        session.end()
        app.processEvents()


def storm_in_the_window(actions: int, seed: int) -> None:
    """Random actions of hands in a window over one of the demos; raises NotTheSame."""
    from tests.demo_windows import demo_window

    with demo_window(application(), seed) as window:
        window_storm(window, actions, seed)


def hurried_clock(seed: int) -> None:
    """Edits, copies and saves while the clock jumps and folders vanish; raises where it is lost."""
    from lumvak.ui.session import Session

    application()
    draw, now = random.Random(seed), [time.time()]
    catalogue, _ = load_catalogue()
    with tempfile.TemporaryDirectory() as name, patch("time.time", lambda: now[0]):
        folder, recovery = Path(name) / "work", Path(name) / "recovery"
        file = folder / "barrow.lumvak.json"
        session = Session(catalogue, RecoveryCopy(recovery), load_project(BARROW, catalogue))
        for count in range(1, 12):
            now[0] += draw.choice((1.0, 3600.0, 1e8, -1e8, -3600.0))
            session.edit({"note": str(count)})
            kind = draw.randrange(4)
            if kind == 0:
                session.save(file)
            elif kind == 1:
                shutil.rmtree(folder, ignore_errors=True)
            elif kind == 2:
                shutil.rmtree(recovery, ignore_errors=True)
            session.edit({"note": f"{count} again"})
            session.keep_now()
            sweep(recovery, now[0])
            # Nobody else may take what a window holds; it is read as the next start would.
            kept = json.loads(session.recovery.path.read_text("utf-8"))["project"]["note"]
            if kept != f"{count} again":
                raise ValueError(f"the copy holds {kept}, the window {count} again")
        session.refused.clear()
        session.undo_stack.setClean()
        session.end()


def heartbeat(name: str, project: Project) -> Callable[[int], None]:
    """Acts of a hand on a large pack; raises ValueError where one holds the window too long."""

    def one(_: int) -> None:
        least: dict[str, tuple[float, float]] = {}
        for _ in range(BEATS):
            for place, (what, most_s, took_s) in enumerate(beats(name, project)):
                key = f"{place} {what}"
                least[key] = most_s, min(took_s, least.get(key, (0.0, took_s))[1])
            slow = {what: took for what, (most, took) in least.items() if took > most}
            if not slow:
                return
        raise ValueError(", ".join(f"{what} {took:.2f} s" for what, took in slow.items()))

    return one


def spoiler(
    text: str, read: Callable[[str], object], catalogue: Catalogue
) -> Callable[[int], None]:
    """Spoiled text for a reader: taken and worked out, or refused in a few words."""

    def spoil(seed: int) -> None:
        try:
            taken = read(spoiled(text, random.Random(seed)))
        except (FileProblem, QuantityError, ChargeError, TapsError) as problem:
            if len(str(problem)) > 900:
                raise ValueError("a refusal that quotes too much") from problem
            return
        if isinstance(taken, Project):
            evaluate(taken, catalogue)

    return spoil


def files_row(share: float, catalogue: Catalogue, folder: Path) -> int:
    """Spoiled files of every kind, and what is typed or pasted."""
    failed = 0
    for kind, count in TRIED.items():
        text, read = READERS[kind](catalogue, folder)
        failed += tried(
            f"spoiled input, {kind}", round(share * count), spoiler(text, read, catalogue)
        )
    kinds = sorted(PART_FILES.glob("*.json"))
    for path in kinds:
        failed += tried(
            f"spoiled parts of a kind, {path.stem}",
            round(share * PARTS / len(kinds)),
            spoiler(
                shorter(path.read_text("utf-8")), lambda text: read_parts(text, "file"), catalogue
            ),
        )
    failed += tried(
        "spoiled chargers",
        round(share * CHARGERS),
        spoiler("54.6V:2A:cccv:open=60V:end=0.2A:equalise=no", charger_of, catalogue),
    )
    return failed + tried(
        "spoiled readings of leads",
        round(share * READ_TAPS),
        spoiler("0,3.71,7.40,open,14.83", read_taps, catalogue),
    )


def shorter(text: str) -> str:
    """A file of parts with the first few of each list."""
    document = json.loads(text)
    return json.dumps(
        {name: value[:6] if isinstance(value, list) else value for name, value in document.items()}
    )


def read_taps(text: str) -> object:
    """Running totals as the command takes them."""
    return [None if item == "open" else parse(item, VOLTAGE) for item in text.split(",")]


def documents_row(share: float, catalogue: Catalogue) -> int:
    """Documents near every limit, and with every section in them mutated by the schema."""
    bases = [*(load_project(path, catalogue) for path in sorted(DEMOS.iterdir())), Project()]

    def document(seed: int) -> None:
        evaluation = evaluate(random_document(seed, bases, catalogue), catalogue)
        if endless := not_finite(evaluation):
            raise ValueError(f"not finite: {', '.join(endless)}")

    def charge(seed: int) -> None:
        base = random_document(seed, bases, catalogue) if seed % 2 else bases[seed % len(bases)]
        evaluation = evaluate(random_charging(base, seed), catalogue)
        if endless := (*not_finite(evaluation), *simulated(evaluation)):
            raise ValueError(f"not finite: {', '.join(endless)}")

    filled = [whole(base, catalogue, place) for place, base in enumerate(bases)]

    def by_schema(seed: int) -> None:
        try:
            project = parse_project(mutated(filled[seed % len(filled)], seed), "file", catalogue)
        except FileProblem as problem:
            if len(str(problem)) > 900:
                raise ValueError("a refusal that quotes too much") from problem
            return
        if small(project) and (endless := not_finite(evaluate(project, catalogue))):
            raise ValueError(f"not finite: {', '.join(endless)}")
        if parse_project(project_text(project), "file", catalogue) != project:
            raise ValueError("it is another one once it was saved")

    return (
        tried("documents near every limit", round(share * DOCUMENTS), document)
        # Courses that nobody means are followed step by step, off the window's thread.
        + tried("charges near every limit", round(share * CHARGES), charge, 3.0 * LONGEST_S)
        + tried("every section, mutated by schema", round(share * SCHEMAS), by_schema)
        + tried(
            f"storms of {STORM} actions with undo",
            round(share * STORMS),
            lambda seed: storm(STORM, bases, seed),
            STORM * LONGEST_S,
        )
    )


def second(seed: int) -> None:
    """Another project in the same window, at one of all views."""
    application()
    files = sorted(DEMOS.iterdir())
    stage, view = EVERY[seed % len(EVERY)]
    with tempfile.TemporaryDirectory() as name:
        os.environ.update(dict.fromkeys(HOMES, name))
        first = Path(name) / "first.lumvak.json"
        first.write_text(files[seed % len(files)].read_text("utf-8"), "utf-8")
        other = files[(seed + 1 + seed // len(files) % (len(files) - 1)) % len(files)]
        second_project(first, other, stage, view, SECOND_ACTIONS, seed)


def windows_row(share: float) -> int:
    """Windows under fast hands, killed, and over large packs."""
    failed = tried(
        f"storms of {STORM} actions in the window",
        round(share * STORMS),
        lambda seed: storm_in_the_window(STORM, seed),
        STORM * LONGEST_S,
    )
    failed += tried("a second project in the same window", round(share * SECOND), second, 60.0)
    failed += tried("a clock that jumps, folders that vanish", round(share * CLOCKS), hurried_clock)
    failed += tried("kills while editing and saving", round(share * KILLS), killed)
    for how in ENTRIES:
        failed += tried(
            f"kills at fast entry, {how}",
            round(share * ENTRY_KILLS),
            lambda seed, how=how: killed_entering(how, seed),
        )  # type: ignore[misc]
    failed += tried(
        "kills of two windows at once",
        round(share * WINDOW_KILLS),
        lambda seed: killed_entering("cells", seed, 2),
    )
    for name, project in packs().items():
        failed += tried(f"heartbeat, {name}", 1, heartbeat(name, project), 600.0)
    return failed


def main() -> int:
    signal.signal(signal.SIGPROF, _too_long)
    # However this ends, it ends what it has begun.
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(1))
    atexit.register(end_children)
    warnings.simplefilter("error")
    share = float(sys.argv[1]) if len(sys.argv) > 1 else 1.0
    WANTED.extend(sys.argv[2:])
    catalogue, _ = load_catalogue()
    failed = documents_row(share, catalogue)
    with tempfile.TemporaryDirectory() as folder:
        failed += files_row(share, catalogue, Path(folder))
    failed += tried("batches with lines that are none", round(share * BATCHES), batch)
    failed += windows_row(share)
    failed += tried("surroundings", max(1, round(share * PLACED)), surroundings)
    failed += tried("closed streams, a full disk", max(1, round(share * STREAMS)), streams)
    print("nothing failed" if not failed else f"{failed} kinds of failure")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
