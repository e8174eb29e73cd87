"""Commands that make Lumvak at home on a machine."""

from __future__ import annotations

from pathlib import Path

from lumvak.cli.command import FORCE, Command, flag

MAN = Command(
    "man", "The manual page of a command, or all of them into a folder.",
    (
        flag("name", nargs="?", metavar="COMMAND",
             says="of which command (of lumvak itself, if not said)"),
        flag("-o", "--out", type=Path, metavar="FOLDER",
             says="write every page into this folder, as lumvak-size.1 and so on"),
        FORCE,
    ),
    "lumvak.cli.installing.manual:run",
    ("man size", "man", "man -o . --force"),
)  # fmt: skip

COMPLETION = Command(
    "completion", "What a shell completes commands, flags and choices by.",
    (flag("shell", choices=("bash", "zsh", "fish"), says="for which shell"),),
    "lumvak.cli.installing.completion:run",
    ("completion bash", "completion zsh", "completion fish"),
)  # fmt: skip

INSTALLING = (MAN, COMPLETION)
