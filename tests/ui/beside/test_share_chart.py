"""Who carries how much, as a chart."""

import pytest
from msgspec.structs import replace
from pytestqt.qtbot import QtBot

from lumvak.core.beside.sharing import SharedLoad
from lumvak.core.beside.side import SideLimit
from lumvak.core.beside.together import together
from lumvak.ui.stages.beside.share_chart import ShareChart
from tests.beside_pairs import straight


def test_curves_and_limits_are_those_of_the_run(qtbot: QtBot) -> None:
    chart = ShareChart()
    qtbot.addWidget(chart)
    one = replace(straight("one", 42.0, 58.8, 9.0, 0.09), limits=(SideLimit("BMS", 15.0),))
    other = straight("other", 42.0, 58.8, 20.0, 0.06)
    found = together([one, other], SharedLoad(amps=20.0))
    chart.show_together(found)
    assert found.course is not None
    for place, curve in enumerate(chart.curves):
        x, y = curve.getData()
        assert y == pytest.approx(found.course.amps[:, place])
        assert x[-1] == pytest.approx(60.0 * found.course.hours)
    assert chart.limits[0].getData()[1].tolist() == [15.0, 15.0]
    # Of the second nobody knows a limit.
    assert chart.limits[1].getData()[1] is None or not len(chart.limits[1].getData()[1])
    assert "one from 8 A" in chart.plot.accessibleName()
