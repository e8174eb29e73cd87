"""The room for the pack."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.arrangement.stage import ArrangementStage
from tests.ui.arrangement.test_stage import LEFT, SVG


def test_a_room_is_typed_and_too_small_a_one_says_by_how_much(
    qtbot: QtBot, window: Window, stage: ArrangementStage, session: Session
) -> None:
    field = stage.room.fields["length_mm"]
    field.edit.setFocus()
    field.edit.selectAll()
    qtbot.keyClicks(field.edit, "20 cm")
    qtbot.keyClick(field.edit, Qt.Key.Key_Return)
    assert session.project.arrangement.room.length_mm == 200.0
    assert stage.state.text().startswith("short by")
    assert stage.table.rows_model.rows == []
    assert any(item.code == "does-not-fit" for item in session.evaluation.findings)
    session.undo_stack.undo()
    assert session.evaluation.laid_out.joined_pack.placing.fits
    assert stage.table.rows_model.rows[0].chosen


def test_an_outline_is_drawn_or_read_from_a_drawing(
    qtbot: QtBot, window: Window, stage: ArrangementStage, session: Session, tmp_path: Path
) -> None:
    session.edit({"arrangement.room.kind": "outline", "arrangement.kept_free": ()})
    assert any(item.code == "outline-open" for item in session.evaluation.findings)
    stage.room.draw.click()
    view = stage.view
    corners = ((-40, -30), (360, -30), (360, 190), (-40, 190))
    for x, y in (*corners, corners[0]):
        qtbot.mouseClick(view, LEFT, pos=view.to_px(x, y).toPoint())
    outline = session.project.arrangement.room.outline
    assert len(outline) == 4 and outline[0] == (0.0, 0.0)
    assert outline[2] == (pytest.approx(400, abs=2), pytest.approx(220, abs=2))
    assert session.evaluation.laid_out.joined_pack.placing.fits
    path = tmp_path / "case.svg"
    path.write_text(SVG, "utf-8")
    stage.room.take_drawing(path)
    assert stage.room.load.text() == "stop reading"
    qtbot.waitUntil(lambda: not stage.room.reading.busy, timeout=15000)
    assert stage.room.load.text() == "outline from a drawing …"
    room = session.project.arrangement.room
    assert room.kind == "outline" and room.outline[2] == (380.0, 200.0)
    assert "left out 1 × text" in window.notice.text.text()
    (tmp_path / "bad.dxf").write_text("no", "utf-8")
    stage.room.take_drawing(tmp_path / "bad.dxf")
    qtbot.waitUntil(lambda: not stage.room.reading.busy, timeout=15000)
    assert "bad.dxf" in window.notice.text.text()
    assert session.project.arrangement.room is room
    # The window goes on while it reads, and reading can be stopped.
    stage.room.take_drawing(path)
    stage.room.load.click()
    assert "Reading was stopped" in window.notice.text.text()
    assert not stage.room.reading.busy
    assert session.project.arrangement.room is room
