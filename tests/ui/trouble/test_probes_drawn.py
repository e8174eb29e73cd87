"""The drawing of the probes is right for every place in the list."""

import pytest
from PyQt6.QtGui import QPixmap
from pytestqt.qtbot import QtBot

from lumvak.ui.stages.trouble.probes_drawn import ProbesDrawn
from tests.core.trouble.test_how import PLACES

SERIES = 8


@pytest.fixture
def drawn(qtbot: QtBot) -> ProbesDrawn:
    widget = ProbesDrawn()
    qtbot.addWidget(widget)
    widget.resize(520, 160)
    return widget


@pytest.mark.parametrize("place", PLACES)
def test_two_points_within_the_drawing_or_none_for_what_is_shown(
    drawn: ProbesDrawn, place: str
) -> None:
    drawn.show_place(place, SERIES)
    points = drawn.probes()
    assert len(points) == (0 if place.startswith("shown") else 2)
    for point in points:
        assert 0.0 <= point.x() <= drawn.width() and 0.0 <= point.y() <= drawn.height()
    picture = QPixmap(drawn.size())
    drawn.render(picture)
    assert drawn.told().rows and drawn.accessibleName().startswith("Probes: ")


def test_each_place_lies_where_it_is(drawn: ProbesDrawn) -> None:
    drawn.show_place("pack", SERIES)
    low, high = drawn.probes()
    assert (low.x(), high.x()) == (drawn.group_x(0), drawn.group_x(SERIES))
    for group in range(1, SERIES + 1):
        drawn.show_place(f"group:{group}", SERIES)
        low, high = drawn.probes()
        assert (low.x(), high.x()) == (drawn.group_x(group - 1), drawn.group_x(group))
        drawn.show_place(f"tap:{group}", SERIES)
        assert [it.x() for it in drawn.probes()] == [drawn.group_x(0), drawn.group_x(group)]
    for joint in range(1, SERIES):
        drawn.show_place(f"joint:{joint}", SERIES)
        low, high = drawn.probes()
        assert low.x() < drawn.group_x(joint) < high.x()
    drawn.show_place("fuse", SERIES)
    assert all(it.x() > drawn.group_x(SERIES) for it in drawn.probes())
