"""Days on which the pack wants to be looked at."""

from __future__ import annotations

from datetime import date

from PyQt6.QtWidgets import QPushButton, QVBoxLayout

from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.dates import DueDay, at_hand, due_days
from lumvak.ui.exports import ask_export
from lumvak.ui.session import Session
from lumvak.ui.speech import spoken, worded
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft


class _DueLine:
    """A day as a row: whether it lies behind."""

    def __init__(self, item: DueDay, today: date) -> None:
        self.item, self.past = item, item.day <= today


COLUMNS = (
    Column(
        "day",
        lambda it: it.item.day.isoformat(),
        left=True,
        sample="2026-05-31",
        mark=lambda it: "amber" if it.past else "",
        tip="Amber where it lies behind",
    ),
    Column(
        "what",
        lambda it: spoken(it.item.what),
        left=True,
        sample="Fuse, screws, wrapper",
        tip="What is due",
    ),
    Column("do", lambda it: spoken(it.item.do), left=True, stretch=True, tip="What to do then"),
)


class DatesView(Page):
    """The last and the next day of each kind; all of them go into a calendar."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.head = heading("")
        self.table = RowsTable(COLUMNS, "Days")
        self.save = QPushButton("save as calendar …")
        self.waits = soft("No day is set: say under “label” when the pack was built.", wrap=True)
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        outer.addWidget(flowing(self.head, self.save))
        outer.addWidget(self.waits)
        outer.addWidget(self.table)
        outer.addStretch(1)
        self.save.clicked.connect(lambda: ask_export(self.session, self, "dates"))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what is due of the pack of an evaluation."""
        today = date.today()
        days = at_hand(due_days(evaluation.project), today)
        ahead = [it for it in days if it.day > today]
        for part in (self.head, self.save, self.table):
            part.setVisible(bool(days))
        self.waits.setVisible(not days)
        if ahead:
            self.head.setText(
                worded("Next: {}, {}", ahead[0].day.isoformat(), spoken(ahead[0].what).lower())
            )
        lines = [_DueLine(it, today) for it in days]
        rows = [row_of(COLUMNS, it, value=place) for place, it in enumerate(lines)]
        self.table.show_rows(rows)
        fit_height(self.table, len(rows), 12, firm=True)
