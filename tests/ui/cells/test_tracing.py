"""Points clicked on a picture of a sheet become a discharge."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor, QPixmap
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.sheet_curves import SheetCurvesView
from tests.ui.cells.test_sheet_curves import mine, view

__all__ = ["view"]


def test_a_discharge_is_traced_on_a_picture(
    qtbot: QtBot, window: Window, view: SheetCurvesView, tmp_path: Path
) -> None:
    picture = QPixmap(600, 400)
    picture.fill(QColor("white"))
    path = tmp_path / "sheet.png"
    assert picture.save(str(path))
    view.duplicate.click()
    view.open_picture(path)
    assert view.right.currentWidget() is view.picture
    sheet = view.picture.sheet
    across = sheet.rect_shown().width() / 600.0

    def click(x: float, y: float) -> None:
        at = QPoint(round(x * across), round(y * across))
        qtbot.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=at)

    view.picture.take.click()
    assert not mine(window).curves
    for x, y in ((50, 350), (550, 50), (60, 60), (250, 120), (400, 170), (500, 300), (505, 20)):
        click(x, y)
    qtbot.keyClick(view.picture, Qt.Key.Key_Backspace)
    assert "4 so far" in view.picture.step.text()
    # The corners read what the fields say: here 0 to 5 Ah and 2.5 to 4.2 V.
    view.picture.fields["ah1"].setText("5 Ah")
    view.picture.take.click()
    (curve,) = mine(window).curves
    assert curve.points[0] == pytest.approx((0.1, 4.2 - 10 / 300 * 1.7), abs=0.02)
    assert curve.points[-1] == pytest.approx((4.5, 2.5 + 50 / 300 * 1.7), abs=0.02)
    assert view.right.currentIndex() == 0
    # A file that is no picture is told.
    other = tmp_path / "none.png"
    other.write_text("nothing")
    with qtbot.waitSignal(window.session.told) as told:
        view.open_picture(other)
    assert told.args is not None
    assert told.args[0] == "stop"
    assert "no picture" in told.args[1]
    view.open_picture(path)
    view.picture.fields["ah1"].setText("many")
    for x, y in ((50, 350), (550, 50), (60, 60), (250, 120), (400, 170), (500, 300)):
        click(x, y)
    view.picture.take.click()
    assert "many" in view.picture.problem.text()
    qtbot.keyClick(view.picture, Qt.Key.Key_Escape)
    assert view.right.currentIndex() == 0
