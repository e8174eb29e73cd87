"""Stage: beside. Both packs together, and the ways to join them."""

from __future__ import annotations

from lumvak.ui.session import Session
from lumvak.ui.stages.beside.answer import VIEWS
from lumvak.ui.stages.beside.other_file import OtherFile
from lumvak.ui.widgets.pages import Page, StageOfViews

TITLES = {
    "together": "What do two packs carry together?",
    "what-if": "What if something changes?",
    "ways": "How are they to be joined?",
}


class BesideStage(StageOfViews):
    """One of the views of the second pack."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        # Its project is read once for all views.
        self.other = OtherFile(session)
        makers = {"together": self._together, "what-if": self._what_if, "ways": self._ways}
        super().__init__(session, VIEWS, "View of both packs", makers)

    def _together(self, session: Session) -> Page:
        from lumvak.ui.stages.beside.together_view import TogetherView

        return TogetherView(session, self.other)

    def _what_if(self, session: Session) -> Page:
        from lumvak.ui.stages.beside.what_if_view import WhatIfView

        return WhatIfView(session, self.other)

    def _ways(self, session: Session) -> Page:
        from lumvak.ui.stages.beside.ways_view import WaysView

        return WaysView(session, self.other)
