"""The stage stands before the need where a project begins so; a look leads to its field."""

from PyQt6.QtWidgets import QApplication

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.as_found.answer import VIEWS
from lumvak.ui.stages.as_found.stage import TITLES
from tests.ui.as_found.conftest import as_found


def test_it_is_first_in_the_line_where_it_begins_so(window: Window) -> None:
    names = [it.name for it in window.build_line.entries]
    assert names[:2] == ["As found", "Need"]
    window.open_stage("need")
    window.session.edit({"as_found.begun": False})
    assert next(it.name for it in window.build_line.entries) == "Need"
    assert sum(it.isVisible() for it in window.build_line.buttons) == len(names) - 1
    window.session.undo_stack.undo()
    assert [it.name for it in window.build_line.entries] == names


def test_each_view_has_a_question(window: Window) -> None:
    for view, _ in VIEWS:
        stage = as_found(window, view)
        assert TITLES[view].endswith("?") and stage.views[view].isVisible()


def test_a_look_leads_to_its_field(window: Window) -> None:
    stage = as_found(window, "next")
    stage.look_at("cycles")
    assert stage.view.value == "seen"
    focus = QApplication.focusWidget()
    assert focus is not None and focus.accessibleName() == "Charges so far"


def test_its_question_is_worked_in_the_margin(window: Window) -> None:
    as_found(window, "audit")
    assert window.session.explained_key == "as_found.continuous_a"
