"""Tables of the window: rows of text with a row in hand, refused rows and figures to click."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QSizePolicy, QTableView

from lumvak.ui.speech import in_words
from lumvak.ui.widgets.keys import is_enter, step_of
from lumvak.ui.widgets.marks import draw_mark
from lumvak.ui.widgets.measured import elided, metrics, text_width, wrapped_height
from lumvak.ui.widgets.rows import Column, LazyRows, Row, closer_by
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import WRAP, tip

# So many rows decide how wide the columns are.
FITTED = 96
# So many rows from the top go on in more lines where their text is long.
WRAPPED = 200
# Once fitted, so many are looked at again after an edit.
SEEN = 24
# Beside a text in its cell, what columns give up of it and of the room they have before a table is
# scrolled sideways, the least width of a column that takes what is left, and of any.
PAD_PX, CLOSER_PX, STRETCHED_PX, LEAST_PX = 6, 5, 114, 24
MARKED = {"crimson": "stop", "amber": "warn"}
ACROSS = Qt.Orientation.Horizontal
ROW_ROLE = Qt.ItemDataRole.UserRole + 1


class RowsModel(QAbstractTableModel):
    """Rows of text for a view; replaced whole."""

    def __init__(self, columns: Sequence[Column], view: QTableView) -> None:
        """It lives as long as its ``view``, which would choose from nothing without it."""
        super().__init__(view)
        self.columns = list(columns)
        self.rows: Sequence[Row] = []
        self.proposes = False
        self.sorted_by = (-1, False)

    def replace(self, rows: Sequence[Row]) -> None:
        """Show these rows; only what changed is told where the count stays."""
        looked_at = rows[: SEEN if isinstance(rows, LazyRows) else FITTED]
        self.proposes = any(row.proposed for row in looked_at)
        if len(rows) == len(self.rows):
            before, self.rows = self.rows, rows
            changed = list(range(len(rows)))
            if not isinstance(rows, LazyRows):
                changed = [place for place in changed if rows[place] != before[place]]
            if changed:
                last = self.index(changed[-1], len(self.columns) - 1)
                self.dataChanged.emit(self.index(changed[0], 0), last)
            return
        self.beginResetModel()
        self.rows = rows
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return len(self.rows)

    def columnCount(self, parent: QModelIndex | None = None) -> int:
        return len(self.columns)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        row = self.rows[index.row()]
        if role == ROW_ROLE:
            return row
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole):
            place = index.column()
            text = row.shown(place)
            return text if role == Qt.ItemDataRole.DisplayRole else tip(text)
        return None

    def headerData(
        self,
        section: int,
        orientation: Qt.Orientation,
        role: int = Qt.ItemDataRole.DisplayRole,
    ) -> Any:
        if orientation != Qt.Orientation.Horizontal:
            return None
        column = self.columns[section]
        if role == Qt.ItemDataRole.DisplayRole:
            place, falling = self.sorted_by
            return in_words(column.head) + (" ▾" if falling else " ▴") * (section == place)
        if role == Qt.ItemDataRole.ToolTipRole:
            return in_words(column.tip) or None
        if role == Qt.ItemDataRole.TextAlignmentRole:
            side = Qt.AlignmentFlag.AlignLeft if column.left else Qt.AlignmentFlag.AlignRight
            return int(side | Qt.AlignmentFlag.AlignVCenter)
        return None


class RowsTable(QTableView):
    """A table of Rows. ``picked`` when a row is chosen, ``explained`` with its column's place.

    A row that folds is ``turned`` by a click on its ``fold_column``, or by Right and Left: its
    value, and whether to unfold it, ``None`` for the other way round.
    """

    picked = pyqtSignal(object)
    turned = pyqtSignal(object, object)
    cell_clicked = pyqtSignal(object, int)
    sort_asked = pyqtSignal(int)

    def __init__(self, columns: Sequence[Column], name: str, sortable: bool = False) -> None:
        super().__init__()
        self.rows_model = RowsModel(columns, self)
        self.fold_column = -1
        self._pointed = -1
        self._sortable = sortable
        self._widths: list[int] = []
        self._pad = THEME.px(PAD_PX)
        self._height = 0
        # Rows whose text goes on in more lines, with their heights.
        self._tall: dict[int, int] = {}
        # As high as all of it, for what is around it is scrolled.
        self.whole = False
        self.setModel(self.rows_model)
        self.setAccessibleName(in_words(name))
        self.setShowGrid(False)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setHorizontalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerItem)
        self.setTabKeyNavigation(False)
        self.setWordWrap(False)
        down, across = self.verticalHeader(), self.horizontalHeader()
        assert down is not None and across is not None
        down.hide()
        down.setDefaultSectionSize(THEME.px(27))
        down.setMinimumSectionSize(THEME.px(22))
        across.setHighlightSections(False)
        across.setSectionsClickable(sortable)
        if sortable:
            across.sectionClicked.connect(self.sort_asked)
        across.setMinimumSectionSize(THEME.px(LEAST_PX))
        for place in range(len(columns)):
            across.setSectionResizeMode(place, QHeaderView.ResizeMode.Fixed)
        self.clicked.connect(self._clicked)

    def set_height(self, height: int) -> None:
        """Ask for a height in px, and take no more."""
        self.setMaximumHeight(height)
        if height != self._height:
            self._height = height
            self.updateGeometry()

    def sizeHint(self) -> QSize:
        hint = super().sizeHint()
        return QSize(hint.width(), self._height) if self._height else hint

    def set_columns(self, columns: Sequence[Column]) -> None:
        """Have other heads over as many columns; the rows are to be shown anew."""
        self.rows_model.columns = list(columns)
        self._widths = []
        self.rows_model.headerDataChanged.emit(ACROSS, 0, len(columns) - 1)

    def show_sorted(self, place: int, falling: bool) -> None:
        """Mark the column that the rows are sorted by."""
        self.rows_model.sorted_by = (place, falling)
        self.rows_model.headerDataChanged.emit(
            Qt.Orientation.Horizontal, 0, len(self.rows_model.columns) - 1
        )

    def show_rows(self, rows: Sequence[Row]) -> None:
        """Show these rows, each column as wide as the widest text of the first few dozen."""
        known = len(rows) == len(self.rows_model.rows) and bool(self._widths)
        self.rows_model.replace(rows)
        self._fit(rows[: SEEN if known else FITTED], grow=known)

    def _fit(self, rows: Sequence[Row], *, grow: bool) -> None:
        before, self._widths = self._widths, []
        for place, column in enumerate(self.rows_model.columns):
            head = str(self.rows_model.headerData(place, ACROSS))
            widest = max(_bold(head), _bold(column.sample))
            texts = {
                row.shown(place)
                for row in rows
                if place < len(row.cells) and (row.span < 0 or place < row.span)
            }
            # Figures are tabular, so the longest text is the widest but for a few letters.
            for text in sorted(texts, key=len)[-3:]:
                widest = max(widest, _bold(text))
            marks = any(row.marks.get(place) in MARKED for row in rows)
            marked = THEME.px(14) * ((place == 0 and self.rows_model.proposes) + marks)
            width = max(widest + THEME.px(14) + marked, THEME.px(LEAST_PX))
            # While the rows stay the same in number a column never shrinks: nothing jumps.
            self._widths.append(max(width, before[place]) if grow else width)
        if self._widths != before:
            self._spread()
        else:
            self._wrap()

    def _spread(self) -> None:
        """Share out the width: the stretching column takes what is left, but stays readable."""
        across, viewport = self.horizontalHeader(), self.viewport()
        if across is None or viewport is None or not self._widths:
            return
        columns, widths = self.rows_model.columns, self._widths
        left = viewport.width() - sum(widths)
        least = [min(width, THEME.px(STRETCHED_PX)) for width in widths]
        gives = sum(
            width - small
            for width, small, column in zip(widths, least, columns, strict=True)
            if column.stretch
        )
        closer = closer_by(left + gives, len(widths), THEME.px(CLOSER_PX))
        self._pad = THEME.px(PAD_PX) - closer // 2
        left += closer * len(widths)
        for place, column in enumerate(columns):
            width = widths[place] - closer
            if column.stretch:
                width = max(width + left, least[place] - closer)
            if across.sectionSize(place) != width:
                across.resizeSection(place, width)
        self._wrap()

    def _wrap(self) -> None:
        """Give rows the lines that their long texts need: reasons, and columns that wrap."""
        columns = self.rows_model.columns
        wraps = [place for place, column in enumerate(columns) if column.wraps]
        tall: dict[int, int] = {}
        rows = self.rows_model.rows
        for at, row in enumerate(rows[: SEEN if isinstance(rows, LazyRows) else WRAPPED]):
            for place in (row.span,) if row.span >= 0 else wraps:
                text = row.shown(place)
                width = self._room(row, place)
                if text and text_width(text, "table", table=True) > width > 0:
                    high = wrapped_height(text, width, "table", table=True)
                    tall[at] = max(tall.get(at, 0), high + THEME.px(8))
        for at in tall.keys() | self._tall.keys():
            self.setRowHeight(at, tall.get(at, THEME.px(27)))
        self._tall = tall
        if self.whole:
            more = sum(high - THEME.px(27) for high in tall.values())
            height = _height(max(len(rows), 1)) + more
            if height != self.minimumHeight():
                self.set_height(height)
                self.setMinimumHeight(height)

    def _room(self, row: Row, place: int) -> int:
        """Width in px of a text that may go on in a next line."""
        viewport = self.viewport()
        end = self.columnViewportPosition(place) + self.columnWidth(place)
        if place == row.span and viewport is not None:
            end = max(viewport.width(), end)
        return end - self.columnViewportPosition(place) - 2 * self._pad

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._spread()

    def row_at(self, index: QModelIndex) -> Row:
        """The row behind an index."""
        return self.rows_model.rows[index.row()]

    def point_at_row(self, place: int) -> None:
        """Mark a row as pointed at; -1 is none."""
        viewport = self.viewport()
        if place != self._pointed and viewport is not None:
            self._pointed = place
            viewport.update()

    def chosen_row(self) -> int:
        """Place of the row in hand, or -1."""
        rows = self.rows_model.rows
        if isinstance(rows, LazyRows):
            return rows.chosen
        for place, row in enumerate(self.rows_model.rows):
            if row.chosen:
                return place
        return -1

    def show_chosen(self) -> None:
        """Bring the row in hand into view."""
        place = self.chosen_row()
        if place >= 0:
            # Rows that came a moment ago are laid out later, and could not be scrolled to.
            self.executeDelayedItemsLayout()
            self.updateGeometries()
            self.scrollTo(self.rows_model.index(place, 0))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the rows that are seen, row by row.

        Going through a delegate cell by cell costs three times as much.
        """
        viewport = self.viewport()
        if event is None or viewport is None or not self.rows_model.rows:
            return
        painter = QPainter(viewport)
        seen = event.rect()
        first, last = self.rowAt(seen.top()), self.rowAt(seen.bottom())
        count = len(self.rows_model.rows)
        columns = [
            (place, float(self.columnViewportPosition(place)), self.columnWidth(place))
            for place in range(len(self.rows_model.columns))
        ]
        columns = [
            item for item in columns if item[1] <= seen.right() and item[1] + item[2] > seen.left()
        ]
        picked = self.selectionModel()
        taken = {index.row() for index in picked.selectedRows()} if picked is not None else set()
        at = self.currentIndex() if self.hasFocus() else QModelIndex()
        for place in range(max(first, 0), (last if last >= 0 else count - 1) + 1):
            top, high = float(self.rowViewportPosition(place)), float(self.rowHeight(place))
            self._paint_row(painter, place, QRectF(0.0, top, 0.0, high), columns, place in taken)
            if at.row() == place:
                painter.setPen(THEME.colour("verdigris"))
                painter.drawRect(QRectF(self.visualRect(at)).adjusted(0, 0, -1, -1))

    def _paint_row(
        self,
        painter: QPainter,
        at: int,
        line: QRectF,
        columns: list[tuple[int, float, int]],
        taken: bool,
    ) -> None:
        """Tint for the row in hand, a ring for the proposed one, faint if refused."""
        row = self.rows_model.rows[at]
        left, right = columns[0][1], columns[-1][1] + columns[-1][2]
        across = QRectF(left, line.top(), right - left, line.height())
        if row.chosen or taken:
            painter.fillRect(across, THEME.colour("tint" if row.chosen else "rule"))
        if row.chosen and columns[0][0] == 0:
            edge = QRectF(left, line.top(), THEME.px(3), line.height())
            painter.fillRect(edge, THEME.colour("copper"))
        if at == self._pointed:
            painter.setPen(THEME.colour("ink"))
            painter.drawRect(across.adjusted(0, 0, -1, -1))
        painter.setPen(THEME.colour("rule"))
        painter.drawLine(across.bottomLeft(), across.bottomRight())
        for place, x, width in columns:
            if 0 <= row.span < place:
                break
            self._paint_text(painter, QRectF(x, line.top(), width, line.height()), row, place)

    def _paint_text(self, painter: QPainter, rect: QRectF, row: Row, place: int) -> None:
        text = row.shown(place)
        column, viewport = self.rows_model.columns[place], self.viewport()
        pad = self._pad
        left, right = rect.left() + pad, rect.right() - pad
        role = row.marks.get(place, "soft" if row.faded else "ink")
        strong = row.chosen and place == 0
        if place == 0 and row.proposed:
            _draw_proposed(painter, left, rect.center().y())
        if place == 0 and self.rows_model.proposes:
            left += THEME.px(14)
        painter.setFont(THEME.font("table", strong=strong, table=True))
        painter.setPen(THEME.colour(role))
        if role in MARKED and not row.faded:
            wide = text_width(text, "table", strong=strong, table=True)
            x = left + wide + THEME.px(8) if column.left else right - wide - THEME.px(8)
            draw_mark(painter, x, rect.center().y(), MARKED[role], THEME.px(4))
        spans = place == row.span
        row_is_tall = rect.height() > THEME.px(27) + 1
        if spans and viewport is not None:
            right = viewport.width() - pad
        if row_is_tall and (spans or (column.wraps)):
            box = QRectF(left, rect.top(), right - left, rect.height())
            painter.drawText(box, WRAP | int(Qt.AlignmentFlag.AlignVCenter), text)
            return
        shown = elided(text, int(right - left), "table", strong=strong, table=True)
        font = metrics("table", strong=strong, table=True)
        if not (column.left or spans):
            left = right - text_width(shown, "table", strong=strong, table=True)
        base = rect.top() + (rect.height() - font.height()) / 2.0 + font.ascent()
        painter.drawText(QPointF(left, round(base)), shown)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """The focus is seen at once: on the row in hand, else on the first.

        A click comes to a row of its own, under which nothing may move.
        """
        super().focusInEvent(event)
        if event is None or event.reason() == Qt.FocusReason.MouseFocusReason:
            return
        if not self.currentIndex().isValid() and self.rows_model.rows:
            self.setCurrentIndex(self.rows_model.index(max(self.chosen_row(), 0), 0))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.text().isdigit() and self._sortable:
            if 0 <= (place := int(event.text()) - 1) < len(self.rows_model.columns):
                self.sort_asked.emit(place)
            return
        if is_enter(event):
            index = self.currentIndex()
            if index.isValid():
                self.picked.emit(self.row_at(index).value)
            return
        index = self.currentIndex()
        step = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        if step and index.isValid() and (row := self.row_at(index)).folds:
            self.turned.emit(row.value, step > 0)
            return
        super().keyPressEvent(event)

    def _clicked(self, index: QModelIndex) -> None:
        row = self.row_at(index)
        if row.folds and index.column() == self.fold_column:
            self.turned.emit(row.value, None)
        elif row.chosen:
            self.cell_clicked.emit(row.value, index.column())
        else:
            self.picked.emit(row.value)


def _draw_proposed(painter: QPainter, x: float, y: float) -> None:
    """The disc before a row that is proposed."""
    side = THEME.px(7)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(THEME.colour("verdigris"))
    painter.setBrush(THEME.colour("verdigris"))
    painter.drawEllipse(QRectF(x, y - side / 2, side, side))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)


def _bold(text: str) -> int:
    return text_width(text, "table", strong=True, table=True)


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
