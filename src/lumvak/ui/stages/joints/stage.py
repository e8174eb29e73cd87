"""Stage: joints. The pack on the table with its currents, and the conductors to choose from."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, worded
from lumvak.ui.stages.joints.answer import VIEWS
from lumvak.ui.stages.joints.joined_pack import OnTableView
from lumvak.ui.widgets.pages import Page, StageOfViews

if TYPE_CHECKING:
    from lumvak.ui.stages.joints.conductors import ConductorsView
    from lumvak.ui.stages.joints.making import MakingView

TITLES = {"conductors": "What joins the cells?", "making": "What to cut, and in which order"}


def _conductors(session: Session) -> Page:
    from lumvak.ui.stages.joints.conductors import ConductorsView

    return ConductorsView(session)


def _making(session: Session) -> Page:
    from lumvak.ui.stages.joints.making import MakingView

    return MakingView(session)


MAKERS = {"table": OnTableView, "conductors": _conductors, "making": _making}


class JointsStage(StageOfViews):
    """One of several views: where the current goes, what it goes through, how it is made."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        super().__init__(session, VIEWS, "View of the joints", MAKERS)

    @property
    def on_table(self) -> OnTableView:
        """The pack on the table."""
        return cast("OnTableView", self.pages.view("table"))

    @property
    def conductors(self) -> ConductorsView:
        """The conductors to choose from."""
        return cast("ConductorsView", self.pages.view("conductors"))

    @property
    def making(self) -> MakingView:
        """Cut list, order of work and strip checker."""
        return cast("MakingView", self.pages.view("making"))

    def say_head(self, evaluation: Evaluation, page: Page) -> None:
        """Say the title of the view that is open, and the line beside it."""
        if self.view.value == "table":
            title = worded("Where {} goes", say(evaluation.sized.pack.current.value, "A"))
            self.head.say(title, in_words("drag the leads; click a strip to change it"))
        else:
            super().say_head(evaluation, page)

    def begin_bench(self) -> bool:
        """The order of work, step by step; from any view, for there is no other."""
        return self.making.begin_bench()
