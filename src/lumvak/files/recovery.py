"""Recovery copies: unsaved work that outlives a crash."""

from __future__ import annotations

import fcntl
import json
import os
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO

import platformdirs

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.files.problem import FileProblem, check_header, read_text, write_atomically
from lumvak.files.project_file import parse_project, project_text

RECOVERY_FORMAT, RECOVERY_VERSION = "lumvak-recovery", 1


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
        document = {
            "format": RECOVERY_FORMAT,
            "version": RECOVERY_VERSION,
            "saved_as": str(saved_as) if saved_as is not None else None,
            "project": json.loads(project_text(project)),
        }
        try:
            path = self.path
        except OSError as error:
            raise FileProblem(f"No recovery copy: {error.strerror}") from error
        write_atomically(
            path, json.dumps(document, ensure_ascii=False, indent=1) + "\n", to_disk=False
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


@dataclass(frozen=True, slots=True)
class LeftOver:
    """A recovery copy that no running window owns."""

    path: Path
    project: Project
    saved_as: Path | None
    time: float

    def drop(self) -> None:
        """Throw it away."""
        self.path.unlink(missing_ok=True)
        self.path.with_suffix(".lock").unlink(missing_ok=True)


def left_over(folder: Path, catalogue: Catalogue) -> Iterator[LeftOver]:
    """Copies of windows that ended without saving, newest first; unreadable ones stay on disk."""
    if not folder.is_dir():
        return
    for path in sorted(folder.glob("copy-*.json"), key=lambda item: -item.stat().st_mtime):
        if _owned(path.with_suffix(".lock")):
            continue
        try:
            text = read_text(path)
            check_header(text, path.name, RECOVERY_FORMAT, RECOVERY_VERSION)
            document = json.loads(text)
            project = parse_project(json.dumps(document.get("project")), path.name, catalogue)
        except FileProblem:
            continue
        saved_as = document.get("saved_as")
        yield LeftOver(
            path,
            project,
            Path(saved_as) if isinstance(saved_as, str) else None,
            path.stat().st_mtime,
        )


def _owned(lock_path: Path) -> bool:
    if not lock_path.exists():
        return False
    with lock_path.open("r+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            return True
        fcntl.flock(lock, fcntl.LOCK_UN)
    return False
