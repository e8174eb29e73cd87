"""The start of a motor."""

import re

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.power.motor_start import StartView
from tests.conftest import TRIMMER
from tests.ui.power.test_stage import codes, power_of
from tests.ui.test_walk import click_row, row_of


def test_the_tool_that_stops_is_cured_by_a_surge_part(qtbot: QtBot, window: Window) -> None:
    window.files.open(TRIMMER)
    stage = power_of(window)
    stage.show_view("start")
    view = stage.views["start"]
    assert isinstance(view, StartView)
    opens = {row.cells[:2]: row.cells[3] for row in view.table.rows_model.rows}
    assert opens["fast", "none"].startswith("after 1")
    assert opens["slow", "none"] == "no"
    assert opens["fast", "Moor 0.08 Ω"] == "no"
    click_row(qtbot, view.table, row_of(view.table, "fast none"))
    figure = window.session.figure("start.fast.bare.spare_a")
    assert window.session.explained_key == "start.fast.bare.spare_a"
    assert figure is not None
    assert figure.number < 0.0
    place = next(at for at, (_, part) in enumerate(view.surge.offered) if part == "moor-0.08")
    view.surge.activated.emit(place)
    assert window.session.project.power.surge == "moor-0.08"
    assert "board-start" not in codes(window)
    assert "surge" in {link.key for link in window.session.evaluation.path.links}
    # Without a stall current the largest that starts is drawn, and it says so.
    edit = view.stall.edit
    edit.setFocus()
    edit.selectAll()
    qtbot.keyClick(edit, Qt.Key.Key_Delete)
    qtbot.keyClick(edit, Qt.Key.Key_Return)
    assert view.plot.isVisible()
    assert "No start is known" in view.empty.text()
    assert re.search(
        r"up to [\d.]+ A with a fast pull, up to [\d.]+ A with a slow", view.empty.text()
    )
    assert {row.cells[3] for row in view.table.rows_model.rows} == {"no"}
