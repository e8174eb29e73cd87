"""Packs kept beside each other."""

import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest

from lumvak.core.comparison.side_by_side import MEASURES
from lumvak.core.spelling import spoken
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.stage import CellsStage
from tests.ui.cells.test_stage import in_hand


def test_packs_are_kept_beside_and_swapped(window: Window, cells: CellsStage) -> None:
    options, session = cells.options, window.session
    first = in_hand(window)
    options.keep.click()
    options.keep.click()
    assert "already" in window.notice.text.text()
    options.pick(("tallin-p-105", 14, 3))
    second = in_hand(window)
    cells.view.picked.emit("beside")
    columns = cells.beside.columns
    assert [side.pack for side in columns.sides] == [second, first]
    weight = next(at for at, item in enumerate(MEASURES) if item.name == "mass of the cells")
    assert columns.sides[1].entries[weight].better == 1
    # Enter on the second column takes it; the first stays beside.
    columns.setFocus()
    QTest.keyClick(columns, Qt.Key.Key_Right)
    QTest.keyClick(columns, Qt.Key.Key_Return)
    assert in_hand(window) == first
    assert [side.pack for side in columns.sides] == [first, second]
    # The working of a figure in the first column.
    line = columns.line_rect(weight).center().y()
    spot = QPointF(columns.column_rect(0).center().x(), line)
    QTest.mouseClick(columns, Qt.MouseButton.LeftButton, pos=spot.toPoint())
    assert session.explained_key == "pack.mass_kg"
    # And of one in the second: that of the other pack, under its own name.
    spot = QPointF(columns.column_rect(1).center().x(), line)
    QTest.mouseClick(columns, Qt.MouseButton.LeftButton, pos=spot.toPoint())
    other = session.figure(session.explained_key)
    assert other is not None
    assert spoken(other.label) == "Mass of the cells, 14S3P of Tallin flat 105"
    assert other.number == pytest.approx(42 * 0.212, rel=0.01)
    assert other.inputs
    QTest.keyClick(columns, Qt.Key.Key_Delete)
    assert len(columns.sides) == 1
    # What is replaced stands last.
    session.edit({"need.replaced_mass_kg": 20.0})
    assert columns.sides[-1].title == "replaced"
    assert spoken(columns.sides[-1].entries[weight].text) == "20.0 kg"
    session.undo_stack.undo()
    session.undo_stack.undo()
    assert [item.cell for item in session.project.pack.beside] == [second[0]]


def test_no_more_than_three_are_kept_beside(window: Window, cells: CellsStage) -> None:
    for parallel in (7, 8, 9, 10):
        cells.options.pick(("ostrel-21-48", 14, parallel))
        cells.options.keep.click()
    assert len(window.session.project.pack.beside) == 3
    assert "drop one first" in window.notice.text.text()
    cells.show_view("beside")
    assert len(cells.beside.columns.sides) == 4
    for _ in range(2):
        QTest.keyClick(cells.beside.columns, Qt.Key.Key_Right)
    cells.beside.drop.click()
    assert len(window.session.project.pack.beside) == 2
