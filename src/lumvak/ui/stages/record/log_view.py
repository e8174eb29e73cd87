"""The log of the pack: what the stages wrote along, and what the builder adds."""

from __future__ import annotations

from PyQt6.QtWidgets import QPushButton, QVBoxLayout

from lumvak.bench.moment import moment_now
from lumvak.core.document.record_of_pack import LogEntry
from lumvak.core.evaluation import Evaluation
from lumvak.ui.exports import ask_export
from lumvak.ui.scribe import fresh_id
from lumvak.ui.session import Session
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

COLUMNS = (
    Column("when", lambda it: it.when, left=True, sample="2026-05-31 14:05:00", tip="When"),
    Column("what", lambda it: it.kind, left=True, sample="cells placed", tip="What was done"),
    Column(
        "entry",
        lambda it: f"{it.text}{f' — {it.reason}' if it.reason else ''}",
        left=True,
        stretch=True,
        tip="What was written, and why",
    ),
    Column("who", lambda it: it.who, left=True, sample="Builder Name", tip="Who did it"),
)
KINDS = (("note", "note"), ("deviation", "deviation"), ("closed up", "closed up"))
SHOWN = (
    ("", "all"),
    ("hand", "cells"),
    ("taps", "leads"),
    ("prove", "tests"),
    ("record", "own"),
)


class PackLogView(Page):
    """Entries by stage above, what is to be added below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.shown = ChoiceRow(SHOWN, "Entries shown")
        self.table = RowsTable(COLUMNS, "Log")
        self.table.setObjectName("record.log")
        self.kind = ChoiceRow(KINDS, "Kind of entry")
        self.text, self.reason = EntryField(), EntryField()
        self.text.setPlaceholderText("what was done")
        self.text.setAccessibleName("What was done")
        self.reason.setPlaceholderText("why, where it is not as designed")
        self.reason.setAccessibleName("Why")
        self.add = QPushButton("add to the log")
        self.correct = QPushButton("correct the one that is picked")
        self.save = QPushButton("save as CSV …")
        self.waits = soft(
            "Nothing is in the log yet. It is written along where cells are placed, leads are read "
            "and tests are taken; what else is worth knowing is added below.",
            wrap=True,
        )
        self.picked = ""
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        outer.addWidget(flowing(soft("shown"), self.shown, self.save, gap=8))
        outer.addWidget(self.waits)
        outer.addWidget(self.table, 10)
        keep_rows(self.table, 8)
        outer.addWidget(self.kind)
        outer.addWidget(self.text)
        outer.addWidget(self.reason)
        outer.addWidget(flowing(self.add, self.correct))
        outer.addStretch(1)
        self.shown.picked.connect(lambda _: self.show_evaluation(self.session.evaluation))
        self.table.picked.connect(self._pick)
        for asked in (self.add.clicked, self.text.returnPressed, self.reason.returnPressed):
            asked.connect(lambda *_: self._add(""))
        self.correct.clicked.connect(lambda: self._add(self.picked))
        self.save.clicked.connect(lambda: ask_export(self.session, self, "log"))

    def _pick(self, name: str) -> None:
        self.picked = name
        self.correct.setEnabled(bool(name))

    def _add(self, corrects: str) -> None:
        """Add what is typed; an entry that corrects another points at it."""
        if not (text := self.text.text().strip()):
            self.text.setFocus()
            return
        record = self.session.project.record
        entry = LogEntry(
            id=fresh_id(),
            when=moment_now(),
            kind="correction" if corrects else self.kind.value,
            stage="record",
            text=text[:500],
            reason=self.reason.text().strip()[:500],
            who=record.builder,
            corrects=corrects or None,
        )
        if try_edit(self.session, {"record.log": (*record.log, entry)}):
            self.text.clear()
            self.reason.clear()

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the log, the latest first."""
        log, stage = evaluation.project.record.log, self.shown.value
        found = [it for it in reversed(log) if not stage or it.stage == stage]
        self.waits.setVisible(not log)
        self.table.setVisible(bool(log))
        self.save.setEnabled(bool(log))
        corrected = {it.corrects for it in log}
        self.table.show_rows([row_of(COLUMNS, it, value=it.id, key=it.id) for it in found])
        if self.picked not in {it.id for it in found}:
            self.picked = ""
        self.correct.setEnabled(bool(self.picked) and self.picked not in corrected)
