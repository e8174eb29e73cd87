"""The ladder of series counts."""

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest

from lumvak.core.evaluation import rungs_in_hand
from lumvak.core.spelling import spoken
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.stage import CellsStage


def test_a_rung_of_the_ladder_picks_its_count(window: Window, cells: CellsStage) -> None:
    rungs = rungs_in_hand(window.session.evaluation)
    serving = next(rung for rung in rungs if rung.serves and not rung.chosen)
    spot = QPointF(20, cells.ladder.row_rect(rungs.index(serving)).center().y())
    QTest.mouseClick(cells.ladder, Qt.MouseButton.LeftButton, pos=spot.toPoint())
    assert window.session.evaluation.sized.choice.series == serving.series
    refused = next(rung for rung in rungs if "too high" in spoken(rung.says))
    before = window.session.project
    cells.ladder.picked.emit(refused)
    assert window.session.project == before
    ask = cells.options.ask
    assert ask.answer.isVisible()
    assert spoken(refused.says) in ask.answer_text.text()
