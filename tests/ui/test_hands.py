"""Fast hands lose nothing and stray nowhere; the long form is ./bench hands."""

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.quantity_field import QuantityField
from tests.hands import Astray, Hands, changed
from tests.length import so_many
from tests.ui.conftest import forget


@pytest.mark.parametrize("seed", range(so_many(2, 20)))
def test_what_is_typed_goes_where_it_was_typed(window: Window, seed: int) -> None:
    Hands(window, seed).work(so_many(30, 80))
    forget(window)


def test_a_window_that_loses_what_is_typed_is_found(
    qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(QuantityField, "_wait", lambda *_: None)
    hands = Hands(window, 1)
    window.go_to("need")

    def lost() -> None:
        for _ in range(40):
            qtbot.keyClick(window, Qt.Key.Key_1, Qt.KeyboardModifier.AltModifier)
            hands.type()

    with pytest.raises(Astray, match=r"is gone|waits as"):
        lost()


def test_what_differs_is_named_by_its_path(window: Window) -> None:
    before = window.session.project
    window.session.edit({"need.current_a": 19.0, "name": "other"})
    assert changed(before, window.session.project) == {"need.current_a", "name"}
    forget(window)
