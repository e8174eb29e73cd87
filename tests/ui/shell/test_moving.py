"""All of the window is reached by keys."""

from itertools import chain

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QLineEdit, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.moving import first_field
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.grid import Grid
from tests.length import so_many
from tests.sizes import turns_of, views_of

ALT, CONTROL = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ControlModifier


def focus() -> QWidget:
    found = QApplication.focusWidget()
    assert found is not None
    return found


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


def test_views_have_numbers_and_neighbours(qtbot: QtBot, window: Window) -> None:
    for stage in STAGES:
        window.go_to(stage.key)
        for place, (view, _) in enumerate(stage.views):
            qtbot.keyClick(window, Qt.Key(Qt.Key.Key_1 + place), CONTROL)
            page = window.stages[stage.key]
            assert page.view.value == view  # type: ignore[attr-defined]
            assert page.isAncestorOf(focus())
    window.go_to("joints")
    order = [view for view, _ in next(stage.views for stage in STAGES if stage.key == "joints")]
    qtbot.keyClick(window, Qt.Key.Key_1, CONTROL)
    for view in (*order[1:], order[0]):
        qtbot.keyClick(window, Qt.Key.Key_PageDown, CONTROL)
        assert window.stages["joints"].view.value == view  # type: ignore[attr-defined]
    qtbot.keyClick(window, Qt.Key.Key_PageUp, CONTROL)
    assert window.stages["joints"].view.value == order[-1]  # type: ignore[attr-defined]
    # A stage without views keeps its page.
    window.go_to("run")
    qtbot.keyClick(window, Qt.Key.Key_4, CONTROL)
    assert window.stage == "run"


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


def test_tab_leaves_every_grid(qtbot: QtBot, window: Window) -> None:
    window.session.edit({"arrangement.room.kind": "outline", "arrangement.kept_free": ()})
    walked: set[str] = set()
    for stage, view in views_of(window):
        for turn in chain(("",), turns_of(window, stage, so_many(4, 1))):
            QApplication.processEvents()
            for grid in window.stages[stage].findChildren(Grid):
                table = grid.table
                if not table.isVisible() or not table.isEnabled():
                    continue
                for back in (False, True):
                    table.setFocus()
                    key = Qt.Key.Key_Backtab if back else Qt.Key.Key_Tab
                    qtbot.keyClick(focus(), key)
                    assert not (focus() is table or table.isAncestorOf(focus())), (view, turn)
                walked.add(table.accessibleName())
    assert len(walked) >= 12


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
