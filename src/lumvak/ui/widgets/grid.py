"""A small table to type into: records, one row each, every cell read as people type it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtGui import QColor, QGuiApplication, QKeyEvent, QKeySequence, QResizeEvent
from PyQt6.QtWidgets import (
    QAbstractItemDelegate,
    QAbstractItemView,
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from lumvak.core.units import QuantityError
from lumvak.ui.speech import in_words, said_of, worded
from lumvak.ui.widgets.grid_columns import GridColumn, Record
from lumvak.ui.widgets.keys import is_return
from lumvak.ui.widgets.measured import metrics, wrapped_height
from lumvak.ui.widgets.rows import closer_by
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, tip

GAP = 27
# A column of names is as wide as they are, up to this at 100 %; it never gets narrower for others.
NAME = 130
# What columns give up of their room before a grid is scrolled sideways.
CLOSER_PX = 6
MOST_IN_FULL = 20


def pasted_rows(text: str, columns: int) -> list[list[str]]:
    """Rows of so many texts from tabs or semicolons; what lacks at the end is empty.

    Empty lines are passed over.
    """
    rows = (
        [item.strip() for item in line.replace(";", "\t").split("\t")] for line in text.splitlines()
    )
    return [[*cells, *[""] * columns][:columns] for cells in rows if any(cells)]


def _side(column: GridColumn) -> Qt.AlignmentFlag:
    """Quantities stand right, words left."""
    left = bool(column.words) or column.wide if column.left is None else column.left
    side = Qt.AlignmentFlag.AlignLeft if left else Qt.AlignmentFlag.AlignRight
    return side | Qt.AlignmentFlag.AlignVCenter


class _Delegate(QStyledItemDelegate):
    """Editors of a grid: a line, or a list of words where the column has them."""

    def __init__(self, grid: Grid) -> None:
        super().__init__(grid)
        self._grid = grid

    def initStyleOption(self, option: QStyleOptionViewItem | None, index: QModelIndex) -> None:
        super().initStyleOption(option, index)
        # Words to choose from are shown in the language in force; what was typed stays as it is.
        if option is not None and (
            self._grid.words(index.row(), index.column()) or not self._grid.typed(index.column())
        ):
            option.text = in_words(option.text or "")

    def createEditor(
        self, parent: QWidget | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> QWidget | None:
        words = self._grid.words(index.row(), index.column())
        if not words:
            return super().createEditor(parent, option, index)
        box = QComboBox(parent)
        for word in words:
            box.addItem(in_words(word), word)
        box.activated.connect(lambda _: self.commitData.emit(box))
        return box

    def setEditorData(self, editor: QWidget | None, index: QModelIndex) -> None:
        if isinstance(editor, QComboBox):
            editor.setCurrentIndex(editor.findData(str(index.data() or "")))
        else:
            super().setEditorData(editor, index)

    def setModelData(self, editor: QWidget | None, model: Any, index: QModelIndex) -> None:
        if isinstance(editor, QComboBox):
            model.setData(index, editor.currentData())
        else:
            super().setModelData(editor, model, index)


class Grid(QWidget):
    """Rows of records. ``take`` is called with all records after a change.

    ``take`` returns what was wrong, or an empty text; a cell that cannot be read or is refused
    stays as typed, is marked and explained, and changes nothing.
    """

    def __init__(
        self,
        name: str,
        columns: Sequence[GridColumn],
        take: Callable[[list[Record]], str],
        blank: Callable[[], Record],
        rows_shown: tuple[int, int] = (2, 6),
        paste: Callable[[str], list[Record]] | None = None,
        fixed: bool = False,
    ) -> None:
        super().__init__()
        self._fixed, self._locked = fixed, False
        self._columns = list(columns)
        self._take, self._blank, self._paste = take, blank, paste
        self._least_rows, self._most_rows = rows_shown
        self.records: list[Record] = []
        self._spelling = ""
        self._filling = False
        self._fills = 0
        self.table = _Table(self)
        self.table.setColumnCount(len(columns))
        for place, column in enumerate(columns):
            head = QTableWidgetItem(in_words(column.head))
            head.setTextAlignment(_side(column))
            self.table.setHorizontalHeaderItem(place, head)
        self.table.setAccessibleName(in_words(name))
        self.table.setItemDelegate(_Delegate(self))
        self.table.itemChanged.connect(self._changed)
        self.add = QPushButton("add a row")
        self.remove = QPushButton("remove it")
        self.remove.setToolTip(in_words("Remove the row that is marked (Ctrl+Delete)"))
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setFont(THEME.font("note", table=True))
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.foot = QHBoxLayout()
        self.foot.addWidget(self.add)
        self.foot.addWidget(self.remove)
        self.foot.addStretch(1)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(2))
        outer.addWidget(self.table)
        outer.addWidget(self.problem)
        outer.addLayout(self.foot)
        self.add.setVisible(not fixed)
        self.remove.setVisible(not fixed)
        self.add.clicked.connect(self.add_row)
        self.remove.clicked.connect(self.remove_row)

    def typed(self, place: int) -> bool:
        """Whether what stands in a column is typed."""
        return self._columns[place].editable

    def words(self, row: int, place: int) -> Sequence[str]:
        """The words to choose from in a cell; empty where text is typed."""
        words = self._columns[place].words
        return words(self.records[row]) if callable(words) else words

    def show_records(self, records: Sequence[Record], spelling: str = "") -> None:
        """Show these records; nothing is touched where they are shown already.

        ``spelling`` is whatever else decides how they are spelled, such as a unit.
        """
        fresh = [dict(record) for record in records]
        if (fresh, spelling) == (self.records, self._spelling) and self.table.rowCount():
            return
        self.records, self._spelling = fresh, spelling
        self._fill()

    def set_locked(self, locked: bool) -> None:
        """Let nothing be typed, or let it again."""
        if locked != self._locked:
            self._locked = locked
            self.add.setEnabled(not locked)
            self.remove.setEnabled(not locked)
            self._fill()

    def _fill(self) -> None:
        self._filling = True
        self._fills += 1
        self.table.setRowCount(len(self.records))
        for row, record in enumerate(self.records):
            for place, column in enumerate(self._columns):
                text = column.spell(record.get(column.field), record)
                hinted = not text and column.hint is not None
                item = self.table.item(row, place)
                if item is None:
                    item = QTableWidgetItem()
                    self.table.setItem(row, place, item)
                item.setText(text)
                item.setForeground(THEME.colour("ink"))
                item.setToolTip(tip(text) if column.wide else "")
                flags = Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEnabled
                if column.editable and not self._locked:
                    flags |= Qt.ItemFlag.ItemIsEditable
                else:
                    item.setForeground(THEME.colour("soft"))
                item.setFlags(flags)
                if column.mark is not None and (role := column.mark(record)):
                    item.setForeground(THEME.colour(role))
                if hinted and column.hint is not None:
                    item.setText(column.hint(record))
                    item.setForeground(THEME.colour("soft"))
                    item.setToolTip(in_words("assumed; nothing was said"))
                item.setTextAlignment(_side(column))
        self._filling = False
        self._say("")
        self.fit_height()
        self.table.spread()

    def fit_height(self) -> None:
        """As high as its rows, up to the most; one with very many rows fills what there is."""
        head = self.table.horizontalHeader()
        assert head is not None
        least = head.sizeHint().height() + self._least_rows * THEME.px(GAP) + 2
        bar = self.table.horizontalScrollBar()
        if bar is not None and self.table.over_wide:
            least += bar.sizeHint().height()
        if self._most_rows > MOST_IN_FULL:
            self.table.setMinimumHeight(least)
            return
        rows = min(max(len(self.records), self._least_rows), self._most_rows)
        self.table.setFixedHeight(least + (rows - self._least_rows) * THEME.px(GAP))

    def _say(self, problem: str) -> None:
        self.problem.setText(problem)
        self.problem.setVisible(bool(problem))

    def _changed(self, item: QTableWidgetItem) -> None:
        if self._filling:
            return
        column = self._columns[item.column()]
        records = [dict(record) for record in self.records]
        record = records[item.row()]
        text = item.text().strip()
        shown = column.spell(record.get(column.field), record) or (
            column.hint(record) if column.hint is not None else ""
        )
        if text == shown:
            return
        try:
            value = column.read(text, record)
        except QuantityError as error:
            self._refuse(item, said_of(error))
            return
        record.update(value if isinstance(value, Mapping) else {column.field: value})
        if problem := self._hand_over(records):
            self._refuse(item, problem)

    def _hand_over(self, records: list[Record]) -> str:
        """Give all records to ``take``; returns what was wrong with them."""
        before = self._fills
        problem = self._take(records)
        if not problem and self._fills == before:
            # Nobody has shown fresh records meanwhile, so what was typed is spelled anew.
            self.records = records
            self._fill()
        return problem

    def _refuse(self, item: QTableWidgetItem, problem: str) -> None:
        self._filling = True
        item.setForeground(QColor(THEME.colours.crimson))
        self._filling = False
        self._say(problem)

    @property
    def refused(self) -> bool:
        """Whether a cell stands as it was typed, and was refused."""
        return not self.problem.isHidden()

    def take_back(self) -> None:
        """Show what is in force again in place of what was refused."""
        self._fill()

    def empty_cell(self) -> None:
        """Empty the marked cell, as if its text had been deleted."""
        item = self.table.currentItem()
        if item is not None and not self._locked and item.flags() & Qt.ItemFlag.ItemIsEditable:
            item.setText("")

    def add_row(self) -> None:
        """Add a row after the marked one and begin to type into it."""
        if self._fixed or self._locked:
            return
        place = self.table.currentRow() + 1 if self.table.currentRow() >= 0 else len(self.records)
        records = [*self.records[:place], self._blank(), *self.records[place:]]
        if problem := self._hand_over(records):
            self._say(problem)
            return
        self.table.setCurrentCell(place, 0)
        self.table.setFocus()

    def remove_row(self) -> None:
        """Remove the marked row."""
        place = self.table.currentRow()
        if self._fixed or self._locked or not 0 <= place < len(self.records):
            return
        records = [*self.records[:place], *self.records[place + 1 :]]
        if problem := self._hand_over(records):
            self._say(problem)
            return

    def paste(self) -> None:
        """Take rows from the clipboard in place of all that are there."""
        clipboard = QGuiApplication.clipboard()
        text = clipboard.text() if clipboard is not None else ""
        if self._paste is None or self._locked or not text.strip():
            return
        try:
            records = self._paste(text)
        except QuantityError as error:
            self._say(worded("Not pasted: {}", error))
            return
        if problem := self._hand_over(records):
            self._say(worded("Not pasted: {}", problem))


class _Table(QTableWidget):
    """The table of a grid, in the look of the window."""

    def __init__(self, grid: Grid) -> None:
        super().__init__()
        self._grid = grid
        # Whether a bar moves it sideways.
        self.over_wide = False
        self._closing = False
        self.setFont(THEME.font("table", table=True))
        self.setShowGrid(True)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setHorizontalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        # Tab goes on to what comes after the grid; the arrows move in it.
        self.setTabKeyNavigation(False)
        self.setEditTriggers(
            QAbstractItemView.EditTrigger.DoubleClicked
            | QAbstractItemView.EditTrigger.AnyKeyPressed
            | QAbstractItemView.EditTrigger.SelectedClicked
            | QAbstractItemView.EditTrigger.EditKeyPressed
        )
        down, across = self.verticalHeader(), self.horizontalHeader()
        assert down is not None and across is not None
        down.hide()
        down.setDefaultSectionSize(THEME.px(GAP))
        down.setMinimumSectionSize(THEME.px(GAP))
        across.setHighlightSections(False)
        across.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)

    def spread(self) -> None:
        """Share the width out: columns as wide as their texts, the wide ones take the rest."""
        viewport, across = self.viewport(), self.horizontalHeader()
        if viewport is None or across is None:
            return
        columns = self._grid._columns
        widths = [
            max(self.sizeHintForColumn(place), across.sectionSizeHint(place)) + THEME.px(8)
            for place in range(len(columns))
        ]
        spare = viewport.width() - sum(widths)
        wide = [place for place, column in enumerate(columns) if column.wide] or [
            *range(len(columns))
        ]
        for place in wide:
            room = widths[place] + spare // len(wide)
            widths[place] = max(room, min(widths[place], THEME.px(NAME)))
        left = viewport.width() - sum(widths)
        closer = closer_by(left, len(widths), THEME.px(CLOSER_PX))
        widths = [width - closer for width in widths]
        for place, width in enumerate(widths):
            self.setColumnWidth(place, width)
        self._fit_rows(wide, widths)
        over = sum(widths) > viewport.width()
        if over != self.over_wide:
            self.over_wide = over
            self._grid.fit_height()

    def _fit_rows(self, wide: list[int], widths: list[int]) -> None:
        """Rows whose text goes over lines are as high as it; only where rows are fixed, so few."""
        if not self._grid._fixed:
            return
        line, pad = metrics("table", table=True).height(), THEME.px(10)
        for row in range(self.rowCount()):
            cells = [(self.item(row, place), widths[place] - pad) for place in wide]
            tall = max(
                wrapped_height(item.text(), room, "table", table=True)
                for item, room in cells
                if item is not None
            )
            self.setRowHeight(row, THEME.px(GAP) + max(tall - line, 0))

    def go_down(self) -> None:
        """On to the next row, in the same column."""
        self.setCurrentCell(min(self.currentRow() + 1, self.rowCount() - 1), self.currentColumn())

    def closeEditor(self, editor: QWidget | None, hint: QAbstractItemDelegate.EndEditHint) -> None:
        """After Enter go down, unless it was refused; Tab leaves the last cell."""
        hints = QAbstractItemDelegate.EndEditHint
        last = (self.rowCount() - 1, self.columnCount() - 1)
        leaves = hint == hints.EditNextItem and (self.currentRow(), self.currentColumn()) == last
        self._closing = True
        super().closeEditor(editor, hints.NoHint if leaves else hint)
        self._closing = False
        if leaves:
            self.focusNextChild()
        elif hint == hints.SubmitModelCache and not self._grid.refused:
            self.go_down()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.spread()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.matches(QKeySequence.StandardKey.Paste):
            self._grid.paste()
        elif event is not None and event.key() == Qt.Key.Key_Delete:
            if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
                self._grid.remove_row()
            else:
                self._grid.empty_cell()
        elif event is not None and event.key() == Qt.Key.Key_Escape and self._grid.refused:
            self._grid.take_back()
        elif event is not None and event.key() == Qt.Key.Key_Insert:
            self._grid.add_row()
        elif is_return(event):
            # An editor passes Enter on to the table as it closes.
            if self.state() != QAbstractItemView.State.EditingState and not self._closing:
                self.go_down()
        elif event is not None and event.key() == Qt.Key.Key_Space:
            # As F2 does; where a click is about to open the editor it opens once.
            self.edit(self.currentIndex(), QAbstractItemView.EditTrigger.EditKeyPressed, event)
        else:
            super().keyPressEvent(event)
