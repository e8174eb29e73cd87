"""New stops are told at what has the focus."""

from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.quantity_field import QuantityField
from tests.conftest import BARROW


def _typed(window: Window, path: str, text: str) -> QuantityField:
    window.open_stage("need")
    field = window.stages["need"].findChild(QuantityField, path)
    assert isinstance(field, QuantityField)
    field.edit.setFocus()
    field.edit.setText(text)
    field.commit()
    return field


def _stops(window: Window) -> set[str]:
    return {item.code for item in window.session.evaluation.findings if item.severity == "stop"}


def test_who_stopped_the_pack_hears_it_where_the_hands_are(qtbot: QtBot, window: Window) -> None:
    before = _stops(window)
    field = _typed(window, "need.peak_current_a", "400 A")
    assert _stops(window) - before
    qtbot.waitUntil(lambda: "New stop: " in field.edit.accessibleDescription())
    # What was there before is not told again.
    again = _typed(window, "need.peak_current_a", "401 A")
    qtbot.wait(20)
    assert "New stop: " not in again.edit.accessibleDescription()


def test_what_is_stopped_in_another_project_is_not_new(qtbot: QtBot, window: Window) -> None:
    _typed(window, "need.peak_current_a", "400 A")
    window.session.undo_stack.setClean()
    window.files.open(BARROW)
    field = _typed(window, "need.runtime_h", "1 h 10")
    qtbot.wait(20)
    assert "New stop: " not in field.edit.accessibleDescription()
