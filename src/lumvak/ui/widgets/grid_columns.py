"""The columns of a grid: quantities, counts, words, each with how it is read and spelled."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from msgspec import Struct

from lumvak.core.units import COUNT, Kind, QuantityError
from lumvak.ui.speech import parse, spell, worded

Record = dict[str, Any]


class GridColumn(Struct, frozen=True):
    """A column: its head, the field it edits, and how a text becomes a value and back.

    ``read`` takes the text and the record of the row, raises QuantityError; ``words`` are the
    texts to choose from, or a function that gives them; ``mark`` gives a colour role, or none.
    """

    head: str
    field: str
    read: Callable[[str, Record], Any]
    spell: Callable[[Any, Record], str]
    words: Sequence[str] | Callable[[Record], Sequence[str]] = ()
    hint: Callable[[Record], str] | None = None
    wide: bool = False
    editable: bool = True
    left: bool | None = None
    mark: Callable[[Record], str] | None = None


def quantity_column(
    head: str,
    field: str,
    kind: Kind,
    optional: bool = False,
    hint: Callable[[Record], str] | None = None,
) -> GridColumn:
    """A column of quantities of one kind; an ``optional`` one may be empty, and shows ``hint``."""
    return GridColumn(
        head,
        field,
        lambda text, _: None if optional and not text else parse(text, kind),
        lambda value, _: "" if value is None else spell(value, kind),
        hint=hint,
    )


def count_column(head: str, field: str) -> GridColumn:
    """A column of whole numbers."""
    return GridColumn(
        head, field, lambda text, _: int(parse(text, COUNT)), lambda value, _: str(value)
    )


def text_column(head: str, field: str, *, wide: bool = False) -> GridColumn:
    """A column of words, taken as they are typed."""
    return GridColumn(
        head, field, lambda text, _: text, lambda value, _: str(value), wide=wide, left=True
    )


def words_column(
    head: str, field: str, spelled: Mapping[Any, str], *, wide: bool = False
) -> GridColumn:
    """A column of words that stand for values."""

    def read(text: str, _: Record) -> Any:
        for value, word in spelled.items():
            if word.lower() == text.strip().lower():
                return value
        raise QuantityError(
            worded("“{}” is none; accepted: {}", text[:40], ", ".join(spelled.values()))
        )

    return GridColumn(
        head, field, read, lambda value, _: spelled[value], words=tuple(spelled.values()), wide=wide
    )


def shown_column(
    head: str, field: str, *, wide: bool = False, left: bool | None = None
) -> GridColumn:
    """A column that is only looked at."""
    return GridColumn(
        head, field, _not_typed, lambda value, _: str(value), wide=wide, editable=False, left=left
    )


def _not_typed(text: str, _: Record) -> Any:
    raise QuantityError("this cannot be typed into")
