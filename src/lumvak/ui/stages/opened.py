"""The pages of the stages: each made when it is first opened, for one project."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping

from PyQt6.QtWidgets import QStackedWidget

from lumvak.ui.session import Session
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.pages import Page, waiting

VIEWS_OF = defaultdict(tuple, {stage.key: tuple(dict(stage.views)) for stage in STAGES})


class StagePages:
    """What a page knows of a project ends with it; the view that it was left at stays."""

    def __init__(self, session: Session, left: Mapping[str, str]) -> None:
        """``left`` is the view that each stage was left at; unknown ones are passed over."""
        self._session = session
        self._left = {key: view for key, view in left.items() if view in VIEWS_OF[key]}
        self._stack = QStackedWidget()
        self.made: dict[str, Page] = {}

    def lie_in(self, stack: QStackedWidget) -> None:
        """Make pages into another stack from here on; those that were made are forgotten."""
        self._left, self.made, self._stack = self.views_now(), {}, stack

    def page(self, key: str) -> Page:
        """The page of a stage, made when it is first asked for."""
        if key not in self.made:
            with waiting():
                made = next(stage for stage in STAGES if stage.key == key).page(self._session)
            self.made[key] = made
            self._stack.addWidget(made)
            if view := self._left.get(key):
                made.show_view(view)
        return self.made[key]

    def leave(self) -> None:
        """Another project begins: let all pages go."""
        for page in self.made.values():
            self._stack.removeWidget(page)
            page.deleteLater()
        self.lie_in(self._stack)

    def views_now(self) -> dict[str, str]:
        """The view that each stage is at, or was left at."""
        open_now = {key: view_now(page) for key, page in self.made.items()}
        return {**self._left, **{key: view for key, view in open_now.items() if view}}


def view_now(page: Page) -> str:
    """The view that a stage is at; empty where it has none."""
    choice = getattr(page, "view", None)
    return str(choice.value) if isinstance(choice, ChoiceRow) else ""
