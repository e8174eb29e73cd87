"""Recovery copies: unsaved work that outlives a crash."""

from __future__ import annotations

import contextlib
import fcntl
import itertools
import json
import math
import os
from pathlib import Path
from typing import IO

import platformdirs
from msgspec import Struct

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.checked import written
from lumvak.core.document.project import Project
from lumvak.files.problem import (
    HALF_WRITTEN_S,
    FileProblem,
    NewerFile,
    check_header,
    read_text,
    write_atomically,
)
from lumvak.files.project_file import parse_project

RECOVERY_FORMAT, RECOVERY_VERSION = "lumvak-recovery", 1
BIN, BROKEN = "bin", "broken"
# What was thrown away can be had back for a week; a copy is written within seconds.
KEPT_S = 7.0 * 86400.0


def recovery_folder() -> Path:
    """Where recovery copies live (XDG state folder)."""
    return Path(platformdirs.user_state_dir("lumvak")) / "recovery"


class RecoveryCopy:
    """The recovery copy of one running window; a lock tells the living from the crashed."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self._lock: IO[str] | None = None
        self._path: Path | None = None

    @property
    def path(self) -> Path:
        """The file of this copy, claimed on first use."""
        if self._path is None:
            self.folder.mkdir(parents=True, exist_ok=True)
            number = 1
            while self._path is None:
                path = self.folder / f"copy-{os.getpid()}-{number}.json"
                lock = path.with_suffix(".lock").open("w")
                try:
                    fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
                except OSError:
                    lock.close()
                    number += 1
                    continue
                if path.exists():
                    lock.close()
                    number += 1
                    continue
                self._lock, self._path = lock, path
        return self._path

    def write(self, project: Project, saved_as: Path | None) -> None:
        """Keep ``project``; raises FileProblem where even that cannot be written."""
        try:
            path = self.path
        except OSError as error:
            raise FileProblem(f"No recovery copy: {error.strerror}") from error
        write_atomically(path, _copy_text(project, saved_as), to_disk=False)

    def throw_away(self, project: Project, saved_as: Path | None) -> None:
        """Put ``project`` into the bin, where it lies for a week; raises FileProblem."""
        write_atomically(
            _free(self.folder / BIN, f"copy-{os.getpid()}.json"),
            _copy_text(project, saved_as),
            to_disk=False,
        )

    def drop(self) -> None:
        """Forget the copy: the work is saved or thrown away on purpose."""
        if self._path is not None:
            self._path.unlink(missing_ok=True)

    def close(self) -> None:
        """Release the lock; a copy that is still there is offered at the next start."""
        if self._lock is not None and self._path is not None:
            self._path.with_suffix(".lock").unlink(missing_ok=True)
            self._lock.close()
            self._lock = None
            self._path = None


class LeftOver(Struct, frozen=True):
    """A recovery copy that no running window owns."""

    path: Path
    project: Project
    saved_as: Path | None
    time: float

    @property
    def older(self) -> bool:
        """Whether the file that it belongs to was saved since."""
        try:
            return self.saved_as is not None and self.saved_as.stat().st_mtime > self.time
        except (OSError, ValueError):
            return False

    def drop(self) -> None:
        """Forget it: its work is kept elsewhere."""
        self.path.unlink(missing_ok=True)
        self.path.with_suffix(".lock").unlink(missing_ok=True)

    def throw_away(self) -> None:
        """Put it into the bin, where it lies for a week."""
        _moved(self.path, _free(self.path.parent / BIN, self.path.name))
        self.path.with_suffix(".lock").unlink(missing_ok=True)


def left_over(folder: Path, catalogue: Catalogue) -> tuple[list[LeftOver], list[str]]:
    """Copies of windows that ended without saving, newest first, and what was wrong with others.

    A copy that cannot be read is set aside, into ``broken``, and never keeps a window from
    starting; one of a newer Lumvak stays where it is.
    """
    found: list[LeftOver] = []
    problems: list[str] = []
    for path in _copies(folder):
        try:
            if not _owned(path.with_suffix(".lock")):
                found.append(_read_copy(path, catalogue))
        except NewerFile as problem:
            problems.append(str(problem))
        except (FileProblem, OSError, ValueError, RecursionError) as error:
            aside = _free(folder / BROKEN, path.name)
            _moved(path, aside)
            problems.append(
                f"A recovery copy could not be read and lies in {aside.parent}: {error}"
            )
    return sorted(found, key=lambda copy: -copy.time), problems


def sweep(folder: Path, now: float) -> None:
    """Remove what nobody needs: locks without a window, half-written copies, the old of the bin."""
    old = [
        path
        for path in _within(folder, "copy-*.lock")
        # One that was made a moment ago may not be held yet.
        if now - _changed(path) > HALF_WRITTEN_S
        and not path.with_suffix(".json").exists()
        and not _owned(path)
    ]
    old += [path for path in _within(folder, ".copy-*") if now - _changed(path) > HALF_WRITTEN_S]
    old += [path for path in _within(folder / BIN, "*") if now - _changed(path) > KEPT_S]
    for path in old:
        with contextlib.suppress(OSError):
            path.unlink()


def _copies(folder: Path) -> list[Path]:
    return _within(folder, "copy-*.json")


def _within(folder: Path, pattern: str) -> list[Path]:
    try:
        return sorted(folder.glob(pattern))
    except OSError:
        return []


def _changed(path: Path) -> float:
    """When a file was last written, or a link was made; infinite where it is gone."""
    try:
        return path.lstat().st_mtime
    except OSError:
        return math.inf


def _copy_text(project: Project, saved_as: Path | None) -> str:
    head = {
        "format": RECOVERY_FORMAT,
        "version": RECOVERY_VERSION,
        "saved_as": None if saved_as is None else str(saved_as),
    }
    # Escaped, for a path may hold bytes that are no text. The project is put behind it as it is:
    # a reading of thousands of cells is kept before the next one is typed.
    return f'{json.dumps(head)[:-1]}, "project": {written(project)}}}\n'


def _read_copy(path: Path, catalogue: Catalogue) -> LeftOver:
    text = read_text(path)
    document = check_header(text, path.name, RECOVERY_FORMAT, RECOVERY_VERSION)
    project = parse_project(json.dumps(document.get("project")), path.name, catalogue)
    saved_as = document.get("saved_as")
    place = Path(saved_as) if isinstance(saved_as, str) and "\0" not in saved_as else None
    return LeftOver(path, project, place, path.stat().st_mtime)


def _free(folder: Path, name: str) -> Path:
    """A name in a folder that nothing has yet: ``name`` itself, or with a number."""
    stem = name.removesuffix(".json")
    numbered = (folder / f"{stem}-{number}.json" for number in itertools.count(2))
    places = itertools.chain([folder / name], numbered)
    return next(place for place in places if not os.path.lexists(place))


def _moved(path: Path, to: Path) -> None:
    """Move a copy; where it cannot be moved it stays."""
    with contextlib.suppress(OSError):
        to.parent.mkdir(parents=True, exist_ok=True)
        path.replace(to)
        os.utime(to)


def _owned(lock_path: Path) -> bool:
    """Whether a window that runs holds a lock."""
    try:
        with lock_path.open("r+") as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError:
                return True
            fcntl.flock(lock, fcntl.LOCK_UN)
    except OSError:
        return False
    return False
