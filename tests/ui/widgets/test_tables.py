"""Tables of many rows: made when they are looked at, sorted marks in the head."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.stage import CellsStage
from lumvak.ui.widgets.rows import Column, LazyRows, Row
from lumvak.ui.widgets.tables import FITTED, RowsTable
from tests.ui.cells.test_folding import unfold


def test_rows_are_made_once_and_only_when_looked_at() -> None:
    made: list[int] = []

    def make(place: int) -> Row:
        made.append(place)
        return Row((str(place),), value=place)

    rows = LazyRows(1000, make, chosen=7)
    assert len(rows) == 1000
    assert made == []
    assert rows[3].value == rows[3].value == 3
    assert made == [3]
    assert rows[-1].value == 999
    assert [row.value for row in rows[5:8]] == [5, 6, 7]
    assert [row.value for row in rows][:2] == [0, 1]
    assert sorted(made) == list(range(1000))


def test_a_long_table_paints_a_few_of_its_rows(qtbot: QtBot, qapp: QApplication) -> None:
    made: set[int] = set()

    def make(place: int) -> Row:
        made.add(place)
        return Row((f"row {place}", "x"), value=place, chosen=place == 900)

    table = RowsTable((Column("name", left=True), Column("size", sample="0000000")), "rows")
    qtbot.addWidget(table)
    table.resize(300, 200)
    table.show()
    qtbot.waitExposed(table)
    table.show_rows(LazyRows(5000, make, chosen=900))
    assert len(made) <= FITTED + 30
    assert table.chosen_row() == 900
    table.show_chosen()
    qtbot.waitUntil(lambda: 900 in made)
    assert len(made) < 300
    # A column keeps room for its sample, whatever the rows hold.
    assert table.columnWidth(1) > table.fontMetrics().horizontalAdvance("0000000")


def test_the_head_says_what_a_table_is_sorted_by(qtbot: QtBot, qapp: QApplication) -> None:
    table = RowsTable((Column("name", left=True), Column("size")), "rows", sortable=True)
    qtbot.addWidget(table)
    table.show()
    across = table.horizontalHeader()
    assert across is not None
    with qtbot.waitSignal(table.sort_asked) as asked:
        across.sectionClicked.emit(1)
    assert asked.args == [1]
    table.show_sorted(1, falling=True)
    assert table.rows_model.headerData(1, Qt.Orientation.Horizontal) == "size ▾"
    table.show_sorted(0, falling=False)
    heads = [table.rows_model.headerData(at, Qt.Orientation.Horizontal) for at in range(2)]
    assert heads == ["name ▴", "size"]


def test_every_option_is_reached_though_few_are_made(window: Window) -> None:
    window.open_stage("cells")
    cells = window.stages["cells"]
    assert isinstance(cells, CellsStage)
    options = window.session.evaluation.sized.options
    unfold(cells.table)
    rows = cells.table.rows_model.rows
    assert len(rows) == len(options)
    assert {rows[place].value for place in range(len(rows))} == {
        (options.cell(place).id, int(options.series[place]), int(options.parallel[place]))
        for place in range(len(options))
    }
    chosen = cells.table.chosen_row()
    assert rows[chosen].chosen
    assert rows[chosen].value == ("ostrel-21-48", 14, 7)


def test_a_table_a_little_too_wide_stands_closer_rather_than_scrolls(
    qtbot: QtBot, qapp: QApplication
) -> None:
    columns = [Column(f"column {place}", sample="00000000") for place in range(6)]
    table = RowsTable(columns, "rows")
    qtbot.addWidget(table)
    table.show_rows([Row(("1",) * 6, value=place) for place in range(3)])
    across = table.horizontalHeader()
    assert across is not None
    table.resize(1000, 200)
    table.show()
    qtbot.waitExposed(table)
    full = across.length()
    for narrower, fits in ((-10, True), (0, True), (6, True), (24, True), (60, False)):
        table.resize(full - narrower, 200)
        QApplication.processEvents()
        bar = table.horizontalScrollBar()
        assert bar is not None
        assert (bar.maximum() == 0) == fits, narrower
        assert (across.length() == full) == (narrower <= 0 or not fits)
