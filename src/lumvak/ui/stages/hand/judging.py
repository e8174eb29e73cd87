"""Cells in hand, judged: all of a lot on a plot and in a table, with what speaks against each."""

from __future__ import annotations

from typing import Literal

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton, QSizePolicy, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.matching.judging import LotJudged, summary
from lumvak.core.matching.readings import with_verdict
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, spoken, worded
from lumvak.ui.stages.hand.histogram import Histogram
from lumvak.ui.stages.hand.scatter import Scatter
from lumvak.ui.stages.hand.table import IS, CellsTable
from lumvak.ui.widgets.choice import ChoiceRow, list_box
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import flowing, scrolled
from lumvak.ui.widgets.pages import Page, Split, Stack
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.tables import keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import side_by_side, soft

SHOWS = (("both", "capacity against resistance"), ("ah", "capacity"), ("mohm", "resistance"),
         ("volts", "OCV"), ("grams", "mass"))  # fmt: skip
VERDICTS: tuple[tuple[str, Literal["", "keep", "reject"]], ...] = (
    ("keep", "keep"), ("reject", "reject"), ("as judged", ""),
)  # fmt: skip


class JudgingView(Page):
    """The plot above, linked with the table below; what is chosen is kept or rejected."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.chosen: frozenset[int] = frozenset()
        self.pointed = 0
        self.lot = list_box("Lot")
        self.plot = Scatter()
        self.plot.setMinimumHeight(THEME.px(180))
        self.plot.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        self.histogram = Histogram()
        self.shows = ChoiceRow(SHOWS, "What is drawn")
        self.pictures = Stack()
        for picture in (self.plot, self.histogram):
            self.pictures.addWidget(picture)
        self.says = soft("", wrap=True)
        self.look = EntryField()
        self.look.setAccessibleName(in_words("Look for"))
        self.look.setPlaceholderText(in_words("number, reason, remark"))
        self.look.setFixedWidth(THEME.px(180))
        self.why = EntryField()
        self.why.setAccessibleName(in_words("Why it is overruled"))
        self.why.setPlaceholderText(in_words("why"))
        self.why.setFixedWidth(THEME.px(200))
        self.buttons = {word: QPushButton(word) for word, _ in VERDICTS}
        self.table = CellsTable("Cells, judged", IS)
        self._lay_out()
        self.lot.activated.connect(lambda _: self.show_evaluation(session.evaluation))
        self.shows.picked.connect(self.turn)
        self.look.textChanged.connect(lambda _: self._fill())
        self.plot.picked.connect(self.choose)
        self.histogram.picked.connect(self.choose)
        self.plot.pointed.connect(self.point_at)
        self.table.pointed.connect(self.point_at)
        self.table.picked.connect(lambda number: self.choose(frozenset((number,))))
        for word, verdict in VERDICTS:
            self.buttons[word].clicked.connect(lambda _=False, to=verdict: self.overrule(to))

    def _lay_out(self) -> None:
        above = QWidget()
        upper = QVBoxLayout(above)
        upper.setContentsMargins(0, 0, 0, 0)
        upper.setSpacing(THEME.px(4))
        upper.addWidget(self.shows)
        upper.addWidget(self.pictures, 1)
        under = QWidget()
        lower = QVBoxLayout(under)
        lower.setContentsMargins(0, THEME.px(4), 0, 0)
        lower.setSpacing(THEME.px(4))
        lower.addWidget(self.says)
        lower.addWidget(
            flowing(
                side_by_side(soft("lot"), self.lot),
                self.look,
                self.why,
                *self.buttons.values(),
                gap=8,
            )
        )
        lower.addWidget(self.table, 1)
        keep_rows(self.table, 6)
        split = Split(
            self.session,
            "hand.judge",
            Qt.Orientation.Vertical,
            (above, under),
            (290, 280),
            THEME.px(3),
        )
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.addWidget(scrolled(split))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show a lot of an evaluation."""
        names = [lot.name for lot in evaluation.project.hand.lots]
        if [self.lot.itemText(place) for place in range(self.lot.count())] != names:
            self.lot.clear()
            self.lot.addItems(names)
        self.about = spoken(summary(self._lot)) if self._lot.cells else ""
        self._fill()

    @property
    def _lot(self) -> LotJudged:
        lots = self.session.evaluation.sized.in_hand.lots
        return lots[min(max(self.lot.currentIndex(), 0), len(lots) - 1)]

    def _fill(self) -> None:
        lot = self._lot
        if self.shows.value == "both":
            self.plot.show_lot(lot, self.chosen)
        else:
            self.histogram.show_lots(self.session.evaluation.sized.in_hand.lots, self.shows.value)
        self.table.show_cells(lot.cells, self.look.text(), self.chosen)
        self._say(lot)

    def _say(self, lot: LotJudged) -> None:
        judged = self.session.evaluation.sized.in_hand.judged
        known = [judged[number] for number in sorted(self.chosen) if number in judged]
        here = judged.get(self.pointed)
        if here is not None:
            self.says.setText(worded("Cell {}: {}", here.cell.number, spoken(here.said or "good")))
        elif len(known) == 1:
            self.says.setText(
                worded("Cell {}: {}", known[0].cell.number, spoken(known[0].said or "good"))
            )
        elif known:
            out = sum(item.state == "reject" for item in known)
            self.says.setText(worded("{} cells are chosen, {} of them rejected", len(known), out))
        else:
            self.says.setText(
                in_words(
                    "Click a dot, or draw a rectangle; + is the sheet. A rejection is overruled "
                    "with a note; a cell that was run down is not."
                )
                if lot.cells
                else in_words("Nothing is measured yet: begin with measure.")
            )
        for button in self.buttons.values():
            button.setEnabled(bool(known))

    def point_at(self, number: int) -> None:
        """Show which cell is under the pointer, on the plot and in the table; 0 is none."""
        if number == self.pointed:
            return
        self.pointed = number
        self.plot.point_at(number)
        self.table.point_at(number)
        self._say(self._lot)

    def turn(self, shows: str) -> None:
        """Draw one reading as bars, or capacity against resistance."""
        self.shows.show_value(shows)
        self.pictures.setCurrentWidget(self.plot if shows == "both" else self.histogram)
        self._fill()

    def choose(self, numbers: frozenset[int]) -> None:
        """Choose cells, on the plot and in the table."""
        self.chosen = numbers
        self._fill()
        self.table.show_chosen()

    def overrule(self, verdict: Literal["", "keep", "reject"]) -> None:
        """Overrule what is judged of the cells that are chosen, with a note."""
        cells = with_verdict(
            self.session.project.hand.cells, self.chosen, verdict, self.why.text().strip()
        )
        word = {"keep": "kept", "reject": "rejected", "": "as judged"}[verdict]
        if try_edit(
            self.session, {"hand.cells": cells}, worded("{} cells {}", len(self.chosen), word)
        ):
            self.why.clear()
