import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.core.spelling import Spelling
from lumvak.ui.speech import SPEECH
from lumvak.ui.widgets.plots import Plot, named_plot, round_range


@pytest.mark.parametrize(
    ("low", "high", "shown"),
    [(0.0, 80.3, (0.0, 90.0)), (34.2, 58.8, (30.0, 60.0)), (18.0, 55.0, (15.0, 55.0))],
)
def test_ranges_are_round(low: float, high: float, shown: tuple[float, float]) -> None:
    assert round_range(low, high) == pytest.approx(shown)


@given(st.floats(-100.0, 1000.0), st.floats(1e-3, 1e4))
def test_ranges_hold_what_is_shown_and_little_more(low: float, span: float) -> None:
    shown_low, shown_high = round_range(low, low + span)
    assert shown_low <= low + 1e-6
    assert shown_high >= low + span - 1e-6 * max(1.0, span)
    assert shown_high - shown_low <= 1.6 * span + 1e-6


@pytest.fixture
def plot(qtbot: QtBot, qapp: QApplication) -> Plot:
    made = named_plot("volts, V", "time, min")
    qtbot.addWidget(made)
    made.resize(500, 300)
    made.show()
    made.show_whole((0.0, 80.0), (30.0, 60.0))
    return made


def ranges(plot: Plot) -> list[float]:
    across, up = plot.viewRange()
    return [*across, *up]


def test_a_plot_is_looked_at_closer_and_as_a_whole_by_keys(qtbot: QtBot, plot: Plot) -> None:
    plot.setFocus()
    qtbot.keyClick(plot, Qt.Key.Key_Right)
    assert ranges(plot) == [0.0, 80.0, 30.0, 60.0]
    qtbot.keyClicks(plot, "+")
    assert ranges(plot) == pytest.approx([8.0, 72.0, 33.0, 57.0])
    qtbot.keyClick(plot, Qt.Key.Key_Right)
    assert ranges(plot) == pytest.approx([14.4, 78.4, 33.0, 57.0])
    qtbot.keyClicks(plot, "-")
    qtbot.keyClicks(plot, "0")
    assert ranges(plot) == [0.0, 80.0, 30.0, 60.0]


def test_a_part_stays_in_view_when_the_whole_changes(plot: Plot) -> None:
    plot.closer(0.5)
    plot.show_whole((0.0, 40.0), (30.0, 60.0))
    assert ranges(plot) == pytest.approx([10.0, 30.0, 37.5, 52.5])


def test_the_wheel_alone_leaves_the_plot_and_with_ctrl_looks_closer(
    qtbot: QtBot, plot: Plot
) -> None:
    def wheel(keys: Qt.KeyboardModifier) -> bool:
        place = QPointF(plot.getPlotItem().vb.sceneBoundingRect().center())
        event = QWheelEvent(
            place,
            place,
            QPoint(),
            QPoint(0, 120),
            Qt.MouseButton.NoButton,
            keys,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )
        plot.wheelEvent(event)
        return event.isAccepted()

    assert not wheel(Qt.KeyboardModifier.NoModifier)
    assert ranges(plot) == [0.0, 80.0, 30.0, 60.0]
    assert wheel(Qt.KeyboardModifier.ControlModifier)
    assert ranges(plot) == pytest.approx([8.0, 72.0, 33.0, 57.0], abs=0.5)


@given(st.lists(st.tuples(st.sampled_from("+-0<>^v"), st.floats(0.0, 1.0)), max_size=30))
def test_no_key_leads_out_of_the_whole(qapp: QApplication, keys: list[tuple[str, float]]) -> None:
    plot = Plot()
    plot.show_whole((0.0, 80.0), (30.0, 60.0))
    for key, share in keys:
        if key in "<>^v":
            plot.along({"<": -share, ">": share}.get(key, 0), {"^": share, "v": -share}.get(key, 0))
        else:
            plot.closer({"+": 0.8, "-": 1.25, "0": math.inf}[key])
        left, right, low, high = ranges(plot)
        assert -1e-9 <= left < right <= 80.0 + 1e-9
        assert 30.0 - 1e-9 <= low < high <= 60.0 + 1e-9
        assert right - left >= 80.0 * 0.02 - 1e-9


def test_the_numbers_of_an_axis_have_the_decimal_sign(plot: Plot) -> None:
    made = plot.getAxis("left")
    assert made.tickStrings([0.5, 1.0], 1.0, 0.5) == ["0.5", "1.0"]
    SPEECH.spelling = Spelling(comma=True)
    assert made.tickStrings([0.5, 1.0], 1.0, 0.5) == ["0,5", "1,0"]
