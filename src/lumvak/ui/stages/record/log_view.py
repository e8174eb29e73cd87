"""The log of the pack: what the stages wrote along, and what the builder adds."""

from __future__ import annotations

import re
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QPushButton, QVBoxLayout, QWidget

from lumvak.bench.moment import moment_now
from lumvak.core.document.afterwards.record_of_pack import LogEntry
from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.log import EntriesWanted, wanted_of
from lumvak.files.problem import FileProblem
from lumvak.files.reference import copied_beside, reference_to, referred
from lumvak.ui.exports import ask_export
from lumvak.ui.photograph import KINDS as PICTURES
from lumvak.ui.photograph import open_whole, show_small, small_picture
from lumvak.ui.scribe import fresh_id
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, worded
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import FlowLayout, flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft


def _with_photos(entry: LogEntry) -> str:
    count = len(entry.photos)
    template = "  ({} photograph)" if count == 1 else "  ({} photographs)"
    return worded(template, count) if count else ""


COLUMNS = (
    Column("when", lambda it: it.when, left=True, sample="2026-05-31 14:05:00", tip="When"),
    Column("what", lambda it: it.kind, left=True, sample="cells placed", tip="What was done"),
    Column(
        "entry",
        lambda it: f"{it.text}{f' — {it.reason}' if it.reason else ''}{_with_photos(it)}",
        left=True,
        stretch=True,
        tip="What was written, and why",
    ),
    Column(
        "group",
        lambda it: "" if it.group is None else str(it.group),
        sample="000",
        tip="Of which group it tells",
    ),
    Column("who", lambda it: it.who, left=True, sample="Builder Name", tip="Who did it"),
)
KINDS = (("note", "note"), ("deviation", "deviation"), ("closed up", "closed up"))
SHOWN = (
    ("", "all"),
    ("hand", "cells"),
    ("taps", "leads"),
    ("charging", "charge"),
    ("prove", "tests"),
    ("record", "own"),
)
DAY_LIKE = re.compile(r"^([0-9]{4}-[0-9]{2}-[0-9]{2}|)$")
MOST_PHOTOS = 12


class PackLogView(Page):
    """Which entries are shown above, what is to be added below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.shown = ChoiceRow(SHOWN, "Entries shown")
        self.of_group = self._field("Group shown", "group", 56)
        self.from_day = self._field("From day", "from 2026-05-31", 118)
        self.to_day = self._field("To day", "to 2026-06-30", 118)
        self.table = RowsTable(COLUMNS, "Log")
        self.table.setObjectName("record.log")
        self.kind = ChoiceRow(KINDS, "Kind of entry")
        self.group = self._field("Group of the entry", "group", 56)
        self.text = self._field("What was done", "what was done")
        self.reason = self._field("Why", "why, where it is not as designed")
        self.add = QPushButton("add to the log")
        self.correct = QPushButton("correct the one that is picked")
        self.photo = QPushButton("photograph …")
        self.save = QPushButton("save as CSV …")
        self.beside = QPushButton("copy photographs beside the project")
        self.pictures, self.picture_words = QWidget(), soft("", wrap=True)
        FlowLayout(self.pictures, 8)
        self.waits = soft(
            "Nothing is in the log yet. It is written along where cells are placed, leads are read "
            "and tests are taken; what else is worth knowing is added below.",
            wrap=True,
        )
        self.picked = ""
        # Photographs that go with the entry that is typed.
        self.with_next: list[str] = []
        self._drawn: tuple[tuple[str, ...], Path | None] = ((), None)
        self._lay_out()

    @staticmethod
    def _field(name: str, holds: str, wide: int = 0) -> EntryField:
        field = EntryField()
        field.setAccessibleName(name)
        field.setPlaceholderText(holds)
        if wide:
            field.setFixedWidth(THEME.px(wide))
        return field

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        which = self.of_group, self.from_day, self.to_day
        outer.addWidget(flowing(soft("shown"), self.shown, *which, self.save, gap=8))
        outer.addWidget(self.waits)
        outer.addWidget(self.table, 10)
        keep_rows(self.table, 8)
        outer.addWidget(self.picture_words)
        outer.addWidget(self.pictures)
        outer.addWidget(flowing(self.kind, self.group, gap=8))
        outer.addWidget(self.text)
        outer.addWidget(self.reason)
        outer.addWidget(flowing(self.add, self.correct, self.photo, self.beside))
        outer.addStretch(1)
        for field in which:
            field.editingFinished.connect(self._show)
        self.shown.picked.connect(lambda _: self._show())
        self.table.picked.connect(self._pick)
        for asked in (self.add.clicked, self.text.returnPressed, self.reason.returnPressed):
            asked.connect(lambda *_: self._add(""))
        self.correct.clicked.connect(lambda: self._add(self.picked))
        self.photo.clicked.connect(self._ask_photos)
        self.beside.clicked.connect(self.copy_beside)
        self.save.clicked.connect(lambda: ask_export(self.session, self, "log"))

    # What is added.

    def _pick(self, name: str) -> None:
        self.picked = name
        self._show()

    def _add(self, corrects: str) -> None:
        """Add what is typed; an entry that corrects another points at it."""
        if not (text := self.text.text().strip()):
            self.text.setFocus()
            return
        group = self.group.text().strip()
        if group and not _is_group(group):
            self.session.tell(
                "warn", worded("“{}” is no group; accepted: 1 to 400, or none.", group[:20])
            )
            return
        record = self.session.project.record
        entry = LogEntry(
            id=fresh_id(),
            when=moment_now(),
            kind="correction" if corrects else self.kind.value,
            stage="record",
            group=int(group) if group else None,
            text=text[:500],
            reason=self.reason.text().strip()[:500],
            who=record.builder,
            corrects=corrects or None,
            photos=tuple(self.with_next),
        )
        self.with_next = []
        if try_edit(self.session, {"record.log": (*record.log, entry)}):
            for field in (self.text, self.reason, self.group):
                field.clear()
            self.session.keep_now()
        else:
            self.with_next = list(entry.photos)

    def _ask_photos(self) -> None:
        path = self.session.path
        folder = Path.home() if path is None else path.parent
        names, _ = QFileDialog.getOpenFileNames(self, "Photographs", str(folder), PICTURES)
        self.take_photos([Path(name) for name in names])

    def take_photos(self, paths: list[Path]) -> None:
        """Have photographs go with the next entry; what is no picture is told and not taken."""
        for path in paths:
            if small_picture(path).isNull():
                self.session.tell("warn", worded("{} is no picture that can be shown.", path.name))
            elif len(self.with_next) < MOST_PHOTOS:
                self.with_next.append(reference_to(path, self.session.path))
        self._show()

    def copy_beside(self) -> None:
        """Copy photographs that lie elsewhere into a folder beside the project."""
        if self.session.path is None:
            self.session.tell(
                "warn", in_words("Save the project first: they are copied beside its file.")
            )
            return
        try:
            done = copied_beside(self.session.project.record.log, self.session.path)
        except FileProblem as problem:
            self.session.tell("stop", f"{problem}.")
            return
        lost = worded(" Not found: {}.", ", ".join(done.missing[:3])) if done.missing else ""
        count = worded("{} photograph" if done.copied == 1 else "{} photographs", done.copied)
        try_edit(self.session, {"record.log": done.log}, "photographs beside the project")
        self.session.tell(
            "warn" if lost else "note", worded("{} copied beside the project.{}", count, lost)
        )

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the log, the latest first."""
        self._show()

    def _wanted(self) -> EntriesWanted:
        """What is wanted; of a field that cannot be read, everything."""
        group = self.of_group.text().strip()
        days = [field.text().strip() for field in (self.from_day, self.to_day)]
        told = [day for day in days if not DAY_LIKE.match(day)]
        if group and not _is_group(group):
            told.append(group)
            group = ""
        if told:
            self.session.tell(
                "warn",
                worded("“{}” is no day and no group; accepted: 2026-05-31, 3.", told[0][:20]),
            )
        days = [day if DAY_LIKE.match(day) else "" for day in days]
        return EntriesWanted(self.shown.value, int(group) if group else None, *days)

    def _show(self) -> None:
        log = self.session.project.record.log
        found = wanted_of(reversed(log), self._wanted())
        self.waits.setVisible(not log)
        self.table.setVisible(bool(log))
        self.save.setEnabled(bool(log))
        corrected = {it.corrects for it in log}
        self.table.show_rows([row_of(COLUMNS, it, value=it.id, key=it.id) for it in found])
        by_id = {it.id: it for it in found}
        if self.picked not in by_id:
            self.picked = ""
        self.correct.setEnabled(bool(self.picked) and self.picked not in corrected)
        picked = by_id.get(self.picked)
        photos = tuple(self.with_next) or (() if picked is None else picked.photos)
        self._show_pictures(photos)
        self.picture_words.setText(
            in_words("these go with the next entry") if self.with_next else ""
        )
        self.picture_words.setVisible(bool(self.with_next))
        self.beside.setVisible(any(it.photos for it in log))

    def _show_pictures(self, photos: tuple[str, ...]) -> None:
        """Each small, opened whole where it is clicked; one that is not found is named."""
        self.pictures.setVisible(bool(photos))
        if self._drawn == (photos, self.session.path):
            return
        self._drawn = photos, self.session.path
        layout = self.pictures.layout()
        assert layout is not None
        while (item := layout.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.deleteLater()
        for photo in photos:
            path, button = referred(photo, self.session.path), QPushButton()
            button.setAccessibleName(worded("Photograph {}", Path(photo).name))
            if not show_small(button, small_picture(path), photo):
                button.setText(worded("{} is not to be found", Path(photo).name[-30:]))
                button.setEnabled(False)
            button.clicked.connect(lambda _, path=path: open_whole(path))
            layout.addWidget(button)


def _is_group(text: str) -> bool:
    return text.isascii() and text.isdigit() and len(text) < 4 and 1 <= int(text) <= 400
