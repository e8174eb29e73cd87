"""A person's path through the cells in hand: read, judged, dealt and put in their places."""

import csv
import io
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.hand.groups import GroupsView
from lumvak.ui.stages.hand.judging import JudgingView
from lumvak.ui.stages.hand.readings import ReadingsView
from tests.conftest import DEMOS
from tests.ui.conftest import forget

ROLLER = DEMOS / "seed-bed-roller.lumvak.json"


def view_of(window: Window, name: str) -> object:
    window.open_stage("hand")
    stage = window.stages["hand"]
    stage.show_view(name)
    return stage.views[name]  # type: ignore[attr-defined]


def readings_of(window: Window) -> ReadingsView:
    view = view_of(window, "measure")
    assert isinstance(view, ReadingsView)
    return view


def groups_of(window: Window) -> GroupsView:
    view = view_of(window, "groups")
    assert isinstance(view, GroupsView)
    return view


@pytest.fixture
def roller(window: Window) -> Window:
    forget(window)
    window.files.open_sample(ROLLER)
    return window


def type_readings(qtbot: QtBot, view: ReadingsView, texts: list[str]) -> None:
    view.entry.setFocus()
    for text in texts:
        qtbot.keyClicks(view.entry, text)
        qtbot.keyClick(view.entry, Qt.Key.Key_Return)


def test_from_an_empty_lot_to_places_by_keyboard_alone(qtbot: QtBot, window: Window) -> None:
    window.session.edit({"pack.series": 3, "pack.parallel": 2})
    forget(window)
    qtbot.keyClick(window, Qt.Key.Key_7, Qt.KeyboardModifier.AltModifier)
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
    assert view.says.text() == "Cell 6: not measured: resistance"
    assert [cell.ah for cell in window.session.project.hand.cells] == [
        4.8, 4.72, 4.7, 4.66, 4.62, 4.58,
    ]  # fmt: skip
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
    groups.buttons["deal"].setFocus()
    qtbot.keyClick(groups.buttons["deal"], Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: groups.found is not None, timeout=10_000)
    groups.buttons["take these groups"].setFocus()
    qtbot.keyClick(groups.buttons["take these groups"], Qt.Key.Key_Space)
    placed = window.session.project.hand.placed
    assert sorted(item.number for item in placed) == [1, 2, 3, 4, 5, 6]
    sums = [group.ah for group in window.session.evaluation.matched.groups]
    assert sums == pytest.approx([9.38, 9.34, 9.36]) or max(sums) - min(sums) < 0.05  # type: ignore[type-var,operator]
    qtbot.keyClick(window, Qt.Key.Key_F9)
    bench = groups.bench
    assert bench is not None
    wanted = int(bench.place.text().removeprefix("cell "))
    other = next(item for item in placed if item.number != wanted)
    qtbot.keyClicks(bench.entry, str(other.number))
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert "belongs to group" in bench.problem.text()
    bench.entry.clear()
    for _ in range(6):
        qtbot.keyClicks(bench.entry, bench.place.text().removeprefix("cell "))
        qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert sorted(window.session.project.hand.soldered) == [1, 2, 3, 4, 5, 6]
    assert not bench.isVisible()
    forget(window)


def test_a_reading_is_on_the_disk_once_enter_is_pressed(qtbot: QtBot, window: Window) -> None:
    view = readings_of(window)
    type_readings(qtbot, view, ["3.61"])
    copies = [path.read_text("utf-8") for path in window.session.recovery.folder.glob("*.json")]
    assert any('"volts": 3.61' in text for text in copies)
    forget(window)


def test_what_is_out_of_family_is_said_at_once(qtbot: QtBot, roller: Window) -> None:
    view = readings_of(roller)
    view.turn_to(12)
    type_readings(qtbot, view, ["1,1"])
    assert view.says.text().startswith("Cell 12: rests at 1.1 V, under 2.25 V")
    # Cells by their reasons, found by a word.
    view.look.setText("leaks")
    assert [item.cell.number for item in view.table.shown] == [23]
    view.look.setText("")
    view.table.sort_asked.emit(6)
    assert {item.cell.number for item in view.table.shown[:5]} == {12, 23, 41, 58, 66}
    forget(roller)


def test_tables_come_in_and_go_out_whole_or_not_at_all(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    view = readings_of(window)
    path = tmp_path / "heap.csv"
    path.write_text("number;volts;Zappel;Capacity (mAh)\n1;3,61;x;4700\n2;3,62;x;4690\n", "utf-8")
    view.bring_in(path)
    assert [cell.ah for cell in window.session.project.hand.cells] == [4.7, 4.69]
    assert "2 cells are new, 0 changed. Left out: Zappel" in window.notice.text.text()
    before = window.session.project
    path.write_text("number;volts\n1;3,6\n1;3,7\n", "utf-8")
    view.bring_in(path)
    assert "line 3: cell 1 is in line 2 already" in window.notice.text.text()
    assert window.session.project is before
    clipboard = QGuiApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("cell\tIR\n2\t21,5\n3\t22\n")
    view.paste()
    assert [cell.mohm for cell in window.session.project.hand.cells] == [None, 21.5, 22.0]
    out = tmp_path / "out.csv"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(out), ""))
    view.buttons["export …"].click()
    rows = list(csv.reader(io.StringIO(out.read_text("utf-8"))))
    assert [row[0] for row in rows[1:]] == ["1", "2", "3"]
    view.turn_to(3)
    view.buttons["take out"].click()
    assert len(window.session.project.hand.cells) == 2
    forget(window)


def test_cells_are_chosen_on_the_plot_and_overruled_with_a_note(
    qtbot: QtBot, roller: Window
) -> None:
    view = view_of(roller, "judge")
    assert isinstance(view, JudgingView)
    assert "4 of 90 rejected" in view.about
    assert not view.buttons["keep"].isEnabled()
    view.plot.picked.emit(frozenset({58}))
    assert "62 % of the sheet" in view.says.text()
    assert view.table.rows_model.rows[view.table.chosen_row()].value == 58
    view.why.setText("read at twice the current")
    view.buttons["keep"].click()
    judged = roller.session.evaluation.matched.judged
    assert judged[58].state == "look"
    assert "read at twice the current" in judged[58].said
    # A rectangle around all of them rejects all; undo takes it back.
    everyone = frozenset(item.cell.number for item in judged.values())
    view.plot.picked.emit(everyone)
    assert "cells are chosen" in view.says.text()
    view.buttons["reject"].click()
    assert not roller.session.evaluation.matched.good
    roller.session.undo_stack.undo()
    assert len(roller.session.evaluation.matched.good) == 87
    forget(roller)


def test_methods_stand_side_by_side_and_the_best_is_taken(qtbot: QtBot, roller: Window) -> None:
    view = groups_of(roller)
    view.deal()
    qtbot.waitUntil(lambda: view.found is not None, timeout=10_000)
    names = [row.cells[0] for row in view.methods.rows_model.rows]
    assert names == ["as they come", "fold", "snake", "optimiser"]
    assert "86 good cells for 12 groups of 7" in view.says.text()
    view.take()
    seen = roller.session.evaluation
    assert len(seen.matched.by_place) == 84
    assert seen.figures["hand.spread"].number < 1e-4
    drawn = view.views[0].drawn
    assert drawn is not None
    assert sum(bool(label) for label in drawn.labels) == 84
    # Another reading makes what was dealt stale.
    roller.session.edit({"hand.by": "resistance"})
    assert view.found is None
    view.deal()
    qtbot.waitUntil(lambda: view.found is not None, timeout=10_000)
    assert "what the pack delivers is not known" in view.says.text()
    roller.session.edit({"hand.by": "voltage"})
    view.deal()
    assert view.found is not None
    assert view.found.compared is None
    assert "a voltage tells charge and not size" in view.says.text()
    roller.session.edit({"pack.parallel": 8, "hand.by": "capacity"})
    view.deal()
    assert "10 are missing" in roller.notice.text.text()
    forget(roller)


def test_five_thousand_cells_are_looked_through(qtbot: QtBot, window: Window) -> None:
    chance = np.random.default_rng(1)
    rows = [f"{place};{chance.normal(3.61, 0.004):.3f};{chance.normal(4.7, 0.05):.3f}"
            for place in range(1, 5001)]  # fmt: skip
    clipboard = QGuiApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("number;volts;ah\n" + "\n".join(rows))
    view = readings_of(window)
    view.paste()
    assert len(view.table.shown) == 5000
    view.table.sort_asked.emit(3)
    shown = [item.cell.ah or 0.0 for item in view.table.shown]
    assert shown == sorted(shown)
    view.look.setText("4321")
    assert [item.cell.number for item in view.table.shown] == [4321]
    forget(window)
