"""Questions of what may change are answered for the packs at hand."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.beside.what_if_view import WhatIfView
from tests.ui.beside.conftest import beside


def test_a_plug_that_was_pulled_and_a_brake(window: Window) -> None:
    view = beside(window, "what-if").views["what-if"]
    assert isinstance(view, WhatIfView)
    assert view.waits.isVisible() and not view.replugged.isVisible()
    window.session.edit({"beside.capacity_ah": 30.0})
    assert "apart" in view.replugged.text() and "takes" in view.braked.text()
    before = view.replugged.text()
    view.alone.setText("1 h")
    view.alone.editingFinished.emit()
    assert view.replugged.text() != before and "would flow" in view.replugged.text()
    view.brake.setText("a lot")
    view.brake.editingFinished.emit()
    assert view.problem.isVisible() and "not a current" in view.problem.text()
    view.brake.setText("400 A")
    view.brake.editingFinished.emit()
    assert "Brake less" in view.braked.text() and not view.problem.isVisible()


def test_one_opens_a_group_is_weak_and_both_are_charged(window: Window) -> None:
    found = beside(window, "what-if").views["what-if"]
    assert isinstance(found, WhatIfView)
    window.session.edit({"beside.capacity_ah": 9.0})
    assert "takes all for" in found.opened.text()
    assert found.weakened.text().startswith("The second pack opens after")
    before = found.weakened.text()
    found.weak_in.picked.emit(0)
    assert found.weakened.text() != before and window.session.project.name in found.weakened.text()
    assert "all are full after" in found.charged.text()
    found.charger.setText("much")
    found.charger.editingFinished.emit()
    assert found.problem.isVisible()
