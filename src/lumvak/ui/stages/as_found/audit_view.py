"""The audit of a found pack: what it gives, why, and what would strengthen it."""

from __future__ import annotations

from PyQt6.QtWidgets import QFileDialog, QPushButton, QVBoxLayout, QWidget

from lumvak.core.as_found.audit import Audit
from lumvak.core.as_found.figures import sold_and_given
from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.found_page import VERDICT_WORDS, verdict_said
from lumvak.files.export.found_page import page_bytes
from lumvak.files.problem import FileProblem, write_atomically
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, said_of, say, spoken, worded
from lumvak.ui.stages.as_found.answer import SHORT, audit_of
from lumvak.ui.stages.as_found.bands_drawn import BandsDrawn
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

CAUTION = (
    "Before the wrapper comes off: discharge to about half, rings off, insulated tools, one lead "
    "at a time, eyes covered, a way to carry it outside. Over 60 V DC is dangerous to touch. "
    "Swollen or leaking cells are recycled by local rules, never revived."
)
TIMES = (
    ("as_found.continuous_a", "continuous"),
    ("as_found.10_s_a", "for 10 s"),
    ("as_found.1_s_a", "for 1 s"),
    ("as_found.holds_ah", "it holds"),
)
RISKS = (
    Column(
        "what",
        lambda it: f"{spoken(it.text)}. {spoken(it.do)}",
        left=True,
        stretch=True,
        wraps=True,
        tip="The gravest first, each with what ends it or how to look",
    ),
    Column(
        "so",
        lambda it: it.standing,
        left=True,
        sample="not ruled out",
        mark=lambda it: "crimson" if it.standing == "there" and it.weight == "high" else "amber",
        tip="There: it was seen. Not ruled out: nobody looked, or what was seen leaves it open",
    ),
    Column(
        "leaves",
        lambda it: SHORT[it.leaves],
        left=True,
        sample="use within limits",
        tip="The best verdict that it leaves",
    ),
)
STEPS = (
    Column("step", lambda it: spoken(it.what), left=True, stretch=True, tip="After those above it"),
    Column("from", lambda it: say(it.from_a, "A"), sample="000.0 A", tip="What it gives before"),
    Column("to", lambda it: say(it.to_a, "A"), sample="000.0 A", tip="What it likely gives then"),
    Column(
        "cost",
        lambda it: "—" if it.cost is None else say(it.cost, in_words("money")),
        sample="000.00",
        tip="Parts alone",
    ),
    Column(
        "work",
        lambda it: say(it.minutes, in_words("min")),
        sample="000 min",
        tip="At the bench, about",
    ),
)
TAKE_APART = "take it apart …"


class AuditView(Page):
    """The verdict, each part on one scale, what is against it, and what each step buys."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.waits = soft("Say what was seen of the pack first.", wrap=True)
        self.verdict, self.gives = plain(""), soft("", wrap=True)
        self.verdict.setWordWrap(True)
        self.verdict.setObjectName("strong")
        self.labels = [
            FigureLabel(session, key, words, strong=place == 0)
            for place, (key, words) in enumerate(TIMES)
        ]
        self.drawn = BandsDrawn()
        self.risks = RowsTable(RISKS, "What is against it")
        self.risks.whole = True
        self.steps = RowsTable(STEPS, "What would strengthen it")
        self.page = QPushButton("one page for its owner …")
        self.apart = QPushButton(TAKE_APART)
        self.caution = soft(CAUTION, wrap=True)
        self.caution.setObjectName("caution")
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(7))
        self.steps_head = heading("What would strengthen it?")
        rows = (
            self.verdict,
            flowing(*self.labels, gap=14),
            self.gives,
            self.drawn,
            heading("What is against it?"),
            self.risks,
            self.steps_head,
            self.steps,
            flowing(
                self.page,
                self.apart,
                soft("Its cells become a lot of cells in hand, in a project of their own."),
                gap=8,
            ),
            self.caution,
        )
        outer.addWidget(self.waits)
        self.body = QWidget()
        inner = QVBoxLayout(self.body)
        inner.setContentsMargins(0, 0, 0, 0)
        inner.setSpacing(THEME.px(7))
        for row in rows:
            inner.addWidget(row)
        outer.addWidget(self.body)
        outer.addStretch(1)
        self.page.clicked.connect(self._ask_page)
        self.apart.clicked.connect(lambda: session.goes_on.emit("taken apart"))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the audit of the pack of an evaluation."""
        audit = audit_of(evaluation)
        self.waits.setVisible(not audit.found.begun)
        self.body.setVisible(audit.found.begun)
        if not audit.found.begun:
            return
        self.verdict.setText(f"{spoken(verdict_said(audit))}.")
        self.gives.setText(f"{spoken(sold_and_given(audit))}.")
        spans = (*audit.rating, audit.capacity_ah)
        for label, span, unit in zip(self.labels, spans, ("A", "A", "A", "Ah"), strict=True):
            label.show_figure(
                worded(
                    "{}, {} to {}", say(span.value, unit), say(span.low, unit), say(span.high, unit)
                )
            )
        self.drawn.show_audit(audit)
        self.risks.show_rows(
            [row_of(RISKS, it, value=it.fields[0], key=it.code) for it in audit.risks]
        )
        steps = [row_of(STEPS, it, value=at, key=at) for at, it in enumerate(audit.upgrades)]
        self.steps.show_rows(steps)
        fit_height(self.steps, len(steps), 6, firm=True)
        for widget in (self.steps, self.steps_head):
            widget.setVisible(bool(steps))

    def _ask_page(self) -> None:
        path = self.session.path
        begin = "" if path is None else str(path.with_name(f"{path.name.partition('.')[0]}.pdf"))
        name, _ = QFileDialog.getSaveFileName(
            self, "One page for its owner", begin, "PDF (*.pdf);;HTML (*.html)"
        )
        if name:
            write_page(self.session, audit_of(self.session.evaluation), name)


def write_page(session: Session, audit: Audit, name: str) -> None:
    """Write the page of a pack, and say so; a problem is told."""
    from pathlib import Path

    try:
        write_atomically(Path(name), page_bytes(audit, session.project.name, name))
    except FileProblem as problem:
        session.tell("warn", said_of(problem))
        return
    session.tell("note", f"{name}: {VERDICT_WORDS[audit.verdict].lower()}.")
