"""Keys that move between things side by side or one above the other."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent

RETURN = (Qt.Key.Key_Return, Qt.Key.Key_Enter)
ENTER = (*RETURN, Qt.Key.Key_Space)


def step_of(event: QKeyEvent | None, back: Qt.Key, on: Qt.Key) -> int:
    """-1 or 1 where ``event`` is the key back or on, else 0."""
    if event is None:
        return 0
    return -1 if event.key() == back else 1 if event.key() == on else 0


def is_return(event: QKeyEvent | None) -> bool:
    """Whether ``event`` is Enter itself, where Space means something else."""
    return event is not None and event.key() in RETURN


def is_enter(event: QKeyEvent | None) -> bool:
    """Whether ``event`` takes what is in focus."""
    return event is not None and event.key() in ENTER


def moved(place: int, step: int, count: int) -> int:
    """``place`` moved by ``step`` within ``count`` things."""
    return min(max(place + step, 0), count - 1)
