import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.arrangement.stage import ArrangementStage

LEFT = Qt.MouseButton.LeftButton
SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="400mm" height="220mm" viewBox="0 0 400 220">'
    '<rect width="380" height="200"/><text x="1" y="1">case</text></svg>'
)


def spot(view: PackView, cell: int, dx: float = 0.0, dy: float = 0.0) -> QPoint:
    """Where a cell is drawn, off its middle in shares of its size, so that no piece is hit."""
    layout = view.drawn.layout  # type: ignore[union-attr]
    size = 2.0 * layout.half_mm[cell, 0]
    return view.to_px(
        float(layout.x_mm[cell]) + dx * size, float(layout.y_mm[cell]) + dy * size
    ).toPoint()


def drag(qtbot: QtBot, view: PackView, start: QPoint, end: QPoint) -> None:
    qtbot.mousePress(view, LEFT, pos=start)
    for share in (0.3, 0.7, 1.0):
        between = QPointF(start) + (QPointF(end) - QPointF(start)) * share
        move = between.toPoint()
        from PyQt6.QtGui import QMouseEvent

        event = QMouseEvent(
            QMouseEvent.Type.MouseMove,
            QPointF(move),
            QPointF(view.mapToGlobal(move)),
            LEFT,
            LEFT,
            Qt.KeyboardModifier.NoModifier,
        )
        view.mouseMoveEvent(event)
    qtbot.mouseRelease(view, LEFT, pos=end)


def test_a_proposal_is_taken_with_its_barriers_listed(
    qtbot: QtBot, stage: ArrangementStage, session: Session
) -> None:
    session.edit({"arrangement.room.kind": "none", "arrangement.kept_free": ()})
    rows = stage.table.rows_model.rows
    place = next(place for place, row in enumerate(rows) if "2 bands" in row.cells[0])
    stage.table.picked.emit(rows[place].value)
    assert session.project.arrangement.way == rows[place].value
    stage.list.picked.emit("barriers")
    listed = stage.barriers.rows_model.rows
    assert len(listed) == len(session.evaluation.laid_out.barriers.pairs) > 0
    assert listed[0].cells[1] == "54.6 V" and "insulating paper" in listed[0].cells[2]
    stage.barriers.picked.emit(listed[0].value)
    assert stage.chosen == frozenset(listed[0].value)
    stage.list.picked.emit("taps")
    assert [row.cells[0] for row in stage.taps.rows_model.rows] == [str(k) for k in range(15)]
    assert stage.taps.rows_model.rows[14].cells[3] == "58.8 V"


def test_cells_are_dragged_turned_and_swapped_and_nothing_overlaps(
    qtbot: QtBot, window: Window, stage: ArrangementStage, session: Session
) -> None:
    session.edit({"arrangement.room.kind": "none", "arrangement.kept_free": ()})
    view = stage.view
    before = session.evaluation.laid_out.joined_pack.layout
    start = spot(view, 97, 0.3, 0.3)
    drag(qtbot, view, start, start + QPoint(round(23 * view.spread.scale), 0))
    after = session.evaluation.laid_out.joined_pack.layout
    assert len(session.project.arrangement.spots) == 98
    assert after.x_mm[97] == pytest.approx(before.x_mm[97] + 23.0, abs=2.0)
    # Onto another cell: refused, said, nothing changes.
    held = session.project
    start = spot(view, 97, 0.3, 0.3)
    drag(qtbot, view, start, spot(view, 3, 0.2, 0.2))
    assert session.project is held
    assert "same place" in window.notice.text.text()
    qtbot.mouseClick(view, LEFT, pos=spot(view, 0, 0.3, 0.3))
    qtbot.mouseClick(view, LEFT, Qt.KeyboardModifier.ShiftModifier, spot(view, 10, 0.3, 0.3))
    assert stage.chosen == frozenset({0, 10})
    stage.buttons["swap"].click()
    swapped = session.evaluation.laid_out.joined_pack.layout
    assert swapped.x_mm[0] == pytest.approx(after.x_mm[10])
    stage.take_chosen(frozenset({5}))
    view.setFocus()
    stage.buttons["turn"].click()
    codes = {item.code for item in session.evaluation.findings}
    assert {"joint-shorts", "not-solved"} <= codes
    assert (
        session.evaluation.laid_out.joined_pack.flaws
        and window.session.evaluation.laid_out.joined_pack.solved is None
    )
    stage.buttons["anew"].click()
    assert session.project.arrangement.spots == ()
    assert session.evaluation.laid_out.joined_pack.solved is not None
    for _ in range(4):
        session.undo_stack.undo()
    assert session.evaluation.laid_out.joined_pack.layout.x_mm == pytest.approx(before.x_mm)


def test_arrow_keys_move_what_is_in_hand(
    qtbot: QtBot, stage: ArrangementStage, session: Session
) -> None:
    session.edit({"arrangement.room.kind": "none", "arrangement.kept_free": ()})
    stage.take_chosen(frozenset({97}))
    stage.view.setFocus()
    before = float(session.evaluation.laid_out.joined_pack.layout.x_mm[97])
    qtbot.keyClick(stage.view, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClick(stage.view, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert session.evaluation.laid_out.joined_pack.layout.x_mm[97] == pytest.approx(before + 2.0)


def test_a_block_kept_free_is_dragged_and_the_cells_make_room(
    qtbot: QtBot, stage: ArrangementStage, session: Session
) -> None:
    view = stage.view
    block = session.project.arrangement.kept_free[0]
    start = view.to_px(block.x_mm + 30, block.y_mm + 10).toPoint()
    drag(qtbot, view, start, start + QPoint(round(40 * view.spread.scale), 0))
    assert session.project.arrangement.kept_free[0].x_mm == pytest.approx(block.x_mm + 40, abs=2)
    assert session.evaluation.laid_out.joined_pack.placing.fits
