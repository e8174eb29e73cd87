"""One edit on the undo stack."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtGui import QUndoCommand


class UndoEdit(QUndoCommand):
    """One edit: what there was before and after it, and how to take either.

    One that ``merges`` is one with the one before it of the same text.
    """

    def __init__(
        self, take: Callable[[Any], None], before: Any, after: Any, text: str, merges: bool
    ) -> None:
        super().__init__(text)
        self._take, self._before, self._after = take, before, after
        self._merges = merges

    def id(self) -> int:
        return 1 if self._merges else -1

    def mergeWith(self, other: QUndoCommand | None) -> bool:
        if not isinstance(other, UndoEdit) or other.text() != self.text():
            return False
        self._after = other._after
        return True

    def undo(self) -> None:
        self._take(self._before)

    def redo(self) -> None:
        self._take(self._after)
