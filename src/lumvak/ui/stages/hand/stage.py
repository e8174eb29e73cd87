"""Stage: cells in hand. Measure, judge, groups."""

from __future__ import annotations

from PyQt6.QtWidgets import QVBoxLayout

from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.stages.hand.answer import VIEWS
from lumvak.ui.widgets.pages import Page, StageHead, Views, on_sheet
from lumvak.ui.widgets.theme import THEME

TITLES = {
    "measure": "What does each cell read?",
    "judge": "Which may be used?",
    "groups": "Who sits with whom?",
}


def _measure(session: Session) -> Page:
    from lumvak.ui.stages.hand.readings import ReadingsView

    return ReadingsView(session)


def _judge(session: Session) -> Page:
    from lumvak.ui.stages.hand.judging import JudgingView

    return JudgingView(session)


def _groups(session: Session) -> Page:
    from lumvak.ui.stages.hand.groups import GroupsView

    return GroupsView(session)


# Each view is loaded when it is first opened.
MAKERS = {"measure": _measure, "judge": _judge, "groups": _groups}


class HandStage(Page):
    """One of three views of the cells in hand."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        on_sheet(self)
        self.head = StageHead(VIEWS, "View of the cells in hand")
        self.view = self.head.view
        self.pages = Views(session, MAKERS)
        self.views = self.pages.made
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(6))
        outer.addWidget(self.head)
        outer.addWidget(self.pages, 1)
        self.view.picked.connect(self.show_view)

    def show_view(self, view: str) -> None:
        """Turn to one of the views."""
        self.view.show_value(view)
        self.show_evaluation(self.session.evaluation)

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show what is in view of an evaluation."""
        page = self.pages.open(self.view.value)
        page.show_evaluation(seen)
        self.head.say(TITLES[self.view.value], page.about)

    def begin_bench(self) -> bool:
        """Open the steps of what is in view in bench mode; whether it has any."""
        return self.pages.open(self.view.value).begin_bench()

    def show_link(self, figure: str) -> None:
        """Turn to where what a finding is about is set."""
        name = figure.partition(".")[2]
        self.show_view({"cells": "measure", "good": "judge"}.get(name, "groups"))
