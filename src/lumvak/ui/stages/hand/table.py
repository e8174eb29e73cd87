"""The table of the cells in hand: sorted, looked through, thousands of rows."""

from __future__ import annotations

from collections.abc import Sequence
from operator import attrgetter
from typing import Any

from PyQt6.QtCore import QEvent, pyqtSignal

from lumvak.core.matching.judging import STATES, JudgedCell
from lumvak.core.said import listed
from lumvak.ui.speech import digits, spoken
from lumvak.ui.widgets.rows import Column, LazyRows, Row
from lumvak.ui.widgets.tables import RowsTable

COLUMNS = (
    Column("cell", tip="The number on its wrapper", sample="88888"),
    Column("OCV V", tip="OCV"),
    Column("OCV after days V", tip="OCV some days later"),
    Column("Ah", tip="Capacity"),
    Column("mΩ", tip="Resistance, as the lot was measured"),
    Column("g", tip="Mass"),
    Column("is", left=True, sample="rejected", tip="Whether it may be used"),
    Column("why, and what is missing", left=True, stretch=True, tip="What speaks against it"),
)
IS = 6
FIELDS = ("number", "volts", "later_v", "ah", "mohm", "grams")
FORMS = ("d", ".3f", ".3f", ".3f", ".1f", ".1f")
WORDS = {"reject": "rejected", "look": "kept", "good": "good", "unread": "not read"}
MARKS = {"reject": "crimson", "look": "amber"}
NOTHING = float("inf")


def texts(item: JudgedCell) -> tuple[str, ...]:
    """A cell as a row of the table."""
    cell = item.cell
    values = (getattr(cell, field) for field in FIELDS)
    shown = (
        "" if value is None else digits(value, form)
        for value, form in zip(values, FORMS, strict=True)
    )
    remarks = listed([text for text in (item.said, cell.remark) if text], "; ")
    return (*shown, WORDS[item.state], spoken(remarks))


def key_of(item: JudgedCell, column: int) -> tuple[Any, int]:
    """What a row is sorted by; what was not read comes last."""
    number = item.cell.number
    if column < len(FIELDS):
        value = getattr(item.cell, FIELDS[column])
        return (NOTHING if value is None else value), number
    if column == len(FIELDS):
        return STATES.index(item.state), number
    return spoken(item.said) or "~", number


class CellsTable(RowsTable):
    """Cells in hand; those chosen are marked. Rows are made as they come into view.

    ``pointed`` tells the number of the cell under the pointer, 0 once it left.
    """

    pointed = pyqtSignal(int)

    def __init__(self, name: str, by: int = 0) -> None:
        super().__init__(COLUMNS, name, sortable=True)
        self.shown: list[JudgedCell] = []
        self._by: tuple[int, bool] = (by, False)
        self._all: Sequence[JudgedCell] = ()
        # What was looked for and sorted last, and in which cells.
        self._asked: tuple[Sequence[JudgedCell], tuple[str, tuple[int, bool]]] | None = None
        self._look, self._chosen = "", frozenset[int]()
        self.sort_asked.connect(self._sort)
        self.setMouseTracking(True)
        self.entered.connect(lambda index: self.pointed.emit(self.shown[index.row()].cell.number))

    def show_cells(self, cells: Sequence[JudgedCell], look: str, chosen: frozenset[int]) -> None:
        """Show the cells that hold every word of ``look``, those of ``chosen`` numbers marked."""
        self._all, self._look, self._chosen = cells, look, chosen
        self._fill()

    def _found(self) -> list[JudgedCell]:
        """The cells that are looked for, in their order; of the same list the same as before."""
        before, asked = self._asked, (self._look, self._by)
        if before is None or before[0] is not self._all or before[1] != asked:
            words, (column, falls) = self._look.lower().split(), self._by
            found = [item for item in self._all if not words or _holds(item, words)]
            by_number = attrgetter("cell.number")
            found.sort(
                key=by_number if column == 0 else lambda item: key_of(item, column), reverse=falls
            )
            self._asked, self.shown = (self._all, asked), found
        return self.shown

    def point_at(self, number: int) -> None:
        """Mark the row of the cell that is pointed at, and bring it into view; 0 is none."""
        place = next((at for at, item in enumerate(self.shown) if item.cell.number == number), -1)
        self.point_at_row(place)
        if place >= 0 and not self.underMouse():
            self.scrollTo(self.rows_model.index(place, 0))

    def leaveEvent(self, event: QEvent | None) -> None:
        super().leaveEvent(event)
        self.pointed.emit(0)

    def _sort(self, column: int) -> None:
        falls = not self._by[1] if column == self._by[0] else False
        self._by = (column, falls)
        self._fill()

    def _fill(self) -> None:
        found, (column, falls) = self._found(), self._by
        first = next(
            (place for place, item in enumerate(found) if item.cell.number in self._chosen), -1
        )

        def row(place: int) -> Row:
            item = self.shown[place]
            mark = {IS: MARKS[item.state]} if item.state in MARKS else {}
            return Row(
                texts(item),
                value=item.cell.number,
                key=item.cell.number,
                marks=mark,
                chosen=item.cell.number in self._chosen,
                faded=item.state == "unread",
            )

        self.show_rows(LazyRows(len(found), row, first))
        self.show_sorted(column, falls)


def _holds(item: JudgedCell, words: Sequence[str]) -> bool:
    cell = item.cell
    low = f"{cell.lot} {WORDS[item.state]} {spoken(item.said)} {cell.remark} {cell.number}".lower()
    return all(word == str(item.cell.number) or word in low for word in words)
