"""Stage: trouble. The search, its trail, and the repair."""

from __future__ import annotations

from lumvak.ui.session import Session
from lumvak.ui.stages.trouble.answer import VIEWS, Found
from lumvak.ui.widgets.pages import Page, StageOfViews

TITLES = {
    "find": "Which part is it?",
    "trail": "How did it come to that?",
    "repair": "How is it repaired?",
}


class TroubleStage(StageOfViews):
    """One of the views of trouble."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        self.found = Found()
        makers = {"find": self._find, "trail": self._trail, "repair": self._repair}
        super().__init__(session, VIEWS, "View of trouble", makers)

    def _find(self, session: Session) -> Page:
        from lumvak.ui.stages.trouble.find_view import FindView

        return FindView(session, self.found)

    def _trail(self, session: Session) -> Page:
        from lumvak.ui.stages.trouble.trail_view import TrailView

        return TrailView(session, self.found)

    def _repair(self, session: Session) -> Page:
        from lumvak.ui.stages.trouble.repair_view import RepairView

        return RepairView(session, self.found)
