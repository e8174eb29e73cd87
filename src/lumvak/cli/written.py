"""Where commands write: never over a file unasked, never into a folder that is not there."""

from __future__ import annotations

import os
import stat
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NoReturn

from lumvak.files.problem import FileProblem, write_atomically
from lumvak.files.project_file import is_project

# Standard output, or input.
STANDARD = Path("-")


def suffix_of(path: Path, known: Sequence[str], refuse: Callable[[str], NoReturn]) -> str:
    """The suffix that says what is written; standard output has the first of those ``known``."""
    if path == STANDARD:
        return known[0]
    suffix = path.suffix.lower()
    if suffix not in known:
        refuse(f"-o: “{path.name[:60]}” ends otherwise; accepted: {', '.join(known)}, or -")
    return suffix


def check_free(path: Path, force: bool, *, project: bool = False) -> None:
    """Raise FileProblem where ``path`` must not be written; nothing is written yet.

    A project is written over only where a ``project`` is written.
    """
    if path == STANDARD or _streams(path):
        return
    if path.is_symlink() and not path.exists():
        # A link into nothing, or in a circle: what writes says so.
        return
    if not path.parent.is_dir():
        raise FileProblem(f"{path.parent} is no folder; make it, or name another")
    if is_project(path) and not project:
        raise FileProblem(f"{path} is a project; name another file")
    if path.is_file() and not force:
        raise FileProblem(f"{path} is there already; --force writes over it")


def write_out(
    path: Path, content: bytes, force: bool, *, project: bool = False, told: bool = True
) -> None:
    """Write into a file, a pipe, a terminal, or (``-``) to standard output.

    Says where it was written where that is to be ``told``. Raises FileProblem.
    """
    check_free(path, force, project=project)
    if path == STANDARD or _is_output(path):
        sys.stdout.flush()
        sys.stdout.buffer.write(content)
        sys.stdout.buffer.flush()
        return
    if _streams(path):
        try:
            path.write_bytes(content)
        except OSError as error:
            raise FileProblem(f"{path} was not written: {error.strerror}") from error
        return
    write_atomically(path, content)
    if told:
        print(path)


def _is_output(path: Path) -> bool:
    """Whether a path is what our own output goes to."""
    try:
        return os.path.samestat(path.stat(), os.fstat(sys.stdout.fileno()))
    except (OSError, ValueError):
        return False


def _streams(path: Path) -> bool:
    """Whether a path is what is written into and never replaced: a pipe, a terminal, our output."""
    try:
        mode = path.stat().st_mode
    except OSError:
        return False
    return stat.S_ISFIFO(mode) or stat.S_ISCHR(mode) or _is_output(path)
