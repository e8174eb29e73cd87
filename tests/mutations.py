"""Text that was spoiled: cut, doubled, shuffled, and with values that nobody means."""

from __future__ import annotations

import random
import re

ODD = (
    "1e309", "-1", "1e-320", "NaN", "-Infinity", "9" * 400, "null", "true", '""', "[]", "{}",
    '"=1+1"', "\u2212", "\x00", "\ufeff", "\ud83d\ude00", ",", ";", "\t", '"', "\\", "\n", "'",
    "[[[[[[[[", "1,5", "0x10", "-", "e", "1e999", "x" * 140_000, "\x1b", "\u202e", "\u00b2",
    "0001-01-01T00:00:00", "10020714", "9" * 400 + ":00:00", "25:61:99", "inf",
)  # fmt: skip
NUMBER = re.compile(r"-?\d+(?:\.\d+)?(?:e-?\d+)?")


def spoiled(text: str, draw: random.Random) -> str:
    """The text with one to four things done to it."""
    for _ in range(draw.randint(1, 4)):
        at = draw.randrange(len(text) + 1)
        to = min(len(text), at + draw.choice((1, 2, 8, 60, 1000)))
        kind = draw.randrange(6)
        if kind == 0:
            text = text[:at] + text[to:]
        elif kind == 1:
            text = text[:to] + text[at:]
        elif kind == 2:
            text = text[:at] + draw.choice(ODD) + text[at:]
        elif kind == 3:
            text = text[:at]
        elif kind == 4:
            text = text[:at] + "".join(draw.sample(text[at:to], to - at)) + text[to:]
        elif found := list(NUMBER.finditer(text)):
            number = draw.choice(found)
            text = text[: number.start()] + draw.choice(ODD) + text[number.end() :]
    return text
