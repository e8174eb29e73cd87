"""Windows that are killed while they are at work, and what is left of them."""

from __future__ import annotations

import os
import random
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from msgspec import Struct
from tests.conftest import BARROW
from tools.killed import digest

from lumvak.core.document.project import Project
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.kept.recovery import left_over
from lumvak.files.kept.window_settings import load_settings
from lumvak.files.project_file import load_project, project_text

HOMES = ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME")
LOST_S = 2.0
# So long a window may take until it is at work.
BEGIN_S = 60.0
# What is running now; it is ended with the campaign, however that ends.
CHILDREN: set[subprocess.Popen[str]] = set()


def homed(folder: str) -> dict[str, str]:
    """An environment whose folders of settings, parts and copies are one, without a screen."""
    source = str(Path(__file__).parents[1] / "src")
    return {
        **os.environ,
        **dict.fromkeys(HOMES, folder),
        "QT_QPA_PLATFORM": "offscreen",
        "PYTHONPATH": source,
    }


def end_children() -> None:
    """End whatever is still running."""
    for child in list(CHILDREN):
        child.kill()
        child.wait()
    CHILDREN.clear()


class Killed(Struct, frozen=True):
    """What is left of windows: when they ended, what each said, their file, copies and settings."""

    at: float
    said: list[list[list[str]]]
    file: Project
    copies: list[Project]
    unread: str


def killed_at_work(seed: int, how: str, longest_s: float, windows: int = 1) -> Killed:
    """Start windows that are at work in their own way, kill them, and look at what is left."""
    draw = random.Random(seed)
    with tempfile.TemporaryDirectory() as name:
        home = Path(name)
        file = home / "barrow.lumvak.json"
        file.write_text(BARROW.read_text("utf-8"), "utf-8")
        script = str(Path(__file__).with_name("killed.py"))
        children = [
            subprocess.Popen(
                [sys.executable, script, str(file), how],
                stdout=subprocess.PIPE,
                stderr=subprocess.DEVNULL,
                text=True,
                env=homed(name),
            )
            for _ in range(windows)
        ]
        CHILDREN.update(children)
        try:
            first = [_line(child) for child in children]
            time.sleep(draw.uniform(0.0, longest_s))
        finally:
            for child in children:
                child.kill()
        at = time.monotonic()
        said = []
        for child, begun in zip(children, first, strict=True):
            assert child.stdout is not None
            lines = [begun, *child.stdout.read().splitlines()]
            # The last line may be cut short.
            said.append([line.split() for line in lines if len(line.split()) >= 3])
            child.stdout.close()
            child.wait()
            CHILDREN.discard(child)
        catalogue, _ = load_catalogue()
        copies, problems = left_over(home / "lumvak" / "recovery", catalogue)
        if problems:
            raise ValueError(str(problems))
        _, unread = load_settings(home / "lumvak" / "settings.json")
        kept = [copy.project for copy in copies]
        return Killed(at, said, load_project(file, catalogue), kept, unread)


def _line(child: subprocess.Popen[str]) -> str:
    assert child.stdout is not None
    return child.stdout.readline()


def counted(project: Project) -> int:
    """How far the window had counted in the project's note."""
    return int(project.note) if project.note.isdigit() else 0


def killed(seed: int) -> None:
    """Kill a window that edits and saves; raises ValueError where a file or work is lost."""
    left = killed_at_work(seed, str(random.Random(seed + 1).uniform(0.02, 3.0)), 4.0)
    (said,) = left.said
    times = {int(count): float(when) for kind, count, when in said if kind == "edit"}
    kept = [counted(left.file), *map(counted, left.copies)]
    saves = [int(count) for kind, count, _ in said if kind == "save"]
    if kept[0] < max(saves, default=0):
        raise ValueError(f"file at {kept[0]}, saved {max(saves, default=0)}")
    lost = [when for count, when in times.items() if count > max(kept)]
    if lost and left.at - min(lost) > LOST_S:
        raise ValueError(f"{left.at - min(lost):.1f} s of edits lost")


def killed_entering(how: str, seed: int, windows: int = 1) -> None:
    """Kill windows at fast entry; raises ValueError where what was kept and said is lost."""
    left = killed_at_work(seed, how, 2.0, windows)
    if left.unread:
        raise ValueError(left.unread)
    kept = {digest(project_text(project)) for project in (left.file, *left.copies)}
    if len(left.copies) < windows:
        raise ValueError(f"{len(left.copies)} copies of {windows} windows")
    known = [[line[3] for line in said if len(line) > 3] for said in left.said]
    every = {word for said in known for word in said}
    # A copy that nobody said is a later one.
    later = len(kept - every)
    for said in known:
        if said and said[-1] not in kept:
            if not later:
                raise ValueError(f"entry {len(said)} was said and is lost")
            later -= 1
