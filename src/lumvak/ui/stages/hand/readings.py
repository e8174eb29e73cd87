"""Cells in hand, measured: one reading after the other by keys alone, or a table of them."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lumvak.core import units
from lumvak.core.checked import NotAccepted
from lumvak.core.evaluation import Evaluation
from lumvak.core.matching.judging import JudgedCell, summary
from lumvak.core.matching.readings import next_number, with_reading, without
from lumvak.core.units import QuantityError
from lumvak.ui.bench_mode import BenchMode, BenchStep
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, in_words, parse, said_of, say, spoken, worded
from lumvak.ui.stages.hand.lot import LotRows
from lumvak.ui.stages.hand.notes import CellNotes
from lumvak.ui.stages.hand.table import CellsTable
from lumvak.ui.stages.hand.tables import Tables
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.entry import EntryField, large_entry
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import edit_or_why, mark_bad
from lumvak.ui.widgets.tables import keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import Empty, plain, side_by_side, soft

KINDS = {
    "volts": units.VOLTAGE, "later_v": units.VOLTAGE, "mohm": units.MILLIOHM,
    "ah": units.CAPACITY, "grams": units.GRAM,
}  # fmt: skip
READS = (
    ("volts", "OCV"), ("later_v", "OCV after days"), ("mohm", "resistance"),
    ("ah", "capacity"), ("grams", "mass"),
)  # fmt: skip
UNITS = {"volts": "V", "later_v": "V", "mohm": "mΩ", "ah": "Ah", "grams": "g"}
STEPS = (
    "Write a number on each wrapper, from 1; a number is never used again.",
    "OCV first, of every cell, after a day without current: who is swollen, leaks or reads under "
    "its recovery voltage goes no further.",
    "Then resistance, all the same way: a DC pulse, or a 1 kHz meter. Never mix the two.",
    "Then capacity, all at one current to one voltage; a second OCV after a week finds leaks.",
    "Type a reading and Enter; F9 shows one cell at a time in large type; or import a table.",
)
BUTTONS = ("import …", "paste", "export …", "take out")


class ReadingsView(Page):
    """The lot above, one reading at a time below it, and all cells as a table."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.number = 1
        self.last: tuple[int, str] | None = None
        self._cells: list[JudgedCell] = []
        self.bench: BenchMode | None = None
        # The last cell that bench mode asked for and that was not there before.
        self._newest = 0
        self.rows = LotRows(session)
        self.reads = ChoiceRow(READS, "What is read")
        self.which = large_entry("Number of the cell", 74)
        self.entry = large_entry("Reading")
        self.days = EntryField("7")
        self.days.setAccessibleName(in_words("Days after the first voltage"))
        self.days.setFixedWidth(THEME.px(60))
        self.after = side_by_side(soft("days after"), self.days)
        self.says = soft("", wrap=True)
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.hide()
        self.look = EntryField()
        self.look.setAccessibleName(in_words("Look for"))
        self.look.setPlaceholderText(in_words("number, reason, remark"))
        self.look.setFixedWidth(THEME.px(190))
        self.buttons = {name: QPushButton(name) for name in BUTTONS}
        self.notes = CellNotes(session)
        self.tables = Tables(session, self, lambda: self.rows.lot.name, lambda: self.number)
        self.table = CellsTable("Cells in hand")
        self.empty = Empty("No cell is measured yet", STEPS)
        self._lay_out()
        self.table.setObjectName("hand.cells")
        self.rows.turned.connect(lambda: self.show_evaluation(session.evaluation))
        self.reads.picked.connect(self._read)
        self.which.editingFinished.connect(self._take_number)
        self.entry.returnPressed.connect(self.take)
        self.entry.stepped.connect(lambda by: self.turn_to(max(1, self.number + by)))
        self.look.textChanged.connect(lambda _: self._fill())
        self.table.picked.connect(self.turn_to)
        self.buttons["import …"].clicked.connect(self.tables.ask_in)
        self.buttons["paste"].clicked.connect(self.tables.paste)
        self.buttons["export …"].clicked.connect(self.tables.ask_out)
        self.buttons["take out"].clicked.connect(self._take_out)

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(self.rows)
        outer.addWidget(
            flowing(
                self.reads,
                side_by_side(soft("cell"), self.which),
                self.entry,
                self.after,
                self.notes,
                gap=12,
            )
        )
        outer.addWidget(self.problem)
        outer.addWidget(self.says)
        outer.addWidget(flowing(self.look, *self.buttons.values(), gap=8))
        outer.addWidget(self.empty)
        outer.addWidget(self.table, 1)
        outer.addStretch(0)
        keep_rows(self.table, 8)

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the lots and cells of an evaluation."""
        self.rows.show_evaluation(evaluation)
        lot = self.rows.lot
        judged = next(
            (item for item in evaluation.sized.in_hand.lots if item.lot.name == lot.name), None
        )
        self.about = spoken(summary(judged)) if judged is not None and judged.cells else ""
        self.after.setVisible(self.field == "later_v")
        nothing = not evaluation.project.hand.cells
        self.empty.setVisible(nothing)
        self.table.setVisible(not nothing)
        self._cells = [item for lot in evaluation.sized.in_hand.lots for item in lot.cells]
        self._step_back(evaluation)
        self._fill()
        self._show_number()

    def _fill(self) -> None:
        self.table.show_cells(self._cells, self.look.text(), frozenset((self.number,)))

    @property
    def field(self) -> str:
        """What is read now."""
        return str(self.reads.value)

    # Taking readings.

    def turn_to(self, number: int) -> None:
        """Have the reading of a cell next."""
        self.number = number
        self._fill()
        self._show_number()
        self.entry.setFocus()

    def _show_number(self) -> None:
        if not self.which.hasFocus() or not self.which.isModified():
            self.which.setText(str(self.number))
        item = self.session.evaluation.sized.in_hand.judged.get(self.number)
        self.entry.setPlaceholderText(self._kept(self.number) or in_words("not read yet"))
        self.notes.show_cell(None if item is None else item.cell)

    def _read(self, field: str) -> None:
        self.reads.show_value(field)
        self.after.setVisible(field == "later_v")
        self.number = next_number(self.session.project.hand.cells, field, 0)
        self._fill()
        self._show_number()
        if not self.reads.stepping:
            self.entry.setFocus()

    def _take_number(self) -> None:
        try:
            number = int(parse(self.which.text(), units.COUNT))
            if not 1 <= number <= 999_999:
                raise QuantityError(
                    worded("{} is no number of a cell; accepted: 1 to 999999", number)
                )
        except QuantityError as error:
            mark_bad(self.which, self.problem, said_of(error))
            return
        mark_bad(self.which, self.problem, "")
        if number != self.number:
            self.turn_to(number)

    def take(self) -> None:
        """Keep what was typed for the cell in hand and go on; nothing typed goes on alone."""
        text = self.entry.text().strip()
        if problem := self.keep(text) if text else "":
            mark_bad(self.entry, self.problem, problem)
            self.entry.selectAll()
            self.session.beep()
            return
        mark_bad(self.entry, self.problem, "")
        self.entry.clear()
        self.number = next_number(self.session.project.hand.cells, self.field, self.number)
        self._fill()
        self._show_number()

    def keep(self, text: str) -> str:
        """Keep a reading of the cell in hand; returns what is wrong with it, or an empty text.

        It is on the disk before this returns.
        """
        session, number, field = self.session, self.number, self.field
        # No cell has thousands of volts: either sign is a decimal one.
        sign = "," if SPEECH.spelling.comma else "."
        volts = KINDS[field] is units.VOLTAGE
        spelled = text.replace(",", sign).replace(".", sign) if volts else text
        try:
            value = parse(spelled, KINDS[field])
            cells = with_reading(
                session.project.hand.cells, number, self.rows.lot.name, field, value
            )
            if field == "later_v":
                days = parse(self.days.text(), units.DAYS)
                cells = with_reading(cells, number, self.rows.lot.name, "days", days)
        except QuantityError as error:
            return said_of(error)
        except NotAccepted as error:
            return no_voltage(value) if volts else spoken(error.wrongs[0].text)
        changes: dict[str, object] = {"hand.cells": cells}
        if problem := edit_or_why(session, changes, worded("reading of cell {}", number)):
            return problem
        session.keep_now()
        self.last = (number, field)
        self._say(number)
        return ""

    def _say(self, number: int) -> None:
        """Say at once what is wrong with a cell, before it is put down."""
        item = self.session.evaluation.sized.in_hand.judged[number]
        bad = item.state == "reject"
        self.says.setText(
            worded("Cell {}: {}", number, spoken(item.said))
            if item.said
            else worded("Cell {} is good", number)
        )
        self.says.setAccessibleName(f"{'stop: ' if bad else ''}{self.says.text()}")
        if bad:
            self.session.beep()

    def _step_back(self, evaluation: Evaluation) -> None:
        """Where a reading was undone, its cell is next again."""
        if self.last is None:
            return
        number, field = self.last
        item = evaluation.sized.in_hand.judged.get(number)
        if item is None or getattr(item.cell, field) is None:
            self.last, self.number = None, number

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape and self.entry.hasFocus():
            self.entry.clear()
            mark_bad(self.entry, self.problem, "")
        else:
            super().keyPressEvent(event)

    def begin_bench(self) -> bool:
        """One cell at a time in large type, for what is read now.

        The cells of the lot that lack it come first; where none does, new ones until Escape.
        """
        cells, lot = self.session.project.hand.cells, self.rows.lot.name
        lacking = sorted(
            cell.number for cell in cells if cell.lot == lot and getattr(cell, self.field) is None
        )
        title = worded("Readings: {}", dict(READS)[self.field])
        self._newest = 0
        steps = [self._bench_step(number) for number in lacking]
        if steps:
            self.bench = BenchMode(self.session, title, steps)
        else:
            self.bench = BenchMode(self.session, title, [self._bench_new()], self._bench_new)
        self.bench.showFullScreen()
        return True

    def _bench_new(self) -> BenchStep:
        """A step for a cell that is not there yet: the one after the last."""
        last = max((cell.number for cell in self.session.project.hand.cells), default=0)
        self._newest = max(last, self._newest) + 1
        return self._bench_step(self._newest)

    def _bench_step(self, number: int) -> BenchStep:
        def take(text: str) -> str:
            self.number = number
            problem = self.keep(text) if text else ""
            item = self.session.evaluation.sized.in_hand.judged.get(number)
            if not problem and item is not None and item.state == "reject" and self.bench:
                self.bench.last = f"{text}: {spoken(item.said)}"
            return problem

        return BenchStep(
            worded("cell {}", number),
            worded("{} in {}", dict(READS)[self.field], UNITS[self.field]),
            "the poles of all cells near by",
            take=take,
            kept=lambda: self._kept(number),
        )

    def _kept(self, number: int) -> str:
        """The reading of a cell that is kept; an empty text where there is none."""
        item = self.session.evaluation.sized.in_hand.judged.get(number)
        value = None if item is None else getattr(item.cell, self.field)
        return "" if value is None else say(value, UNITS[self.field])

    def take_file(self, path: Path) -> None:
        self.tables.bring_in(path)

    def bench_field(self) -> QWidget:
        return self.entry

    def _take_out(self) -> None:
        hand = self.session.project.hand
        if self.number in self.session.evaluation.sized.in_hand.judged:
            changes = without(hand, {self.number})
            if problem := edit_or_why(
                self.session, changes, worded("cell {} taken out", self.number)
            ):
                self.session.tell("warn", problem)


def no_voltage(volts: float) -> str:
    """What to say of volts that no cell has: most were read off a meter in millivolts."""
    if 1000.0 <= abs(volts) <= 6000.0:
        return worded(
            "{} V is no cell voltage; type {}, or {} mV",
            f"{volts:g}",
            f"{volts / 1000.0:g}",
            f"{volts:g}",
        )
    return worded(
        "{} V is no cell voltage; accepted: up to 6 V, or millivolts such as 3612 mV", f"{volts:g}"
    )
