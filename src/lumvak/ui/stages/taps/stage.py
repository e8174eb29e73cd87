"""Stage: balance leads. Where each goes, what the readings say, the harness as it is made."""

from __future__ import annotations

from lumvak.ui.session import Session
from lumvak.ui.stages.taps.answer import VIEWS
from lumvak.ui.widgets.pages import Page, StageOfViews

TITLES = {
    "guide": "Where does each lead go?", "check": "May the plug go in?",
    "harness": "How is the harness made?", "voltages": "Do the groups keep together?",
}  # fmt: skip


def _guide(session: Session) -> Page:
    from lumvak.ui.stages.taps.guide import GuideView

    return GuideView(session)


def _check(session: Session) -> Page:
    from lumvak.ui.stages.taps.check import CheckView

    return CheckView(session)


def _harness(session: Session) -> Page:
    from lumvak.ui.stages.taps.harness import HarnessView

    return HarnessView(session)


def _voltages(session: Session) -> Page:
    from lumvak.ui.stages.taps.voltages import VoltagesView

    return VoltagesView(session)


# Each view is loaded when it is first opened.
MAKERS = {"guide": _guide, "check": _check, "harness": _harness, "voltages": _voltages}


class TapsStage(StageOfViews):
    """One of the views of the balance leads."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        super().__init__(session, VIEWS, "View of the balance leads", MAKERS)
