"""Figures that a sentence mentions: where their values stand in its text."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Mapping, Sequence

from msgspec import Struct

from lumvak.core.figures.figure import Figure, walk
from lumvak.core.units import say, say_about, say_delay

# A value begins at a digit that no letter, digit or sign of a decimal stands before.
VALUE = re.compile(r"(?<![\w.,])[\u2212-]?\d")


class Mention(Struct, frozen=True):
    """Characters ``start`` to ``end`` of a text, and the key of the figure that stands there."""

    start: int
    end: int
    key: str


def mentioned(
    text: str, figures: Mapping[str, Figure], about: Sequence[str]
) -> tuple[Mention, ...]:
    """Where figures stand in a sentence that is ``about`` some of them, in order.

    A value is first looked for in ``about`` and what it was made from, nearest first; where none of
    these says it, among all figures, and only where no two of them say the same.
    """
    if VALUE.search(text) is None:
        return ()
    own: dict[str, str] = {}
    for figure in walk([figures[key] for key in about if key in figures]):
        for spelled in spellings(figure):
            own.setdefault(spelled, figure.key)
    found = list(_places(text, own))
    others: dict[str, set[str]] = {}
    for key, figure in figures.items():
        for spelled in spellings(figure):
            if spelled not in own:
                others.setdefault(spelled, set()).add(key)
    taken = [(item.start, item.end) for item in found]
    alone = {spelled: keys.copy().pop() for spelled, keys in others.items() if len(keys) == 1}
    found += [
        item for item in _places(text, alone)
        if all(item.end <= start or item.start >= end for start, end in taken)
    ]  # fmt: skip
    return tuple(sorted(found, key=lambda item: item.start))


def spellings(figure: Figure) -> tuple[str, ...]:
    """A figure's value as a sentence may have it; none for words, and for bare numbers.

    A number without a unit says too little to be known by: names of parts hold such. Drops are
    told in millivolts too, and times as people say them.
    """
    value = figure.value
    if isinstance(value, bool | str) or value is None or figure.unit in ("", "money"):
        return ()
    plain = say(value, figure.unit)
    if figure.unit == "V":
        return plain, say(value * 1e3, "mV")
    if figure.unit == "s" and 0.0 < value < math.inf:
        return plain, say_about(value), say_delay(value)
    return (plain,)


def _places(text: str, by_words: Mapping[str, str]) -> Iterator[Mention]:
    """Every place where one of the words stands by itself, the longest of them there."""
    at = 0
    while (begun := VALUE.search(text, at)) is not None:
        start = begun.start()
        at = begun.end()
        here = (words for words in by_words if text.startswith(words, start))
        longest = max((words for words in here if _ends(text, start + len(words))),
                      key=len, default="")  # fmt: skip
        if longest:
            at = start + len(longest)
            yield Mention(start, at, by_words[longest])


def _ends(text: str, place: int) -> bool:
    """Whether nothing goes on at a place that would make it another value."""
    rest = text[place:]
    return not re.match(r"\w|[.,]\d", rest)
