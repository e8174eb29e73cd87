"""The harness as it is made: bricks with their plugs, wires, the adapter to the board, sensors."""

from __future__ import annotations

from typing import Any

from msgspec.structs import asdict
from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from lumvak.core.document.taps import TapModule
from lumvak.core.evaluation import Evaluation, guides_in_hand, harness_in_hand
from lumvak.core.taps.guide import order_said
from lumvak.core.taps.harness import Harness, HarnessWire
from lumvak.ui.exports import ask_export
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.stages.taps.sides import BothSides, sides_of
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import Record, count_column, text_column
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import edit_or_why
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft


def _board_pin(wire: HarnessWire) -> str:
    pin = (
        wire.board_pin
        if wire.board_plug <= 1
        else worded("plug {}, {}", wire.board_plug, wire.board_pin)
    )
    return pin or "none"


COLUMNS = (
    Column(
        "wire",
        text=lambda it: str(it[1].number),
        tip="The number on its flag, in the order they are made",
    ),
    Column(
        "brick",
        text=lambda it: it[0].modules[it[1].module].name,
        left=True,
        sample="brick 8",
        tip="Whose plug it goes to",
    ),
    Column("plug", text=lambda it: str(it[1].plug), tip="Of the brick"),
    Column("pin", text=lambda it: str(it[1].pin), tip="Of that plug, counted from its lowest wire"),
    Column("joint", text=lambda it: str(it[1].joint), tip="From 0, the most negative"),
    Column("sits on", text=lambda it: it[1].place, left=True, sample="g12c10p", tip="The terminal"),
    Column(
        "colour",
        text=lambda it: it[1].colour,
        left=True,
        sample="yellow",
        tip="Of the wires at hand",
    ),
    Column(
        "length",
        text=lambda it: say(it[1].length_mm, in_words("mm")),
        tip="With slack and both ends",
    ),
    Column(
        "BMS pin",
        text=lambda it: _board_pin(it[1]),
        left=True,
        stretch=True,
        sample="none",
        tip="The BMS's pin that the adapter takes it to; of two on a tap only one",
    ),
)
SHEETS = (("wiring", "wiring sheet, PDF …"), ("wiring-svg", "SVG …"), ("wiring-csv", "CSV …"))
ONE_PLUG = (
    "No bricks: all leads go to the BMS's own plug. Where the pack is built of bricks with plugs "
    "of their own, name them from the most negative on."
)


class HarnessView(Page):
    """Bricks to type, a row a wire, and the sheet to make it by."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.says, self.sensors = soft("", wrap=True), soft("", wrap=True)
        self.grid = Grid(
            "Bricks",
            (
                text_column("brick", "name", wide=True),
                count_column("groups", "groups"),
                count_column("plugs", "plugs"),
            ),
            self.take,
            self._next,
            (2, 6),
        )
        self.grid.setObjectName("balance_leads.modules")
        self.table = RowsTable(COLUMNS, "Wires of the harness")
        self.sides = BothSides()
        self.at = 1
        self.buttons = {to: QPushButton(name) for to, name in SHEETS}
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(flowing(*self.buttons.values(), gap=12))
        outer.addWidget(self.says)
        outer.addWidget(self.sensors)
        made = QWidget()
        left = QVBoxLayout(made)
        left.setContentsMargins(0, 0, 0, 0)
        left.addWidget(self.grid)
        left.addWidget(self.table, 1)
        both = Turning(700)
        both.columns.addWidget(made, 3)
        both.columns.addWidget(self.sides, 2)
        outer.addWidget(both, 1)
        keep_rows(self.table, 8)
        self.table.picked.connect(self.turn_to)
        for to, button in self.buttons.items():
            button.clicked.connect(lambda _, to=to: ask_export(session, self, to))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the harness of an evaluation."""
        guides = guides_in_hand(evaluation)
        harness = harness_in_hand(evaluation, guides)
        modules = evaluation.project.balance_leads.modules
        self.grid.show_records([asdict(item) for item in modules])
        self.at = min(self.at, len(harness.wires))
        self.table.show_rows(
            [_row(harness, at, at + 1 == self.at) for at in range(len(harness.wires))]
        )
        self.sides.show_sides(sides_of(evaluation, guides, harness.wires[self.at - 1].joint))
        self.says.setText(_said(evaluation, harness, order_said(evaluation.sized.boards.board)))
        self.sensors.setText(
            " ".join(
                worded("Sensor {} goes to {}, {}.", place, item.cell, spoken(item.why))
                for place, item in enumerate(harness.sensors, 1)
            )
            or in_words("The BMS takes no temperature sensor.")
        )

    def turn_to(self, number: int) -> None:
        """Mark a wire."""
        self.at = number
        self.show_evaluation(self.session.evaluation)

    def take(self, records: list[Record]) -> str:
        """Keep the bricks as they stand in the grid; returns what is wrong with them."""
        return edit_or_why(self.session, {"balance_leads.modules": tuple(records)}, "bricks")

    def _next(self) -> dict[str, Any]:
        """A brick of the groups that no other has yet."""
        leads = self.session.project.balance_leads
        left = self.session.evaluation.sized.choice.series - sum(
            item.groups for item in leads.modules
        )
        name = worded("brick {}", len(leads.modules) + 1)
        return asdict(TapModule(name=name, groups=max(left, 1)))


def _row(harness: Harness, at: int, chosen: bool) -> Row:
    wire = harness.wires[at]
    return row_of(COLUMNS, (harness, wire), value=wire.number, key=wire.number, chosen=chosen)


def _said(evaluation: Evaluation, harness: Harness, order: str) -> str:
    whole = say(sum(wire.length_mm for wire in harness.wires) / 1000.0, "m")
    said = worded(
        "{} wires of {}, {} in all. {}",
        len(harness.wires),
        say(harness.area_mm2, in_words("mm²")),
        whole,
        order,
    )
    if not evaluation.project.balance_leads.modules:
        return f"{ONE_PLUG} {said}"
    there = sum(item.groups for item in evaluation.project.balance_leads.modules)
    if there != (series := evaluation.sized.choice.series):
        return worded("The bricks have {} groups, the pack {}: shown as one plug.", there, series)
    return said
