"""Every drawing tells what it shows in words."""

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from lumvak.ui.widgets.plots import named_plot
from lumvak.ui.widgets.told import POINTS, Spots, told_by


def test_a_plot_tells_points_of_each_curve_in_its_own_units(qtbot: QtBot) -> None:
    plot = named_plot("volts, V", "time, s")
    qtbot.addWidget(plot)
    x = np.linspace(0.0, 100.0, 500)
    plot.plot(x, 2.0 * x, name="twice")
    plot.plot(x[:5], x[:5])
    plot.plot([], [])
    told = told_by(plot)
    assert told is not None
    assert told.heads == ("curve", "time, s", "volts, V")
    twice = [row for row in told.rows if row[0] == "twice"]
    assert len(twice) == POINTS
    assert twice[0][1:] == ("0", "0")
    assert twice[-1][1:] == ("100", "200")
    for _, low, high in twice:
        assert float(high) == pytest.approx(2.0 * float(low), rel=1e-3)
    assert sum(row[0] == "curve 2" for row in told.rows) == 5
    assert len(told.rows) == POINTS + 5


def test_what_draws_nothing_tells_nothing(qtbot: QtBot) -> None:
    label = QLabel("text")
    qtbot.addWidget(label)
    assert told_by(label) is None


def test_the_place_at_hand_takes_the_focus_each_time_places_are_shown(qtbot: QtBot) -> None:
    over = QWidget()
    qtbot.addWidget(over)
    spots = Spots(over, lambda place: None)
    for names, here in ((("one",), 0), (("two", "three"), 0), (("four", "five"), 1)):
        spots.show(names, here)
        policies = [button.focusPolicy() for button in over.findChildren(QPushButton)]
        wanted = [
            Qt.FocusPolicy.StrongFocus if place == here else Qt.FocusPolicy.NoFocus
            for place in range(len(policies))
        ]
        assert policies == wanted
