"""The table to type into, on its own: reading, refusing, words to choose from, locks and pastes."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QComboBox, QLineEdit
from pytestqt.qtbot import QtBot

from lumvak.core.units import LENGTH_MM, VOLTAGE, QuantityError, parse, spell
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import GridColumn, Record, quantity_column
from tests.ui.need.test_stage import clip, type_cell

COLOURS = ("red", "green")


def read_colour(text: str, record: Record) -> str:
    if text not in COLOURS:
        raise QuantityError(f"“{text}” is no colour; accepted: {', '.join(COLOURS)}")
    return text


class Owner:
    """Keeps what a grid hands over; refuses more than 100 mm in all."""

    def __init__(self) -> None:
        self.records: list[Record] = [
            {"name": "a", "length": 12.0, "colour": "red"},
            {"name": "b", "length": None, "colour": "green"},
        ]
        self.taken = 0

    def take(self, records: list[Record]) -> str:
        if sum(item["length"] or 0.0 for item in records) > 100.0:
            return "more than 100 mm in all"
        self.records = records
        self.taken += 1
        return ""


@pytest.fixture
def owner() -> Owner:
    return Owner()


@pytest.fixture
def grid(qtbot: QtBot, qapp: QApplication, owner: Owner) -> Grid:
    def paste(text: str) -> list[Record]:
        return [
            {"name": name, "length": parse(size, LENGTH_MM), "colour": "red"}
            for name, size in (line.split(maxsplit=1) for line in text.splitlines())
        ]

    def spell_length(value: object, _: Record) -> str:
        return "" if value is None else spell(float(str(value)), LENGTH_MM)

    made = Grid(
        "Pieces",
        (
            GridColumn("piece", "name", lambda text, _: text, lambda value, _: value, wide=True),
            GridColumn(
                "length",
                "length",
                lambda text, _: parse(text, LENGTH_MM) if text else None,
                spell_length,
                hint=lambda _: "7 mm",
            ),
            GridColumn("colour", "colour", read_colour, lambda value, _: value, COLOURS),
        ),
        owner.take,
        lambda: {"name": "new", "length": 1.0, "colour": "red"},
        paste=paste,
    )
    qtbot.addWidget(made)
    made.resize(400, 200)
    made.show()
    qtbot.waitExposed(made)
    made.show_records(owner.records)
    return made


def text_at(grid: Grid, row: int, place: int) -> str:
    item = grid.table.item(row, place)
    assert item is not None
    return item.text()


def test_what_is_typed_is_read_and_spelled_anew(qtbot: QtBot, grid: Grid, owner: Owner) -> None:
    assert text_at(grid, 0, 1) == "12 mm"
    type_cell(qtbot, grid, 0, 1, "1,5 cm")
    assert owner.records[0]["length"] == 15.0
    assert text_at(grid, 0, 1) == "15 mm"
    # The same value in other words is spelled anew and harms nothing.
    type_cell(qtbot, grid, 0, 1, "15")
    assert text_at(grid, 0, 1) == "15 mm"


def test_a_hint_is_shown_but_never_taken(qtbot: QtBot, grid: Grid, owner: Owner) -> None:
    assert text_at(grid, 1, 1) == "7 mm"
    type_cell(qtbot, grid, 1, 1, "7 mm")
    assert owner.records[1]["length"] is None
    assert owner.taken == 0
    type_cell(qtbot, grid, 1, 1, "8")
    assert owner.records[1]["length"] == 8.0
    type_cell(qtbot, grid, 1, 1, "")
    assert owner.records[1]["length"] is None
    assert text_at(grid, 1, 1) == "7 mm"


def test_what_is_refused_stays_and_says_why(qtbot: QtBot, grid: Grid, owner: Owner) -> None:
    type_cell(qtbot, grid, 0, 1, "long")
    assert "not a length" in grid.problem.text()
    type_cell(qtbot, grid, 0, 1, "99 cm")
    assert grid.problem.text() == "more than 100 mm in all"
    assert text_at(grid, 0, 1) == "99 cm"
    assert owner.records[0]["length"] == 12.0
    type_cell(qtbot, grid, 0, 1, "13")
    assert not grid.problem.isVisible()
    # Records shown anew put a refused entry right.
    type_cell(qtbot, grid, 0, 1, "long")
    grid.show_records([{"name": "c", "length": 3.0, "colour": "red"}])
    assert text_at(grid, 0, 1) == "3 mm"
    assert not grid.problem.isVisible()


def test_words_are_chosen_from_a_list(qtbot: QtBot, grid: Grid, owner: Owner) -> None:
    grid.table.setCurrentCell(0, 2)
    grid.table.edit(grid.table.currentIndex())
    (box,) = (item for item in grid.table.findChildren(QComboBox) if item.isVisible())
    assert [box.itemText(at) for at in range(box.count())] == list(COLOURS)
    assert box.currentText() == "red"
    box.setCurrentText("green")
    box.activated.emit(1)
    assert owner.records[0]["colour"] == "green"


def test_rows_are_added_and_removed_by_keys(qtbot: QtBot, grid: Grid, owner: Owner) -> None:
    grid.table.setCurrentCell(0, 0)
    qtbot.keyClick(grid.table, Qt.Key.Key_Insert)
    assert [item["name"] for item in owner.records] == ["a", "new", "b"]
    assert grid.table.currentRow() == 1
    qtbot.keyClick(grid.table, Qt.Key.Key_Delete, Qt.KeyboardModifier.ControlModifier)
    assert [item["name"] for item in owner.records] == ["a", "b"]
    grid.table.setCurrentCell(-1, -1)
    qtbot.keyClick(grid.table, Qt.Key.Key_Delete, Qt.KeyboardModifier.ControlModifier)
    assert len(owner.records) == 2


def test_a_paste_takes_all_rows_or_none(qtbot: QtBot, grid: Grid, owner: Owner) -> None:
    clip("x 5 mm\ny 2 cm")
    qtbot.keyClick(grid.table, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert [(item["name"], item["length"]) for item in owner.records] == [("x", 5.0), ("y", 20.0)]
    for text, says in (("z much", "not a length"), ("z 2 m", "more than 100 mm in all")):
        clip(text)
        grid.paste()
        assert grid.problem.text().startswith("Not pasted: ")
        assert says in grid.problem.text()
        assert len(owner.records) == 2


def test_a_locked_grid_takes_nothing(qtbot: QtBot, grid: Grid, owner: Owner) -> None:
    grid.set_locked(True)
    grid.table.setCurrentCell(0, 0)
    for key in (Qt.Key.Key_Insert, Qt.Key.Key_Delete):
        qtbot.keyClick(grid.table, key)
    clip("x 5 mm")
    grid.paste()
    item = grid.table.item(0, 1)
    assert item is not None
    assert not item.flags() & Qt.ItemFlag.ItemIsEditable
    assert owner.taken == 0
    assert not grid.add.isEnabled()
    grid.set_locked(False)
    grid.add.click()
    assert owner.taken == 1


def test_enter_goes_down_escape_takes_back_and_delete_empties(qtbot: QtBot) -> None:
    taken: list[list[Record]] = []

    def take(records: list[Record]) -> str:
        taken.append(records)
        return ""

    grid = Grid("Test", (quantity_column("volts", "volts", VOLTAGE),), take, lambda: {"volts": 1.0})
    qtbot.addWidget(grid)
    grid.show_records([{"volts": 1.0}, {"volts": 2.0}, {"volts": 3.0}])
    grid.show()
    table = grid.table
    table.setFocus()
    table.setCurrentCell(0, 0)

    def type_in(text: str, key: Qt.Key) -> None:
        qtbot.keyClicks(table, text[0])
        editor = table.findChildren(QLineEdit)[-1]
        qtbot.keyClicks(editor, text[1:])
        qtbot.keyClick(editor, key)
        QApplication.processEvents()

    type_in("1.5 V", Qt.Key.Key_Return)
    assert [record["volts"] for record in taken[-1]] == [1.5, 2.0, 3.0]
    assert table.currentRow() == 1
    qtbot.keyClick(table, Qt.Key.Key_Return)
    assert table.currentRow() == 2
    qtbot.keyClick(table, Qt.Key.Key_Up)
    type_in("none", Qt.Key.Key_Return)
    assert grid.refused
    assert table.currentRow() == 1
    assert table.item(1, 0).text() == "none"  # type: ignore[union-attr]
    qtbot.keyClick(table, Qt.Key.Key_Escape)
    assert not grid.refused
    assert table.item(1, 0).text() == "2 V"  # type: ignore[union-attr]
    count = len(taken)
    qtbot.keyClick(table, Qt.Key.Key_Delete)
    # A voltage is wanted there: it is refused, and the row stays.
    assert grid.refused
    assert len(taken) == count
    qtbot.keyClick(table, Qt.Key.Key_Escape)
    qtbot.keyClick(table, Qt.Key.Key_Delete, Qt.KeyboardModifier.ControlModifier)
    assert [record["volts"] for record in taken[-1]] == [1.5, 3.0]


def test_space_opens_an_editor_once_and_none_where_nothing_can_be_typed(
    grid: Grid, qtbot: QtBot
) -> None:
    """A warning of the toolkit fails the test."""
    grid.show()
    grid.table.setCurrentCell(0, 0)
    qtbot.keyClick(grid.table, Qt.Key.Key_Space)
    assert len(grid.table.findChildren(QLineEdit)) == 1
    qtbot.keyClick(grid.table, Qt.Key.Key_Space)
    qtbot.keyClick(grid.table, Qt.Key.Key_Escape)
    grid.set_locked(True)
    qtbot.keyClick(grid.table, Qt.Key.Key_Space)
    grid.table.setCurrentCell(-1, -1)
    qtbot.keyClick(grid.table, Qt.Key.Key_Space)
    assert grid.table.rowCount() == 2
