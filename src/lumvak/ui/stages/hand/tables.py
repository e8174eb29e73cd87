"""Tables of readings in and out: files, the clipboard, a tester's log of one cell."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QFileDialog, QMenu, QWidget

from lumvak.core.matching.readings import merged
from lumvak.files.logs.tester_log import is_tester_log, read_tester_log
from lumvak.files.problem import FileProblem, read_text, write_atomically
from lumvak.files.readings_file import NAMES, read_readings, readings_csv
from lumvak.ui.exports import ask_place, write_out
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, said_of, say, spoken, worded
from lumvak.ui.stages.hand.table import WORDS
from lumvak.ui.widgets.quantity_field import edit_or_why


class Tables:
    """Takes tables in, all of them or nothing; new cells go to the lot in hand."""

    def __init__(
        self, session: Session, over: QWidget, lot: Callable[[], str], number: Callable[[], int]
    ) -> None:
        self.session, self._over, self._lot, self._number = session, over, lot, number

    def ask_in(self) -> None:
        """Ask for a file of readings and take it in."""
        name, _ = QFileDialog.getOpenFileName(
            self._over,
            "Bring readings in",
            str(Path.home()),
            "Tables (*.csv *.txt *.tsv);;All files (*)",
        )
        if name:
            self.bring_in(Path(name))

    def bring_in(self, path: Path) -> None:
        """Take in a table of readings, all of it or nothing; or a tester's log of one cell."""
        try:
            text = read_text(path)
            if is_tester_log(text):
                self._take_log(text, path)
            else:
                self._merge(text, path.name)
        except FileProblem as problem:
            self.session.tell("stop", said_of(problem))

    def paste(self) -> None:
        """Take in what a spreadsheet holds in the clipboard."""
        clipboard = QGuiApplication.clipboard()
        text = "" if clipboard is None else clipboard.text()
        try:
            self._merge(text, "what was pasted")
        except FileProblem as problem:
            self.session.tell("stop", said_of(problem))

    def _take_log(self, text: str, path: Path) -> None:
        """Capacity, and resistance where it pulsed, of the cell whose number the file's name has.

        A file that is not named for a cell is of the cell in hand.
        """
        log = read_tester_log(text, path.name)
        named = re.search(r"\d{1,6}", path.stem)
        number = int(named[0]) if named is not None and int(named[0]) else self._number()
        row: dict[str, float] = {"number": number, "ah": round(log.ah, 4)}
        if log.mohm is not None:
            row["mohm"] = round(log.mohm, 2)
        taken = merged(self.session.project.hand.cells, (row,), self._lot())
        changes: dict[str, object] = {"hand.cells": taken.cells}
        if problem := edit_or_why(self.session, changes, worded("log of cell {}", number)):
            self.session.tell("stop", problem)
            return
        self.session.keep_now()
        pulse = "" if log.mohm is None else worded(", {} by a step", say(log.mohm, "mΩ"))
        self.session.tell(
            "note",
            worded(
                "{}: cell {} gave {} at {} down to {}{}.",
                path.name,
                number,
                say(log.ah, in_words("Ah")),
                say(log.mean_a, "A"),
                say(log.end_v, "V"),
                pulse,
            ),
        )

    def _merge(self, text: str, where: str) -> None:
        read = read_readings(text, where, self.session.heads)
        hand = self.session.project.hand
        taken = merged(hand.cells, read.cells, self._lot())
        if problem := edit_or_why(self.session, {"hand.cells": taken.cells}, "table of readings"):
            self.session.tell("stop", problem)
            return
        left = worded(" Left out: {}.", ", ".join(read.unknown)[:120]) if read.unknown else ""
        said = worded(
            "{}: {} cells are new, {} changed.{}", where, taken.added, taken.changed, left
        )
        actions = (("say what they are …", lambda: self._ask_heads(read.unknown, text, where)),)
        self.session.tell("note", said, actions if read.unknown else ())

    def _ask_heads(self, unknown: Sequence[str], text: str, where: str) -> None:
        """A menu of what each head that nobody knew may be."""
        menu = QMenu(self._over)
        for head in unknown:
            below = menu.addMenu(head)
            for field, name in NAMES.items():
                action = None if below is None else below.addAction(name)
                if action is not None:
                    action.triggered.connect(
                        lambda _=False, head=head, field=field: self.map_head(
                            head, field, text, where
                        )
                    )
        menu.popup(self._over.mapToGlobal(self._over.rect().center()))

    def map_head(self, head: str, field: str, text: str, where: str) -> None:
        """Remember what a head is, and take the table in once more with it."""
        self.session.heads[head.strip().lower()] = field
        self.session.remembered.emit("heads", dict(self.session.heads))
        try:
            self._merge(text, where)
        except FileProblem as problem:
            self.session.tell("stop", said_of(problem))

    def ask_out(self) -> None:
        """Ask where all readings are to go, with their places, and write them there."""
        path = ask_place(self.session, self._over, "Write readings", ".csv", "Tables (*.csv)")
        if path is not None:
            matched, hand = self.session.evaluation.sized.in_hand, self.session.project.hand
            place = {item.number: item.cell for item in hand.placed}
            more: list[list[object]] = [["place", "is", "why"]]
            for cell in hand.cells:
                item = matched.judged[cell.number]
                more.append([place.get(cell.number, ""), WORDS[item.state], spoken(item.said)])
            text = readings_csv(hand.cells, more)
            write_out(self.session, path, lambda: write_atomically(path, text))
