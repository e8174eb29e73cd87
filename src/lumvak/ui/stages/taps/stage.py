"""Stage: balance leads. Where each goes, and what the readings say."""

from __future__ import annotations

from lumvak.ui.session import Session
from lumvak.ui.stages.taps.answer import VIEWS
from lumvak.ui.widgets.pages import Page, StageOfViews

TITLES = {"guide": "Where does each lead go?", "check": "May the plug go in?"}


def _guide(session: Session) -> Page:
    from lumvak.ui.stages.taps.guide import GuideView

    return GuideView(session)


def _check(session: Session) -> Page:
    from lumvak.ui.stages.taps.check import CheckView

    return CheckView(session)


# Each view is loaded when it is first opened.
MAKERS = {"guide": _guide, "check": _check}


class TapsStage(StageOfViews):
    """One of the views of the balance leads."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        super().__init__(session, VIEWS, "View of the balance leads", MAKERS)

    def show_link(self, figure: str) -> None:
        """Turn to where what a finding is about is set."""
        self.show_view("check" if figure.startswith("taps.") else "guide")
