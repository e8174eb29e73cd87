"""The one entry point: ``lumvak [FILE]``, and its commands."""

from __future__ import annotations

import argparse
import gc
import sys
from collections.abc import Sequence
from pathlib import Path

from lumvak import __version__


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command line; returns the exit status."""
    given = list(sys.argv[1:] if arguments is None else arguments)
    if arguments is None:
        # A process of ours: loading leaves nothing to collect, and the window turns this on again.
        gc.disable()
    try:
        if given[:1] == ["size"]:
            from lumvak.cli.size import run_size

            return run_size(given[1:])
        if given[:1] == ["evaluate"]:
            from lumvak.cli.evaluate import run_evaluate

            return run_evaluate(given[1:])
        if given[:1] == ["explain"]:
            from lumvak.cli.explain import run_explain

            return run_explain(given[1:])
        if given[:1] == ["cell"]:
            from lumvak.cli.cell import run_cell

            return run_cell(given[1:])
        if given[:1] == ["export"]:
            from lumvak.cli.export import run_export

            return run_export(given[1:])
        return _open_window(given)
    except BrokenPipeError:
        sys.stderr.close()
        return 0


def _open_window(given: list[str]) -> int:
    parser = argparse.ArgumentParser(
        prog="lumvak",
        description="Size and build battery packs. Without a command it opens the window.",
        epilog="Commands: “lumvak size”, “evaluate”, “explain”, “cell” and “export”; all --help.",
    )
    parser.add_argument("file", nargs="?", type=Path, help="a project file to open")
    parser.add_argument("--version", action="version", version=f"lumvak {__version__}")
    chosen = parser.parse_args(given)
    from lumvak.ui.application import run

    return run(chosen.file)
