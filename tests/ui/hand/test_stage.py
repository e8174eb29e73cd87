"""A person's path through the cells in hand by keys alone."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from tests.ui.conftest import forget
from tests.ui.hand.conftest import groups_of, readings_of, type_readings


def test_from_an_empty_lot_to_places_by_keyboard_alone(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.session.edit({"pack.series": 3, "pack.parallel": 2})
    forget(window)
    qtbot.keyClick(window, Qt.Key.Key_8, Qt.KeyboardModifier.AltModifier)
    assert window.stage == "hand"
    view = readings_of(window)
    # Six cells, their voltages one after the other, then their capacities.
    type_readings(qtbot, view, ["3.61", "3,612", "3.609", "3.611", "3.610", "3.608"])
    assert [cell.number for cell in window.session.project.hand.cells] == [1, 2, 3, 4, 5, 6]
    assert view.number == 7
    for _ in range(3):
        qtbot.keyClick(view.reads, Qt.Key.Key_Right)
    assert view.field == "ah"
    assert view.number == 1
    type_readings(qtbot, view, ["4.8", "4.72", "4700 mAh", "4.66", "4.62", "4.58"])
    assert view.says.text() == "Cell 6: resistance not measured yet"
    assert [cell.ah for cell in window.session.project.hand.cells] == [
        4.8,
        4.72,
        4.7,
        4.66,
        4.62,
        4.58,
    ]
    # What cannot be read is said and changes nothing; a step back is one reading.
    before = window.session.project
    type_readings(qtbot, view, ["lots"])
    assert "is not a capacity" in view.problem.text()
    assert window.session.project is before
    qtbot.keyClick(view.entry, Qt.Key.Key_Escape)
    assert not view.entry.text()
    window.session.undo_stack.undo()
    assert view.number == 6
    assert window.session.project.hand.cells[5].ah is None
    type_readings(qtbot, view, ["4.58"])
    # Dealt, taken, and each checked off.
    qtbot.keyClick(window, Qt.Key.Key_3, Qt.KeyboardModifier.ControlModifier)
    groups = groups_of(window)
    groups.buttons["assign"].setFocus()
    qtbot.keyClick(groups.buttons["assign"], Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: groups.found is not None, timeout=10_000)
    # The hand is where it was, and what it does next is answered.
    assert groups.buttons["assign"].hasFocus()
    groups.buttons["use these groups"].setFocus()
    qtbot.keyClick(groups.buttons["use these groups"], Qt.Key.Key_Return)
    assert window.notice.text.text() == "6 cells have their places, in 3 groups."
    placed = window.session.project.hand.placed
    assert sorted(item.number for item in placed) == [1, 2, 3, 4, 5, 6]
    sums = [group.ah for group in window.session.evaluation.sized.in_hand.groups]
    assert max(sums) - min(sums) < 0.05  # type: ignore[type-var,operator]
    # The placing sheet, to print and tick off.
    sheet = tmp_path / "sheet.pdf"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(sheet), ""))
    groups.buttons["placing sheet …"].setFocus()
    qtbot.keyClick(groups.buttons["placing sheet …"], Qt.Key.Key_Space)
    qtbot.waitUntil(sheet.exists, timeout=10_000)
    assert sheet.read_bytes().startswith(b"%PDF")
    qtbot.keyClick(window, Qt.Key.Key_F9)
    bench = groups.bench
    assert bench is not None
    wanted = int(bench.place.text().removeprefix("cell "))
    other = next(item for item in placed if item.number != wanted)
    qtbot.keyClicks(bench.entry, str(other.number))
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert "belongs to group" in bench.problem.text()
    # What was refused is written over.
    for _ in range(6):
        qtbot.keyClicks(bench.entry, bench.place.text().removeprefix("cell "))
        qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert sorted(window.session.project.hand.soldered) == [1, 2, 3, 4, 5, 6]
    assert bench.place.text() == "done"
    qtbot.keyClicks(bench, "3.61")
    qtbot.keyClick(bench, Qt.Key.Key_Escape)
    assert not bench.isVisible()
    forget(window)
