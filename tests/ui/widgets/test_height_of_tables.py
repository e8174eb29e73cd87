import pytest
from pytestqt.qtbot import QtBot

from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.tables import RowsTable, fit_height, keep_rows


@pytest.fixture
def table(qtbot: QtBot) -> RowsTable:
    made = RowsTable((Column("name", left=True), Column("why", left=True, stretch=True)), "Test")
    qtbot.addWidget(made)
    made.resize(300, 400)
    return made


def rows_in_view(table: RowsTable, height: int) -> float:
    head = table.horizontalHeader()
    assert head is not None
    return (height - head.sizeHint().height()) / table.rowHeight(0)


def test_so_many_rows_are_in_view_at_any_rate(table: RowsTable) -> None:
    table.show_rows([Row((str(place), "")) for place in range(20)])
    keep_rows(table, 6)
    assert 6.0 <= rows_in_view(table, table.minimumHeight()) < 7.0


@pytest.mark.parametrize(("rows", "least", "most"), [(2, 2, 2), (20, 6, 8), (5, 5, 5)])
def test_a_table_is_as_high_as_its_rows_within_bounds(
    table: RowsTable, rows: int, least: int, most: int
) -> None:
    table.show_rows([Row((str(place), "")) for place in range(rows)])
    fit_height(table, rows, 8, least=6)
    assert least <= rows_in_view(table, table.minimumHeight()) < least + 1
    assert most <= rows_in_view(table, table.maximumHeight()) < most + 1
    assert table.minimumHeight() <= table.maximumHeight()


def test_a_reason_goes_on_in_more_lines_and_back(table: RowsTable) -> None:
    why = "is rated 32 V DC; the pack is 58.8 V when full, and an arc would go on burning in it"
    table.show_rows([Row(("one", why), span=1), Row(("two", "short"), span=1)])
    table.show()
    one, two = table.rowHeight(0), table.rowHeight(1)
    assert one > 1.5 * two
    table.resize(900, 400)
    assert table.rowHeight(0) == two
    table.show_rows([Row(("one", "short"), span=1), Row(("two", why * 3), span=1)])
    assert table.rowHeight(0) == two < table.rowHeight(1)
