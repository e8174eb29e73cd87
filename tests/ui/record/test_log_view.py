"""The log takes what is added, and gives nothing back."""

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from lumvak.core.document.project import Project
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


def test_entries_are_shown_by_group_and_day(window: Window) -> None:
    view = record(window, "log").views["log"]
    assert isinstance(view, PackLogView)
    for group, text in (("3", "tape under it"), ("", "foam all around")):
        view.group.setText(group)
        view.text.setText(text)
        view.add.click()
    shown = view.table.rows_model
    assert [row.cells[3] for row in shown.rows] == ["", "3"]
    view.of_group.setText("3")
    view.of_group.editingFinished.emit()
    assert [row.cells[2] for row in shown.rows] == ["tape under it"]
    view.of_group.setText("")
    view.from_day.setText("2999-01-01")
    view.from_day.editingFinished.emit()
    assert not shown.rows
    view.from_day.setText("next week")
    view.from_day.editingFinished.emit()
    assert len(shown.rows) == 2 and "accepted" in window.notice.text.text()
    view.group.setText("0")
    view.text.setText("more")
    view.add.click()
    assert len(window.session.project.record.log) == 2 and view.text.text() == "more"


def test_photographs_go_with_an_entry_and_are_copied_where_that_is_asked(
    window: Window, tmp_path: Path
) -> None:
    window.session.start(Project(), None)
    view = record(window, "log").views["log"]
    assert isinstance(view, PackLogView)
    picture, words = tmp_path / "side.png", tmp_path / "words.txt"
    assert QPixmap(64, 48).toImage().save(str(picture))
    words.write_text("none")
    view.take_photos([picture, words])
    assert "no picture" in window.notice.text.text()
    assert view.with_next == [str(picture)] and view.pictures.isVisible()
    view.text.setText("side A as laid")
    view.add.click()
    (entry,) = window.session.project.record.log
    assert entry.photos == (str(picture),) and not view.with_next
    view.table.picked.emit(entry.id)
    assert view.pictures.findChildren(QPushButton)
    view.beside.click()
    assert "Save the project first" in window.notice.text.text()
    home = tmp_path / "packs"
    home.mkdir()
    window.session.save(home / "barrow.lumvak.json")
    view.beside.click()
    assert window.session.project.record.log[0].photos == ("barrow photographs/side.png",)
    assert (home / "barrow photographs" / "side.png").exists() and picture.exists()
