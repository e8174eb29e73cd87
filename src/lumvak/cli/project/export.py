"""``lumvak export``: template, tables and netlist of a project."""

from __future__ import annotations

import argparse
import os
import stat
import sys
from collections.abc import Callable
from pathlib import Path

from lumvak.cli.command import Refuse
from lumvak.cli.project.evaluate import read_evaluation
from lumvak.cli.told import complain
from lumvak.core.spelling import spoken
from lumvak.files.export.formats import SUFFIXES, exported, write_export
from lumvak.files.export.warning import warning_of
from lumvak.files.kept.window_settings import load_settings, settings_path, spelling_of
from lumvak.files.problem import FileProblem, same_file
from lumvak.files.project_file import is_project


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Write an export; 0 when done, 1 where the pack must not be built so, 2 where none is made."""
    # What people read in it is in the units that they prefer in the window.
    spelling = spelling_of(load_settings(settings_path())[0])
    seen = read_evaluation("lumvak export", chosen.file, chosen.catalogue)
    if seen is None:
        return 2
    stem = chosen.file.name.removesuffix(".lumvak.json")
    path = chosen.out or chosen.file.with_name(stem + SUFFIXES[chosen.to])
    if same_file(path, chosen.file):
        complain("lumvak export", f"{path} is the project itself; name another file")
        return 2
    if is_project(path):
        complain("lumvak export", f"{path} is a project; name another file")
        return 2
    streamed = False
    try:
        streamed = _streamed(path, lambda: exported(seen, chosen.to, chosen.paper, spelling))
        if not streamed:
            write_export(seen, chosen.to, path, chosen.paper, spelling)
    except FileProblem as problem:
        complain("lumvak export", problem)
        return 2
    for flaw in seen.flaws:
        complain("lumvak export", f"{spoken(flaw.text, spelling)}. {spoken(flaw.do, spelling)}")
    warning = warning_of(seen, spelling)
    if warning:
        complain("lumvak export", warning)
    if not streamed:
        print(path)
    return 1 if warning else 0


def _streamed(path: Path, made: Callable[[], bytes]) -> bool:
    """Whether ``path`` is what is written into and never replaced: a pipe, a terminal, what our
    own output goes to. Then it has been written.
    """
    try:
        seen = path.stat()
    except OSError:
        return False
    try:
        out = os.fstat(sys.stdout.fileno())
    except (OSError, ValueError):
        out = None
    if out is not None and os.path.samestat(seen, out):
        sys.stdout.flush()
        sys.stdout.buffer.write(made())
        sys.stdout.buffer.flush()
        return True
    if not stat.S_ISFIFO(seen.st_mode) and not stat.S_ISCHR(seen.st_mode):
        return False
    try:
        path.write_bytes(made())
    except OSError as error:
        raise FileProblem(f"{path} was not written: {error.strerror}") from error
    return True
