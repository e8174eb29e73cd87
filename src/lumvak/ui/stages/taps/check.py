"""Running totals typed one after the other, judged at once, and whether the plug may go in."""

from __future__ import annotations

import math
import re
from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication, QKeyEvent
from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from lumvak.core import units
from lumvak.core.document.taps import TapTotal
from lumvak.core.evaluation import Evaluation, guides_in_hand
from lumvak.core.said import Text, capital, phrase, sentences
from lumvak.core.taps.check import end_kept, lead_said
from lumvak.core.taps.guide import TapGuide
from lumvak.core.taps.misread import Misread, misread, misread_one
from lumvak.core.taps.words import PLUG_OUT, end_said, next_said, nothing_wrong_said, repair, said
from lumvak.core.units import QuantityError
from lumvak.ui.bench_mode import BenchMode, BenchStep
from lumvak.ui.session import Session
from lumvak.ui.speech import (
    SPEECH,
    digits,
    in_words,
    parse,
    said_of,
    say,
    spoken,
    word_typed,
    worded,
)
from lumvak.ui.stages.taps.sides import BothSides, facing_of, sides_of
from lumvak.ui.widgets.entry import large_entry
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import edit_or_why, mark_bad
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.tables import RowsTable, fit_height, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, side_by_side, soft

MOST_SHOWN = 6
NOTHING = ("open", "-", "–", "—")
BUTTONS = ("paste", "read all anew")
COLUMNS = (
    Column("lead", tip="From 0 on the most negative tap"),
    Column("on", left=True, sample="g12c10p", tip="The terminal that it sits on"),
    Column("should read", tip="From main minus, as the groups are now"),
    Column("reads", sample="88.88 V", tip="What the meter showed"),
    Column("that is", left=True, stretch=True, tip="By itself; the verdict looks at all of them"),
)
EXPLAINS = (
    Column("what it may be", left=True, stretch=True, wraps=True, tip="In the order of likelihood"),
    Column("likely", tip="Among all that explains the readings"),
)
HOW = (
    "Plug out. Black probe on main minus, red on each pin of the plug from the lowest; a pin that "
    "shows nothing steady is open."
)


class CheckView(Page):
    """One reading at a time in large type, the verdict, and the reading that decides."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.at = 0
        self.bench: BenchMode | None = None
        # What was typed and can hardly be meant so, and what may be.
        self._doubted: tuple[int, str] | None = None
        self._meant: dict[int, float] = {}
        self.which = soft("")
        self.entry = large_entry("Running total")
        self.decide = large_entry("Reading that decides")
        self.buttons = {name: QPushButton(name) for name in BUTTONS}
        self.meant = QPushButton()
        self.meant.hide()
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.verdict = plain("")
        self.verdict.setFont(THEME.font("section", strong=True))
        self.verdict.setWordWrap(True)
        self.why = soft("", wrap=True)
        self.ends = soft("")
        self.asked = side_by_side(self.ends, self.decide)
        self.table = RowsTable(COLUMNS, "Readings of the balance leads")
        self.explains = RowsTable(EXPLAINS, "What explains the readings")
        self.sides = BothSides()
        self._lay_out()
        self.entry.setObjectName("balance_leads.totals")
        self.entry.returnPressed.connect(self.take)
        self.entry.stepped.connect(self.step)
        self.decide.returnPressed.connect(self.take_deciding)
        self.table.picked.connect(self.turn_to)
        self.buttons["paste"].clicked.connect(self.paste)
        self.buttons["read all anew"].clicked.connect(self.begin_anew)
        self.meant.clicked.connect(self.take_as_meant)

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(soft(f"{HOW} {PLUG_OUT}", wrap=True))
        outer.addWidget(flowing(self.which, self.entry, *self.buttons.values(), gap=12))
        outer.addWidget(self.problem)
        outer.addWidget(flowing(self.meant))
        outer.addWidget(self.verdict)
        outer.addWidget(self.why)
        outer.addWidget(flowing(self.asked))
        outer.addWidget(self.explains)
        both = Turning(760)
        both.columns.addWidget(self.table, 3)
        both.columns.addWidget(self.sides, 2)
        keep_rows(self.table, 8)
        outer.addWidget(both, 1)

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the readings of an evaluation and what they say."""
        check, count = evaluation.balance.check, evaluation.sized.choice.series + 1
        self.at = min(self.at, count - 1)
        level = check.level_v
        self.which.setText(worded("lead {}", self.at))
        known = check.read.get(self.at)
        self.entry.setPlaceholderText(
            worded("{} V", digits(float(level[self.at]), ".2f")) if known is None else _shown(known)
        )
        guides = guides_in_hand(evaluation)
        rows = []
        for number in range(count):
            words = lead_said(check, number)
            bad = words not in ("", "as it should")
            rows.append(
                Row(
                    (
                        str(number),
                        guides[number].place,
                        worded("{} V", digits(float(level[number]), ".2f")),
                        "" if number not in check.read else _shown(check.read[number]),
                        spoken(words),
                    ),
                    value=number,
                    key=number,
                    chosen=number == self.at,
                    marks={4: "crimson"} if bad else {},
                )
            )
        self.table.show_rows(rows)
        self.sides.show_sides(sides_of(evaluation, guides, self.at))
        self._judge(evaluation)

    def _judge(self, evaluation: Evaluation) -> None:
        check, count = evaluation.balance.check, evaluation.sized.choice.series + 1
        found = check.verdict
        self.asked.setVisible(found is not None and found.next is not None)
        self.explains.setVisible(found is not None and len(found.hypotheses) > 1)
        if self._doubted is None:
            self.meant.hide()
        if found is None:
            self._colour("ink")
            self.verdict.setText(worded("{} of {} read", len(check.read), count))
            self.why.setText(in_words("The plug stays out until all are read and fit."))
            return
        only = len(found.hypotheses) == 1
        unproven = found.unproven
        self._colour("verdigris" if found.safe else "amber" if unproven else "crimson")
        self.verdict.setText(
            in_words("Safe to plug in")
            if found.safe
            else in_words("Not yet: lead 0 is not proven")
            if unproven
            else in_words("Do not plug in")
        )
        if found.next is not None:
            self.ends.setText(
                worded(
                    "{} to {}", spoken(end_said(found.next.start)), spoken(end_said(found.next.end))
                )
            )
        if found.safe or unproven:
            self.why.setText(spoken(nothing_wrong_said(found)))
            return
        first = found.hypotheses[0]
        words: list[Text] = [said(first), repair(first)]
        if not only:
            words = [phrase("{} things explain the readings.", len(found.hypotheses))]
        if found.next is not None:
            words.append(next_said(found.next))
        if not found.explained:
            wrong = list(misread(check.case))
            words += [phrase("{}.", capital(item.text)) for item in wrong[:3]]
            self._offer(wrong)
        self.why.setText(spoken(sentences(*words)))
        self.explains.show_rows(
            [
                Row((spoken(said(item)), _likely(item.probability)), key=place)
                for place, item in enumerate(found.hypotheses[:MOST_SHOWN])
            ]
        )
        fit_height(self.explains, min(len(found.hypotheses), MOST_SHOWN), MOST_SHOWN, firm=True)

    def _colour(self, role: str) -> None:
        self.verdict.setStyleSheet(f"color: {THEME.colour(role).name()}")

    # Taking readings.

    def turn_to(self, number: int) -> None:
        """Have the reading of a lead next."""
        self.at = number
        self.show_evaluation(self.session.evaluation)
        self.entry.setFocus()

    def step(self, by: int) -> None:
        """Go to a lead near by."""
        count = self.session.evaluation.sized.choice.series + 1
        self.turn_to(min(max(0, self.at + by), count - 1))

    def take(self) -> None:
        """Keep what was typed for the lead in hand and go on; nothing typed goes on alone."""
        text = self.entry.text().strip()
        if text:
            try:
                volts = _volts(text)
            except QuantityError as error:
                mark_bad(self.entry, self.problem, worded("Lead {}: {}", self.at, error))
                return
            if self._doubts(text, volts):
                return
            if problem := self._keep({self.at: volts}, worded("reading of lead {}", self.at)):
                mark_bad(self.entry, self.problem, problem)
                return
        mark_bad(self.entry, self.problem, "")
        self.entry.clear()
        count = self.session.evaluation.sized.choice.series + 1
        read = self.session.evaluation.balance.check.read
        later = [
            number for number in (*range(self.at + 1, count), *range(self.at)) if number not in read
        ]
        self.turn_to(later[0] if later else min(self.at + 1, count - 1))

    def _doubts(self, text: str, volts: float) -> bool:
        """Whether a total can hardly be meant so; what may be meant is offered beside it.

        Enter once more keeps it all the same: a first group may lie the wrong way round.
        """
        levels = self.session.evaluation.balance.check.level_v.tolist()
        wrong = misread_one(self.at, volts, levels)
        if wrong is None or self._doubted == (self.at, text):
            self._doubted = None
            return False
        self._doubted = (self.at, text)
        words = worded("{}. Enter again keeps it.", spoken(capital(wrong.text)))
        mark_bad(self.entry, self.problem, words)
        self._offer([wrong])
        return True

    def _offer(self, wrong: list[Misread]) -> None:
        """Offer readings as they may be meant."""
        self._meant = {item.lead: item.meant_v for item in wrong if item.meant_v is not None}
        shown = [
            worded("lead {} as {}", lead, say(volts, "V")) for lead, volts in self._meant.items()
        ]
        more = " …" if len(shown) > 3 else ""
        self.meant.setText(worded("take {}{}", ", ".join(shown[:3]), more))
        self.meant.setVisible(bool(shown))

    def _keep(self, readings: dict[int, float], what: str) -> str:
        leads = self.session.project.balance_leads
        kept = {item.lead: item for item in leads.totals}
        kept |= {
            lead: TapTotal(lead=lead, volts=None if math.isnan(volts) else volts)
            for lead, volts in readings.items()
        }
        changes: dict[str, object] = {
            "balance_leads.totals": tuple(kept[lead] for lead in sorted(kept)),
            # What was read between leads was read of the harness as it was.
            "balance_leads.more": (),
        }
        problem = edit_or_why(self.session, changes, what)
        if not problem:
            self.session.keep_now()
        return problem

    def take_deciding(self) -> None:
        """Keep the reading that decides between what remains."""
        found = self.session.evaluation.balance.check.verdict
        text = self.decide.text().strip()
        if found is None or found.next is None or not text:
            return
        try:
            volts = _volts(text)
            if math.isnan(volts):
                raise QuantityError("a voltage is wanted, 0 where it shows none")
        except QuantityError as error:
            mark_bad(self.decide, self.problem, said_of(error))
            return
        more = {
            "start": end_kept(found.next.start),
            "end": end_kept(found.next.end),
            "volts": volts,
        }
        every = (*self.session.project.balance_leads.more, more)
        problem = edit_or_why(self.session, {"balance_leads.more": every}, "reading that decides")
        mark_bad(self.decide, self.problem, problem)
        if not problem:
            self.decide.clear()

    def take_as_meant(self) -> None:
        """Take readings as they were meant: millivolts, or probes that were swapped."""
        meant, self._meant, self._doubted = self._meant, {}, None
        mark_bad(self.entry, self.problem, self._keep(meant, "readings as meant"))
        self.entry.clear()

    def begin_anew(self) -> None:
        """Forget all readings; undo brings them back."""
        edit_or_why(
            self.session,
            {"balance_leads.totals": (), "balance_leads.more": ()},
            "readings forgotten",
        )
        self.turn_to(0)

    def paste(self) -> None:
        """Take all totals from the clipboard, one a line or parted by semicolons or tabs."""
        clipboard = QGuiApplication.clipboard()
        text = "" if clipboard is None else clipboard.text().strip()
        parts = [item.strip() for item in re.split(r"[\n;\t]+", text) if item.strip()]
        count = self.session.evaluation.sized.choice.series + 1
        if len(parts) != count:
            wrong = worded("{} readings for {} leads; accepted: one for each", len(parts), count)
            mark_bad(self.entry, self.problem, wrong)
            return
        try:
            readings = {lead: _volts(part) for lead, part in enumerate(parts)}
        except QuantityError as error:
            mark_bad(self.entry, self.problem, worded("Not pasted: {}", error))
            return
        mark_bad(self.entry, self.problem, self._keep(readings, "readings pasted"))

    # At the bench.

    def begin_bench(self) -> bool:
        """Each lead that was not read yet, in large type; all of them where all were."""
        evaluation = self.session.evaluation
        guides = guides_in_hand(evaluation)
        left = [item for item in guides if item.number not in evaluation.balance.check.read]
        steps = [self._bench_step(evaluation, guides, item) for item in left or guides]
        if not evaluation.balance.check.case.zero_is_main:
            steps.append(self._bench_zero(evaluation, guides))
        self.bench = BenchMode(self.session, "Running totals", steps)
        self.bench.showFullScreen()
        return True

    def bench_field(self) -> QWidget:
        return self.entry

    def _bench_step(
        self, evaluation: Evaluation, guides: tuple[TapGuide, ...], item: TapGuide
    ) -> BenchStep:
        number = item.number

        def keep(volts: float, text: str) -> str:
            if problem := self._keep({number: volts}, worded("reading of lead {}", number)):
                return problem
            check = self.session.evaluation.balance.check
            words = lead_said(check, number)
            if self.bench is not None:
                self.bench.last = worded("lead {}: {}, {}", number, text, spoken(words))
            return ""

        pin = worded("pin {}", item.pin) if item.pin else "main lead"
        return BenchStep(
            worded("lead {}, {}", number, item.colour),
            worded("red probe on {}, black on main minus", pin),
            cover="every pin but this one",
            expected=worded("{} V", digits(item.expected_v, ".2f")),
            sides=facing_of(evaluation, guides, item),
            take=_taking(keep),
            near_mm=(float(item.route_mm[0, 0]), float(item.route_mm[0, 1])),
            kept=lambda: self._kept(number),
        )

    def _kept(self, number: int) -> str:
        """The reading of a lead that is kept; an empty text where there is none."""
        volts = self.session.evaluation.balance.check.read.get(number)
        return "" if volts is None else worded("{} V", digits(volts, ".2f"))

    def _bench_zero(self, evaluation: Evaluation, guides: tuple[TapGuide, ...]) -> BenchStep:
        """Lead 0, which reads 0 V whether it is open or not: from it to lead 1."""

        def keep(volts: float, _: str) -> str:
            more = {
                "start": "lead 0",
                "end": "lead 1",
                "volts": 0.0 if math.isnan(volts) else volts,
            }
            every = (*self.session.project.balance_leads.more, more)
            return edit_or_why(self.session, {"balance_leads.more": every}, "reading of lead 0")

        first = guides[0]
        pins = [
            worded("pin {}", item.pin) if item.pin else worded("lead {}", item.number)
            for item in guides[:2]
        ]
        level = evaluation.balance.check.level_v
        return BenchStep(
            worded("lead 0, {}", first.colour),
            worded("black probe on {}, red on {}", pins[0], pins[1]),
            cover="every pin but these two",
            expected=worded("{} V", digits(float(level[1]), ".2f")),
            sides=facing_of(evaluation, guides, first),
            take=_taking(keep),
            near_mm=(float(first.route_mm[0, 0]), float(first.route_mm[0, 1])),
        )

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape and self.entry.hasFocus():
            self.entry.clear()
            mark_bad(self.entry, self.problem, "")
        else:
            super().keyPressEvent(event)


def _taking(keep: Callable[[float, str], str]) -> Callable[[str], str]:
    """What a step takes: volts as typed, for ``keep``; nothing typed changes nothing."""

    def take(text: str) -> str:
        if not text:
            return ""
        try:
            volts = _volts(text)
        except QuantityError as error:
            return said_of(error)
        return keep(volts, text)

    return take


def _volts(text: str) -> float:
    """A total as typed; NaN for one that reads nothing. Raises QuantityError."""
    if word_typed(text, NOTHING) is not None:
        return math.nan
    # No pack has thousands of volts: either sign is a decimal one.
    sign = "," if SPEECH.spelling.comma else "."
    return parse(text.replace(",", sign).replace(".", sign), units.VOLTAGE)


def _likely(share: float) -> str:
    return f"{digits(100.0 * share, '.0f')} %" if share >= 0.01 else f"< {digits(1.0, 'g')} %"


def _shown(volts: float) -> str:
    return in_words("open") if math.isnan(volts) else worded("{} V", digits(volts, ".2f"))
