"""The charger to take, those at hand with their verdicts, and what to know of the one in force."""

from __future__ import annotations

import re

from PyQt6.QtWidgets import QComboBox, QLabel, QPushButton, QVBoxLayout

from lumvak.core import units
from lumvak.core.catalogue.chargers import SHORT_KINDS, Charger
from lumvak.core.charging.charger import slips
from lumvak.core.charging.verdict import ChargerVerdict, verdict_on
from lumvak.core.document.charging import RESERVED, RIGHT
from lumvak.core.evaluation import Evaluation
from lumvak.core.fields import fields_of
from lumvak.core.said import Text, phrase
from lumvak.files.own_parts import with_charger
from lumvak.files.problem import FileProblem
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, in_words, said_of, say, spoken, worded
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import Record, quantity_column, text_column, words_column
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import edit_or_why, small_field, try_edit
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, side_by_side, soft

COLOURS = {
    "right": "verdigris",
    "short": "ink",
    "over-ceiling": "ink",
    "leans": "amber",
    "wrong": "crimson",
}


def _stops_at(found: ChargerVerdict) -> str:
    """Where a charge stops; nothing over full is a share of it."""
    over = found.overcharges
    return in_words("over full") if over else say(found.stops_share, "%")


COLUMNS = (
    Column(
        "charger",
        text=lambda it: it.charger.name,
        left=True,
        stretch=True,
        tip="Click one to charge with it",
    ),
    Column(
        "kind",
        text=lambda it: SHORT_KINDS[it.charger.kind],
        left=True,
        sample="nickel",
        tip="How it charges",
    ),
    Column("volts", text=lambda it: say(it.charger.volts, "V"), tip="Where it ends"),
    Column("amps", text=lambda it: say(it.charger.amps, "A"), tip="What it gives"),
    Column(
        "verdict",
        text=lambda it: it.kind_words,
        mark=lambda it: COLOURS[it.kind],
        left=True,
        sample="relies on the BMS cut-off",
        tip="What comes of it on this pack",
    ),
    Column("ends at", text=_stops_at, tip="How full the pack gets"),
)
EQUALISE = {"unknown": "not known", "off": "off", "on": "on"}
IN_COLD = {"unknown": "not known", "off": "the same", "on": "rises"}
YES, NO = "yes", "no"


GRID = (
    text_column("name", "name", wide=True),
    words_column("kind", "kind", {key: word.lower() for key, word in SHORT_KINDS.items()}),
    quantity_column("volts", "volts", units.VOLTAGE),
    quantity_column("least", "low_v", units.VOLTAGE, optional=True),
    quantity_column("amps", "amps", units.CURRENT),
    quantity_column("open", "open_v", units.VOLTAGE, optional=True),
    quantity_column("end", "end_a", units.CURRENT, optional=True),
    quantity_column("timer", "timer_h", units.HOURS, optional=True),
    words_column("equalise", "equalise", EQUALISE),
    words_column("cold", "compensates", IN_COLD),
    words_column("limited", "limited", {True: YES, False: NO}),
    words_column("rebuilt", "rebuilt", {False: NO, True: YES}),
)


class ChargerView(Page):
    """What to take, all that are at hand, and the verdict on the one in force."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.labels = [
            FigureLabel(session, key, name, strong=place == 0)
            for place, (key, name) in enumerate(
                (
                    ("charge.voltage_v", "to buy: CC-CV"),
                    ("charging.amps_a", "up to"),
                    ("charging.end_a", "ends under"),
                )
            )
        ]
        self.limit_says = soft("")
        self.slips = soft("", wrap=True)
        self.socket = small_field(session, "charging.socket_a", "charge socket carries", width=60)
        self.table = RowsTable(COLUMNS, "Chargers at hand")
        self.table.setObjectName("charging.charger")
        self.verdict = plain("")
        self.verdict.setFont(THEME.font("title", strong=True))
        self.lines = soft("", wrap=True)
        self.ends, self.instead = (soft("", wrap=True) for _ in range(2))
        self.checks = soft("", wrap=True)
        self.grid = Grid("Chargers kept with the project", GRID, self.take, self._blank, (1, 6))
        self.library = QComboBox()
        self.library.setAccessibleName(in_words("Chargers of the library"))
        self.library.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.buttons = {name: QPushButton(name) for name in ("take this one", "keep in my parts")}
        self._lay_out()
        self.table.picked.connect(self.charge_with)
        self.buttons["take this one"].clicked.connect(self.from_library)
        self.buttons["keep in my parts"].clicked.connect(self.to_library)

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(flowing(*self.labels, self.limit_says, self.socket, gap=14))
        outer.addWidget(self.slips)
        outer.addWidget(self.table)
        for widget in (self.verdict, self.instead, self.lines, self.ends, self.checks):
            outer.addWidget(widget)
        outer.addWidget(heading("Kept with the project"))
        outer.addWidget(self.grid)
        outer.addWidget(
            flowing(side_by_side(soft("library"), self.library), *self.buttons.values(), gap=8)
        )
        outer.addStretch(1)

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the chargers of an evaluation."""
        topic, charging = evaluation.charging, evaluation.project.charging
        right = topic.right
        for label in self.labels:
            label.show_figure()
        self.limit_says.setText(spoken(_set_by(right.said)))
        self.limit_says.setToolTip(
            worded(
                "On a bench supply: {} set with nothing connected, the current "
                "limit set with the leads shorted.",
                say(right.volts.number, "V"),
            )
        )
        wrong = [slip for slip in slips(topic.setting) if slip.code in ("nominal", "all-cells")]
        self.slips.setText(
            in_words("Common mistakes: ")
            + "; ".join(
                worded("{} is {}", say(slip.volts, "V"), spoken(slip.text)) for slip in wrong
            )
            + "."
        )
        self.table.show_rows([self._row(item, evaluation) for item in topic.offered])
        fit_height(self.table, len(topic.offered), 6, firm=True)
        self._show_verdict(topic.verdict)
        self.grid.show_records([_record(item) for item in charging.chargers], str(SPEECH.spelling))
        self._offer(evaluation)
        self.buttons["keep in my parts"].setEnabled(topic.charger in charging.chargers)

    def _row(self, charger: Charger, evaluation: Evaluation) -> Row:
        topic = evaluation.charging
        found = topic.verdict if charger is topic.charger else verdict_on(charger, topic.setting)
        return row_of(
            COLUMNS,
            found,
            value=charger.id,
            key=charger.id,
            chosen=charger is topic.charger,
            proposed=charger.id == RIGHT,
        )

    def _show_verdict(self, found: ChargerVerdict) -> None:
        name = in_words(found.charger.name)
        self.verdict.setText(f"{name[:1].upper()}{name[1:]}: {in_words(found.kind_words)}")
        self.verdict.setStyleSheet(f"color: {THEME.colour(COLOURS[found.kind]).name()}")
        self.lines.setText("\n".join(spoken(item.text) for item in found.reasons))
        self.ends.setText(f"{spoken(found.at_end)} {spoken(found.board_fails)}")
        instead = spoken(found.instead)
        _say_or_hide(self.instead, f"▸ {instead}" if instead else "")
        checks = "\n".join(f"– {spoken(line)}" for line in found.checks)
        _say_or_hide(self.checks, f"It was rebuilt. Check:\n{checks}" if checks else "")
        self.about = worded("{} with {}", spoken(found.how_full), name)

    def _offer(self, evaluation: Evaluation) -> None:
        """Offer the chargers of the library that are not kept yet."""
        kept = {item.id for item in evaluation.project.charging.chargers}
        wanted = [
            (item.id, f"{item.name}, {say(item.volts, 'V')} {say(item.amps, 'A')}")
            for item in evaluation.sized.parts.chargers.values()
            if item.id not in kept
        ]
        box = self.library
        if [(box.itemData(at), box.itemText(at)) for at in range(box.count())] != wanted:
            box.clear()
            for key, name in wanted:
                box.addItem(name, key)
        self.buttons["take this one"].setEnabled(bool(wanted))

    # What is done.

    def charge_with(self, charger: str) -> None:
        """Charge with one of those at hand."""
        try_edit(self.session, {"charging.charger": charger}, "charged with")

    def take(self, records: list[Record]) -> str:
        """Keep the chargers as they stand in the grid; returns what is wrong with them."""
        taken, fresh = {record["id"] for record in records}, ""
        for record in records:
            if not record["id"]:
                record["id"] = fresh = _fresh_id(record["name"], taken)
                taken.add(fresh)
        # One that was added is charged with at once.
        picked = fresh or self.session.project.charging.charger
        picked = picked if picked in (*taken, *RESERVED) else None
        return _plain_words(
            edit_or_why(
                self.session,
                {"charging.chargers": tuple(records), "charging.charger": picked},
                "chargers",
            )
        )

    def from_library(self) -> None:
        """Keep the charger that is offered with the project, and charge with it."""
        charger = self.session.evaluation.sized.parts.chargers.get(str(self.library.currentData()))
        if charger is None:
            return
        kept = self.session.project.charging.chargers
        try_edit(
            self.session,
            {"charging.chargers": (*kept, charger), "charging.charger": charger.id},
            worded("{} taken", charger.name),
        )

    def to_library(self) -> None:
        """Keep the charger in force in the builder's own parts."""
        charger = self.session.evaluation.charging.charger
        try:
            self.session.edit_own(with_charger(self.session.own, charger), "charger kept")
        except FileProblem as problem:
            self.session.tell("stop", said_of(problem))
            return
        self.session.tell("note", worded("{} is in your own parts.", charger.name))

    def _blank(self) -> Record:
        """A charger as the one to buy, to be changed."""
        right = self.session.evaluation.charging.right
        return _record(
            Charger(id="", name="charger", volts=right.volts.number, amps=right.amps.number)
        )


def _record(charger: Charger) -> Record:
    return {name: getattr(charger, name) for name in fields_of(Charger)}


def _set_by(named: Text) -> Text:
    several = named in ("cells", "leads")
    return phrase("the {} set the amps" if several else "the {} sets the amps", named)


def _fresh_id(name: str, taken: set[str]) -> str:
    """An id made of a name, of its own."""
    stem = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:50] or "charger"
    used = {*taken, *RESERVED}
    return next(
        item
        for count in range(1, len(used) + 2)
        if (item := stem if count == 1 else f"{stem}-{count}") not in used
    )


def _say_or_hide(label: QLabel, text: str) -> None:
    label.setText(text)
    label.setVisible(bool(text))


def _plain_words(problem: str) -> str:
    return re.sub(r" \(charging\.chargers[^)]*\)", "", problem)
