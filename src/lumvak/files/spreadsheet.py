"""Tables of spreadsheets: what parts their columns, and texts that are not run as a formula."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence

# Characters that make a spreadsheet run a text cell as a formula.
RISKY = ("=", "+", "-", "@", "\t", "\r")
GUARD = "'"
_NUMBER = re.compile(r"[+-]?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?")


def harmless(text: str) -> str:
    """The text with a guard before it where it would run, or where it begins with one."""
    return GUARD + text if text.startswith((*RISKY, GUARD)) else text


def unguarded(text: str) -> str:
    """The text that ``harmless`` was given."""
    return text[1:] if text.startswith(GUARD) and harmless(text[1:]) == text else text


def harmless_row(cells: Iterable[object]) -> list[object]:
    """A row with its texts made harmless; numbers spelled as text stay numbers."""
    return [
        harmless(cell) if isinstance(cell, str) and not _NUMBER.fullmatch(cell) else cell
        for cell in cells
    ]


def separator_of(lines: Sequence[str]) -> str:
    """The separator that stands in every line; semicolon and tab before the comma."""
    for mark in (";", "\t"):
        if all(mark in line for line in lines):
            return mark
    return ","
