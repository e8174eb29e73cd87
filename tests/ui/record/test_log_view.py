"""The log takes what is added, and gives nothing back."""

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.record.log_view import PackLogView
from tests.ui.record.conftest import record


def test_an_entry_is_added_and_corrected_and_never_taken_out(window: Window, qtbot: QtBot) -> None:
    view = record(window, "log").views["log"]
    assert isinstance(view, PackLogView)
    assert view.waits.isVisible() and not view.save.isEnabled()
    view.text.setText("foam under group 3")
    view.reason.setText("the case is 2 mm deeper")
    qtbot.keyClick(view.text, Qt.Key.Key_Return)
    (entry,) = window.session.project.record.log
    assert (entry.text, entry.reason, view.text.text()) == (
        "foam under group 3",
        "the case is 2 mm deeper",
        "",
    )
    view.table.picked.emit(entry.id)
    view.text.setText("foam under group 4")
    qtbot.mouseClick(view.correct, Qt.MouseButton.LeftButton)
    assert window.session.project.record.log[-1].corrects == entry.id
    rows = [row.cells[2] for row in view.table.rows_model.rows]
    assert rows[0] == "foam under group 4" and rows[1].startswith("foam under group 3")
    view.shown.picked.emit("prove")
