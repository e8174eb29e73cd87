"""How high a table is: as its rows, within what there is room for."""

from __future__ import annotations

from PyQt6.QtWidgets import QSizePolicy

from lumvak.ui.widgets.tables import RowsTable
from lumvak.ui.widgets.theme import THEME


def _height(rows: int) -> int:
    """Height in px of a head and so many rows."""
    return THEME.px(34 + 27 * rows + 4)


def keep_rows(table: RowsTable, rows: int) -> None:
    """Never less high than its head and so many rows; a page that is too low is scrolled."""
    table.setMinimumHeight(_height(rows))
    policy = table.sizePolicy()
    policy.setVerticalPolicy(QSizePolicy.Policy.Ignored)
    table.setSizePolicy(policy)


def fit_height(
    table: RowsTable, rows: int, most: int, *, least: int = 0, firm: bool = False
) -> None:
    """As high as its rows where there is room, at most so many of them; ``firm``: always.

    ``least`` of them are in view at any rate, for what is around it is scrolled then.
    """
    height = _height(max(1, min(rows, most)))
    table.set_height(height)
    table.setMinimumHeight(height if firm else _height(min(rows, least)) if least else 0)
