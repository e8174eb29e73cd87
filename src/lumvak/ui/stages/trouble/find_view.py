"""Causes ranked from the complaint and the readings, and the next reading."""

from __future__ import annotations

import re
from typing import Any

from PyQt6.QtWidgets import QCheckBox, QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from lumvak.bench.moment import moment_now
from lumvak.core import units
from lumvak.core.document.afterwards.trouble import FaultReading
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import capital
from lumvak.core.trouble.causes import COMPLAINTS
from lumvak.core.trouble.diagnosis import Diagnosis, grouped
from lumvak.core.trouble.how import cause_said, how_said, place_said, probes_said, speaking
from lumvak.core.trouble.proposing import Proposed
from lumvak.core.trouble.readings import SWEEPS
from lumvak.core.units import QuantityError
from lumvak.ui.bench_mode import BenchMode, BenchStep
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, parse, said_of, say, spoken, word_typed, worded
from lumvak.ui.stages.trouble.answer import Found
from lumvak.ui.stages.trouble.probes_drawn import ProbesDrawn
from lumvak.ui.widgets.choice import list_box
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import mark_bad, try_edit
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

CAUTION = (
    "A trip says that something is past its limit: never bridge a BMS to get rid of it. A pack "
    "that is warm by itself, swollen or smells is not measured, it is carried outside."
)
AS_WORD = "“nothing” and “jumps” are readings too; an empty line goes on to the next best."
AS_WORDS = AS_WORD.replace("“nothing”", "“alike”, “nothing”")
MOST_SHOWN = 8
LEAST_SHARE = 0.01


CAUSES = (
    Column(
        "cause",
        lambda it: spoken(cause_said(it)),
        left=True,
        stretch=True,
        wraps=True,
        tip="The likeliest first; a click tells what it would take",
    ),
    Column(
        "likely",
        lambda it: f"{100.0 * it.share:.0f} %" if it.share >= LEAST_SHARE else "under 1 %",
        sample="under 1 %",
        mark=lambda it: "verdigris" if it.share > 0.5 else "",
        tip="From how common it is, the complaint and all readings",
    ),
)


class FindView(Page):
    """The complaint and the next reading at the left, the causes at the right."""

    def __init__(self, session: Session, found: Found) -> None:
        super().__init__(session)
        self.found = found
        self.picked = 0
        self.bench: BenchMode | None = None
        self.complaint = list_box("Complaint")
        self.complaint.setObjectName("trouble.complaint")
        self.complaint.addItem(in_words("what is wrong with it?"), None)
        for name, words in COMPLAINTS.items():
            self.complaint.addItem(words, name)
        self.shows = QCheckBox("its BMS shows groups")
        self.shows.setObjectName("trouble.shows")
        self.where, self.how = heading(""), soft("", wrap=True)
        self.drawn = ProbesDrawn()
        self.entry = EntryField()
        self.entry.setObjectName("trouble.readings")
        self.entry.setAccessibleName(in_words("Reading"))
        self.keep = QPushButton("keep")
        self.nothing, self.jumps = QPushButton("nothing"), QPushButton("jumps")
        self.alike = QPushButton("all alike")
        self.cannot = QPushButton("I cannot take that one")
        self.can = QPushButton("all places again")
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.do, self.speaks = plain(""), soft("", wrap=True)
        self.do.setWordWrap(True)
        self.do.setObjectName("strong")
        self.causes = RowsTable(CAUSES, "Causes")
        self.causes.whole = True
        self.caution = soft(CAUTION, wrap=True)
        self.caution.setObjectName("caution")
        self._lay_out()
        self._connect()

    def _connect(self) -> None:
        session = self.session
        self.complaint.activated.connect(
            lambda _: try_edit(
                session, {"trouble.complaint": self.complaint.currentData()}, "the complaint"
            )
        )
        self.shows.clicked.connect(lambda on: try_edit(session, {"trouble.shows": bool(on)}))
        self.keep.clicked.connect(self.take)
        self.entry.returnPressed.connect(self.take)
        for button, word in (
            (self.nothing, "nothing"),
            (self.jumps, "jumps"),
            (self.alike, "alike"),
        ):
            button.clicked.connect(lambda _, word=word: self.take_word(word))
        self.cannot.clicked.connect(self._cannot)
        self.can.clicked.connect(lambda: try_edit(session, {"trouble.without": ()}, "all places"))
        self.causes.picked.connect(self._pick)
        self.causes.cell_clicked.connect(lambda at, _: self._pick(at))

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(7))
        outer.addWidget(flowing(self.complaint, self.shows, gap=12))
        self.body = QWidget()
        both = QHBoxLayout(self.body)
        both.setContentsMargins(0, 0, 0, 0)
        both.setSpacing(THEME.px(20))
        left = QVBoxLayout()
        left.setSpacing(THEME.px(7))
        self.reading = QWidget()
        inner = QVBoxLayout(self.reading)
        inner.setContentsMargins(0, 0, 0, 0)
        inner.setSpacing(THEME.px(7))
        for widget in (
            self.where,
            self.drawn,
            self.how,
            self.entry,
            flowing(self.keep, self.nothing, self.jumps, self.alike, gap=8),
            self.problem,
            flowing(self.cannot, self.can, gap=8),
        ):
            inner.addWidget(widget)
        left.addWidget(self.do)
        left.addWidget(self.reading)
        left.addStretch(1)
        right = QVBoxLayout()
        right.setSpacing(THEME.px(7))
        right.addWidget(self.causes)
        right.addWidget(self.speaks)
        right.addStretch(1)
        both.addLayout(left, 5)
        both.addLayout(right, 4)
        outer.addWidget(self.body)
        outer.addWidget(self.caution)
        outer.addStretch(1)

    @property
    def wanted(self) -> Proposed | None:
        """The reading that is asked for."""
        found = self.found.of(self.session.evaluation)
        return None if found is None else found.next

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what is found of the pack of an evaluation."""
        trouble = evaluation.project.trouble
        self.complaint.setCurrentIndex(max(self.complaint.findData(trouble.complaint), 0))
        self.shows.setChecked(trouble.shows)
        found = self.found.of(evaluation)
        self.body.setVisible(found is not None)
        if found is None:
            return
        wanted = found.next
        self.reading.setVisible(wanted is not None)
        self.can.setVisible(bool(trouble.without))
        case = found.courses[-1].case
        if wanted is not None:
            amount, in_ohm = wanted.amount, wanted.in_ohm
            self.where.setText(worded("Read {}", spoken(place_said(wanted.place))))
            how = how_said(wanted.place, wanted.state, amount, in_ohm, case.charger_v)
            self.how.setText(f"{spoken(how)} ({in_words(wanted.effort)})")
            self.drawn.show_place(wanted.place, case.series)
            sweeps = wanted.place in SWEEPS
            self.alike.setVisible(sweeps)
            self.entry.setPlaceholderText(
                in_words("3.71 3.70 …, from the − end")
                if sweeps
                else "12 mΩ"
                if in_ohm
                else "3.71 V"
            )
        self.do.setText(_do(found))
        ranked = grouped(found)[:MOST_SHOWN]
        self.picked = min(self.picked, len(ranked) - 1)
        rows = [
            row_of(CAUSES, it, value=at, key=at, chosen=at == self.picked)
            for at, it in enumerate(ranked)
        ]
        self.causes.show_rows(rows)
        cause = ranked[self.picked]
        best, worst = speaking(found, cause)
        self.speaks.setText(
            worded(
                "For it: {}. Against it: {}. To mend: {}. Used as it is: {}.",
                spoken(best),
                spoken(worst),
                cause.cause.mend,
                cause.cause.used,
            )
        )

    def _pick(self, at: int) -> None:
        self.picked = at
        self.show_evaluation(self.session.evaluation)

    # What is taken.

    def take_word(self, word: str) -> None:
        """Keep a reading that is a word."""
        if self.wanted is not None:
            self._add(self.wanted, {"word": word})

    def take(self) -> None:
        """Keep the reading that was typed; what is none waits, explained."""
        if self.wanted is not None:
            problem = self.keep_text(self.wanted, self.entry.text().strip())
            mark_bad(self.entry, self.problem, problem)

    def keep_text(self, wanted: Proposed, text: str) -> str:
        """Keep what was typed for a reading; what was wrong with it, else empty."""
        given, problem = reading_typed(wanted, self.session.evaluation.sized.choice.series, text)
        if not problem:
            self._add(wanted, given)
        return problem

    def _add(self, wanted: Proposed, given: dict[str, Any]) -> None:
        reading = FaultReading(
            place=wanted.place,
            state=wanted.state,  # type: ignore[arg-type]
            amount=wanted.amount,
            in_ohm=wanted.in_ohm,
            taken=moment_now(),
            **given,
        )
        mark_bad(self.entry, self.problem, "")
        kept = (*self.session.project.trouble.readings, reading)
        words = worded("reading {}", spoken(place_said(wanted.place)))
        if try_edit(self.session, {"trouble.readings": kept}, words):
            self.entry.clear()
            self.entry.setFocus()

    # At the bench.

    def begin_bench(self) -> bool:
        """The readings one after the other in large type, until more would change nothing."""
        first = self._bench_next()
        if first is None:
            return False
        self.bench = BenchMode(self.session, "Trouble", [first], self._bench_next)
        self.bench.showFullScreen()
        return True

    def _bench_next(self) -> BenchStep | None:
        """The next reading; once there is none, what was found; after that nothing."""
        found = self.found.of(self.session.evaluation)
        if found is None:
            return None
        wanted = found.next
        if wanted is not None:
            return self._bench_step(wanted, found)
        end = BenchStep("enough", _do(found), caution=CAUTION)
        return None if self.bench is not None and self.bench.step == end else end

    def _bench_step(self, wanted: Proposed, found: Diagnosis) -> BenchStep:
        case = found.courses[-1].case

        def take(text: str) -> str:
            if not text:
                self._cannot()
                return ""
            return self.keep_text(wanted, text)

        def drawn() -> ProbesDrawn:
            shown = ProbesDrawn()
            shown.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
            shown.show_place(wanted.place, case.series)
            return shown

        state, amount, in_ohm = wanted.state, wanted.amount, wanted.in_ohm
        where, cover = probes_said(wanted.place, state, amount, in_ohm, case.charger_v)
        return BenchStep(
            spoken(place_said(wanted.place)),
            spoken(where),
            take=take,
            caution=f"{spoken(cover)} {AS_WORDS if wanted.place in SWEEPS else AS_WORD}",
            beside=drawn,
        )

    def bench_field(self) -> QWidget:
        """Where a reading is typed."""
        return self.entry

    def _cannot(self) -> None:
        wanted = self.wanted
        if wanted is not None:
            without = (*self.session.project.trouble.without, wanted.place)
            try_edit(self.session, {"trouble.without": without}, "cannot be read")


def reading_typed(wanted: Proposed, series: int, text: str) -> tuple[dict[str, Any], str]:
    """What a typed text gives as fields of a reading, and what is wrong with it, else empty."""
    sweeps = wanted.place in SWEEPS
    word = word_typed(text, ("nothing", "jumps", *(("alike",) if sweeps else ())))
    if word is not None:
        return {"word": word}, ""
    try:
        if not sweeps:
            return {"value": parse(text, units.OHM if wanted.in_ohm else units.VOLTAGE)}, ""
        row = tuple(parse(it, units.VOLTAGE) for it in re.split(r"[\s;]+", text) if it)
    except QuantityError as problem:
        return {}, said_of(problem)
    if len(row) != series:
        return {}, worded("{} values were given; accepted: {} in a row", len(row), series)
    return {"row": row}, ""


def _do(found: Diagnosis) -> str:
    first = grouped(found)[0]
    share = say(round(first.share, 2), "%")
    named = cause_said(first)
    if found.enough:
        return f"{spoken(capital(named))} ({share}): {first.cause.mend}."
    return worded("Likeliest so far: {}, {}.", spoken(named), share)
