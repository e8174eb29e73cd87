"""Options of one cell stand in one row that unfolds."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.folding import FoldedRow, folded
from lumvak.ui.widgets.tables import RowsTable
from tests.ui.cells.opened import cells_at


def unfold(table: RowsTable) -> None:
    """Show all packs of every cell."""
    rows = table.rows_model.rows
    for value in [rows[place].value for place in range(len(rows)) if rows[place].folds]:
        table.turned.emit(value, True)


@given(
    st.lists(st.integers(0, 6), max_size=40),
    st.sets(st.integers(0, 6)),
    st.one_of(st.none(), st.integers(0, 39)),
)
def test_every_cell_has_its_best_and_nothing_is_shown_twice(
    cells: list[int], unfolded: set[int], chosen: int | None
) -> None:
    rows = folded(cells, unfolded, chosen)
    places = [row.place for row in rows]
    assert len(places) == len(set(places))
    heads = [row for row in rows if row.place == cells.index(cells[row.place])]
    assert [cells[row.place] for row in heads] == list(dict.fromkeys(cells))
    for row in heads:
        assert row.more == cells.count(cells[row.place]) - 1
        assert row.open == (cells[row.place] in unfolded)
    for place, cell in enumerate(cells):
        assert (place in places) == (
            place == cells.index(cell) or cell in unfolded or place == chosen
        )
    assert folded(cells, set(cells), None) or not cells


def test_rows_of_one_cell_stand_together() -> None:
    assert folded([3, 1, 3, 3, 1], {3}, 4) == [
        FoldedRow(0, 2, True),
        FoldedRow(2),
        FoldedRow(3),
        FoldedRow(1, 1),
        FoldedRow(4),
    ]


@pytest.mark.parametrize("way", ["click", "keys"])
def test_a_cell_is_unfolded_and_folded_again(qtbot: QtBot, window: Window, way: str) -> None:
    stage = cells_at(window)
    table, session = stage.table, window.session
    before = len(table.rows_model.rows)
    head = next(place for place in range(before) if table.rows_model.rows[place].folds)
    row = table.rows_model.rows[head]
    more = int(row.cells[1].split("+")[1])
    index = table.rows_model.index(head, 1)
    pack = session.project.pack

    def turn(key: Qt.Key) -> None:
        if way == "keys":
            table.setCurrentIndex(index)
            qtbot.keyClick(table, key)
        else:
            table.scrollTo(index)
            port = table.viewport()
            assert port is not None
            at = table.visualRect(index).center()
            qtbot.mouseClick(port, Qt.MouseButton.LeftButton, pos=at)

    turn(Qt.Key.Key_Right)
    rows = table.rows_model.rows
    shown = [rows[place] for place in range(len(rows)) if rows[place].value[0] == row.value[0]]
    assert len(shown) == more + 1
    assert shown[0].cells[1].endswith("\u2212")
    turn(Qt.Key.Key_Left)
    assert len(table.rows_model.rows) == before
    # Looking is not taking.
    assert session.project.pack == pack
