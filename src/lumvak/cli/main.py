"""The one entry point: ``lumvak [FILE]``, and its commands."""

from __future__ import annotations

import gc
import io
import os
import sys
from collections.abc import Sequence
from pathlib import Path

from lumvak import __version__
from lumvak.cli.told import Parser

# What shells give for a command that was interrupted.
INTERRUPTED = 130


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command line; returns the exit status."""
    given = list(sys.argv[1:] if arguments is None else arguments)
    if arguments is None:
        # A process of ours: loading leaves nothing to collect, and the window turns this on again.
        gc.disable()
        for stream in (sys.stdout, sys.stderr):
            # A terminal that lacks a sign shows another one.
            if isinstance(stream, io.TextIOWrapper):
                stream.reconfigure(errors="replace")
    try:
        status = _run(given)
        sys.stdout.flush()
        return status
    except BrokenPipeError:
        sys.stderr.close()
        return 0
    except KeyboardInterrupt:
        return INTERRUPTED
    except OSError as error:
        # The shell's redirection: a full disk, most of all. What is left in the buffer has no
        # place to go either.
        print(f"lumvak: {error.strerror or error}", file=sys.stderr)
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 1


def _run(given: list[str]) -> int:
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
    if given[:1] == ["group"]:
        from lumvak.cli.group import run_group

        return run_group(given[1:])
    if given[:1] == ["taps"]:
        from lumvak.cli.taps import run_taps

        return run_taps(given[1:])
    if given[:1] == ["charge"]:
        from lumvak.cli.charge import run_charge

        return run_charge(given[1:])
    if given[:1] == ["balance"]:
        from lumvak.cli.balance import run_balance

        return run_balance(given[1:])
    return _open_window(given)


def _open_window(given: list[str]) -> int:
    parser = Parser(
        prog="lumvak",
        description="Size and build battery packs. Without a command it opens the window.",
        epilog="Commands: “lumvak size”, “evaluate”, “explain”, “cell”, “group”, “taps”, "
        "“charge”, “balance” and “export”; all with --help.",
    )
    parser.add_argument("file", nargs="?", type=Path, help="a project file to open")
    parser.add_argument("--version", action="version", version=f"lumvak {__version__}")
    chosen = parser.parse_args(given)
    from lumvak.ui.application import run

    return run(chosen.file)
