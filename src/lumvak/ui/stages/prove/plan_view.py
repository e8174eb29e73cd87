"""The tests of a pack: which first, how each is done, what is expected, how it stands."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout

from lumvak.bench.procedures import PROCEDURES
from lumvak.core.document.proving import TestName
from lumvak.core.evaluation import Evaluation
from lumvak.core.proving.guide import GUIDES, by_hand, settings_said
from lumvak.core.proving.plan import SAFETY, Planned
from lumvak.core.proving.proof import JudgedTest
from lumvak.ui.bench_mode import BenchMode
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.stages.prove.hand_steps import hand_steps
from lumvak.ui.stages.prove.judged_chart import JudgedChart
from lumvak.ui.stages.prove.prover import Prover
from lumvak.ui.stages.prove.set_up import SetUpDrawing
from lumvak.ui.widgets.choice import Several
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

AT_HAND = (
    ("meter", "meter"),
    ("load", "load"),
    ("supply", "supply"),
    ("thermometer", "thermometer"),
    ("charger", "charger"),
)
VERDICT_MARKS = {"inside": "verdigris", "outside": "crimson"}
LIST_PX = 250


class _PlanLine:
    """A row of the plan: a test as planned, and how it stands."""

    def __init__(self, planned: Planned, judged: JudgedTest) -> None:
        self.planned, self.judged = planned, judged


def _settles(line: _PlanLine) -> str:
    item = line.planned
    if item.done:
        return ""
    if item.lacks:
        return worded("wants a {}", item.lacks[0])
    if item.test in SAFETY:
        return "safety"
    share = max(item.settles, item.settles_warm)
    what = "run time" if item.settles >= item.settles_warm else "warmth"
    return worded("{} of {}", f"{share:.0%}", what) if share >= 0.005 else in_words("which part")


def _takes(line: _PlanLine) -> str:
    minutes = line.planned.minutes
    if minutes >= 2880.0:
        return worded("{} d", f"{minutes / 1440.0:.0f}")
    return say(minutes / 60.0, "h") if minutes >= 60.0 else worded("{} min", f"{minutes:.0f}")


COLUMNS = (
    Column(
        "test",
        lambda it: GUIDES[it.planned.test].name,
        left=True,
        stretch=True,
        tip="In the order of the plan: safety first, then what settles most for its time",
    ),
    Column("takes", _takes, sample="15 min 0", tip="With the charge and the cooling that it wants"),
    Column(
        "settles",
        _settles,
        left=True,
        sample="86% of run time",
        mark=lambda it: "amber" if it.planned.lacks and not it.planned.done else "",
        tip="How much of what is not sure now it would settle",
    ),
    Column(
        "stands",
        lambda it: "" if it.judged.verdict == "not judged" else it.judged.verdict,
        left=True,
        sample="outside",
        mark=lambda it: VERDICT_MARKS.get(it.judged.verdict, ""),
        tip="Outside is beyond what 99 of 100 sound packs show",
    ),
)


class PlanView(Page):
    """The plan at the left; the test that is picked at the right."""

    def __init__(self, session: Session, prover: Prover) -> None:
        super().__init__(session)
        self.prover = prover
        self.test: TestName = "insulation"
        self.bench: BenchMode | None = None
        self.table = RowsTable(COLUMNS, "Tests")
        self.table.setObjectName("proving.readings")
        self.at_hand = Several(AT_HAND, "At hand")
        self.at_hand.setObjectName("proving.at_hand")
        self.name, self.purpose = heading(""), soft("", wrap=True)
        self.steps, self.set = plain(""), soft("", wrap=True)
        self.steps.setWordWrap(True)
        self.cautions = plain("")
        self.cautions.setWordWrap(True)
        self.cautions.setObjectName("caution")
        self.drawing, self.chart = SetUpDrawing(), JudgedChart()
        self.means = plain("")
        self.means.setWordWrap(True)
        self.hand = QPushButton("take it by hand")
        self.run = QPushButton("run it at the bench")
        self.again = QPushButton("count the attempt before")
        self.waits = soft("Drawing packs as they may be built, and taking them through the tests…")
        self._lay_out()
        self.table.picked.connect(self._pick)
        self.at_hand.picked.connect(self._have)
        self.hand.clicked.connect(self.begin_bench)
        self.run.clicked.connect(self._run)
        self.again.clicked.connect(self._before)
        prover.changed.connect(self._show)
        prover.ran.connect(self._show_running)

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(flowing(soft("at hand"), self.at_hand, gap=8))
        outer.addWidget(self.waits)
        both = QHBoxLayout()
        both.setSpacing(THEME.px(18))
        both.addWidget(self.table, 5)
        keep_rows(self.table, 8)
        self.table.setMinimumWidth(THEME.px(LIST_PX))
        right = QVBoxLayout()
        right.setSpacing(THEME.px(5))
        for widget in (
            self.name,
            self.purpose,
            self.drawing,
            self.steps,
            self.set,
            self.cautions,
            self.chart,
            self.means,
        ):
            right.addWidget(widget)
        right.addWidget(flowing(self.hand, self.run, self.again))
        right.addStretch(1)
        both.addLayout(right, 6)
        outer.addLayout(both, 1)

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Have results worked out for an evaluation; show what there is."""
        self.at_hand.show_value(evaluation.project.proving.at_hand)
        self.prover.follow(evaluation)
        self._show()

    def _show(self) -> None:
        results = self.prover.results
        self.waits.setVisible(self.prover.busy or results is None)
        if self.prover.problem:
            self.waits.setText(worded("The tests could not be worked out: {}", self.prover.problem))
        if results is None:
            return
        lines = [_PlanLine(item, results.proof.of(item.test)) for item in results.plan]
        if self.test not in {line.planned.test for line in lines} and lines:
            self.test = lines[0].planned.test
        self.table.show_rows(
            [
                row_of(
                    COLUMNS,
                    line,
                    value=line.planned.test,
                    key=line.planned.test,
                    chosen=line.planned.test == self.test,
                    faded=bool(line.planned.lacks) and not line.planned.done,
                )
                for line in lines
            ]
        )
        self._show_test(results.proof.of(self.test))

    def _show_test(self, judged: JudgedTest) -> None:
        assert self.prover.results is not None
        guide, pack = GUIDES[judged.test], self.prover.results.ready.pack
        self.name.setText(guide.name)
        self.purpose.setText(guide.purpose)
        self.drawing.show_test(guide)
        self.steps.setText("\n".join(f"{at}  {step}" for at, step in enumerate(guide.steps, 1)))
        self.set.setText(spoken(settings_said(judged.test, pack)))
        self.set.setVisible(bool(self.set.text()))
        self.cautions.setText(" ".join(guide.cautions))
        self.chart.show_figures(judged.figures)
        outside = [
            worded(
                "{} is outside. Usually: {}. What would tell: {}.",
                item.observable.label,
                item.observable.means,
                item.observable.next,
            )
            for item in judged.outside
        ]
        self.means.setText("\n".join(outside))
        self.means.setVisible(bool(outside))
        self.again.setVisible(judged.attempt > 1)
        self._show_running()

    def _show_running(self) -> None:
        running = self.prover.running
        for button in (self.hand, self.run, self.again):
            button.setEnabled(not running and self.prover.results is not None)
        self.run.setVisible(self.test in PROCEDURES)

    # What is done.

    def _pick(self, test: TestName) -> None:
        self.test = test
        self._show()

    def _have(self, at_hand: tuple[str, ...]) -> None:
        try_edit(self.session, {"proving.at_hand": at_hand}, "what is at hand")

    def _run(self) -> None:
        """Turn to the bench with this test: nothing is switched on here."""
        self.prover.wanted = (self.test,)
        self.prover.to_bench.emit()

    def _before(self) -> None:
        """Have the attempt before the one in force count."""
        results = self.prover.results
        assert results is not None
        attempt = results.proof.of(self.test).attempt - 1
        others = [it for it in self.session.project.proving.counts if it.test != self.test]
        counts = (*others, {"test": self.test, "attempt": attempt})
        try_edit(self.session, {"proving.counts": counts}, "the attempt that counts")

    def begin_bench(self) -> bool:
        """Take the test that is picked by hand, one reading at a time."""
        results = self.prover.results
        if results is None or self.prover.running:
            return False
        judged = results.proof.of(self.test)
        readings = by_hand(self.test, results.ready.pack)
        steps = hand_steps(self.prover, judged, readings)
        self.bench = BenchMode(self.session, GUIDES[self.test].name, steps)
        self.bench.showFullScreen()
        return True
