import numpy as np
import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.stages.joints.joined_pack import OnTableView
from tests.ui.arrangement.test_stage import LEFT, spot


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


def test_all_layers_shown_modes_and_hover(
    qtbot: QtBot, view: OnTableView, session: Session
) -> None:
    for shown in ("warmth", "strips", "current"):
        view.shown.picked.emit(shown)
        assert view.side_a.drawn is not None
        assert (view.side_a.drawn.strength is None) == (shown == "strips")
        assert not view.grab().isNull()
    assert "between tap 0 and 1" in view.describe("cell", 0)
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
