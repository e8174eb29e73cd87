"""All of a drawing is reached by keys, on both sides."""

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.core.arrangement.layout import FACE_A, FACE_B
from lumvak.core.evaluation import Evaluation
from lumvak.ui.pack_drawing.by_keys import next_cell, next_piece
from lumvak.ui.pack_drawing.side import SideShown
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.arrangement.stage import ArrangementStage
from lumvak.ui.stages.joints.stage import JointsStage

WAYS = ((1, 0), (-1, 0), (0, 1), (0, -1))


@pytest.mark.parametrize("rows", ["straight", "nested"])
def test_the_arrows_come_to_every_cell(window: Window, rows: str) -> None:
    window.session.edit({"arrangement.rows": rows})
    layout = window.session.evaluation.laid_out.joined_pack.layout
    drawn = SideShown(layout=layout, side=FACE_A)
    first = next_cell(drawn, None, 1, 0)
    assert first is not None
    reached, waiting = {first}, [first]
    while waiting:
        cell = waiting.pop()
        for across, down in WAYS:
            fresh = next_cell(drawn, cell, across, down)
            assert fresh is not None
            if fresh != cell:
                moved = (layout.x_mm[fresh] - layout.x_mm[cell]) * across
                moved += (layout.y_mm[fresh] - layout.y_mm[cell]) * down
                assert moved > 0.0
            if fresh not in reached:
                reached.add(fresh)
                waiting.append(fresh)
    assert len(reached) == len(layout)


def test_strips_are_gone_through_around_and_back(evaluation: Evaluation) -> None:
    joined_pack = evaluation.laid_out.joined_pack
    for side in (FACE_A, FACE_B):
        drawn = SideShown(layout=joined_pack.layout, side=side, pieces=joined_pack.pieces)
        here = drawn.pieces_here.tolist()
        walked, piece = [], None
        for _ in here:
            piece = next_piece(drawn, piece, 1)
            walked.append(piece)
        assert walked == here
        assert next_piece(drawn, piece, 1) == here[0]
        assert next_piece(drawn, here[0], -1) == here[-1]
        assert next_piece(drawn, -5, -1) == here[-1]
    bare = SideShown(layout=joined_pack.layout, side=FACE_A)
    assert next_piece(bare, None, 1) is None


def test_cells_are_chosen_and_moved_by_keys(qtbot: QtBot, window: Window) -> None:
    window.session.edit({"arrangement.room.kind": "none", "arrangement.kept_free": ()})
    window.go_to("arrangement")
    stage = window.stages["arrangement"]
    assert isinstance(stage, ArrangementStage)
    view = stage.view
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_Right)
    first = view.mark
    qtbot.keyClick(view, Qt.Key.Key_Space)
    qtbot.keyClick(view, Qt.Key.Key_Down)
    second = view.mark
    assert first is not None
    assert second is not None
    layout = window.session.evaluation.laid_out.joined_pack.layout
    assert layout.y_mm[second] > layout.y_mm[first]
    qtbot.keyClick(view, Qt.Key.Key_Space)
    assert stage.chosen == {first, second}
    before = layout.x_mm[[first, second]].copy()
    qtbot.keyClick(view, Qt.Key.Key_Left, Qt.KeyboardModifier.ControlModifier)
    after = window.session.evaluation.laid_out.joined_pack.layout.x_mm[[first, second]]
    gap = after - before
    assert np.ptp(gap) == pytest.approx(0.0, abs=1e-6)
    qtbot.keyClick(view, Qt.Key.Key_Return)
    assert stage.chosen == {second}


def test_a_strip_is_chosen_by_keys_and_the_drawing_looked_at_closely(
    qtbot: QtBot, window: Window
) -> None:
    window.go_to("joints")
    stage = window.stages["joints"]
    assert isinstance(stage, JointsStage)
    view = stage.on_table.side_b
    view.setFocus()
    qtbot.keyClicks(view, "]")
    drawn = view.drawn
    assert drawn is not None
    chosen = drawn.chosen_piece
    assert chosen in drawn.pieces_here
    qtbot.keyClicks(view, "]")
    assert view.drawn is not None
    assert view.drawn.chosen_piece != chosen
    scale = view.spread.scale
    qtbot.keyClick(view, Qt.Key.Key_PageUp)
    assert view.spread.scale == pytest.approx(1.2 * scale)
    qtbot.keyClick(view, Qt.Key.Key_Home)
    assert view.spread.scale == pytest.approx(scale)
    # Turned over, right on the drawing is left on the pack.
    qtbot.keyClick(view, Qt.Key.Key_Right)
    start = view.mark
    qtbot.keyClick(view, Qt.Key.Key_Left)
    qtbot.keyClick(view, Qt.Key.Key_Right)
    assert view.mark == start
    assert start is not None
    qtbot.keyClick(view, Qt.Key.Key_Left)
    assert view.mark is not None
    layout = view.drawn.layout
    place = view.to_px(layout.x_mm[view.mark], layout.y_mm[view.mark])
    assert place.x() < view.to_px(layout.x_mm[start], layout.y_mm[start]).x()
