"""The sheet of one cell: every field with its origin and fallback, its curve, a checklist."""

from __future__ import annotations

from typing import Any

import pyqtgraph as pg
from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.cells.cell_sheet import (
    BY_NAME,
    FIELDS,
    ORIGINS,
    CellProblem,
    Check,
    changed,
    field_text,
    field_value,
    origin_of,
    own_curve,
    parse_points,
    sheet_checklist,
    with_partner,
)
from lumvak.core.comparison.cells_at_work import curves
from lumvak.core.evaluation import Evaluation
from lumvak.core.units import FRACTION, VOLTAGE, QuantityError
from lumvak.files.own_parts import merged
from lumvak.files.problem import FileProblem
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, in_words, said_of, say, spoken, worded
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.flow import Turning
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import GridColumn, Record, quantity_column, shown_column
from lumvak.ui.widgets.marks import draw_mark
from lumvak.ui.widgets.pages import Stack
from lumvak.ui.widgets.plots import (
    axis,
    legend_look,
    named_plot,
    round_range,
    show_points,
)
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft

SIDE_BY_SIDE_PX = 620
MOST_CURVES = 4
STYLES = (Qt.PenStyle.SolidLine, Qt.PenStyle.DashLine, Qt.PenStyle.DashDotLine,
          Qt.PenStyle.DotLine)  # fmt: skip
ROLES = ("copper", "verdigris", "ink", "amber")


class Checklist(QWidget):
    """What a data sheet should say: a disc where it does, a triangle where it does not."""

    def __init__(self) -> None:
        super().__init__()
        self.checks: tuple[Check, ...] = ()

    def show_checks(self, checks: tuple[Check, ...]) -> None:
        """Show these checks."""
        self.checks = checks
        self.setAccessibleName(
            "; ".join(
                worded("{}: said" if item.said else "{}: not said", spoken(item.text))
                for item in checks
            )
        )
        self.setMinimumHeight(THEME.px(19 * len(checks)))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        font = THEME.font("note", table=True)
        painter.setFont(font)
        for place, item in enumerate(self.checks):
            top = THEME.px(19 * place)
            draw_mark(
                painter,
                THEME.px(8),
                top + THEME.px(9),
                "fine" if item.said else "warn",
                THEME.px(4),
            )
            painter.setPen(THEME.colour("soft" if item.said else "ink"))
            rect = QRectF(THEME.px(20), top, self.width() - THEME.px(20), THEME.px(19))
            text = QFontMetrics(font).elidedText(
                spoken(item.text), Qt.TextElideMode.ElideRight, int(rect.width())
            )
            painter.drawText(rect, Qt.AlignmentFlag.AlignVCenter, text)


class CellSheet(QWidget):
    """Fields at the left; the curve and, in turn, the checklist or its points at the right."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._cell: Cell | None = None
        self._own = False
        self._kept: list[str] = []
        self._named: list[str] = []
        self._drawn: list[tuple[pg.PlotDataItem, pg.PlotDataItem]] = []
        self.title, self.about = heading(""), soft("")
        self.fields = Grid(
            "Data of the cell",
            (
                shown_column("field", "label", left=True),
                GridColumn(
                    "value",
                    "text",
                    self._read,
                    lambda value, _: value,
                    self._words,
                    # What is left out shows what is taken instead.
                    hint=lambda record: str(record["fallback"]),
                    wide=True,
                    left=False,
                ),
                GridColumn("from", "origin", self._read_origin, lambda value, _: value, ORIGINS),
            ),
            self.take,
            dict,
            (6, 40),
            fixed=True,
        )
        self.points = Grid(
            "OCV by points",
            (
                quantity_column("charge", "charge", FRACTION),
                quantity_column("rest", "volts", VOLTAGE),
            ),
            self._take_points,
            lambda: {"charge": 0.5, "volts": 3.6},
            (5, 40),
            _pasted_points,
        )
        self.points.setToolTip(in_words("Paste lines of charge and volts, such as 50 % 3.65 V"))
        self.checklist = Checklist()
        self.which = ChoiceRow((("check", "checklist"), ("points", "points")), "Beside the curve")
        self.keep = QPushButton("keep the curve")
        self.keep.setToolTip(
            worded("Keep this curve to compare with others, up to {}", MOST_CURVES)
        )
        self.drop = QPushButton("drop kept")
        self.plot = named_plot("cell, V", "charge, %", 46)
        self.plot.setMinimumHeight(THEME.px(126))
        self.legend = self.plot.addLegend(offset=(8, -6), verSpacing=-6, **legend_look())
        self._lay_out()
        self.which.picked.connect(self._turn)
        self.keep.clicked.connect(self._keep)
        self.drop.clicked.connect(self._drop)

    def _lay_out(self) -> None:
        left, right = QVBoxLayout(), QVBoxLayout()
        left.setSpacing(THEME.px(4))
        right.setSpacing(THEME.px(2))
        head = QHBoxLayout()
        head.addWidget(self.title)
        head.addWidget(self.about, 1)
        left.addLayout(head)
        left.addWidget(self.fields, 1)
        row = QHBoxLayout()
        row.addWidget(self.which)
        row.addStretch(1)
        row.addWidget(self.keep)
        row.addWidget(self.drop)
        right.addLayout(row)
        right.addWidget(self.plot, 3)
        self.below = Stack()
        self.below.addWidget(self.checklist)
        self.below.addWidget(self.points)
        right.addWidget(self.below, 2)
        side = QWidget()
        side.setLayout(right)
        right.setContentsMargins(0, 0, 0, 0)
        turning = Turning(SIDE_BY_SIDE_PX, 16)
        turning.columns.addLayout(left, 5)
        turning.columns.addWidget(side, 4)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(24), THEME.px(6), THEME.px(12), THEME.px(6))
        outer.addWidget(turning)

    def show_cell(self, evaluation: Evaluation, name: str, own: bool) -> None:
        """Show the cell ``name``; one that is not the builder's own cannot be typed into."""
        cell = evaluation.sized.parts.cells[name]
        self._cell, self._own = cell, own
        self.title.setText(cell.name)
        self.about.setText(
            in_words("my own; type into it")
            if own
            else in_words("a sample; duplicate it to change it")
            if cell.sample
            else in_words("from a file; duplicate it to change it")
        )
        self.fields.set_locked(not own)
        self.points.set_locked(not own)
        self.fields.show_records(
            [
                {
                    "name": field.name,
                    "label": field.label,
                    "text": spoken(field_text(field, cell)),
                    "origin": origin_of(cell, field.name),
                    "fallback": spoken(field.fallback(cell))
                    if field.fallback is not None and not field_text(field, cell)
                    else "",
                }
                for field in FIELDS
            ],
            cell.id,
        )
        self.points.show_records(
            [
                {"charge": charge, "volts": volts}
                for charge, volts in evaluation.sized.parts.chemistry_of(cell).curve
            ],
            cell.chemistry,
        )
        self.checklist.show_checks(sheet_checklist(cell))
        self._draw(evaluation)

    def _draw(self, evaluation: Evaluation) -> None:
        assert self._cell is not None
        rows = {
            cell.id: place for place, cell in enumerate(evaluation.sized.sized_pack.table.cells)
        }
        shown = [self._cell.id, *(name for name in self._kept if name != self._cell.id)]
        names = [name for name in shown if name in rows][:MOST_CURVES]
        self._name_curves([evaluation.sized.parts.cells[name].name for name in names])
        low, high, load = 10.0, 0.0, 0.0
        for place, name in enumerate(names):
            cell = curves(evaluation.sized.sized_pack, rows[name])
            load = cell.load_a
            for item, volts in zip(self._drawn[place], (cell.rest_v, cell.loaded_v), strict=True):
                show_points(item, cell.charge * 100.0, volts)
            inner = cell.charge >= 0.05
            low = min(low, float(cell.rest_v.min()), float(cell.loaded_v[inner].min()))
            high = max(high, float(cell.rest_v.max()))
        self.plot.show_whole((0.0, 100.0), round_range(low, high))
        self.plot.getViewBox().invertX(True)
        axis(
            self.plot,
            "bottom",
            worded("charge, %; thick at OCV, thin at {} a cell", say(load, "A")),
        )
        self.drop.setVisible(bool(self._kept))

    def _name_curves(self, names: list[str]) -> None:
        """Two curves a cell, at rest and loaded; kept as long as the cells are the same."""
        if names == self._named:
            return
        self._named = names
        self.plot.clear()
        self._drawn = []
        for name, role, style in zip(names, ROLES, STYLES, strict=False):
            rest, loaded = (
                pg.mkPen(THEME.colour(role), width=wide, style=style) for wide in (2, 1)
            )
            self._drawn.append((self.plot.plot(name=name, pen=rest), self.plot.plot(pen=loaded)))

    def _keep(self) -> None:
        if self._cell is not None and self._cell.id not in self._kept:
            self._kept = [*self._kept, self._cell.id][-(MOST_CURVES - 1) :]
            self._draw(self.session.evaluation)

    def _drop(self) -> None:
        self._kept = []
        self._draw(self.session.evaluation)

    def _turn(self, which: str) -> None:
        self.which.show_value(which)
        self.below.setCurrentIndex(1 if which == "points" else 0)

    # What is typed.

    def _words(self, record: Record) -> list[str]:
        if record["name"] == "chemistry":
            return sorted(self.session.evaluation.sized.parts.chemistries)
        return list(BY_NAME[record["name"]].words)

    def _read(self, text: str, record: Record) -> Any:
        field = BY_NAME[record["name"]]
        value = field_value(field, text, SPEECH.spelling)
        return {"text": text, "value": value}

    @staticmethod
    def _read_origin(text: str, record: Record) -> str:
        if text not in ORIGINS:
            raise QuantityError(worded("“{}” was given; accepted: {}", text, ", ".join(ORIGINS)))
        if not record["text"]:
            raise QuantityError(worded("{} is left out; enter a value first", record["label"]))
        return text

    def take(self, records: list[Record]) -> str:
        assert self._cell is not None
        cell = self._cell
        for record in records:
            name = record["name"]
            if "value" in record:
                origin = record["origin"] if record["origin"] in ORIGINS else "data sheet"
                return self.change(cell, name, record["value"], origin)
            if record["origin"] in ORIGINS and record["origin"] != origin_of(cell, name):
                return self.change(cell, name, getattr(cell, name), record["origin"])
        return ""

    def change(self, cell: Cell, name: str, value: Any, origin: str) -> str:
        chemistries = self.session.evaluation.sized.parts.chemistries
        if name == "chemistry" and value not in chemistries:
            return worded("“{}” is not known; accepted: {}", value, ", ".join(chemistries))
        try:
            fresh = changed(cell, with_partner(cell, name, value), origin)
            self.session.edit_own(merged(self.session.own, (fresh,)), f"{cell.name}, {name}")
        except (CellProblem, FileProblem) as problem:
            return said_of(problem)
        return ""

    def _take_points(self, records: list[Record]) -> str:
        assert self._cell is not None
        cell = self._cell
        chemistry: Chemistry = self.session.evaluation.sized.parts.chemistry_of(cell)
        try:
            curve = own_curve(
                chemistry, cell, [(item["charge"], item["volts"]) for item in records]
            )
            fresh = changed(cell, {"chemistry": curve.id})
            self.session.edit_own(
                merged(self.session.own, (fresh,), (curve,)), worded("{}, curve", cell.name)
            )
        except (CellProblem, FileProblem) as problem:
            return said_of(problem)
        return ""


def _pasted_points(text: str) -> list[Record]:
    return [{"charge": charge, "volts": volts} for charge, volts in parse_points(text)]
