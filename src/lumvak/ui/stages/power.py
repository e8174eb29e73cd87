"""Stage: the power path. Board, leads and parts, what opens first, the start, the rating, rest."""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QStackedWidget, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.ui.fields import Choice, heading, soft
from lumvak.ui.session import Session
from lumvak.ui.theme import THEME

VIEWS = (
    ("board", "board"),
    ("settings", "settings"),
    ("parts", "leads and parts"),
    ("order", "what opens first"),
    ("start", "start"),
    ("rating", "rating"),
    ("rest", "rest"),
)
# Where each view lives; it is loaded when it is first opened.
MAKERS = {
    "board": ("boards", "BoardsView"),
    "settings": ("boardsettings", "BoardSettingsView"),
    "parts": ("powerparts", "PowerPartsView"),
    "order": ("openfirst", "OpenFirstView"),
    "start": ("startview", "StartView"),
    "rating": ("ratingview", "RatingView"),
    "rest": ("restview", "RestView"),
}
TITLES = {
    "board": "Which board?",
    "settings": "What to set it to",
    "parts": "What the current passes",
    "order": "What opens first?",
    "start": "Does it start?",
    "rating": "What it gives, and for how long",
    "rest": "How long may it lie?",
}


class PowerStage(QWidget):
    """One of several views of what lies between the joints and the equipment."""

    key = "power"

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("sheet")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.view = Choice(VIEWS, "View of the power path")
        self.title, self.about = heading(""), soft("")
        self.about.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.pages = QStackedWidget()
        self.views: dict[str, QWidget] = {}
        head = QHBoxLayout()
        head.setContentsMargins(THEME.px(24), THEME.px(12), THEME.px(12), 0)
        head.setSpacing(THEME.px(12))
        head.addWidget(self.title)
        head.addWidget(self.about, 1)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(6))
        outer.addLayout(head)
        choice = QHBoxLayout()
        choice.setContentsMargins(THEME.px(24), 0, THEME.px(12), 0)
        choice.addWidget(self.view)
        choice.addStretch(1)
        outer.addLayout(choice)
        outer.addWidget(self.pages, 1)
        self.view.picked.connect(self.show_view)

    def view_widget(self, view: str) -> QWidget:
        """The widget of a view, made when it is first opened."""
        if view not in self.views:
            module, name = MAKERS[view]
            maker: Callable[[Session], QWidget] = getattr(
                import_module(f"lumvak.ui.stages.{module}"), name
            )
            self.views[view] = maker(self.session)
            self.pages.addWidget(self.views[view])
        return self.views[view]

    def show_view(self, view: str) -> None:
        """Turn to one of the views."""
        self.view.show_value(view)
        self.show_evaluation(self.session.evaluation)

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show what is in view of an evaluation."""
        view = self.view.value
        widget = self.view_widget(view)
        self.title.setText(TITLES[view])
        self.about.setText(str(getattr(widget, "about", "")))
        self.pages.setCurrentWidget(widget)
        widget.show_evaluation(seen)  # type: ignore[attr-defined]

    def show_link(self, figure: str) -> None:
        """Turn to where a link of the chain is set, from the key of its limit."""
        head, _, name = figure.partition(".")
        if head == "board":
            self.show_view("board")
            return
        self.show_view("parts")
        parts = self.views["parts"]
        place = "leads" if head in ("leads", "network") else name.split("_")[0]
        parts.show_place(place)  # type: ignore[attr-defined]
