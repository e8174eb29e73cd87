"""Tables, plots and drawings onto the clipboard: as rows with their heads, or as a picture."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QMimeData
from PyQt6.QtGui import QGuiApplication, QPainter
from PyQt6.QtSvg import QSvgGenerator
from PyQt6.QtWidgets import QTableWidget, QWidget

from lumvak.ui.widgets.tables import RowsTable
from lumvak.ui.widgets.told import Told, told_by

SVG = "image/svg+xml"


def source_of(widget: QWidget | None) -> QWidget | None:
    """What can be copied at a widget: itself, or the nearest that it lies in; else ``None``."""
    while widget is not None:
        if isinstance(widget, RowsTable | QTableWidget) or told_by(widget) is not None:
            return widget
        widget = widget.parentWidget()
    return None


def rows_of(source: QWidget, *, here: bool = False) -> Told | None:
    """What is copied of a table, plot or drawing; of a table alone the row in hand, if ``here``."""
    if isinstance(source, RowsTable):
        heads = tuple(column.head for column in source.rows_model.columns)
        rows = source.rows_model.rows
        wanted = [source.currentIndex().row()] if here else range(len(rows))
        cells = [rows[at].cells for at in wanted if 0 <= at < len(rows)]
        return Told(source.accessibleName(), heads, [_wide(row, len(heads)) for row in cells])
    if isinstance(source, QTableWidget):
        return Told(source.accessibleName(), tuple(_heads(source)), [*_typed(source, here)])
    return told_by(source)


def _wide(cells: tuple[str, ...], count: int) -> tuple[str, ...]:
    """A row with a cell under every head."""
    return (*cells, *[""] * (count - len(cells)))


def _heads(table: QTableWidget) -> Iterator[str]:
    for at in range(table.columnCount()):
        item = table.horizontalHeaderItem(at)
        yield "" if item is None else item.text()


def _typed(table: QTableWidget, here: bool) -> Iterator[tuple[str, ...]]:
    for row in [table.currentRow()] if here else range(table.rowCount()):
        items = [table.item(row, at) for at in range(table.columnCount())]
        yield tuple("" if item is None else item.text() for item in items)


def as_tsv(told: Told) -> str:
    """Rows below their heads, with tabs between cells, as sheets of calculation take them."""

    def line(cells: tuple[str, ...]) -> str:
        return "\t".join(" ".join(cell.split()) for cell in cells)

    return "\n".join([line(told.heads), *map(line, told.rows)]) + "\n"


def copy_rows(source: QWidget, *, here: bool = False) -> int:
    """Put rows with their heads on the clipboard; returns how many rows."""
    told, clipboard = rows_of(source, here=here), QGuiApplication.clipboard()
    if told is None or clipboard is None:
        return 0
    clipboard.setText(as_tsv(told))
    return len(told.rows)


def copy_picture(source: QWidget) -> None:
    """Put a picture on the clipboard, as pixels and as SVG: whoever takes it has the choice."""
    data, clipboard = QMimeData(), QGuiApplication.clipboard()
    data.setImageData(source.grab().toImage())
    data.setData(SVG, svg_of(source))
    if clipboard is not None:
        clipboard.setMimeData(data)


def svg_of(source: QWidget) -> QByteArray:
    """A widget as SVG."""
    buffer, made = QBuffer(), QSvgGenerator()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    made.setOutputDevice(buffer)
    made.setSize(source.size())
    made.setViewBox(source.rect())
    made.setTitle(source.accessibleName())
    painter = QPainter(made)
    source.render(painter)
    painter.end()
    return buffer.data()
