"""All of the window is reached by keys."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLineEdit, QPushButton
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.moving import first_field
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.order import STAGES
from tests.sizes import focus

ALT, CONTROL = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ControlModifier


def test_alt_and_a_number_lands_on_the_first_field(qtbot: QtBot, window: Window) -> None:
    # Those after the tenth, which is 0, have none.
    for place, stage in enumerate(STAGES[1:11]):
        qtbot.keyClick(window, Qt.Key(Qt.Key.Key_0 + (place + 1) % 10), ALT)
        assert window.stage == stage.key
        page = window.stages[stage.key]
        assert page.isAncestorOf(focus())
        assert focus() is first_field(page)
    qtbot.keyClick(window, Qt.Key.Key_1, ALT)
    assert isinstance(focus(), QLineEdit)
    assert focus().accessibleName() == "Rated voltage"


def test_f6_goes_around_the_window(qtbot: QtBot, window: Window) -> None:
    window.build_line.setFocus()
    parts = (window.stack, window.margin, window.path_view, window.title_line, window.build_line)
    for part in parts:
        qtbot.keyClick(focus(), Qt.Key.Key_F6)
        assert focus() is part or part.isAncestorOf(focus())
    qtbot.keyClick(focus(), Qt.Key.Key_F6, Qt.KeyboardModifier.ShiftModifier)
    assert window.title_line.isAncestorOf(focus())


@pytest.mark.parametrize(
    ("key", "by"), [(Qt.Key.Key_Left, -1), (Qt.Key.Key_Right, 1)], ids=["left", "right"]
)
def test_the_line_between_panes_moves_by_keys(
    qtbot: QtBot, window: Window, key: Qt.Key, by: int
) -> None:
    window.go_to("need")
    before = window.stack.width()
    qtbot.keyClick(focus(), key, ALT | CONTROL)
    assert (window.stack.width() - before) * by > 0


def test_undo_works_right_after_enter(qtbot: QtBot, window: Window) -> None:
    window.go_to("need")
    edit = focus()
    assert isinstance(edit, QLineEdit)
    before = window.session.project
    edit.selectAll()
    qtbot.keyClicks(edit, "44 V")
    # What is typed and not yet taken is the field's own to undo.
    qtbot.keyClick(edit, Qt.Key.Key_Z, CONTROL)
    assert window.session.project is before
    edit.selectAll()
    qtbot.keyClicks(edit, "44 V")
    qtbot.keyClick(edit, Qt.Key.Key_Return)
    assert window.session.project.need.rated_voltage_v == 44.0
    qtbot.keyClick(edit, Qt.Key.Key_Z, CONTROL)
    assert window.session.project is before
    assert edit.text() == "48 V"
    qtbot.keyClick(edit, Qt.Key.Key_Y, CONTROL)
    assert window.session.project.need.rated_voltage_v == 44.0


def test_enter_on_a_finding_goes_to_where_it_is_cured(qtbot: QtBot, window: Window) -> None:
    window.open_stage("joints")
    view = window.margin.findings
    assert view.findings
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_Down)
    about = view.findings[0].figure
    assert "series" in about
    qtbot.keyClick(view, Qt.Key.Key_Return)
    stage = window.stages["joints"]
    assert stage.view.value == "conductors"  # type: ignore[attr-defined]
    assert stage.isAncestorOf(focus())


def test_tab_goes_from_the_build_line_into_the_stage_and_through_all_parts(
    qtbot: QtBot, window: Window
) -> None:
    window.open_stage("need")
    window.build_line.setFocus()
    qtbot.keyClick(focus(), Qt.Key.Key_Tab)
    assert window.stages["need"].isAncestorOf(focus())
    # Round the whole window it comes by every part once, in order.
    parts, seen = window.frame.parts, []
    for _ in range(400):
        here = focus()
        at = next(place for place, it in enumerate(parts) if it is here or it.isAncestorOf(here))
        if not seen or seen[-1] != at:
            seen.append(at)
        if len(seen) > 4 and at == seen[0]:
            break
        qtbot.keyClick(here, Qt.Key.Key_Tab)
    assert seen == [3, 4, 5, 0, 2, 3]
    qtbot.keyClick(focus(), Qt.Key.Key_Backtab)
    assert window.build_line.isAncestorOf(focus())


def test_enter_on_a_stage_goes_to_its_first_field_and_presses_buttons(
    qtbot: QtBot, window: Window
) -> None:
    window.open_stage("need")
    window.build_line.setFocus()
    qtbot.keyClick(focus(), Qt.Key.Key_Return)
    first = focus()
    assert isinstance(first, QLineEdit) and first.selectedText() == first.text() != ""
    pressed: list[bool] = []
    button = QPushButton("press", window.stages["need"])
    button.clicked.connect(lambda: pressed.append(True))
    button.show()
    button.setFocus()
    qtbot.keyClick(button, Qt.Key.Key_Return)
    assert pressed == [True]


def test_alt_and_a_number_and_a_click_select_what_stands_in_the_field(
    qtbot: QtBot, window: Window
) -> None:
    window.go_to("need")
    field = focus()
    assert isinstance(field, QLineEdit) and field.selectedText() == field.text()
    edits = window.stages["need"].findChildren(QLineEdit)
    others = [it for it in edits if it is not field and it.isVisible() and it.text()]
    qtbot.mouseClick(others[0], Qt.MouseButton.LeftButton)
    assert others[0].selectedText() == others[0].text()
    # A second click places the cursor.
    qtbot.mouseClick(others[0], Qt.MouseButton.LeftButton)
    assert not others[0].selectedText()
