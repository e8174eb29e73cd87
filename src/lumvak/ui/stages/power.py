"""Stage: main leads and BMS."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from lumvak.core import units
from lumvak.core.evaluate import Evaluation
from lumvak.core.protection import Verdict
from lumvak.core.units import gauge_name, say
from lumvak.ui.fields import FigureLabel, QuantityField, bound_choice, heading, soft, try_edit
from lumvak.ui.session import Session
from lumvak.ui.tables import Column, Row, RowsTable
from lumvak.ui.theme import THEME

COLUMNS = (
    Column("board", left=True, stretch=True),
    Column("continuous"),
    Column("the peak", tip="Most it passes for the length of the peak"),
    Column(
        "stages",
        left=True,
        tip="Trips over these amps after this delay; the short-circuit stage is left out",
    ),
    Column("charge"),
    Column("ports"),
    Column("balances"),
    Column("sensors"),
    Column("cost"),
)
BALANCING = (("must", "a must"), ("matched", "not for matched cells"))
SENSOR = ((True, "wanted"), (False, "not needed"))


class PowerStage(QWidget):
    """Leads above, boards below: those that serve first, the refused with their reasons."""

    key = "power"

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._state: Any = None
        self.setObjectName("sheet")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        make = QuantityField
        self.fields = {
            "area_mm2": make(session, "leads.area_mm2", "Section", units.AREA, optional=True),
            "length_m": make(session, "leads.length_m", "Length of one", units.LENGTH_M),
            "outer_mm": make(
                session, "leads.outer_mm", "Outer diameter", units.LENGTH_MM, optional=True
            ),
            "rise_limit_k": make(session, "leads.rise_limit_k", "Rise allowed", units.KELVIN),
        }
        self.labels = [
            FigureLabel(session, "leads.limit_a", "carries", strong=True),
            FigureLabel(session, "leads.resistance_ohm", "both leads"),
            FigureLabel(session, "leads.area_mm2", "section"),
        ]
        self.balancing = bound_choice(session, "protection.balancing", BALANCING, "Balancing")
        self.sensor = bound_choice(session, "protection.sensor", SENSOR, "Temperature sensor")
        self.table = RowsTable(COLUMNS, "Boards")
        self.summary = soft("")
        self.refused = QPushButton("show the refused")
        self.refused.setCheckable(True)
        self.refused.setChecked(True)
        self.refused.toggled.connect(lambda _: self.show_evaluation(session.evaluation))
        self.follow = QPushButton("take the recommended")
        self.follow.clicked.connect(lambda: try_edit(session, {"protection.board": None}))
        self._lay_out()
        self.table.picked.connect(
            lambda board: try_edit(session, {"protection.board": board}, f"board {board}")
        )
        self.table.cell_clicked.connect(lambda *_: session.explain("board.continuous_a"))

    def _lay_out(self) -> None:
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(24), THEME.px(14), THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        head = QHBoxLayout()
        head.addWidget(heading("Main leads"))
        head.addStretch(1)
        for label in self.labels:
            head.addWidget(label)
        outer.addLayout(head)
        rows = QHBoxLayout()
        rows.setSpacing(THEME.px(28))
        for names in (("area_mm2", "outer_mm"), ("length_m", "rise_limit_k")):
            column = QVBoxLayout()
            column.setSpacing(THEME.px(6))
            for name in names:
                column.addWidget(self.fields[name])
            rows.addLayout(column, 1)
        outer.addLayout(rows)
        outer.addSpacing(THEME.px(12))
        title = QHBoxLayout()
        title.addWidget(heading("Which board?"))
        title.addSpacing(THEME.px(8))
        title.addWidget(self.summary)
        title.addStretch(1)
        title.addWidget(self.follow)
        title.addWidget(self.refused)
        outer.addLayout(title)
        rules = QHBoxLayout()
        rules.addWidget(soft("Balancing"))
        rules.addWidget(self.balancing)
        rules.addSpacing(THEME.px(20))
        rules.addWidget(soft("Temperature sensor"))
        rules.addWidget(self.sensor)
        rules.addStretch(1)
        outer.addLayout(rules)
        outer.addWidget(self.table, 1)

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show leads and boards of an evaluation."""
        leads, protection = seen.project.leads, seen.project.protection
        for name, field in self.fields.items():
            field.show_value(getattr(leads, name), seen.figures.get(f"leads.{name}"))
        if leads.area_mm2 is None:
            self.fields["area_mm2"].edit.setPlaceholderText(seen.wire.name)
        for label in self.labels:
            area = gauge_name(seen.wire.area.number)
            label.show_figure(area if label.key == "leads.area_mm2" else "")
        self.balancing.show_value(protection.balancing)
        self.sensor.show_value(protection.sensor)
        self.follow.setEnabled(protection.board is not None)
        serving = [item for item in seen.verdicts if item.serves]
        self.summary.setText(f"{len(serving)} of {len(seen.verdicts)} serve")
        self.refused.setText("hide the refused" if self.refused.isChecked() else "show the refused")
        in_hand = seen.board.board.id if seen.board is not None else None
        listed = list(serving)
        if seen.board is not None and not seen.board.serves:
            listed.insert(0, seen.board)
        rows = [
            board_row(item, item.board.id == in_hand, place == 0 and item.serves)
            for place, item in enumerate(listed)
        ]
        if self.refused.isChecked() or not listed:
            rows.extend(
                refused_row(item)
                for item in seen.verdicts
                if not item.serves and item.board.id != in_hand
            )
        self.table.show_rows(rows)
        if in_hand != self._state:
            self._state = in_hand
            self.table.show_chosen()


def board_row(item: Verdict, chosen: bool, proposed: bool) -> Row:
    """A board as a row of the table."""
    board = item.board
    stages = ", ".join(
        f"{say(stage.current_a, 'A')} {_delay(stage.delay_s)}" for stage in board.stages[:2]
    )
    return Row(
        (
            board.name,
            say(board.continuous_a, "A"),
            say(item.peak_a, "A"),
            stages,
            say(board.charge_a, "A"),
            {1: "one", 2: "two"}[board.ports],
            say(board.balance_a * 1000, "mA") if board.balance_a else "no",
            str(board.sensors) if board.sensors else "none",
            say(board.price, "money"),
        ),
        value=board.id,
        chosen=chosen,
        proposed=proposed,
        marks={0: "crimson"} if item.reasons else {},
    )


def refused_row(item: Verdict) -> Row:
    """A refused board with all that speaks against it."""
    board = item.board
    return Row(
        (board.name, "; ".join(item.reasons)),
        value=board.id,
        faded=True,
        span=1,
    )


def _delay(seconds: float) -> str:
    if seconds < 1e-3:
        return f"{seconds * 1e6:.0f} µs"
    return f"{seconds * 1e3:.0f} ms" if seconds < 1.0 else f"{seconds:g} s"
