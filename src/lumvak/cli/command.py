"""What a command is: its flags described once, and the function that runs with what was chosen."""

from __future__ import annotations

import argparse
import importlib
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, NoReturn

from msgspec import Struct

from lumvak.cli.told import Parser

# Ends the command with 2 and says why; what a run is given to refuse arguments that do not fit.
Refuse = Callable[[str], NoReturn]


class Flag(Struct, frozen=True):
    """An argument: how it is spelled, what is said of it, and how its value is read.

    ``settings`` are those of argparse; of flags with one name in ``one_of`` only one may be given,
    and must be where that name ends with ``!``.
    """

    names: tuple[str, ...]
    says: str
    settings: dict[str, Any]
    one_of: str


def flag(*names: str, says: str = "", one_of: str = "", **settings: Any) -> Flag:
    """An argument of a command."""
    return Flag(names, says, settings, one_of)


class Command(Struct, frozen=True):
    """A command: what it is for, its flags, and where its ``run`` is, loaded when it is wanted.

    ``run`` takes what was chosen and a Refuse, and returns the exit status.
    """

    name: str
    says: str
    flags: tuple[Flag, ...]
    run: str

    def parser(self) -> Parser:
        """Its arguments, as argparse reads them; whole names only."""
        parser = Parser(prog=f"lumvak {self.name}", description=self.says, allow_abbrev=False)
        groups: dict[str, argparse._ActionsContainer] = {}
        for item in self.flags:
            holder: argparse._ActionsContainer = parser
            if item.one_of:
                must = item.one_of.endswith("!")
                if item.one_of not in groups:
                    groups[item.one_of] = parser.add_mutually_exclusive_group(required=must)
                holder = groups[item.one_of]
            holder.add_argument(*item.names, help=item.says or None, **item.settings)
        return parser

    def __call__(self, words: Sequence[str]) -> int:
        """Read the words that were typed and run; returns the exit status."""
        parser = self.parser()
        chosen = parser.parse_args(tied(words))
        module, _, name = self.run.partition(":")
        run: Callable[[argparse.Namespace, Refuse], int]
        run = getattr(importlib.import_module(module), name)
        return run(chosen, parser.error)


def tied(words: Sequence[str]) -> list[str]:
    """Words with a negative value tied to its flag, so that ``--ambient -5C`` is one thing."""
    found: list[str] = []
    for word in words:
        negative = word[:1] == "-" and word[1:2] in "0123456789.," and len(word) > 1
        if negative and found and found[-1].startswith("--"):
            found[-1] += f"={word}"
        else:
            found.append(word)
    return found


FILE = flag("file", type=Path, says="a project file (.lumvak.json)")
JSON = flag("--json", action="store_true", says="print one JSON object")
BATCH = flag("--batch", action="store_true", says="read a JSON case a line, print a result a line")
CATALOGUE = flag(
    "--catalogue", type=Path, action="append", default=[], metavar="FILE",
    says="more parts (repeatable)",
)  # fmt: skip


def maybe_file(says: str = FILE.says) -> Flag:
    """A file that may be left out."""
    return flag("file", nargs="?", type=Path, says=says)
