"""Why a pack does not serve, and the cure."""

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.stage import CellsStage
from tests.ui.cells.test_stage import in_hand


def test_why_not_names_the_need_and_takes_the_cure(
    qtbot: QtBot, window: Window, cells: CellsStage
) -> None:
    options = cells.options
    options.which.picked.emit(3)
    ask = options.ask
    ask.cell.setCurrentIndex(ask.cell.findData("ostrel-21-48"))
    qtbot.keyClicks(ask.series, "14")
    qtbot.keyClicks(ask.parallel, "6")
    qtbot.keyClick(ask.parallel, Qt.Key.Key_Return)
    assert "run time asks for" in ask.answer_text.text()
    assert "7 in parallel (14 cells more)" in ask.answer_text.text()
    assert ask.take.text() == "take 14S7P"
    # The answer follows the need.
    window.session.edit({"need.runtime_h": 0.8})
    assert "serves" in ask.answer_text.text()
    ask.take.click()
    assert in_hand(window) == ("ostrel-21-48", 14, 6)
    ask.parallel.setText("many")
    ask.button.click()
    assert "not a whole number" in ask.answer_text.text()
    assert not ask.take.isVisible()
