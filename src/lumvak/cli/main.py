"""The one entry point: ``lumvak [FILE]``, and its commands."""

from __future__ import annotations

import gc
import io
import os
import sys
from collections.abc import Sequence
from pathlib import Path

from lumvak import __version__
from lumvak.cli.told import Parser, complain

# Described in cli/commands.py, which is loaded once one of them is called.
COMMANDS = ("size", "evaluate", "explain", "cell", "group", "taps", "charge", "balance", "export")
# What shells give for a command that was interrupted, and ours where the system fails: a full
# disk, no display.
INTERRUPTED, FAILED = 130, 3


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command line; returns the exit status.

    0 when done, 1 where nothing serves or something is not safe, 2 for what is no good, 3 where the
    system fails.
    """
    given = list(sys.argv[1:] if arguments is None else arguments)
    if arguments is None:
        # A process of ours: loading leaves nothing to collect, and the window turns this on again.
        gc.disable()
        _ready_streams()
    try:
        status = _run(given)
        sys.stdout.flush()
        if arguments is None and given[:1] and given[0] in COMMANDS:
            # All is said and written: taking the process apart would cost a tenth of its time.
            sys.stderr.flush()
            os._exit(status)
        return status
    except BrokenPipeError:
        sys.stderr.close()
        return 0
    except KeyboardInterrupt:
        return INTERRUPTED
    except OSError as error:
        # The shell's redirection: a full disk, most of all. What is left in the buffer has no
        # place to go either.
        complain("lumvak", error.strerror or error)
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return FAILED


def _ready_streams() -> None:
    """What is closed is nothing to read from, and nowhere to write to."""
    nowhere = Path(os.devnull)
    sys.stdin = sys.stdin or nowhere.open()
    sys.stdout = sys.stdout or nowhere.open("w")
    sys.stderr = sys.stderr or nowhere.open("w")
    for stream in (sys.stdout, sys.stderr):
        # A terminal that lacks a sign shows another one.
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="replace")


def _run(given: list[str]) -> int:
    name = given[0] if given else ""
    if name in COMMANDS:
        from lumvak.cli import commands

        return commands.COMMANDS[name](given[1:])
    return _open_window(given)


def _open_window(given: list[str]) -> int:
    parser = Parser(
        prog="lumvak",
        description="Size and build battery packs. Without a command it opens the window.",
        epilog=f"Commands: {', '.join(COMMANDS)}; all with --help. Exit status: 0 when done, 1 "
        "where nothing serves or something is not safe, 2 for what is no good, 3 where the system "
        "fails.",
    )
    parser.add_argument("file", nargs="?", type=Path, help="a project file to open")
    parser.add_argument("--version", action="version", version=f"lumvak {__version__}")
    chosen = parser.parse_args(given)
    if chosen.file is not None and (why := _no_file(chosen.file)):
        complain("lumvak", why)
        return 2
    if not _display():
        complain("lumvak", "no display to open a window on; the commands work without one: "
                 f"{', '.join(COMMANDS)}")  # fmt: skip
        return FAILED
    from lumvak.ui.application import run

    return run(chosen.file)


def _no_file(file: Path) -> str:
    """Why a word is neither a command nor a file, in words; empty where it is a file."""
    if file.exists() or file.suffix or len(file.parts) > 1:
        return ""
    import difflib

    near = difflib.get_close_matches(file.name, COMMANDS, 1)
    more = f"; did you mean “{near[0]}”?" if near else f"; commands are {', '.join(COMMANDS)}"
    return f"no command and no file “{file.name}”{more}"


def _display() -> bool:
    """Whether there is anything to open a window on."""
    known = ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY")
    return sys.platform != "linux" or any(os.environ.get(name) for name in known)
