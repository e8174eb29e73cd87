"""A box to pick the part of one place from, or to follow the recommendation."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QComboBox

from lumvak.core.document.power import picking
from lumvak.ui.session import Session
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.theme import THEME

FOLLOW = "as recommended"


class PartBox(QComboBox):
    """The part of a curve: picked from those that would do, or as recommended."""

    def __init__(self, session: Session, path: str, name: str) -> None:
        super().__init__()
        self.session, self.path = session, path
        self.offered: list[tuple[str, Any]] = []
        self.setAccessibleName(name)
        self.setFont(THEME.font("note", table=True))
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(12)
        self.activated.connect(self._take)

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(130), THEME.px(25))

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Turning the wheel scrolls the page; it picks no other part by accident."""
        if event is not None:
            event.ignore()

    def offer(self, parts: list[tuple[str, Any]], chosen: Any, followed: str = "") -> None:
        """Offer these parts by name; ``chosen`` is the value in force.

        Where that follows the recommendation, ``followed`` is what it comes to.
        """
        offered = [(FOLLOW, None), *parts] if followed else parts
        if offered != self.offered:
            self.offered = offered
            self.clear()
            self.addItems([name for name, _ in offered])
        self.setPlaceholderText(followed)
        places = [at for at, (_, value) in enumerate(offered) if value == chosen]
        self.setCurrentIndex(places[0] if places and chosen is not None else -1)

    def _take(self, place: int) -> None:
        changes = picking(self.path, self.offered[place][1])
        try_edit(self.session, changes, f"{self.path.split('.')[-1].replace('_', ' ')}")
