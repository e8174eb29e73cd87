"""What to look at next: what each look would settle, for its effort."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QVBoxLayout

from lumvak.core.as_found.looks import LOOKS as LOOKS_ALL
from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.speech import say, worded
from lumvak.ui.stages.as_found.answer import audit_of
from lumvak.ui.widgets.flow import scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft

NOTHING = "Nothing: all of it was seen."


def _share(value: float) -> str:
    return "—" if value < 0.005 else say(value, "%")


LOOKS = (
    Column("look at", lambda it: it.words, left=True, stretch=True, tip="The most telling first"),
    Column(
        "effort",
        lambda it: it.effort,
        left=True,
        sample="through the wrapper",
        tip="What it takes to see it",
    ),
    Column(
        "current",
        lambda it: _share(it.closes_a),
        sample="100 %",
        tip="Share of the band of the current that it would likely close, by itself",
    ),
    Column(
        "charge",
        lambda it: _share(it.closes_ah),
        sample="100 %",
        tip="Share of the band of the charge that it would likely close, by itself",
    ),
    Column(
        "verdict",
        lambda it: "waits for it" if it.lifts else "",
        left=True,
        sample="waits for it",
        mark=lambda it: "amber" if it.lifts else "",
        tip="The verdict stays where it is until this was seen",
    ),
)
EFFORTS = (
    Column(
        "effort", lambda it: it.effort, left=True, stretch=True, tip="All that it shows at once"
    ),
    Column(
        "shows",
        lambda it: worded("{} thing{}", len(it.fields), "s" * (len(it.fields) > 1)),
        left=True,
        sample="00 things",
        tip="How many fields that were not seen",
    ),
    Column(
        "current",
        lambda it: _share(it.closes_a),
        sample="100 %",
        tip="Share of the band of the current that all of it would likely close",
    ),
    Column(
        "charge",
        lambda it: _share(it.closes_ah),
        sample="100 %",
        tip="Share of the band of the charge that all of it would likely close",
    ),
)


class NextView(Page):
    """By effort above, one by one below; Enter leads to the field."""

    def __init__(self, session: Session, look_at: Callable[[str], None]) -> None:
        super().__init__(session)
        self.nothing = soft(NOTHING)
        self.efforts = RowsTable(EFFORTS, "By effort")
        self.looks = RowsTable(LOOKS, "One by one")
        self.heads = (heading("By effort, all at once"), heading("One by one"))
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(7))
        outer.addWidget(self.nothing)
        outer.addWidget(self.heads[0])
        outer.addWidget(self.efforts)
        outer.addWidget(self.heads[1])
        outer.addWidget(self.looks)
        outer.addStretch(1)
        self.looks.picked.connect(look_at)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what was not seen of the pack of an evaluation."""
        audit = audit_of(evaluation)
        for widget in (*self.heads, self.efforts, self.looks):
            widget.setVisible(bool(audit.looks))
        self.nothing.setVisible(not audit.looks)
        self.efforts.show_rows([row_of(EFFORTS, it, value=it.effort) for it in audit.efforts])
        fit_height(self.efforts, len(audit.efforts), 6, firm=True)
        self.looks.show_rows(
            [row_of(LOOKS, it, value=it.field, key=it.field) for it in audit.looks]
        )
        fit_height(self.looks, len(audit.looks), len(LOOKS_ALL), firm=True)
