"""Columns and rows of a table, as views say them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, overload

from msgspec import Struct, field

from lumvak.ui.speech import SPEECH


def _nothing(_: Any) -> str:
    return ""


class Column(Struct, frozen=True):
    """A column: its head, its text and the colour of it for a thing, and how much width it wants.

    ``mark`` gives a colour role, empty for none. ``sample`` is a text that there is always room
    for; a text of a column that ``wraps`` goes on in a next line.
    """

    head: str
    text: Callable[[Any], str] = _nothing
    mark: Callable[[Any], str] = _nothing
    left: bool = False
    stretch: bool = False
    tip: str = ""
    sample: str = ""
    wraps: bool = False


class Row(Struct, frozen=True):
    """A row: its texts, what it stands for, and how it is shown.

    ``marks`` gives cells a colour role by column; ``span`` joins all cells from that column on
    into one text, as the reason of a refused row; ``folds`` where it stands for others besides.
    """

    cells: tuple[str, ...]
    value: Any = None
    chosen: bool = False
    proposed: bool = False
    faded: bool = False
    marks: dict[int, str] = field(default_factory=dict)
    span: int = -1
    key: Any = None
    folds: bool = False

    def shown(self, place: int) -> str:
        """The text of a cell as it is shown; empty where there is none."""
        # As a whole: what was typed is not said otherwise where a word of it is known.
        cell = self.cells[place] if place < len(self.cells) else ""
        return SPEECH.sentences.get(cell, cell)


def row_of(columns: Sequence[Column], thing: Any, **shown: Any) -> Row:
    """The row of a thing by its columns; ``shown`` are the other fields of the row."""
    marks = {place: role for place, column in enumerate(columns) if (role := column.mark(thing))}
    return Row(tuple([column.text(thing) for column in columns]), marks=marks, **shown)


class LazyRows(Sequence[Row]):
    """Rows that are made when they are first looked at; ``chosen`` is the place of the one in hand.

    A long table paints few of its rows, so most are never made.
    """

    def __init__(self, count: int, make: Callable[[int], Row], chosen: int = -1) -> None:
        self._made: list[Row | None] = [None] * count
        self._make = make
        self.chosen = chosen

    def __len__(self) -> int:
        """How many rows there are."""
        return len(self._made)

    @overload
    def __getitem__(self, place: int) -> Row: ...

    @overload
    def __getitem__(self, place: slice) -> list[Row]: ...

    def __getitem__(self, place: int | slice) -> Row | list[Row]:
        """The row at a place, or those of a slice."""
        if isinstance(place, slice):
            return [self[at] for at in range(*place.indices(len(self)))]
        row = self._made[place]
        if row is None:
            row = self._made[place] = self._make(place % len(self._made))
        return row


def closer_by(left: int, columns: int, most: int) -> int:
    """What each of so many columns gives up in px where ``left`` px are lacking, under 0.

    A table a little too wide for its room stands closer, rather than having a bar for some px;
    where that takes more than ``most`` of each, nothing is given up.
    """
    closer = max(0, -(left // columns))
    return closer if closer <= most else 0
