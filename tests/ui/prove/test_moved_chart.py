"""A figure before and after, drawn and told."""

from pytestqt.qtbot import QtBot

from lumvak.core.proving.correction import Proven
from lumvak.ui.stages.prove.moved_chart import Moved, MovedChart


def test_before_and_after(qtbot: QtBot) -> None:
    chart = MovedChart()
    qtbot.addWidget(chart)
    chart.show_moved((Moved("run time", "h", Proven(1.0, 0.5, 1.5), Proven(1.2, 1.1, 1.3)),))
    assert [row[1] for row in chart.told().rows] == ["as designed", "as proven"]
    chart.resize(600, 62)
    assert not chart.grab().isNull()
