"""The trail: every reading with what was likeliest before it and after, to be doubted or struck."""

from __future__ import annotations

from msgspec.structs import replace
from PyQt6.QtWidgets import QPushButton, QVBoxLayout

from lumvak.core.afterwards.in_trouble import DOUBTED, fits, known_readings
from lumvak.core.evaluation import Evaluation
from lumvak.core.trouble.diagnosis import RankedCause
from lumvak.core.trouble.how import cause_said, reading_said
from lumvak.ui.session import Session
from lumvak.ui.speech import say, spoken, worded
from lumvak.ui.stages.trouble.answer import Found
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.tables import RowsTable
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

TRAIL = (
    Column("reading", left=True, stretch=True, wraps=True, tip="Where, in which state, its value"),
    Column("counts", left=True, sample="doubted", tip="Whole, doubted, or struck"),
    Column("before", left=True, sample="a series connection 100 %", wraps=True, tip="Likeliest"),
    Column("after", left=True, sample="a series connection 100 %", wraps=True, tip="Likeliest"),
)


def _likely(ranked: tuple[RankedCause, ...]) -> str:
    first = ranked[0]
    return f"{spoken(cause_said(first))}, {say(round(first.share, 2), '%')}"


class TrailView(Page):
    """A row for each reading; the one in hand can be doubted, struck, or counted again."""

    def __init__(self, session: Session, found: Found) -> None:
        super().__init__(session)
        self.found, self.picked = found, 0
        self.nothing = soft("Nothing was read yet: find it tells what to read first.")
        self.table = RowsTable(TRAIL, "Readings")
        self.table.whole = True
        self.doubt, self.strike = QPushButton("doubt it"), QPushButton("strike it")
        self.known = QPushButton("")
        self.count, self.drop = QPushButton("count it"), QPushButton("take it again")
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(7))
        outer.addWidget(self.nothing)
        outer.addWidget(self.table)
        self.row = flowing(self.doubt, self.strike, self.count, self.drop, gap=8)
        outer.addWidget(self.row)
        outer.addWidget(flowing(self.known, gap=8))
        outer.addStretch(1)
        self.table.picked.connect(self._pick)
        for button, weight in ((self.doubt, DOUBTED), (self.strike, 0.0), (self.count, 1.0)):
            button.clicked.connect(lambda _, weight=weight: self._weigh(weight))
        self.drop.clicked.connect(self._drop)
        self.known.clicked.connect(self._take_known)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the readings of an evaluation."""
        found = self.found.of(evaluation)
        steps = () if found is None else found.trail
        self.nothing.setVisible(not steps)
        self.table.setVisible(bool(steps))
        self.row.setVisible(bool(steps))
        self.picked = min(self.picked, max(len(steps) - 1, 0))
        known = known_readings(evaluation)
        self.known.setVisible(bool(known) and found is not None)
        self.known.setText(worded("count {} that other stages have, as doubted", len(known)))
        words = {0.0: "struck", 1.0: "whole"}
        rows = [
            Row(
                (
                    spoken(reading_said(step.reading)),
                    words.get(step.reading.weight, "doubted"),
                    _likely(step.before),
                    _likely(step.after),
                ),
                value=at,
                key=at,
                chosen=at == self.picked,
                faded=step.reading.weight == 0.0,
            )
            for at, step in enumerate(steps)
        ]
        self.table.show_rows(rows)

    def _pick(self, at: int) -> None:
        self.picked = at
        self.show_evaluation(self.session.evaluation)

    def _at(self) -> int:
        """The place of the reading in hand among all that are kept."""
        project = self.session.project
        series = self.session.evaluation.sized.choice.series
        fit = [at for at, it in enumerate(project.trouble.readings) if fits(it, series)]
        return fit[self.picked]

    def _weigh(self, weight: float) -> None:
        kept = list(self.session.project.trouble.readings)
        at = self._at()
        kept[at] = replace(kept[at], weight=weight)
        try_edit(self.session, {"trouble.readings": tuple(kept)}, "what a reading counts")

    def _take_known(self) -> None:
        kept = self.session.project.trouble.readings
        known = known_readings(self.session.evaluation)
        try_edit(self.session, {"trouble.readings": (*kept, *known)}, "readings of other stages")

    def _drop(self) -> None:
        kept = list(self.session.project.trouble.readings)
        del kept[self._at()]
        try_edit(self.session, {"trouble.readings": tuple(kept)}, "a reading to take again")
