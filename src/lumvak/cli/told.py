"""What the command line reads and refuses: arguments, cases line by line, problems in words."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Iterator
from typing import TYPE_CHECKING, NoReturn

from lumvak.files.signs import brief, printable

if TYPE_CHECKING:
    from lumvak.core.said import Text

# A refusal says no more than this, and of a word no more than its beginning.
MOST_SAID = 300


def shown(text: Text | Exception) -> str:
    """A text in a line, without signs that are not shown, and no longer than MOST_SAID."""
    if isinstance(text, str | Exception):
        said = str(text)
    else:
        from lumvak.core.spelling import spoken

        said = spoken(text)
    return brief(printable(" ".join(said.split())), MOST_SAID, word=40, over=20)


def complain(command: str, text: Text | Exception) -> None:
    """Say a problem on the error stream, if there is one."""
    if sys.stderr is not None:
        print(f"{command}: {shown(text)}", file=sys.stderr)


class Parser(argparse.ArgumentParser):
    """Arguments of a command; what it refuses is said as all refusals are."""

    def error(self, message: str) -> NoReturn:
        """Say what is wrong with the arguments, in one line, and end with 2."""
        complain(self.prog, message)
        raise SystemExit(2)


def lines_in() -> Iterator[str]:
    """What comes in, line by line; none where nothing is connected. Odd bytes are replaced."""
    if sys.stdin is None:
        return
    raw = getattr(sys.stdin, "buffer", None)
    for line in sys.stdin if raw is None else raw:
        yield line if isinstance(line, str) else line.decode("utf-8", "replace")
