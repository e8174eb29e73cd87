"""The boards to choose from: those that serve first, the refused with their reasons."""

from __future__ import annotations

from typing import Any

from PyQt6.QtWidgets import QPushButton, QVBoxLayout

from lumvak.core.bms.verdicts import BoardVerdict
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import listed
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, say_delay, spoken, worded
from lumvak.ui.stages.power.curve_plot import CurvePlot
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import keep_room
from lumvak.ui.widgets.quantity_field import FieldChoice, try_edit
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import side_by_side, soft


def _stages(item: BoardVerdict) -> str:
    stages = item.board.stages[:2]
    return ", ".join(f"{say(it.current_a, '')}/{say_delay(it.delay_s)}" for it in stages)


COLUMNS = (
    Column(
        "BMS",
        text=lambda it: it.board.name,
        mark=lambda it: "crimson" if it.reasons else "",
        left=True,
        stretch=True,
        tip="Name of the BMS",
    ),
    Column("carries", text=lambda it: say(it.board.continuous_a, "A"), tip="Continuous current"),
    Column(
        "the peak",
        text=lambda it: say(it.peak_a, "A"),
        tip="Most it passes for the length of the peak",
    ),
    Column("levels, A", text=_stages, left=True, tip="Trips over these amps after this delay"),
    Column("charge", text=lambda it: say(it.board.charge_a, "A"), tip="Continuous charge current"),
    Column(
        "ports",
        text=lambda it: {1: "one", 2: "two"}[it.board.ports],
        tip="One for both ways, or one for each",
    ),
    Column(
        "balances",
        text=lambda it: (
            say(it.board.balance_a * 1000, in_words("mA")) if it.board.balance_a else "no"
        ),
        tip="Bleed current",
    ),
    Column(
        "sensors",
        text=lambda it: str(it.board.sensors) if it.board.sensors else "none",
        tip="Temperature sensors",
    ),
    Column(
        "wakes",
        text=lambda it: WAKES[it.board.wakes],
        left=True,
        tip="How it comes back after a trip",
    ),
    Column(
        "set by",
        text=lambda it: SET_BY[it.board.telemetry] if it.board.adjustable else "no",
        left=True,
        tip="Whether it can be set, and over what",
    ),
    Column("cost", text=lambda it: say(it.board.price, in_words("money")), tip="Cost of the BMS"),
)
BALANCING = (("must", "required"), ("matched", "not for matched cells"))
SENSOR = ((True, "wanted"), (False, "not needed"))
TELLS = ((True, "wanted"), (False, "not needed"))
FEEDS = ((False, "no"), (True, "yes"))
WAKES: dict[str, str] = {
    "itself": "itself",
    "load": "load off",
    "charger": "charger",
    "button": "button",
}
SET_BY: dict[str, str] = {"none": "hand", "wire": "wire", "radio": "radio"}
FACTS = (
    ("board.heat_w", "gives off"),
    ("board.rise_k", "MOSFET temperature rise"),
    ("board.bleed_h", "balances 2 % in"),
    ("start.current_a", "a start draws"),
)


class BoardsView(Page):
    """What is asked of a board above, the boards below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._state: Any = None
        self.labels = [FigureLabel(session, key, name) for key, name in FACTS]
        self.balancing = FieldChoice(session, "protection.balancing", BALANCING, "Balancing")
        self.sensor = FieldChoice(session, "protection.sensor", SENSOR, "Temperature sensor")
        self.telemetry = FieldChoice(session, "protection.telemetry", TELLS, "Telemetry")
        self.feeds = FieldChoice(
            session, "protection.feeds", FEEDS, "Feeds others through its charge socket"
        )
        self.table = RowsTable(COLUMNS, "BMSs")
        self.table.setObjectName("protection.board")
        self.refused = QPushButton("hide the refused")
        self.refused.setCheckable(True)
        self.refused.setChecked(True)
        self.refused.toggled.connect(lambda _: self.show_evaluation(session.evaluation))
        self.follow = QPushButton("take the recommended")
        self.follow.clicked.connect(lambda: try_edit(session, {"protection.board": None}))
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(
            flowing(
                side_by_side(soft("Balancing"), self.balancing),
                side_by_side(soft("Sensor"), self.sensor),
                side_by_side(soft("Telemetry"), self.telemetry),
                side_by_side(soft("Feeds others through its charge socket"), self.feeds),
                gap=16,
            )
        )
        outer.addWidget(flowing(*self.labels, self.follow, self.refused, gap=14))
        outer.addWidget(self.table, 3)
        keep_rows(self.table, 6)
        self.levels = CurvePlot(over_short=4.0)
        self.levels.setAccessibleName(in_words("Levels of the BMS against the load and a start"))
        keep_room(self.levels, 165, 190)
        outer.addWidget(self.levels, 2)
        self.table.picked.connect(
            lambda board: board and try_edit(session, {"protection.board": board})
        )
        self.table.cell_clicked.connect(lambda *_: session.explain("board.continuous_a"))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the boards of an evaluation."""
        protection = evaluation.project.protection
        for label in self.labels:
            label.setVisible(label.key in evaluation.figures)
            label.show_figure()
        self.follow.setEnabled(protection.board is not None)
        power = evaluation.power
        drawn = [it for it in power.curves if it.kind == "stage" or it.key in ("load", "surge")]
        self.levels.setVisible(evaluation.board is not None)
        self.levels.show_curves(drawn, (), power.short_a.number)
        boards = evaluation.sized.boards
        serving = [item for item in boards.own if item.serves]
        self.about = worded("{} of {} serve", len(serving), len(boards.boards))
        self.refused.setText(
            in_words("hide the refused")
            if self.refused.isChecked()
            else in_words("show the refused")
        )
        in_hand = evaluation.board.board.id if evaluation.board is not None else None
        listed = list(serving)
        if evaluation.board is not None and not evaluation.board.serves:
            listed.insert(0, evaluation.board)
        rows = [
            board_row(item, item.board.id == in_hand, place == 0 and item.serves)
            for place, item in enumerate(listed)
        ]
        if self.refused.isChecked() or not listed:
            rows.extend(
                refused_row(item)
                for item in boards.own
                if not item.serves and item.board.id != in_hand
            )
            if boards.others:
                rows.append(
                    Row(("others", spoken(boards.others)), faded=True, span=1, key="others")
                )
        self.table.show_rows(rows)
        if in_hand != self._state:
            self._state = in_hand
            self.table.show_chosen()


def board_row(item: BoardVerdict, chosen: bool, proposed: bool) -> Row:
    """A board as a row of the table."""
    board = item.board
    return row_of(COLUMNS, item, value=board.id, chosen=chosen, proposed=proposed, key=board.id)


def refused_row(item: BoardVerdict) -> Row:
    """A refused board with all that speaks against it, and what would help a near miss."""
    board = item.board
    text = spoken(listed((point.text for point in item.reasons), "; "))
    if item.rescue:
        text += f". {spoken(item.rescue)}"
    return Row((board.name, text), value=board.id, faded=True, span=1, key=board.id)
