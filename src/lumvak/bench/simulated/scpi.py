"""Lines of SCPI: headers in long and short forms, in any case, and the queue of errors.

By the rules of IEEE 488.2 and SCPI-99 for program headers, numbers and channel lists [18].
"""

from __future__ import annotations

import math
import re
from collections import deque
from collections.abc import Callable, Sequence
from typing import NamedTuple

MOST_ERRORS = 20
# A line longer than this is not read, nor are more commands in one.
LONGEST, MOST_COMMANDS = 4096, 64
ON = {"ON": True, "1": True, "OFF": False, "0": False}


class ScpiError(Exception):
    """What goes into the queue of errors: a number and its text."""

    def __init__(self, number: int, text: str) -> None:
        super().__init__(f'{number},"{text}"')


def unknown() -> ScpiError:
    """A header that nobody knows."""
    return ScpiError(-113, "Undefined header")


def no_good() -> ScpiError:
    """A parameter that is out of range or missing."""
    return ScpiError(-222, "Data out of range")


class ScpiCommand(NamedTuple):
    """A header as a pattern, and what it does; a query returns its answer."""

    pattern: re.Pattern[str]
    run: Callable[[str], str | None]


def command(header: str, run: Callable[[str], str | None]) -> ScpiCommand:
    """A command of a header such as ``[SOURce:]VOLTage[:LEVel]?``."""
    pattern = ""
    for part in re.finditer(r"\[([^\]]*)\]|([^\[\]]+)", header):
        inside, plain = part.groups()
        text = _words(inside if inside is not None else plain)
        pattern += f"(?:{text})?" if inside is not None else text
    return ScpiCommand(re.compile(f":?{pattern}", re.IGNORECASE), run)


def _words(text: str) -> str:
    """A pattern for words of which the capitals are the short form."""

    def one(word: re.Match[str]) -> str:
        short = "".join(letter for letter in word[0] if not letter.islower())
        rest = word[0][len(short) :]
        return f"{short}(?:{rest})?" if rest else short

    return re.sub(r"[A-Z]+[a-z]*", one, text.replace("?", r"\?").replace("*", r"\*"))


class Interpreter:
    """Runs lines of commands and keeps their errors."""

    def __init__(self, commands: Sequence[ScpiCommand]) -> None:
        self.commands = commands
        self.errors: deque[str] = deque(maxlen=MOST_ERRORS)

    def line(self, text: str) -> str | None:
        """The answer to a line, ``None`` where it asks nothing."""
        answers = []
        for one in text.split(";")[:MOST_COMMANDS]:
            try:
                if (answer := self._one(one.strip())) is not None:
                    answers.append(answer)
            except ScpiError as problem:
                self.errors.append(str(problem))
        return ";".join(answers) if answers else None

    def _one(self, text: str) -> str | None:
        if not text:
            return None
        header, _, rest = text.partition(" ")
        for known in self.commands:
            if known.pattern.fullmatch(header):
                return known.run(rest.strip())
        raise unknown()

    def next_error(self) -> str:
        """The oldest error, taken from the queue."""
        return self.errors.popleft() if self.errors else '0,"No error"'


def number_of(text: str, least: float = 0.0, most: float = 1e6) -> float:
    """A number within bounds; raises ScpiError."""
    try:
        value = float(text)
    except ValueError:
        raise no_good() from None
    if not math.isfinite(value) or not least <= value <= most:
        raise no_good()
    return value


def switch_of(text: str) -> bool:
    """ON or OFF; raises ScpiError."""
    try:
        return ON[text.upper()]
    except KeyError:
        raise no_good() from None


def channel_of(text: str) -> int:
    """The number of a channel list of one, ``(@3)``; raises ScpiError."""
    found = re.fullmatch(r"\(\s*@\s*([0-9]{1,4})\s*\)", text)
    if found is None:
        raise no_good()
    return int(found[1])
