import os
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QFileDialog, QMessageBox, QPushButton
from pytestqt.qtbot import QtBot

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.files.kept.recovery import left_over, recovery_folder
from lumvak.files.problem import FileProblem
from lumvak.files.project_file import load_project, save_project
from lumvak.ui import session as session_module
from lumvak.ui.application import make_window
from lumvak.ui.session import RECOVERY_DELAY_MS, Session, read_project
from lumvak.ui.shell.project_files import LARGE_BYTES, with_suffix
from lumvak.ui.shell.window import Window
from tests.conftest import BARROW, TRIMMER
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
    window.menus.filled["Recent"].aboutToShow.emit()
    names = [action.text() for action in window.menus.filled["Recent"].actions()]
    assert names[:2] == ["copy.lumvak.json", "hedge-trimmer.lumvak.json"]
    window.menus.filled["Recent"].actions()[2].trigger()
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


def answering(monkeypatch: pytest.MonkeyPatch, word: str) -> list[str]:
    """Press the button of this name whenever something is asked; what was asked."""
    asked: list[str] = []

    def press(box: QMessageBox) -> int:
        asked.append(box.text())
        next(item for item in box.buttons() if item.text() == word).click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", press)
    return asked


@pytest.mark.parametrize("error", [KeyError("a figure"), RecursionError(), ZeroDivisionError()])
def test_an_open_that_fails_in_the_working_out_changes_nothing(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, error: Exception
) -> None:
    other = tmp_path / "other.lumvak.json"
    other.write_text(TRIMMER.read_text("utf-8"), "utf-8")
    window.session.edit({"need.current_a": 23.5})
    own, evaluation = window.session.path, window.session.evaluation
    asked = answering(monkeypatch, "Throw away")

    def fails(*_: object, **__: object) -> None:
        raise error

    with monkeypatch.context() as broken:
        broken.setattr("lumvak.ui.session.evaluate", fails)
        window.files.open(other)
    assert len(asked) == 1
    assert "could not be worked out" in window.notice.text.text()
    assert window.session.path == own
    assert window.session.evaluation is evaluation
    assert window.session.unsaved
    assert window.files.save()
    assert other.read_text("utf-8") == TRIMMER.read_text("utf-8")
    assert own is not None
    assert '"current_a": 23.5' in own.read_text("utf-8")


def test_a_window_starts_though_its_file_cannot_be_worked_out(
    qtbot: QtBot, qapp: QApplication, monkeypatch: pytest.MonkeyPatch
) -> None:
    real = session_module.evaluate

    def fails_for_the_trimmer(project: Project, *rest: Any, **named: Any) -> Any:
        if project.name == "Hedge trimmer":
            raise KeyError("network.link_limit_a")
        return real(project, *rest, **named)

    monkeypatch.setattr("lumvak.ui.session.evaluate", fails_for_the_trimmer)
    window = make_window(qapp, TRIMMER)
    qtbot.addWidget(window, before_close_func=forget)
    assert "could not be worked out" in window.notice.text.text()
    assert window.session.path is None


def test_save_as_asks_about_the_name_that_it_writes(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    there = tmp_path / "foo.lumvak.json"
    there.write_text("somebody's", "utf-8")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "foo"), ""))
    asked = answering(monkeypatch, "Stay here")
    assert not window.files.save_as()
    assert asked == ["There is a foo.lumvak.json already. Write over it?"]
    assert there.read_text("utf-8") == "somebody's"
    answering(monkeypatch, "Write over it")
    assert window.files.save_as()
    assert "Orchard barrow" in there.read_text("utf-8")


def test_the_name_suggested_stays_in_its_folder(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.session.edit({"name": "../../tmp/owned"})
    suggested: list[str] = []

    def ask(_: object, __: str, name: str, ___: str) -> tuple[str, str]:
        suggested.append(name)
        return "", ""

    monkeypatch.setattr(QFileDialog, "getSaveFileName", ask)
    assert not window.files.save_as()
    assert [Path(name).parent for name in suggested] == [tmp_path]


@pytest.mark.parametrize("word", ["Keep mine", "Take theirs", "Keep both", "Stay here"])
def test_a_file_that_somebody_else_changed_is_asked_about(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, word: str
) -> None:
    session, path = window.session, window.session.path
    assert path is not None
    session.edit({"need.current_a": 23.5})
    theirs = path.read_text("utf-8").replace('"Orchard barrow"', '"Their barrow"')
    path.write_text(theirs, "utf-8")
    asked = answering(monkeypatch, word)
    beside = tmp_path / "mine.lumvak.json"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(beside), ""))
    assert window.files.save() is (word != "Stay here")
    assert asked == [f"{path.name} was changed by somebody else since it was opened here."]
    kept = path.read_text("utf-8")
    assert ("23.5" in kept) is (word == "Keep mine")
    assert (kept == theirs) is (word != "Keep mine")
    assert session.unsaved is (word == "Stay here")
    if word == "Take theirs":
        assert session.project.name == "Their barrow"
        # What was here lies in the bin.
        (thrown,) = (recovery_folder() / "bin").iterdir()
        assert "23.5" in thrown.read_text("utf-8")
    if word == "Keep both":
        assert "23.5" in beside.read_text("utf-8")
        assert session.path == beside
    if word in ("Keep mine", "Keep both"):
        # Nobody else has written it since: no more questions.
        session.edit({"need.current_a": 24.5})
        assert window.files.save()
        assert len(asked) == 1


def test_an_old_copy_says_that_newer_work_was_saved_and_asks_before_it_is_written_over(
    qtbot: QtBot, qapp: QApplication, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, path = window.session, window.session.path
    assert path is not None
    session.edit({"need.current_a": 23.5})
    folder = recovery_folder()
    qtbot.waitUntil(lambda: len(list(folder.glob("*.json"))) == 1, timeout=15000)
    session.recovery.close()
    (copy,) = folder.glob("*.json")
    os.utime(path, (copy.stat().st_mtime + 60.0, copy.stat().st_mtime + 60.0))
    second = make_window(qapp, None)
    qtbot.addWidget(second, before_close_func=forget)
    assert f"{path.name} was saved since" in second.notice.text.text()

    def full(*_: object, **__: object) -> None:
        raise FileProblem("No recovery copy: No space left on device")

    words = {button.text(): button for button in second.notice.findChildren(QPushButton)}
    with monkeypatch.context() as no_room:
        no_room.setattr(second.session.recovery, "write", full)
        words["bring it back"].click()
    # The old copy stays until there is a new one.
    assert copy.exists()
    assert second.session.project.need.current_a == 23.5
    asked = answering(monkeypatch, "Stay here")
    assert not second.files.save()
    assert len(asked) == 1


def test_an_export_from_the_window_never_goes_over_the_project(
    session: Session, tmp_path: Path
) -> None:
    assert session.path is not None
    other = tmp_path / "by another name.csv"
    other.hardlink_to(session.path)
    for path in (session.path, other):
        with pytest.raises(FileProblem, match="is the project itself"):
            session.check_export(path)
    session.check_export(tmp_path / "new.csv")


def test_a_file_that_became_a_pipe_is_not_waited_for(session: Session) -> None:
    assert session.path is not None
    session.path.unlink()
    os.mkfifo(session.path)
    assert not session.changed_outside
    session.path.unlink()


def test_who_writes_while_the_window_starts_is_asked_about(
    qapp: QApplication, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "pack.lumvak.json"
    path.write_text(BARROW.read_text("utf-8"), "utf-8")

    def read_and_written_over(file: Path) -> str:
        text = file.read_text("utf-8")
        file.write_text(text.replace("barrow", "cart"), "utf-8")
        return text

    monkeypatch.setattr("lumvak.ui.session.read_text", read_and_written_over)
    monkeypatch.setattr("lumvak.ui.application.read_project", read_project)
    window = make_window(qapp, path)
    assert window.session.changed_outside
    window.close()


def large(folder: Path, catalogue: Catalogue) -> Path:
    """A project file that is read beside the window's own work."""
    cells = [{"number": number, "volts": 3.6, "remark": "x" * 180} for number in range(1, 8000)]
    project = load_project(TRIMMER, catalogue)
    path = folder / "large.lumvak.json"
    save_project(with_values(project, {"hand.cells": tuple(cells)}), path, catalogue)
    assert path.stat().st_size > LARGE_BYTES
    return path


def test_a_large_file_is_read_beside_the_work(
    window: Window, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = large(tmp_path, window.session.catalogue)
    window.files.open(path)
    assert window.files.reading.busy
    assert window.notice.isVisible() and "Reading large.lumvak.json" in window.notice.text.text()
    assert window.session.project.name == "Orchard barrow"
    # What is done meanwhile is asked about, and stays where one stays.
    window.session.edit({"note": "in between"})
    asked: list[str] = []

    def stay(box: QMessageBox) -> int:
        asked.append(box.text())
        next(item for item in box.buttons() if item.text() == "Stay here").click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", stay)
    qtbot.waitUntil(lambda: bool(asked), timeout=20_000)
    assert window.session.project.note == "in between"
    assert not window.files.reading.busy
    forget(window)
    window.files.open(path)
    qtbot.waitUntil(lambda: window.session.path == path, timeout=20_000)
    assert len(window.session.project.hand.cells) == 7999
    assert not window.notice.isVisible() and not window.session.unsaved
    assert window.session.evaluation.project is window.session.project
    assert not window.session.changed_outside


def test_a_large_file_may_be_given_up_and_may_be_bad(
    window: Window, tmp_path: Path, qtbot: QtBot
) -> None:
    path = large(tmp_path, window.session.catalogue)
    window.files.open(path)
    stop = next(item for item in window.notice.findChildren(QPushButton) if item.text() == "stop")
    stop.click()
    assert window.notice.text.text() == "large.lumvak.json was not opened."
    # Another project ends the reading too.
    window.files.open(path)
    window.files.open(TRIMMER)
    assert not window.files.reading.busy and window.session.project.name == "Hedge trimmer"
    qtbot.wait(300)
    assert window.session.path == TRIMMER
    path.write_text(path.read_text("utf-8").replace('"volts": 3.6', '"volts": 36', 1), "utf-8")
    window.files.open(path)
    qtbot.waitUntil(lambda: not window.files.reading.busy, timeout=20_000)
    assert window.notice.text.text().startswith("large.lumvak.json: OCV (hand.cells.0.volts)")
    assert window.session.path == TRIMMER


def test_what_a_file_written_by_hand_leaves_out_is_said(
    window: Window, tmp_path: Path, qapp: QApplication
) -> None:
    path = tmp_path / "by-hand.lumvak.json"
    path.write_text('{"format": "lumvak-project", "version": 1, "need": {"power_w": 600}}', "utf-8")
    said = "by-hand.lumvak.json: the file leaves out, and is taken to mean: "
    window.files.open(path)
    assert window.notice.isVisible() and window.notice.text.text().startswith(said)
    assert window.notice.severity == "note"
    window.files.open(TRIMMER)
    assert not window.notice.isVisible()
    other = make_window(qapp, path)
    assert other.notice.text.text().startswith(said)
    other.close()


def test_it_is_said_of_a_file_whose_name_is_no_text(
    window: Window, tmp_path: Path, qapp: QApplication
) -> None:
    path = tmp_path / os.fsdecode(b"\xff.lumvak.json")
    path.write_text('{"format": "lumvak-project", "version": 1, "need": {"power_w": 600}}', "utf-8")
    window.files.open(path)
    assert window.notice.text.text().startswith("?.lumvak.json: the file leaves out")
    other = make_window(qapp, path)
    assert other.notice.text.text() == window.notice.text.text()
    other.close()


@pytest.mark.parametrize("name", ["barrow", "barrow.json", "barrow.lumvak", "barrow.lumvak.json"])
def test_the_suffix_of_projects_is_added_where_it_is_not_typed(name: str) -> None:
    assert with_suffix(name) == "barrow.lumvak.json"
