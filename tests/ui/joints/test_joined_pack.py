import numpy as np
import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.core.joints.pieces import SERIES
from lumvak.ui.session import Session
from lumvak.ui.stages.joints.joined_pack import OnTableView
from tests.ui.arrangement.test_stage import LEFT, spot


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


def test_two_cells_are_joined_by_hand_and_a_short_is_marked(
    qtbot: QtBot, view: OnTableView, session: Session
) -> None:
    side = view.side_a
    qtbot.mouseClick(side, LEFT, pos=spot(side, 0, -0.35, 0.35))
    qtbot.mouseClick(side, LEFT, Qt.KeyboardModifier.ShiftModifier, spot(side, 24, 0.35, 0.35))
    assert view.cells == (0, 24)
    view.join.click()
    assert len(session.project.joints.changes) == 1
    flaws = [item.code for item in session.evaluation.laid_out.joined_pack.flaws]
    assert flaws == ["joint-shorts"]
    assert side.drawn is not None and side.drawn.flaws
    assert view.state.text() == "not solved: see the marks"
    assert [row.cells[1] for row in view.hot.table.rows_model.rows] == []


def test_take_off_places_are_compared_and_the_best_taken(
    qtbot: QtBot, view: OnTableView, session: Session
) -> None:
    view.show_lower("places")
    rows = view.places.table.rows_model.rows
    assert rows[0].chosen and rows[0].cells[0] == "as drawn"
    best = next(row for row in rows if row.proposed)
    assert float(best.cells[3]) < float(rows[0].cells[3])
    view.places.table.picked.emit(best.value)
    assert session.evaluation.figures["network.cell_excess"].number == pytest.approx(
        best.value.excess, abs=1e-6
    )
    view.places.follow.click()
    assert session.project.joints.lead_points == ()
    view.places.share.click()
    assert len(session.project.joints.lead_points) == 4
    view.places.fewer.click()
    assert [item.cell for item in session.project.joints.lead_points] == [1, 1]


def test_what_if_a_strip_breaks_and_a_variant_is_held(
    qtbot: QtBot, view: OnTableView, session: Session
) -> None:
    view.show_lower("broken")
    view.what_if.worst.click()
    assert len(view.broken.pieces) == 1
    rows = {row.cells[0]: row.cells for row in view.what_if.table.rows_model.rows}
    assert rows["busiest cell"][3].startswith("+")
    assert "The others then carry" in view.what_if.about.text()
    held = session.project
    view.whole.click()
    assert view.broken.nothing and session.project is held
    view.what_if.hold.click()
    session.edit({"joints.take_off": "middle"})
    rows = {row.cells[0]: row.cells for row in view.what_if.table.rows_model.rows}
    assert rows["busiest cell"][5].startswith("−")
    held = view.what_if.held
    assert held is not None
    view.what_if.look.click()
    assert view.side_b.drawn.leads == held.leads != session.evaluation.laid_out.joined_pack.leads  # type: ignore[union-attr]
    view.what_if.drop.click()
    assert view.side_b.drawn.leads == session.evaluation.laid_out.joined_pack.leads  # type: ignore[union-attr]
    assert rows.keys() == {row.cells[0] for row in view.what_if.table.rows_model.rows}


def test_how_it_is_laid_is_a_visible_choice(view: OnTableView, session: Session) -> None:
    view.show_lower("how")
    view.how.sides["a"].picked.emit("sheet")
    assert session.evaluation.laid_out.joined_pack.pieces.meshed.any()
    view.how.scheme.picked.emit("strings-ends")
    assert any(item.code == "strings" for item in session.evaluation.findings)
    view.how.joining.picked.emit("cap")
    assert "Press caps" in view.how.said.text()
    assert any(link.key == "contact" for link in session.evaluation.path.links)


def test_the_spread_of_every_group_is_listed(view: OnTableView, session: Session) -> None:
    view.show_lower("groups")
    rows = view.groups.rows_model.rows
    assert len(rows) == 10
    flow = session.evaluation.laid_out.joined_pack.flow
    assert flow is not None
    assert rows[0].cells[1].endswith("g1c1")
    assert float(rows[0].cells[3].split()[0]) == pytest.approx(np.ptp(flow.cell_a[:5]), rel=0.01)


def test_measured_cells_are_pasted(view: OnTableView, session: Session) -> None:
    view.show_lower("cells")
    records = view.measured.pasted("g1c1\t80\t3,71\t4.6\ng2c1\t33\n\n")
    assert view.measured.take(records) == ""
    assert session.project.measured[0].mohm == 80.0 and session.project.measured[0].volts == 3.71
    assert session.project.measured[1].volts is None
    wrong = [{"cell": "first", "mohm": None, "volts": None, "ah": None}]
    assert "cell" in view.measured.take(wrong)
    assert len(session.project.measured) == 2


def test_all_layers_shown_modes_and_hover(
    qtbot: QtBot, view: OnTableView, session: Session
) -> None:
    for shown in ("warmth", "strips", "current"):
        view.shown.picked.emit(shown)
        assert view.side_a.drawn is not None
        assert (view.side_a.drawn.strength is None) == (shown == "strips")
        assert not view.grab().isNull()
    assert "between joint 0 and 1" in view.describe("cell", 0)
    assert "main lead" in view.describe("lead", 0)
    assert "pack gives" in view.describe("piece", 0)
    session.edit(
        {
            "arrangement.room.height_mm": 160.0,
            "arrangement.room.length_mm": 140.0,
            "arrangement.kept_free": (),
        }
    )
    assert view.layers.isVisibleTo(view)
    view.layers.picked.emit(1)
    assert view.layers.layer == 1 and not view.grab().isNull()
