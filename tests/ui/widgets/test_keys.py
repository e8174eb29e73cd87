"""Keys that move between things."""

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent

from lumvak.ui.widgets.keys import is_enter, is_return, moved, step_of


def key(code: Qt.Key) -> QKeyEvent:
    return QKeyEvent(QEvent.Type.KeyPress, code, Qt.KeyboardModifier.NoModifier)


def test_two_keys_step_back_and_on_and_no_other_does() -> None:
    back, on = Qt.Key.Key_Up, Qt.Key.Key_Down
    assert [step_of(key(code), back, on) for code in (back, on, Qt.Key.Key_Left)] == [-1, 1, 0]
    assert step_of(None, back, on) == 0


def test_space_takes_but_is_no_enter() -> None:
    assert is_enter(key(Qt.Key.Key_Space)) and not is_return(key(Qt.Key.Key_Space))
    assert is_enter(key(Qt.Key.Key_Enter)) and is_return(key(Qt.Key.Key_Return))
    assert not is_enter(None) and not is_return(None)


def test_nobody_steps_over_an_end() -> None:
    assert [moved(0, -1, 3), moved(0, 1, 3), moved(2, 1, 3), moved(2, -5, 3)] == [0, 1, 2, 0]
