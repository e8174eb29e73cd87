"""Tables of spreadsheets: what parts their columns, and texts that are not run as a formula."""

from __future__ import annotations

import csv
import re
from collections.abc import Iterable, Iterator, Sequence

from lumvak.files.problem import FileProblem

# Characters that make a spreadsheet run a text cell as a formula.
RISKY = ("=", "+", "-", "@", "\t", "\r")
GUARD = "'"
_NUMBER = re.compile(r"[+-]?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?")


def rows_of(
    lines: Iterable[str], where: str, separator: str, first: int = 1
) -> Iterator[list[str]]:
    """The cells of each line, of which the ``first`` has that number.

    Raises FileProblem where a cell is longer than any that is meant.
    """
    rows = csv.reader(lines, delimiter=separator)
    while True:
        try:
            row = next(rows)
        except StopIteration:
            return
        except csv.Error:
            raise FileProblem(
                f"{where}, line {first + rows.line_num - 1}: a cell of more than "
                f"{csv.field_size_limit()} characters, or a quote that is not closed"
            ) from None
        yield row


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
