"""Stage: as found. What was seen of a pack, and what to make of it."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLineEdit, QWidget

from lumvak.ui.session import Session
from lumvak.ui.stages.as_found.answer import VIEWS
from lumvak.ui.widgets.pages import Page, StageOfViews

TITLES = {
    "seen": "What was seen of it?",
    "audit": "What may it really give?",
    "next": "What is to be looked at next?",
}


class AsFoundStage(StageOfViews):
    """One of the views of a found pack."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        super().__init__(
            session,
            VIEWS,
            "View of the pack as found",
            {"seen": _seen, "audit": _audit, "next": self._next},
        )

    def _next(self, session: Session) -> Page:
        from lumvak.ui.stages.as_found.next_view import NextView

        return NextView(session, self.look_at)

    def look_at(self, field: str) -> None:
        """Turn to a field of what was seen, and give it the focus."""
        self.show_view("seen")
        found = self.findChild(QWidget, f"as_found.{field}")
        if found is not None:
            (found.findChild(QLineEdit) or found).setFocus(Qt.FocusReason.ShortcutFocusReason)

    def show_path(self, path: str) -> None:
        """Turn to the fields."""
        if path.startswith("as_found."):
            self.show_view("seen")


def _seen(session: Session) -> Page:
    from lumvak.ui.stages.as_found.seen_view import SeenView

    return SeenView(session)


def _audit(session: Session) -> Page:
    from lumvak.ui.stages.as_found.audit_view import AuditView

    return AuditView(session)
