from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QFileDialog, QMessageBox, QPushButton
from pytestqt.qtbot import QtBot

from lumvak.files.problem import FileProblem
from lumvak.files.recovery import left_over, recovery_folder
from lumvak.ui.application import make_window
from lumvak.ui.session import RECOVERY_DELAY_MS, Session
from lumvak.ui.shell.window import Window
from tests.conftest import TRIMMER
from tests.ui.conftest import forget


def test_a_save_that_fails_says_so_and_keeps_the_work(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.session.edit({"need.current_a": 25.0})

    def refuse(*_: object, **__: object) -> None:
        raise FileProblem("/there was not saved: Permission denied. Your work is kept")

    monkeypatch.setattr("lumvak.files.project_file.write_atomically", refuse)
    assert not window.files.save()
    assert window.notice.isVisible()
    assert "Permission denied" in window.notice.text.text()
    assert window.session.unsaved
    assert window.session.project.need.current_a == 25.0


def test_a_bad_file_is_said_and_what_is_open_stays(window: Window, tmp_path: Path) -> None:
    bad = tmp_path / "bad.lumvak.json"
    bad.write_text('{"format": "lumvak-project", "version": 7}', "utf-8")
    window.files.open(bad)
    assert "newer Lumvak" in window.notice.text.text()
    assert window.session.project.name == "Orchard barrow"


def test_open_save_as_and_recent(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(TRIMMER), ""))
    window.files.ask_open()
    assert window.session.project.name == "Hedge trimmer"
    target = tmp_path / "copy"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    assert window.files.save_as()
    saved = tmp_path / "copy.lumvak.json"
    assert saved.exists()
    window.recent_menu.aboutToShow.emit()
    names = [action.text() for action in window.recent_menu.actions()]
    assert names[:2] == ["copy.lumvak.json", "hedge-trimmer.lumvak.json"]
    window.recent_menu.actions()[2].trigger()
    assert window.session.project.name == "Orchard barrow"


@pytest.mark.parametrize(
    ("word", "left", "kept"), [("Throw away", True, False), ("Stay here", False, True)]
)
def test_leaving_unsaved_work_asks(
    window: Window, monkeypatch: pytest.MonkeyPatch, word: str, left: bool, kept: bool
) -> None:
    window.session.edit({"need.current_a": 25.0})

    def press(box: QMessageBox) -> int:
        button = next(item for item in box.buttons() if item.text() == word)
        button.click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", press)
    window.files.new()
    assert (window.session.project.name == "Untitled pack") is left
    assert (window.session.project.need.current_a == 25.0) is kept


def test_work_lost_in_a_crash_is_offered_and_brought_back(
    qtbot: QtBot, qapp: QApplication, window: Window
) -> None:
    session = window.session
    session.edit({"need.current_a": 23.5})
    folder = recovery_folder()
    qtbot.waitUntil(lambda: len(list(folder.glob("*.json"))) == 1, timeout=15000)
    assert RECOVERY_DELAY_MS < 2000
    assert left_over(folder, session.catalogue) == ([], [])

    session.recovery.close()  # as a crash does: the lock goes, the copy stays
    second = make_window(qapp, None)
    qtbot.addWidget(second, before_close_func=forget)
    second.show()
    assert "Orchard barrow" in second.notice.text.text()
    words = {button.text(): button for button in second.notice.findChildren(QPushButton)}
    qtbot.mouseClick(words["bring it back"], Qt.MouseButton.LeftButton)
    assert second.session.project.need.current_a == 23.5
    assert second.session.path == session.path
    assert second.session.unsaved
    assert second.files.save()
    second.close()
    assert list(folder.glob("*.json")) == []


def test_undo_back_to_the_saved_state_drops_the_copy(qtbot: QtBot, session: Session) -> None:
    session.edit({"need.current_a": 23.5})
    folder = recovery_folder()
    qtbot.waitUntil(lambda: len(list(folder.glob("*.json"))) == 1, timeout=15000)
    session.undo_stack.undo()
    assert list(folder.glob("*.json")) == []
    assert not session.unsaved
