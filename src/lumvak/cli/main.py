"""The one entry point: ``lumvak [FILE]``, and its commands."""

from __future__ import annotations

import gc
import io
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from lumvak import __version__
from lumvak.cli.told import Parser, complain

if TYPE_CHECKING:
    from lumvak.cli.command import Command

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
        command = _command(given)
        status = _open_window(given) if command is None else command(given[1:])
        sys.stdout.flush()
        if arguments is None and command is not None:
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


def _commands() -> dict[str, Command]:
    """All commands by name; opening the window does without them."""
    from lumvak.cli.commands import COMMANDS

    return COMMANDS


def _command(given: list[str]) -> Command | None:
    """The command that is called; ``None`` where the window is."""
    return _commands().get(given[0]) if given and given[0].isalpha() else None


def _open_window(given: list[str]) -> int:
    parser = Parser(
        prog="lumvak",
        description="Size and build battery packs. Without a command it opens the window.",
        epilog="Commands: {commands}; all with --help. Exit status: 0 when done, 1 where nothing "
        "serves or something is not safe, 2 for what is no good, 3 where the system fails.",
    )
    if {"-h", "--help"} & set(given):
        parser.epilog = str(parser.epilog).format(commands=", ".join(_commands()))
    if len(given) > 1 and given[0][0:1] != "-" and (why := _no_file(Path(given[0]))):
        complain("lumvak", why)
        return 2
    parser.add_argument("file", nargs="?", type=Path, help="a project file to open")
    parser.add_argument("--version", action="version", version=f"lumvak {__version__}")
    parser.add_argument(
        "--install-desktop",
        action="store_true",
        help="menu entry, icon, file type, manual pages and completion for this user",
    )
    parser.add_argument("--remove-desktop", action="store_true", help="remove them again")
    chosen = parser.parse_args(given)
    if chosen.install_desktop or chosen.remove_desktop:
        return _desktop(chosen.remove_desktop)
    if chosen.file is not None and (why := _no_file(chosen.file)):
        complain("lumvak", why)
        return 2
    if not _display():
        complain(
            "lumvak",
            "no display to open a window on; the commands work without one: "
            f"{', '.join(_commands())}",
        )
        return FAILED
    from lumvak.ui.application import run

    return run(chosen.file)


def _desktop(remove: bool) -> int:
    """Make Lumvak at home on the desktop of a user, or take it away again."""
    from lumvak.cli.installing import desktop
    from lumvak.files.problem import FileProblem

    try:
        return desktop.remove() if remove else desktop.install()
    except FileProblem as problem:
        complain("lumvak", str(problem))
        return FAILED


def _no_file(file: Path) -> str:
    """Why a word is neither a command nor a file, in words; empty where it is a file."""
    if file.exists() or file.suffix or len(file.parts) > 1:
        return ""
    import difflib

    near = difflib.get_close_matches(file.name, _commands(), 1)
    more = f"; did you mean “{near[0]}”?" if near else f"; commands are {', '.join(_commands())}"
    return f"no command and no file “{file.name}”{more}"


def _display() -> bool:
    """Whether there is anything to open a window on."""
    known = ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY")
    return sys.platform != "linux" or any(os.environ.get(name) for name in known)
