"""The vessels: levels dragged and moved by keys, and what they tell."""

import numpy as np
import pytest
from PyQt6.QtCore import QEvent, QPoint, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.core.balancing.imbalance import imbalance
from lumvak.ui.stages.charging.vessels import VesselsView


@pytest.fixture
def view(qtbot: QtBot) -> VesselsView:
    made = VesselsView()
    qtbot.addWidget(made)
    made.resize(600, 260)
    made.show_vessels(imbalance(np.array([3.0, 3.0, 3.0, 2.0]), np.array([2.0, 1.5, 2.0, 1.5])))
    made.show()
    qtbot.waitExposed(made)
    return made


def move(view: VesselsView, to: QPoint) -> None:
    """The pointer is moved with its button held."""
    left = Qt.MouseButton.LeftButton
    QApplication.sendEvent(
        view,
        QMouseEvent(
            QEvent.Type.MouseMove,
            to.toPointF(),
            view.mapToGlobal(to).toPointF(),
            left,
            left,
            Qt.KeyboardModifier.NoModifier,
        ),
    )


def test_sizes_are_to_scale(view: VesselsView) -> None:
    places = view.places()
    assert places[3].rect.height() == pytest.approx(2.0 / 3.0 * places[0].rect.height())
    assert {round(place.rect.bottom(), 6) for place in places} == {places[0].rect.bottom()}


def test_a_level_is_dragged(view: VesselsView, qtbot: QtBot) -> None:
    place = view.places()[1]
    x = int(place.rect.center().x())
    level = int(place.rect.bottom() - 1.5 * place.px_per_ah)
    to = int(place.rect.bottom() - 2.4 * place.px_per_ah)
    with qtbot.waitSignal(view.levelled) as told:
        qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=QPoint(x, level))
        move(view, QPoint(x, to))
        qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=QPoint(x, to))
    group, share = told.args
    assert group == 2
    assert share == pytest.approx(0.8, abs=0.01)


def test_a_click_beside_the_level_marks_and_moves_nothing(view: VesselsView, qtbot: QtBot) -> None:
    place = view.places()[2]
    with qtbot.assertNotEmitted(view.levelled), qtbot.waitSignal(view.marked) as told:
        low = QPoint(int(place.rect.center().x()), int(place.rect.bottom()) - 4)
        qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=low)
    assert told.args == [3]
    assert "Group 3" in view.accessibleName()


def test_keys_move_along_and_up(view: VesselsView, qtbot: QtBot) -> None:
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_Right)
    with qtbot.waitSignal(view.levelled) as told:
        qtbot.keyClick(view, Qt.Key.Key_Up)
    assert told.args == [2, pytest.approx(0.51)]


def test_it_tells_what_it_shows(view: VesselsView) -> None:
    told = view.told()
    assert told.heads[0] == "group"
    assert told.rows[3][1:3] == ("2 Ah", "1.5 Ah")
    assert not view.grab().isNull()
