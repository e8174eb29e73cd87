"""``lumvak export``: template, tables and netlist of a project."""

from __future__ import annotations

import argparse
from pathlib import Path

from lumvak.cli.command import Refuse
from lumvak.cli.project.reading import evaluation_of
from lumvak.cli.told import complain
from lumvak.cli.written import STANDARD, check_free, write_out
from lumvak.core.spelling import spoken
from lumvak.files.export.formats import SUFFIXES, exported
from lumvak.files.export.warning import warning_of
from lumvak.files.kept.window_settings import load_settings, settings_path, spelling_of
from lumvak.files.problem import FileProblem


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Write an export; 0 when done, 1 where the pack must not be built so, 2 where none is made."""
    # What people read in it is in the units that they prefer in the window.
    spelling = spelling_of(load_settings(settings_path())[0])
    path: Path | None = chosen.out
    if path is None and chosen.file == STANDARD:
        path = STANDARD
    if path is None:
        stem = chosen.file.name.removesuffix(".lumvak.json")
        path = chosen.file.with_name(stem + SUFFIXES[chosen.to])
    try:
        check_free(path, chosen.force)
        seen = evaluation_of(chosen)
        if seen is None:
            return 2
        write_out(path, exported(seen, chosen.to, chosen.paper, spelling), chosen.force)
    except FileProblem as problem:
        complain(chosen.command, problem)
        return 2
    for flaw in seen.flaws:
        complain(chosen.command, f"{spoken(flaw.text, spelling)}. {spoken(flaw.do, spelling)}")
    warning = warning_of(seen, spelling)
    if warning:
        complain(chosen.command, warning)
    return 1 if warning else 0
