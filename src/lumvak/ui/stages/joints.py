"""Stage: joints. The pack on the table with its currents, and the conductors to choose from."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QStackedWidget, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.units import say
from lumvak.ui.fields import Choice, heading, soft
from lumvak.ui.session import Session
from lumvak.ui.stages.conductors import ConductorsView
from lumvak.ui.stages.ontable import OnTableView
from lumvak.ui.theme import THEME

if TYPE_CHECKING:
    from lumvak.ui.stages.making import MakingView

VIEWS = (("table", "on the table"), ("conductors", "conductors"), ("making", "making"))


class JointsStage(QWidget):
    """One of several views: where the current goes, what it goes through, how it is made."""

    key = "joints"

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("sheet")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.view = Choice(VIEWS, "View of the joints")
        self.title, self.about = heading(""), soft("")
        self.about.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.on_table = OnTableView(session)
        self.conductors = ConductorsView(session)
        self.making: MakingView | None = None
        self.pages = QStackedWidget()
        self.pages.addWidget(self.on_table)
        self.pages.addWidget(self.conductors)
        head = QHBoxLayout()
        head.setContentsMargins(THEME.px(24), THEME.px(12), THEME.px(12), 0)
        head.setSpacing(THEME.px(12))
        head.addWidget(self.title)
        head.addWidget(self.about, 1)
        head.addWidget(self.view)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(6))
        outer.addLayout(head)
        outer.addWidget(self.pages, 1)
        self.view.picked.connect(self.show_view)

    def show_view(self, view: str) -> None:
        """Turn to one of the views."""
        self.view.show_value(view)
        if view == "making" and self.making is None:
            from lumvak.ui.stages.making import MakingView

            self.making = MakingView(self.session)
            self.pages.addWidget(self.making)
        page = {"table": self.on_table, "conductors": self.conductors, "making": self.making}[view]
        assert page is not None
        self.pages.setCurrentWidget(page)
        self.show_evaluation(self.session.evaluation)

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show what is in view of an evaluation."""
        view = self.view.value
        if view == "table":
            self.title.setText(f"Where {say(seen.pack.current.value, 'A')} goes")
            self.about.setText("drag the leads; click a strip to change it")
            self.on_table.show_evaluation(seen)
        elif view == "conductors":
            self.title.setText("What joins the cells?")
            self.about.setText("")
            self.conductors.show_evaluation(seen)
        elif self.making is not None:
            self.title.setText("What to cut, and in which order")
            self.about.setText("")
            self.making.show_evaluation(seen)

    def show_link(self, figure: str) -> None:
        """Turn to where a link of the chain is set, from the key of its limit."""
        for role in ("series", "group"):
            if role in figure:
                self.show_view("conductors")
                self.conductors.show_role(role)
                return
        self.show_view("table")
        self.on_table.show_lower("how")
