"""Options of one cell folded into one row: the best of it, and how many more there are."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from msgspec import Struct


class FoldedRow(Struct, frozen=True):
    """A row to show: the place of the option, and how many of its cell it stands for besides.

    ``more`` is 0 where it stands for none; ``open`` where these are shown after it.
    """

    place: int
    more: int = 0
    open: bool = False


def folded(cells: Sequence[int], unfolded: Collection[int], chosen: int | None) -> list[FoldedRow]:
    """The rows of ranked options: the first of each cell, and after it those that are unfolded.

    ``cells`` (n,) tells the cell of each option. The ``chosen`` one is shown in any case.
    """
    of_cell: dict[int, list[int]] = {}
    for place, cell in enumerate(cells):
        of_cell.setdefault(cell, []).append(place)
    rows: list[FoldedRow] = []
    for cell, places in of_cell.items():
        first, *others = places
        is_open = cell in unfolded
        rows.append(FoldedRow(first, len(others), is_open))
        if is_open:
            rows.extend(map(FoldedRow, others))
        elif chosen in others:
            rows.append(FoldedRow(chosen))
    return rows
