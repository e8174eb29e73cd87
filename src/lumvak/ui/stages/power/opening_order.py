"""What opens first: every curve on one chart, its legend to change parts on, and every pair."""

from __future__ import annotations

import math
from functools import partial
from typing import Any

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import (
    QBoxLayout,
    QCheckBox,
    QGridLayout,
    QLabel,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from lumvak.core.evaluation import Evaluation
from lumvak.core.power.opening_order import Curve, Pair, time_ratio
from lumvak.core.power.place import Place
from lumvak.core.power.working import pair_figure
from lumvak.core.time_current import at_time
from lumvak.ui.explain import explain_made
from lumvak.ui.session import Session
from lumvak.ui.speech import (
    digits,
    in_words,
    round_figures,
    say,
    say_about,
    say_span,
    spoken,
    worded,
)
from lumvak.ui.stages.part_box import PartBox
from lumvak.ui.stages.power.curve_plot import LOOKS, CurvePlot
from lumvak.ui.widgets.flow import scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, soft


def _times(ratio: float) -> str:
    """How many times sooner, in words."""
    if not math.isfinite(ratio):
        return "—"
    return in_words("over 99 ×") if ratio > 99.0 else f"{round_figures(ratio)} ×"


def _in_order(pair: Pair) -> str:
    if pair.holds:
        return "hardly" if pair.thin else "yes"
    return worded("no, {}", say_span(pair.fails_s[0][0], pair.fails_s[-1][1]))


def _order_mark(pair: Pair) -> str:
    if not pair.holds:
        return "crimson"
    return "amber" if pair.thin else ""


PAIR_COLUMNS = (
    Column(
        "first",
        text=lambda it: spoken(it[0].names[0]),
        left=True,
        tip="What must act, or lie, below",
    ),
    Column(
        "before", text=lambda it: spoken(it[0].names[1]), left=True, tip="What it must stay below"
    ),
    Column(
        "apart by",
        text=lambda it: say(it[0].margin_a, "A") if math.isfinite(it[0].margin_a) else "—",
        sample="0000 A",
        tip="Least current between the two",
    ),
    Column(
        "at",
        text=lambda it: say_about(it[0].at_s) if math.isfinite(it[0].margin_a) else "—",
        sample="0000 ms",
        tip="Time at which they are nearest",
    ),
    Column(
        "in time",
        text=lambda it: _times(it[1]),
        tip="How many times sooner the first acts, where that is least",
    ),
    Column(
        "in order?",
        text=lambda it: _in_order(it[0]),
        mark=lambda it: _order_mark(it[0]),
        left=True,
        tip="Whether they are at all times that matter",
    ),
    Column(
        "why",
        text=lambda it: spoken(it[0].why),
        left=True,
        stretch=True,
        tip="What goes wrong otherwise",
    ),
)
SIDE_BY_SIDE_PX = 700


class Swatch(QWidget):
    """A short piece of a curve's line."""

    def __init__(self, key: str) -> None:
        super().__init__()
        self._key = key
        self.setFixedSize(THEME.px(26), THEME.px(16))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        role, style, width = LOOKS.get(self._key, ("soft", Qt.PenStyle.SolidLine, 1.2))
        painter = QPainter(self)
        if self._key in ("fuse", "link"):
            band = QRectF(0, self.height() * 0.25, self.width(), self.height() * 0.5)
            painter.fillRect(band, THEME.colour("verdigris_wash"))
        painter.setPen(QPen(THEME.colour(role), width, style))
        middle = self.height() // 2
        painter.drawLine(0, middle, self.width(), middle)


class OpenFirstView(Page):
    """The chart with its legend above, the pairs below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.about = "move over the chart, or use the arrows, to read it"
        self.hidden: set[str] = set()
        self.plot = CurvePlot()
        self.plot.setMinimumHeight(THEME.px(210))
        self.plot.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        self.legend = QWidget()
        self.grid = QGridLayout(self.legend)
        self.grid.setContentsMargins(0, 0, THEME.px(14), 0)
        self.grid.setHorizontalSpacing(THEME.px(8))
        self.grid.setVerticalSpacing(THEME.px(1))
        self.grid.setColumnStretch(2, 1)
        self.reading = soft("")
        self.boxes: dict[str, QCheckBox] = {}
        self.parts: dict[str, PartBox] = {}
        self.values: dict[str, QLabel] = {}
        self._keys: list[str] = []
        self.table = RowsTable(PAIR_COLUMNS, "Pairs that must be in order")
        side = QVBoxLayout()
        side.setSpacing(THEME.px(2))
        side.addWidget(self.reading)
        side.addWidget(self.legend)
        side.addStretch(1)
        self.upper = QBoxLayout(QBoxLayout.Direction.LeftToRight)
        self.upper.addWidget(self.plot, 1)
        self.upper.addLayout(side)
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(16), 0, THEME.px(8), THEME.px(6))
        outer.setSpacing(THEME.px(4))
        outer.addLayout(self.upper, 1)
        outer.addWidget(self.table)
        self.plot.moved.connect(lambda _: self._read())
        self.table.picked.connect(self._pick_pair)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """The legend beside the chart where there is room, else under it."""
        super().resizeEvent(event)
        narrow = self.width() < THEME.px(SIDE_BY_SIDE_PX)
        self.upper.setDirection(
            QBoxLayout.Direction.TopToBottom if narrow else QBoxLayout.Direction.LeftToRight
        )
        self.legend.setMaximumWidth(16777215 if narrow else THEME.px(372))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Draw the curves of an evaluation, and list the pairs."""
        power = evaluation.power
        shown = [curve for curve in power.curves if curve.kind != "board"]
        if [curve.key for curve in shown] != self._keys:
            self._make_legend(shown)
        self._offer(evaluation)
        self.plot.show_curves(shown, self.hidden, power.short_a.number)
        curves = {curve.key: curve for curve in power.curves}
        rows = [_pair_row(pair, curves, power.short_a.number) for pair in power.pairs]
        self.table.show_rows(rows)
        fit_height(self.table, len(rows), 6, least=6)
        self._read()

    def _make_legend(self, curves: list[Curve]) -> None:
        while self.grid.count():
            item = self.grid.takeAt(0)
            widget = None if item is None else item.widget()
            if widget is not None:
                widget.deleteLater()
        self.boxes, self.parts, self.values = {}, {}, {}
        self._keys = [curve.key for curve in curves]
        for row, curve in enumerate(curves):
            box = QCheckBox(spoken(curve.name))
            box.setFont(THEME.font("table", table=True))
            box.setMinimumWidth(box.sizeHint().width())
            box.setChecked(curve.key not in self.hidden)
            box.toggled.connect(partial(self._toggle, curve.key))
            value = plain("")
            value.setFont(THEME.font("table", strong=True, table=True))
            value.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
            value.setMinimumWidth(THEME.px(74))
            self.grid.addWidget(Swatch(curve.key), row, 0)
            self.grid.addWidget(box, row, 1)
            if curve.place and curve.place != "joints.link_a":
                part = PartBox(self.session, curve.place, worded("{}: part", spoken(curve.name)))
                self.parts[curve.key] = part
                self.grid.addWidget(part, row, 2)
            else:
                # One line, so that rows stand still; what does not fit is under the pointer.
                note = soft(spoken(curve.detail))
                note.setToolTip(spoken(curve.detail))
                note.setFont(THEME.font("note", table=True))
                note.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
                self.grid.addWidget(note, row, 2)
            self.grid.addWidget(value, row, 3)
            self.boxes[curve.key], self.values[curve.key] = box, value
        self.grid.setRowStretch(len(curves), 1)

    def _offer(self, evaluation: Evaluation) -> None:
        """Fill the boxes of the legend with what would do."""
        power, project = evaluation.power, evaluation.project
        offers: dict[str, tuple[list[tuple[str, Any]], Any]] = {
            "protection.board": (
                [(item.board.name, item.board.id) for item in evaluation.sized.boards.own],
                project.protection.board,
            ),
            "power.fuse": (_names(power.fuse), project.power.fuse),
            "leads.wire": (
                [(wire.name, wire.id) for wire in evaluation.sized.parts.wires.values()],
                project.leads.wire,
            ),
            "power.connector": (_names(power.connector), project.power.connector),
            "power.switch": (_names(power.switch), project.power.switch),
        }
        names = {curve.key: curve.detail for curve in power.curves}
        for key, box in self.parts.items():
            parts, chosen = offers[box.path]
            box.offer(parts, chosen, spoken(names[key]))

    def _toggle(self, key: str, shown: bool) -> None:
        (self.hidden.discard if shown else self.hidden.add)(key)
        self.show_evaluation(self.session.evaluation)

    def _read(self) -> None:
        """What each curve is at the cursor."""
        seconds = self.plot.seconds
        after = worded("after {}", say_about(seconds))
        self.reading.setText(after)
        told = []
        for curve in self.session.evaluation.power.curves:
            label = self.values.get(curve.key)
            if label is None:
                continue
            low, high = at_time(curve.low_a, seconds), at_time(curve.high_a, seconds)
            if not math.isfinite(low):
                label.setText(in_words("not yet"))
            elif curve.kind == "fuse" and math.isfinite(high):
                label.setText(f"{digits(low, '.3g')}–{say(high, 'A')}")
            else:
                label.setText(say(low, "A"))
            if curve.key not in self.hidden:
                told.append(f"{spoken(curve.name)} {label.text()}")
        self.plot.tell(f"{after}: {'; '.join(told)}")

    def _pick_pair(self, value: tuple[str, str, float]) -> None:
        """Go to where a pair is closest, with both of its curves in view."""
        first, second, at_s = value
        for key in self.boxes:
            if key in (first, second) or (key.startswith("stage") and "board" in (first, second)):
                self.boxes[key].setChecked(True)
        self.plot.set_seconds(at_s)
        evaluation = self.session.evaluation
        pair = next(
            (
                item
                for item in evaluation.power.pairs
                if (item.first, item.second) == (first, second)
            ),
            None,
        )
        if pair is not None:
            explain_made(
                self.session,
                pair_figure(
                    pair, evaluation.power, evaluation.figures, evaluation.sized.pack.current
                ),
            )


def _names(place: Place[Any]) -> list[tuple[str, Any]]:
    """What there is for a place, by name and id, the weakest first."""
    amps = {part.id: getattr(part, "rating_a", 0.0) or part.continuous_a for part in place.parts}
    rising = sorted(place.parts, key=lambda part: (amps[part.id], part.name))
    return [(part.name, part.id) for part in rising]


def _pair_row(pair: Pair, curves: dict[str, Curve], short_a: float) -> Row:
    ratio = time_ratio(curves[pair.first], curves[pair.second], short_a)
    return row_of(
        PAIR_COLUMNS,
        (pair, ratio),
        value=(pair.first, pair.second, pair.at_s),
        key=(pair.first, pair.second),
    )
