"""What the drawings of proving tell, to eyes and ears."""

from pytestqt.qtbot import QtBot

from lumvak.core.document.proving import Proving
from lumvak.core.proving.proof import Prepared, proof_of
from lumvak.ui.stages.prove.judged_chart import JudgedChart
from lumvak.ui.widgets.theme import THEME
from tests.proofs import reading


def test_bands_and_readings(qtbot: QtBot, ready: Prepared) -> None:
    read = Proving(readings=(reading("charger-stop", 50.0, "charger"),))
    proof = proof_of(ready, read, {"cells": 30.0})
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
