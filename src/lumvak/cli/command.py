"""What a command is: its flags described once, and the function that runs with what was chosen."""

from __future__ import annotations

import argparse
import difflib
import importlib
from collections.abc import Callable, Iterable, Sequence
from contextlib import nullcontext
from pathlib import Path
from typing import Any, NoReturn

from msgspec import Struct

from lumvak.cli.progress import ticking
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

    @property
    def name(self) -> str:
        """Its longest spelling."""
        return max(self.names, key=len)

    @property
    def takes_value(self) -> bool:
        """Whether a value follows it, or it is one."""
        return self.settings.get("action") not in ("store_true", "store_false")

    @property
    def choices(self) -> tuple[str, ...]:
        """What may be chosen; empty where anything may be said."""
        return tuple(map(str, self.settings.get("choices", ())))

    @property
    def example(self) -> str:
        """How its value may look; empty where it takes none."""
        if not self.takes_value:
            return ""
        return str(self.settings.get("metavar") or next(iter(self.choices), ""))

    @property
    def help(self) -> str:
        """What is said of it: what it is, what it may be, whether again, what it is else."""
        parts = [self.says]
        if self.choices:
            parts.append(f"one of {', '.join(self.choices)}")
        if self.settings.get("action") == "append" and "repeatable" not in self.says:
            parts.append("repeatable")
        default = self.settings.get("default")
        if default not in (None, "", [], False) and "default" not in self.says:
            parts.append(f"default: {default}")
        return "; ".join(part for part in parts if part).replace("%%", "%")


def flag(*names: str, says: str = "", one_of: str = "", **settings: Any) -> Flag:
    """An argument of a command."""
    return Flag(names, says, settings, one_of)


class Command(Struct, frozen=True):
    """A command: what it is for, its flags, and where its ``run`` is, loaded when it is wanted.

    ``run`` takes what was chosen and a Refuse, and returns the exit status. ``examples`` are what
    is typed after ``lumvak``; ``rows`` is which part of its JSON is the table that ``--csv``
    prints; one that ``talks`` says by itself what it is doing.
    """

    name: str
    says: str
    flags: tuple[Flag, ...]
    run: str
    examples: tuple[str, ...] = ()
    rows: str = ""
    talks: bool = False

    def parser(self) -> Parser:
        """Its arguments, as argparse reads them; whole names only."""
        parser = Parser(
            prog=f"lumvak {self.name}",
            description=self.says,
            epilog="\n".join(("examples:", *(f"  lumvak {it}" for it in self.examples))),
            formatter_class=argparse.RawDescriptionHelpFormatter,
            allow_abbrev=False,
        )
        groups: dict[str, argparse._ActionsContainer] = {}
        for item in self.flags:
            holder: argparse._ActionsContainer = parser
            if item.one_of:
                must = item.one_of.endswith("!")
                if item.one_of not in groups:
                    groups[item.one_of] = parser.add_mutually_exclusive_group(required=must)
                holder = groups[item.one_of]
            settings = dict(item.settings)
            if choices := settings.pop("choices", None):
                named = {} if item.names[0][0] != "-" else {"metavar": str(choices[0])}
                settings = {**named, **settings, "type": one_of(choices)}
            holder.add_argument(*item.names, help=item.help.replace("%", "%%") or None, **settings)
        return parser

    def __call__(self, words: Sequence[str]) -> int:
        """Read the words that were typed and run; returns the exit status."""
        parser = self.parser()
        known = [name for item in self.flags for name in item.names if name.startswith("-")]
        for word in words[: words.index("--")] if "--" in words else words:
            name = word.partition("=")[0]
            if word.startswith("--") and name not in (*known, "--help"):
                parser.error(f"“{name}” is not known here{did_you_mean(name, known, '--help')}")
        chosen = parser.parse_args(tied(words))
        chosen.command, chosen.rows = f"lumvak {self.name}", self.rows
        module, _, name = self.run.partition(":")
        run: Callable[[argparse.Namespace, Refuse], int]
        with nullcontext() if self.talks else ticking(chosen.command):
            run = getattr(importlib.import_module(module), name)
            return run(chosen, parser.error)


def one_of(choices: Iterable[Any]) -> Callable[[str], Any]:
    """A reader of one of several words or numbers, whatever the case of the letters."""
    known = {str(item).casefold(): item for item in choices}

    def read(text: str) -> Any:
        if text.casefold() not in known:
            raise argparse.ArgumentTypeError(f"“{text}”{did_you_mean(text, known)}")
        return known[text.casefold()]

    return read


def did_you_mean(word: str, known: Iterable[str], else_see: str = "") -> str:
    """What was likely meant by a word, or what is known, to be said behind it."""
    names = list(known)
    near = difflib.get_close_matches(word.casefold(), names, 2, 0.6)
    if near:
        return f"; did you mean {' or '.join(near)}?"
    return f"; see {else_see}" if else_see else f"; accepted: {', '.join(names)}"


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


FILE = flag("file", type=Path, says="a project file (.lumvak.json), or - for standard input")
JSON = flag("--json", action="store_true", says="print one JSON object")
CSV = flag("--csv", action="store_true", says="print the table as CSV, numbers in the units named")
BATCH = flag("--batch", action="store_true", says="read a JSON case a line, print a result a line")
FORCE = flag("--force", action="store_true", says="write over a file that is there")
CATALOGUE = flag(
    "--catalogue", type=Path, action="append", default=[], metavar="PARTS.json", says="more parts"
)
SET = flag(
    "--set", action="append", default=[], metavar="pack.parallel=8",
    says="a field of the project as it is to be, checked as in the window; nothing is saved",
)  # fmt: skip


def maybe_file(says: str = FILE.says) -> Flag:
    """A file that may be left out."""
    return flag("file", nargs="?", type=Path, says=says)
