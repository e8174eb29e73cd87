"""``lumvak man``: manual pages, made from what commands say of themselves."""

from __future__ import annotations

import argparse
import shutil
import subprocess
import sys
from collections.abc import Iterator

from lumvak import __version__
from lumvak.cli.command import Command, Flag, Refuse, did_you_mean
from lumvak.cli.commands import COMMANDS
from lumvak.cli.told import complain
from lumvak.cli.written import write_out
from lumvak.files.problem import FileProblem

# What a status says; the same for all commands.
STATUSES = (
    ("0", "done"),
    ("1", "nothing serves, or something is not safe: a stop, a wrong charger, a plug to keep out"),
    ("2", "what was typed or read is no good"),
    ("3", "the system fails: a full disk, no display"),
    ("130", "interrupted"),
)
ABOUT = (
    "Sizes and designs battery packs for light electric vehicles and power tools. Without a "
    "command it opens its window, with the project that is named."
)
OPTIONS = (
    ("--version", "say the version"),
    ("--install-desktop", "menu entry, icon, file type, manual pages and completion for you"),
    ("--remove-desktop", "remove them again"),
)


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Show a page, or write all of them; 0 when done, 2 where there is none of that name."""
    if chosen.out is not None:
        try:
            for name, text in pages().items():
                write_out(chosen.out / name, text.encode("utf-8"), chosen.force)
        except FileProblem as problem:
            complain(chosen.command, problem)
            return 2
        return 0
    if chosen.name is not None and chosen.name not in COMMANDS:
        refuse(f"no command “{chosen.name}”{did_you_mean(chosen.name, COMMANDS)}")
    text = whole_page() if chosen.name is None else page(COMMANDS[chosen.name])
    if sys.stdout.isatty() and shutil.which("man"):
        return subprocess.run(
            ["man", "-l", "-"], input=text.encode("utf-8"), check=False
        ).returncode
    print(text, end="")
    return 0


def pages() -> dict[str, str]:
    """All pages by the name of their file."""
    return {"lumvak.1": whole_page()} | {
        f"lumvak-{name}.1": page(item) for name, item in COMMANDS.items()
    }


def page(command: Command) -> str:
    """The page of a command, in roff."""
    lines = [
        _head(f"lumvak-{command.name}"),
        ".SH NAME",
        f"lumvak\\-{command.name} \\- {_plain(_sentence(command.says))}",
        ".SH SYNOPSIS",
        f".B lumvak {command.name}",
        *(_in_synopsis(item) for item in command.flags),
        ".SH DESCRIPTION",
        _plain(command.says),
        ".SH OPTIONS",
        *(line for item in command.flags for line in _option(item)),
        ".SH EXAMPLES",
        *(
            line
            for it in command.examples
            for line in (".PP", ".nf", f"lumvak {_plain(it)}", ".fi")
        ),
        *_statuses(),
        ".SH SEE ALSO",
        ".BR lumvak (1)",
    ]
    return "\n".join(lines) + "\n"


def whole_page() -> str:
    """The page of lumvak itself, in roff."""
    lines = [
        _head("lumvak"),
        ".SH NAME",
        "lumvak \\- size and build battery packs",
        ".SH SYNOPSIS",
        ".B lumvak",
        "[FILE.lumvak.json]",
        ".br",
        ".B lumvak",
        "COMMAND ...",
        ".SH DESCRIPTION",
        _plain(ABOUT),
        ".SH OPTIONS",
        *(line for name, says in OPTIONS for line in (".TP", f".B {_plain(name)}", _plain(says))),
        ".SH COMMANDS",
        *(
            line
            for name, item in COMMANDS.items()
            for line in (".TP", f".BR lumvak\\-{name} (1)", _plain(item.says))
        ),
        *_statuses(),
    ]
    return "\n".join(lines) + "\n"


def _head(name: str) -> str:
    return f'.TH "{name.upper()}" 1 "" "lumvak {__version__}" "Lumvak"'


def _sentence(text: str) -> str:
    """What a command is for, as it stands behind a dash."""
    return text[:1].lower() + text[1:].rstrip(".")


def _statuses() -> Iterator[str]:
    yield ".SH EXIT STATUS"
    for status, says in STATUSES:
        yield from (".TP", f".B {status}", _plain(says))


def _in_synopsis(item: Flag) -> str:
    must = item.settings.get("required") or item.one_of.endswith("!")
    words = _spelled(item)
    if item.names[0][0] != "-":
        must = item.settings.get("nargs") not in ("?", "*")
    return words if must else f"[{words}]"


def _spelled(item: Flag) -> str:
    if item.names[0][0] != "-":
        return f"\\fI{_plain(item.example or item.names[0].upper())}\\fR"
    value = f" \\fI{_plain(item.example)}\\fR" if item.example else ""
    return f"\\fB{_plain(item.names[-1])}\\fR{value}"


def _option(item: Flag) -> Iterator[str]:
    names = ", ".join(f"\\fB{_plain(name)}\\fR" for name in item.names if name[0] == "-")
    value = f" \\fI{_plain(item.example)}\\fR" if item.example else ""
    yield ".TP"
    yield f"{names}{value}" if names else _spelled(item)
    yield _plain(item.help)


def _plain(text: str) -> str:
    """Text as roff shows it, sign for sign."""
    safe = text.replace("%%", "%").replace("\\", "\\e").replace("-", "\\-")
    return f"\\&{safe}" if safe[:1] in ".'" else safe
