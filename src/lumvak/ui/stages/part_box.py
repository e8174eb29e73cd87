"""A box to pick the part of one place from, to follow the recommendation, or to have none."""

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
    """A part picked from those that would do; ``follow`` is what picking none is called."""

    def __init__(self, session: Session, path: str, name: str, follow: str = FOLLOW) -> None:
        super().__init__()
        self.session, self.path, self.follow = session, path, follow
        self.offered: list[tuple[str, Any]] = []
        self.setObjectName(path)
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

        Where none is picked, ``followed`` is what it comes to.
        """
        offered = [(self.follow, None), *parts] if followed else parts
        if offered != self.offered:
            self.offered = offered
            self.clear()
            self.addItems([name for name, _ in offered])
        self.setPlaceholderText(followed)
        places = [at for at, (_, value) in enumerate(offered) if value == chosen]
        self.setCurrentIndex(places[0] if places and chosen is not None else -1)

    def _take(self, place: int) -> None:
        changes = picking(self.path, self.offered[place][1])
        try_edit(self.session, changes)
