"""What the drawings of proving tell, to eyes and ears."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.core.document.proving import Proving
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.proving.correction import Proven
from lumvak.core.proving.guide import GUIDES
from lumvak.core.proving.proof import prepared, proof_of
from lumvak.ui.stages.prove.judged_chart import JudgedChart
from lumvak.ui.stages.prove.moved_chart import Moved, MovedChart
from lumvak.ui.stages.prove.set_up import SetUpDrawing
from lumvak.ui.widgets.theme import THEME
from tests.proofs import reading


def test_bands_and_readings(qtbot: QtBot, bench_pack: BenchPack) -> None:
    read = Proving(readings=(reading("charger-stop", 50.0, "charger"),))
    proof = proof_of(prepared(bench_pack), read, {"cells": 30.0})
    chart = JudgedChart()
    qtbot.addWidget(chart)
    chart.show_figures(proof.of("charger-stop").figures)
    assert chart.told().rows[0][3:] == ("50 V", "outside")
    chart.resize(500, 60)
    image = chart.grab().toImage()
    crimson = THEME.colour("crimson").rgb()
    marks = [x for x in range(500) if image.pixel(x, 30) == crimson]
    # Far too low: at the left end of the line, before its band.
    assert marks and max(marks) < 40
    chart.show_figures(proof.of("drops").figures)
    assert chart.sizeHint().height() == 5 * THEME.px(46)


def test_before_and_after(qtbot: QtBot) -> None:
    chart = MovedChart()
    qtbot.addWidget(chart)
    chart.show_moved((Moved("run time", "h", Proven(1.0, 0.5, 1.5), Proven(1.2, 1.1, 1.3)),))
    assert [row[1] for row in chart.told().rows] == ["as designed", "as proven"]
    chart.resize(600, 62)
    assert not chart.grab().isNull()


@pytest.mark.parametrize("test", GUIDES)
def test_every_set_up_is_drawn_and_told(qtbot: QtBot, bench_pack: BenchPack, test: str) -> None:
    drawing = SetUpDrawing()
    qtbot.addWidget(drawing)
    drawing.show_test(GUIDES[test], bench_pack)  # type: ignore[index]
    assert [row[0] for row in drawing.told().rows] == [name for name, _ in GUIDES[test].drawn]  # type: ignore[index]
    drawing.resize(400, 100)
    assert drawing.accessibleName() and not drawing.grab().isNull()
