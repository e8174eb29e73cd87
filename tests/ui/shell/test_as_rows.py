"""What is drawn can be read as rows, by a key."""

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.core.spelling import spoken
from lumvak.ui.shell.as_rows import AsRows
from lumvak.ui.shell.window import Window

CONTROL = Qt.KeyboardModifier.ControlModifier


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
