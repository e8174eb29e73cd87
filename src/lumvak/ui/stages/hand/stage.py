"""Stage: cells in hand. Measure, judge, groups, an old pack, test joints."""

from __future__ import annotations

from lumvak.ui.session import Session
from lumvak.ui.stages.hand.answer import VIEWS
from lumvak.ui.widgets.pages import Page, StageOfViews

TITLES = {
    "measure": "What does each cell read?",
    "judge": "Which may be used?",
    "groups": "Which cell into which group?",
    "beside": "Joined to an old pack?",
    "welds": "Do the joints hold?",
}


def _measure(session: Session) -> Page:
    from lumvak.ui.stages.hand.readings import ReadingsView

    return ReadingsView(session)


def _judge(session: Session) -> Page:
    from lumvak.ui.stages.hand.judging import JudgingView

    return JudgingView(session)


def _groups(session: Session) -> Page:
    from lumvak.ui.stages.hand.groups import CellGroupsView

    return CellGroupsView(session)


def _beside(session: Session) -> Page:
    from lumvak.ui.stages.hand.old_pack import OldPackView

    return OldPackView(session)


def _welds(session: Session) -> Page:
    from lumvak.ui.stages.hand.welds import WeldsView

    return WeldsView(session)


# Each view is loaded when it is first opened.
MAKERS = {
    "measure": _measure, "judge": _judge, "groups": _groups, "beside": _beside, "welds": _welds,
}  # fmt: skip


class HandStage(StageOfViews):
    """One of the views of the cells in hand."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        super().__init__(session, VIEWS, "View of the cells in hand", MAKERS)
