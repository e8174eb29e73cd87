"""Pieces nearest to their limits."""

import numpy as np
import pytest
from pytestqt.qtbot import QtBot

from lumvak.core.joints.pieces import SERIES
from lumvak.ui.session import Session
from lumvak.ui.stages.joints.joined_pack import OnTableView
from tests.ui.arrangement.test_stage import LEFT


def test_a_strip_is_clicked_doubled_left_out_and_brought_back(
    qtbot: QtBot, view: OnTableView, session: Session
) -> None:
    joined_pack = session.evaluation.laid_out.joined_pack
    piece = int(np.flatnonzero(joined_pack.pieces.kind == SERIES)[0])
    side = view.side_a if joined_pack.pieces.face[piece] == 0 else view.side_b
    x, y = joined_pack.pieces.middle_mm(piece)
    qtbot.mouseClick(side, LEFT, pos=side.to_px(x, y).toPoint())
    assert view.piece == piece
    assert [row.value for row in view.hot.table.rows_model.rows if row.chosen] == [piece]
    view.hot.more.click()
    assert session.project.joints.changes[0].layers == 2
    assert session.evaluation.laid_out.joined_pack.sections.ohm[piece] == pytest.approx(
        joined_pack.sections.ohm[piece] / 2
    )
    view.hot.table.cell_clicked.emit(piece, 5)
    assert session.explained_key == "piece.rise_k"
    # What is in hand and what is broken stays so when the numbers of the pieces shift.
    other = int(np.flatnonzero(joined_pack.pieces.kind == SERIES)[7])
    name = joined_pack.pieces.name(other)
    view.break_piece(other)
    view.following.show_value("hot")
    view.hot.out.click()
    assert len(session.evaluation.laid_out.joined_pack.pieces) == len(joined_pack.pieces) - 1
    assert view.piece is None
    assert [session.evaluation.laid_out.joined_pack.pieces.name(k) for k in view.broken.pieces] == [
        name
    ]
    view.whole.click()
    view.hot.back.click()
    assert session.project.joints.changes == ()
    view.choose_piece(piece)
    view.hot.whole.click()
    view.hot.more.click()
    assert len(session.project.joints.changes) == 5
    assert (session.evaluation.laid_out.joined_pack.sections.layers == 2).sum() == 5
