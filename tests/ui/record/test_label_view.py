"""The label follows what is typed."""

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.record.answer import record_answer
from lumvak.ui.stages.record.label_view import LabelView
from tests.ui.record.conftest import record


def test_the_label_is_drawn_and_refuses_a_size_that_is_too_small(
    window: Window, qtbot: QtBot
) -> None:
    view = record(window, "label").views["label"]
    assert isinstance(view, LabelView)
    whole = view.picture.pixmap().cacheKey()
    assert view.picture.isVisible() and not view.problem.isVisible()
    view.built.setText("2026-05-31")
    view.built.editingFinished.emit()
    assert window.session.project.record.built == "2026-05-31"
    assert view.picture.pixmap().cacheKey() != whole
    assert record_answer(window.session.evaluation) == "built 2026-05-31"
    window.session.edit({"record.label.width_mm": 40.0, "record.label.height_mm": 20.0})
    assert view.problem.isVisible() and "fits on" in view.problem.text()
    qtbot.mouseClick(view.usual[2], Qt.MouseButton.LeftButton)
    assert window.session.project.record.label.width_mm == 120.0 and view.picture.isVisible()
    view.whose.picked.emit("label-charger")
