"""What is drawn can be read as rows, by a key."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from lumvak.core.spelling import spoken
from lumvak.ui.shell.as_rows import AsRows, all_told
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.told import told_by
from tests.sizes import views_of

CONTROL = Qt.KeyboardModifier.ControlModifier


def test_every_view_has_its_drawings_as_rows(qtbot: QtBot, window: Window) -> None:
    walked: dict[str, set[str]] = {}
    for stage, view in views_of(window):
        QApplication.processEvents()
        page = window.stages[stage]
        for told in all_told((page,)):
            assert told.name
            assert all(len(row) == len(told.heads) for row in told.rows), told.name
            walked.setdefault(f"{stage}/{view}", set()).add(told.name)
        # Whatever paints itself and takes the focus tells what it shows, or is a plain table.
        for widget in page.findChildren(QWidget):
            if widget.isVisible() and type(widget).__name__ in ("LadderView", "PackView"):
                assert told_by(widget) is not None
    for view in ("need/", "cells/counts", "run/", "arrangement/", "joints/table", "power/order"):
        assert walked[view]


def test_a_key_lays_them_over_and_escape_takes_them_away(qtbot: QtBot, window: Window) -> None:
    window.go_to("joints")
    window.path_view.setFocus()
    qtbot.keyClick(window.path_view, Qt.Key.Key_T, CONTROL)
    rows = window.findChild(AsRows)
    assert rows is not None
    assert rows.isVisible()
    # What had the focus stands first.
    assert rows.title.text() == "Current path"
    assert rows.table is not None
    assert rows.table.hasFocus()
    links = window.session.evaluation.path.links
    assert [row.cells[0] for row in rows.table.rows_model.rows] == [
        spoken(link.name) for link in links
    ]
    place = next(at for at in rows.which.offered if at > 0)
    rows.which.picked.emit(place)
    assert rows.title.text() != "Current path"
    assert rows.table.rows_model.rows
    qtbot.keyClick(rows.table, Qt.Key.Key_Escape)
    assert not rows.isVisible()
    assert window.path_view.hasFocus()


def test_the_frame_says_what_it_shows(window: Window) -> None:
    window.open_stage("joints")
    here, first = window.build_line.focusProxy(), window.margin.findings.focusProxy()
    assert here is not None
    assert first is not None
    assert here.accessibleName() == "Joints: nickel 0.1 × 5 mm, one layer, stop"
    assert first.accessibleName().startswith("stop: Series connections")
    choice = window.stages["joints"].view  # type: ignore[attr-defined]
    assert choice.accessibleName() == "View of the joints: assembled pack"
    window.stages["joints"].show_view("making")
    assert choice.accessibleName() == "View of the joints: making"
    window.session.tell("warn", "Mind the strips.")
    assert window.notice.accessibleName() == "warn: Mind the strips."
