"""The main leads are moved: by the mouse, by keys, and shown meanwhile."""

import numpy as np
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.joints.joined_pack import OnTableView
from tests.ui.arrangement.test_stage import drag


def test_a_lead_is_dragged_to_the_middle_and_the_cells_even_out(
    qtbot: QtBot, window: Window, view: OnTableView, session: Session
) -> None:
    before = session.evaluation.figures["network.cell_excess"].number
    side = view.side_b
    assert len(side.drawn.leads_here) == 2
    joined_pack = session.evaluation.laid_out.joined_pack
    for pole in ("-", "+"):
        place = next(
            k
            for k, lead in enumerate(session.evaluation.laid_out.joined_pack.leads)
            if lead.pole == pole
        )
        start = side.spread.lead_px(
            side.drawn, session.evaluation.laid_out.joined_pack.leads[place]
        ).toPoint()
        x, y = joined_pack.layout.terminal_mm[joined_pack.leads[place].terminal, :2]
        drag(qtbot, side, start, side.to_px(float(x), float(y) + 2 * 22.8).toPoint())
    assert [item.cell for item in session.project.joints.lead_points] == [3, 3]
    after = session.evaluation.figures["network.cell_excess"].number
    assert after < 0.5 * before
    assert "moved" not in window.notice.text.text()
    session.undo_stack.undo()
    session.undo_stack.undo()
    assert session.project.joints.lead_points == ()


def test_a_lead_is_moved_by_keys(qtbot: QtBot, view: OnTableView, session: Session) -> None:
    side = view.side_b
    side.setFocus()
    qtbot.keyClicks(side, "-")
    qtbot.keyClick(side, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClick(side, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClick(side, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    leads = {item.pole: item.cell for item in session.project.joints.lead_points}
    assert leads == {"-": 3, "+": 1}
    qtbot.keyClicks(side, "+")
    qtbot.keyClick(side, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    leads = {item.pole: item.cell for item in session.project.joints.lead_points}
    assert leads == {"-": 3, "+": 2}


def test_while_a_lead_is_dragged_the_currents_follow(
    qtbot: QtBot, view: OnTableView, session: Session
) -> None:
    held = session.project
    drawn = view.side_b.drawn
    assert drawn is not None and drawn.strength is not None
    x, y = session.evaluation.laid_out.joined_pack.layout.terminal_mm[
        session.evaluation.laid_out.joined_pack.leads[0].terminal, :2
    ]
    view.lead_tool.drag(0, float(x), float(y) + 45.0, False)
    moved = view.side_b.drawn
    assert moved is not None and moved.strength is not None
    assert not np.allclose(moved.strength, drawn.strength)
    assert session.project is held
    view.show_evaluation(session.evaluation)
    assert np.allclose(view.side_b.drawn.strength, drawn.strength)  # type: ignore[union-attr,arg-type]


def test_a_lead_let_go_where_it_was_shows_the_pack_as_it_was(
    view: OnTableView, session: Session
) -> None:
    before = view.side_b.drawn
    joined_pack = session.evaluation.laid_out.joined_pack
    lead = joined_pack.leads[0]
    x, y = (float(place) for place in joined_pack.layout.terminal_mm[lead.terminal, :2])
    view.lead_tool.drag(0, x, y + 45.0, False)
    assert view.lead_tool.live is not None
    view.lead_tool.drag(0, x, y, True)
    assert view.lead_tool.live is None
    assert session.evaluation.laid_out.joined_pack.leads == joined_pack.leads
    assert view.side_b.drawn is not None and before is not None
    assert view.side_b.drawn.looks_like(before)


def test_keys_take_one_lead_of_a_pole_after_the_other(view: OnTableView, session: Session) -> None:
    session.edit({"joints.take_off": "spread"})
    own = [
        k
        for k, lead in enumerate(session.evaluation.laid_out.joined_pack.leads)
        if lead.pole == "-"
    ]
    assert len(own) > 1
    taken = []
    for _ in range(len(own) + 1):
        view.lead_tool.take("-")
        taken.append(view.lead_tool.lead)
    assert taken == [*own, own[0]]
    assert "Ctrl and the arrows" in view.state.text()
    # A lead that is no longer there is not moved.
    held = session.project
    view.lead_tool.lead = 10**6
    view.lead_tool.step(0.0, 1.0)
    assert session.project is held
