"""The settings sheet of a board: what to type into it, each with its reason."""

from __future__ import annotations

from functools import partial
from typing import Any

from msgspec.structs import asdict
from PyQt6.QtWidgets import QPushButton, QVBoxLayout

from lumvak.core import units
from lumvak.core.bms.settings import SettingRow
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import capital, phrase
from lumvak.core.units import Kind, QuantityError
from lumvak.files.export.board_settings import write_settings
from lumvak.ui.exports import ask_place, write_out
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, in_words, parse, say, say_delay, spoken, worded
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import GridColumn, Record
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import edit_or_why, try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

KINDS: dict[str, Kind] = {
    "V": units.VOLTAGE,
    "A": units.CURRENT,
    "°C": units.TEMPERATURE,
    "s": units.SECONDS,
}


def _read(field: str, text: str, record: Record) -> float | None:
    """A value of a row; left empty it is the proposed one again."""
    if not text:
        return None
    if record[f"{field}_shown"] == "—":
        raise QuantityError(worded("{} has no {}", record["name"], field.replace("_s", "")))
    return parse(text, KINDS["s" if field == "delay_s" else record["unit"]])


def _spell(field: str, _: Any, record: Record) -> str:
    return str(record[f"{field}_shown"])


def _word(value: Any, _: Record) -> str:
    return str(value or "")


def _column(head: str, field: str) -> GridColumn:
    return GridColumn(head, field, partial(_read, field), partial(_spell, field), left=False)


class BoardSettingsView(Page):
    """A table to type into: values, releases and delays, with reason and problem."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)

        def text(head: str, field: str, *, wide: bool = False) -> GridColumn:
            return GridColumn(
                head, field, lambda value, _: value, _word, wide=wide, editable=False, left=True
            )

        self.grid = Grid(
            "Settings of the BMS",
            (
                text("setting", "name"),
                _column("value", "value"),
                _column("release", "release"),
                _column("delay", "delay_s"),
                text("from", "origin"),
                text("why", "why", wide=True),
            ),
            self._take,
            dict,
            (8, 14),
            fixed=True,
        )
        self.grid.setObjectName("protection.settings")
        self.note = soft("", wrap=True)
        self.clear = QPushButton("propose all anew")
        self.clear.clicked.connect(lambda: try_edit(session, {"protection.settings": ()}))
        self.save = QPushButton("save the sheet …")
        self.save.setToolTip(in_words("As CSV, or as JSON where the file is named .json"))
        self.save.clicked.connect(self._ask_where)
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(flowing(self.save, self.clear))
        outer.addWidget(self.note)
        outer.addWidget(self.grid)
        outer.addStretch(1)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the settings of the board in force."""
        board, rows = evaluation.power.board, evaluation.power.settings
        self.clear.setVisible(bool(evaluation.project.protection.settings))
        self.grid.setVisible(board is not None)
        self.save.setVisible(board is not None)
        if board is None:
            self.note.setText(in_words("No BMS serves; there is nothing to set."))
            self.about = ""
            return
        self.about = board.name
        self.note.setText(
            in_words(
                "Type these into the BMS. Type over a value to have it otherwise; empty a cell to "
                "have the proposed one again. The curves follow."
            )
            if board.adjustable
            else worded(
                "{} cannot be set: this is what it is made for, beside what this "
                "pack wants. BMSs with a word under “set by” can be.",
                board.name,
            )
        )
        self.grid.set_locked(not board.adjustable)
        self.grid.show_records([_record(row, board.adjustable) for row in rows])

    def _ask_where(self) -> None:
        session, kinds = self.session, "CSV (*.csv);;JSON (*.json)"
        if path := ask_place(session, self, "Save the settings", ", bms.csv", kinds):
            write_out(
                session, path, lambda: write_settings(session.evaluation, path, SPEECH.spelling)
            )

    def _take(self, records: list[Record]) -> str:
        """Turn what was typed into settings that differ from the proposed ones."""
        rows = {row.key: row for row in self.session.evaluation.power.settings}
        known = {item.key: item for item in self.session.project.protection.settings}
        changes = []
        for record in records:
            before = known.get(record["key"])
            row = rows[record["key"]]
            kept = (
                {}
                if before is None
                else {
                    name: value
                    for name, value in asdict(before).items()
                    if name != "key" and value is not None
                }
            )
            for field in ("value", "release", "delay_s"):
                if record[field] is None:
                    kept.pop(field, None)
                elif record[field] != getattr(row, field):
                    kept[field] = record[field]
            if kept:
                changes.append({"key": record["key"], **kept})
        return edit_or_why(
            self.session, {"protection.settings": tuple(changes)}, "settings of the BMS"
        )


def _record(row: SettingRow, adjustable: bool) -> Record:
    why = row.reason
    if row.problem:
        why = phrase("◆ {}; accepted: {}. {}", row.problem, row.accepts, row.reason)
    if not adjustable and row.value != row.wanted:
        why = phrase("wanted {}: {}", say(row.wanted, row.unit), why)
    return {
        "key": row.key,
        "name": row.name,
        "unit": row.unit,
        "value": row.value,
        "release": row.release,
        "delay_s": row.delay_s,
        "value_shown": say(row.value, row.unit),
        "release_shown": say(row.release, row.unit),
        "delay_s_shown": "—" if row.delay_s is None else say_delay(row.delay_s),
        "origin": {"proposed": "proposed", "typed": "typed", "fixed": "as made"}[row.origin],
        "why": spoken(capital(why)),
    }
