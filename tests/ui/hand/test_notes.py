"""A remark and a photograph of the cell in hand."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QUrl
from PyQt6.QtGui import QColor, QDesktopServices, QImage
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from tests.ui.conftest import forget
from tests.ui.hand.conftest import readings_of


def cell_of(window: Window, number: int) -> object:
    return window.session.evaluation.sized.in_hand.judged[number].cell


def test_a_remark_is_typed_and_kept(qtbot: QtBot, roller: Window) -> None:
    view = readings_of(roller)
    view.turn_to(5)
    qtbot.keyClicks(view.notes.remark, "dent near the vent")
    view.notes.remark.editingFinished.emit()
    assert roller.session.project.hand.cells[4].remark == "dent near the vent"
    view.turn_to(6)
    assert view.notes.remark.text() == ""
    view.turn_to(5)
    assert view.notes.remark.text() == "dent near the vent"
    view.look.setText("dent")
    assert [item.cell.number for item in view.table.shown] == [5]
    # What cannot be kept is told, and nothing changes.
    view.notes.remark.setText("a\u202eb")
    view.notes.remark.editingFinished.emit()
    assert "cannot be kept" in roller.notice.text.text()
    assert roller.session.project.hand.cells[4].remark == "dent near the vent"
    view.turn_to(4000)
    assert not view.notes.isEnabled()
    forget(roller)


def test_a_photograph_is_referred_to_from_the_project(
    qtbot: QtBot, roller: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    opened: list[QUrl] = []
    monkeypatch.setattr(QDesktopServices, "openUrl", opened.append)
    image = QImage(1600, 900, QImage.Format.Format_RGB32)
    image.fill(QColor("teal"))
    picture = tmp_path / "cells" / "5.png"
    picture.parent.mkdir()
    assert image.save(str(picture))
    roller.session.save(tmp_path / "roller.lumvak.json")
    view = readings_of(roller)
    view.turn_to(5)
    assert view.notes.photo.isVisible()
    view.notes.take_photo(tmp_path / "roller.lumvak.json")
    assert "is no picture" in roller.notice.text.text()
    view.notes.take_photo(picture)
    assert roller.session.project.hand.cells[4].photo == "cells/5.png"
    assert view.notes.picture.isVisible()
    assert not view.notes.photo.isVisible()
    view.notes.picture.click()
    assert opened == [QUrl.fromLocalFile(str(picture))]
    # Saved in another folder it still finds its picture.
    (tmp_path / "elsewhere").mkdir()
    roller.session.save(tmp_path / "elsewhere" / "roller.lumvak.json")
    assert roller.session.project.hand.cells[4].photo == str(picture)
    assert view.notes.picture.isVisible()
    assert not roller.session.unsaved
    picture.unlink()
    view.turn_to(6)
    assert not view.notes.picture.isVisible()
    view.turn_to(5)
    assert view.notes.missing.text() == "5.png is not to be found or is no picture"
    view.notes.drop.click()
    assert roller.session.project.hand.cells[4].photo == ""
    forget(roller)
