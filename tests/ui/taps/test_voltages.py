"""Group voltages typed, pasted and brought in; bars, history and calibration."""

from pathlib import Path

import pytest
from msgspec.structs import asdict
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.taps.voltages import VoltagesView
from tests.ui.conftest import forget
from tests.ui.taps.conftest import view_of


@pytest.fixture
def voltages(barrow_window: Window) -> VoltagesView:
    view = view_of(barrow_window, "voltages")
    assert isinstance(view, VoltagesView)
    return view


def row(last: float = 3.70) -> str:
    return " ".join([*["3.70"] * 13, f"{last}"])


def test_a_set_is_typed_and_the_next_one_goes_on(
    qtbot: QtBot, barrow_window: Window, voltages: VoltagesView
) -> None:
    session = barrow_window.session
    assert voltages.says.text() == "14 voltages make a set."
    voltages.entry.setFocus()
    qtbot.keyClicks(voltages.entry, row(3.75))
    qtbot.keyClick(voltages.entry, Qt.Key.Key_Return)
    assert len(session.project.watch.sets) == 1
    assert voltages.entry.text() == ""
    assert "50 mV apart" in voltages.says.text()
    assert "Group 14 is first to the top" in voltages.says.text()
    assert voltages.bars.told().rows[13][2] == "+46 mV"
    assert "watch-apart" in {item.code for item in session.evaluation.findings}
    qtbot.keyClicks(voltages.entry, "3.7 3.8")
    qtbot.keyClick(voltages.entry, Qt.Key.Key_Return)
    assert "line 1: 1 voltages for 14 groups" in voltages.problem.text()
    assert len(session.project.watch.sets) == 1
    voltages.entry.clear()
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("\t".join(["noon", *["3700"] * 14]))
    voltages.paste()
    assert "read as millivolts" in barrow_window.notice.text.text()
    rows = voltages.table.rows_model.rows
    assert [item.cells[1] for item in rows] == ["", "noon"]
    assert rows[1].cells[3] == "0 mV"
    voltages.turn_to(0)
    assert "50 mV apart" in voltages.says.text()
    voltages.forget()
    assert [item.when for item in session.project.watch.sets] == ["noon"]
    forget(barrow_window)


def test_a_log_is_brought_in_whole_or_not_at_all(
    barrow_window: Window, voltages: VoltagesView, tmp_path: Path
) -> None:
    log = tmp_path / "log.csv"
    lines = [
        f"{minute};" + ";".join(["3.70"] * 13 + [f"{3.7 + 0.01 * minute:.2f}"])
        for minute in range(5)
    ]
    log.write_text("\n".join(lines), "utf-8")
    voltages.bring_in(log)
    assert len(barrow_window.session.project.watch.sets) == 5
    assert "40 mV apart" in voltages.says.text()
    log.write_text("\n".join([*lines, "6;much"]), "utf-8")
    voltages.bring_in(log)
    assert "log.csv, line 6" in voltages.problem.text()
    assert len(barrow_window.session.project.watch.sets) == 5
    voltages.bring_in(tmp_path / "none.csv")
    assert "none.csv" in barrow_window.notice.text.text()
    forget(barrow_window)


def test_what_shows_them_is_held_against_a_meter(
    barrow_window: Window, voltages: VoltagesView
) -> None:
    session = barrow_window.session
    voltages.entry.setText(row())
    voltages.take()
    voltages.grid.add_row()
    points = session.project.watch.calibrations
    assert (points[0].groups, points[0].shown_v) == (14, 3.7)
    point = {**asdict(points[0]), "true_v": 3.72, "day": "2026-05-01"}
    assert voltages.take_points([point]) == ""
    assert session.evaluation.watched.seen[0].mean_v == pytest.approx(3.72)
    assert "board: 20 mV since 2026-05-01" in voltages.corrections.text()
    assert "Date" in voltages.take_points([{**point, "day": "soon"}])
    # Numbers of a display are compared with the cells in hand where these are placed.
    assert not voltages.shown.isVisible()
    forget(barrow_window)
