"""Names of curves keep inside, apart, and off the lines."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.power.curve_names import name_places, sampled
from lumvak.ui.stages.power.opening_order import OpenFirstView
from tests.length import so_many

ROOM = (400.0, 260.0)


def overlap(one: tuple[float, ...], other: tuple[float, ...]) -> bool:
    return all(
        abs(one[axis] - other[axis]) < (one[axis + 2] + other[axis + 2]) / 2 - 1e-9
        for axis in (0, 1)
    )


def test_a_line_is_sampled_where_it_lies_in_the_room() -> None:
    line = np.array([[-100.0, 130.0], [500.0, 130.0], [np.nan, 5.0]])
    found = sampled(line, ROOM)
    assert found[:, 0].min() >= 0.0
    assert found[:, 0].max() <= ROOM[0]
    assert np.diff(found[:, 0]).max() == pytest.approx(8.0)
    assert not len(sampled(line + 1000.0, ROOM))


@settings(max_examples=so_many(15, 60))
@given(
    st.lists(
        st.tuples(st.floats(0, 400), st.floats(0, 260), st.floats(0, 260)), min_size=1, max_size=8
    )
)
def test_names_are_inside_and_apart(ends: list[tuple[float, float, float]]) -> None:
    lines = {
        f"curve {place}": np.array([[0.0, left], [middle, left], [400.0, right]])
        for place, (middle, left, right) in enumerate(ends)
    }
    sizes = dict.fromkeys(lines, (70.0, 20.0))
    word = (330.0, 20.0, 120.0, 20.0)
    places = name_places(lines, sizes, ROOM, (word,))
    boxes = [(x, y, *sizes[key]) for key, (x, y) in places.items()]
    assert len(boxes) == len(lines)
    for x, y, wide, high in boxes:
        assert wide / 2 <= x <= ROOM[0] - wide / 2
        assert high / 2 <= y <= ROOM[1] - high / 2
    for place, one in enumerate(boxes):
        assert not overlap(one, word)
        assert not any(overlap(one, other) for other in boxes[place + 1 :])


def test_a_name_keeps_off_lines_where_it_can() -> None:
    across = np.array([[0.0, 130.0], [400.0, 130.0]])
    other = np.array([[0.0, 145.0], [400.0, 145.0]])
    places = name_places({"a": across, "b": other}, {"a": (60.0, 20.0), "b": (60.0, 20.0)}, ROOM)
    # Above the upper one and below the lower one, for between them is no room.
    assert places["a"][1] < 120.5
    assert places["b"][1] > 154.5


def test_the_names_of_the_chart_are_apart_at_every_size(qtbot: QtBot, window: Window) -> None:
    window.open_stage("power")
    window.stages["power"].show_view("order")
    view = window.stages["power"].views["order"]  # type: ignore[attr-defined]
    assert isinstance(view, OpenFirstView)
    for size in ((1280, 800), (960, 640), (1600, 1000)):
        window.resize(*size)
        qtbot.wait(30)
        names = view.plot.names_px()
        assert len(names) >= 8
        for place, one in enumerate(names):
            assert not any(overlap(one, other) for other in names[place + 1 :])
