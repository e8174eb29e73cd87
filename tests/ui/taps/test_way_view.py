"""The way of a balance lead laid with the mouse, and by typing."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from lumvak.core import units
from lumvak.core.units import QuantityError
from lumvak.ui.shell.window import Window
from lumvak.ui.speech import SPEECH
from lumvak.ui.stages.taps.guide import GuideView, ways_read, ways_said
from lumvak.ui.stages.taps.way_view import WayView
from tests.ui.conftest import forget


def drag(view: WayView, start: QPoint, end: QPoint) -> None:
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(view, (start + end) / 2)
    QTest.mouseMove(view, end)
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=end)


def test_a_corner_is_dragged_and_the_length_follows(
    qtbot: QtBot, barrow_window: Window, guide: GuideView
) -> None:
    session = barrow_window.session
    guide.turn_to(6)
    layout = session.evaluation.laid_out.joined_pack.layout
    terminal = int(session.evaluation.laid_out.taps.terminal[6])
    views = [view for view in guide.sides.views if isinstance(view, WayView) and view.drawn]
    view = next(view for view in views if layout.face[terminal] != view.drawn.hidden)  # type: ignore[union-attr]
    before = float(session.evaluation.laid_out.taps.length_mm[6])
    assert view.drawn is not None
    assert view.drawn.route is not None
    corner = view.to_px(*(float(value) for value in view.drawn.route[1])).toPoint()
    target = QPoint(corner.x() + 40, corner.y() + 60)
    drag(view, corner, target)
    ways = session.project.balance_leads.ways
    assert [item.lead for item in ways] == [6]
    x, y = view.spread.to_mm(view.to_px(*ways[0].corners[0]))
    wanted = view.to_px(x, y).toPoint() - target
    assert abs(wanted.x()) + abs(wanted.y()) <= 3
    assert float(session.evaluation.laid_out.taps.length_mm[6]) > before
    assert guide.way.text() == ways_said(ways[0].corners)
    # Somewhere on the way a new corner is made.
    route = view.drawn.route
    middle = (view.to_px(*map(float, route[0])) + view.to_px(*map(float, route[1]))) / 2.0
    drag(view, middle.toPoint(), middle.toPoint() + QPoint(12, 9))
    assert len(session.project.balance_leads.ways[0].corners) == 2
    guide.proposed.click()
    assert session.project.balance_leads.ways == ()
    assert float(session.evaluation.laid_out.taps.length_mm[6]) == before
    forget(barrow_window)


def test_corners_are_typed(barrow_window: Window, guide: GuideView) -> None:
    guide.turn_to(2)
    guide.way.setText("10;20 30,5;40")
    guide.way.setModified(True)
    guide.way.editingFinished.emit()
    ways = barrow_window.session.project.balance_leads.ways
    assert ways[0].corners == ((10.0, 20.0), (30.5, 40.0))
    guide.way.setText("10;20 there")
    guide.way.setModified(True)
    guide.way.editingFinished.emit()
    assert "“there” is no corner" in guide.problem.text()
    assert barrow_window.session.project.balance_leads.ways == ways
    assert ways_read(ways_said(ways[0].corners)) == ways[0].corners
    with pytest.raises(QuantityError, match="is not a length"):
        ways_read("10;far")
    # In the builder's own unit, there and back.
    before = SPEECH.spelling
    try:
        SPEECH.spelling = units.Spelling(inches=True)
        assert ways_said([(25.4, 50.8)]) == "1;2"
        assert ways_read("1;2") == ((25.4, 50.8),)
    finally:
        SPEECH.spelling = before
    forget(barrow_window)
