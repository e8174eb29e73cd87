"""Charge and discharge limit as two handles on the curve of a cell, and the current in the cold."""

from __future__ import annotations

from typing import Any

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtWidgets import QVBoxLayout

from lumvak.core import said as core_said
from lumvak.core.charging.charge_window import ChargeWindow, charge_window, cold_share, cold_words
from lumvak.core.charging.topic import floor_of
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import Text, capital, phrase
from lumvak.ui.session import Session
from lumvak.ui.speech import digits, in_words, say, shown, shown_in, spoken, worded
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import (
    axis,
    keep_room,
    marked_line,
    named_plot,
    round_range,
    show_points,
)
from lumvak.ui.widgets.quantity_field import charging_c, empty_v, full_v, small_field, try_edit
from lumvak.ui.widgets.sentence import Sentence
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

STEP_V = 0.005
COLDEST_C, WARMEST_C = -15.0, 60.0
HOW = (
    "Drag the two lines, or type. What is over the charge limit or under the discharge limit "
    "is hatched."
)
SOURCE = (
    "A range, not a promise: the trade’s rule that a tenth of a volt about doubles the cycles of a "
    "cobalt type, with its spread (methods 37)."
)


class CeilingView(Page):
    """The rest curve of the cell with both handles; what is kept, given up and gained."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.fields = {
            "ceiling": small_field(
                session, "pack.ceiling_v", "charge limit, a cell", width=60, usual=full_v
            ),
            "floor": small_field(
                session, "charging.floor_v", "discharge limit, a cell", width=60, usual=empty_v
            ),
            "cell_c": small_field(
                session, "charging.cell_c", "cells at", width=60, usual=charging_c
            ),
        }
        self.says, self.gain = Sentence(session), soft("", wrap=True)
        self.curve = named_plot("OCV of a cell, V", "charge, %")
        self.curve.setAccessibleName(in_words("OCV against charge, with both limits"))
        self.line = self.curve.plot(pen=pg.mkPen(THEME.colour("ink"), width=2), name="OCV")
        self.out = [pg.QtWidgets.QGraphicsRectItem() for _ in range(2)]
        for item in self.out:
            item.setPen(pg.mkPen(None))
            self.curve.addItem(item)
        self.handles = {name: _handle(name) for name in ("ceiling", "floor")}
        for name, handle in self.handles.items():
            self.curve.addItem(handle)
            handle.sigDragged.connect(lambda _, at=name: self._dragged(at))
            handle.sigPositionChangeFinished.connect(lambda _, at=name: self._let_go(at))
        self.cold = named_plot("charge current, A", "cells, °C")
        axis(self.cold, "bottom", worded("cells, {}", shown_in("°C")))
        self.cold.setAccessibleName(in_words("Charge current against the temperature of the cells"))
        self.allowed = self.cold.plot(
            pen=pg.mkPen(THEME.colour("verdigris"), width=2), name="the cells take"
        )
        self.flows = marked_line(0.0, 0, "copper", "the charger gives", 0.97, (1, 1))
        self.here = marked_line(0.0, 90, "ink", "now", 0.9)
        for line in (self.flows, self.here):
            self.cold.addItem(line)
        self.cold_says = soft("", wrap=True)
        self._lay_out()

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(flowing(*self.fields.values(), gap=14))
        outer.addWidget(self.says)
        outer.addWidget(self.gain)
        outer.addWidget(self.cold_says)
        both = Turning(700)
        for plot in (self.curve, self.cold):
            keep_room(plot, 220, 260)
        both.columns.addWidget(self.curve, 3)
        both.columns.addWidget(self.cold, 2)
        outer.addWidget(both, 1)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show floor, ceiling and the cold of an evaluation."""
        project, cell = evaluation.project, evaluation.sized.choice.cell
        topic = evaluation.charging
        behaviour = topic.setting.behaviour
        show_points(self.line, 100.0 * behaviour.rest_charge, behaviour.rest_v)
        low = min(float(behaviour.rest_v[0]), cell.voltage_empty_v)
        self.curve.show_whole((0.0, 100.0), round_range(low, cell.voltage_full_v + 0.05))
        places = {"ceiling": topic.setting.ceiling_v, "floor": floor_of(project.charging, cell)}
        for name, handle in self.handles.items():
            if not handle.moving:
                handle.setValue(places[name])
        self._hatch(topic.window)
        self._say(topic.window, topic.window_problem)
        self._show_cold(evaluation)

    def _say(self, window: ChargeWindow | None, problem: Text) -> None:
        if window is None:
            self.says.tell(phrase("{}.", capital(problem)))
            self.gain.setText("")
            return
        topic = self.session.evaluation.charging
        self.says.tell(
            phrase(
                "{} between them, {} of the charge and of the range; {} given up at the top, {} at "
                "the bottom.",
                core_said.say(window.kept_ah, in_words("Ah")),
                core_said.say(window.range_share, "%"),
                core_said.say(window.given_top_ah, in_words("Ah")),
                core_said.say(window.given_bottom_ah, in_words("Ah")),
            ),
            ("charging.kept_ah", topic.right.volts.key),
        )
        low, high = window.gain
        if high <= 1.0 + 1e-9:
            self.gain.setText(
                worded("Charged in full each time, so the sheet’s cycles hold. {}", HOW)
            )
        else:
            self.gain.setText(
                worded(
                    "Cycles usually grow {} to {} times. {}",
                    digits(low, ".2g"),
                    digits(high, ".2g"),
                    SOURCE,
                )
            )

    def _hatch(self, window: ChargeWindow | None) -> None:
        low, high = (0.0, 1.0) if window is None else (window.low, window.high)
        bottom, top = self.curve.whole[1]
        for item, (begin, end) in zip(self.out, ((0.0, low), (high, 1.0)), strict=True):
            item.setRect(QRectF(100.0 * begin, bottom, 100.0 * (end - begin), top - bottom))
            item.setBrush(pg.mkBrush(THEME.colour("amber")))
            brush = item.brush()
            brush.setStyle(Qt.BrushStyle.BDiagPattern)
            brush.setTransform(self.curve.getPlotItem().vb.viewTransform().inverted()[0])
            item.setBrush(brush)

    def _places(self) -> tuple[float, float]:
        ceiling, floor = (
            round(self.handles[name].value() / STEP_V) * STEP_V for name in ("ceiling", "floor")
        )
        return round(ceiling, 4), round(floor, 4)

    def _dragged(self, name: str) -> None:
        """Follow a handle while it is dragged, within what can be."""
        evaluation = self.session.evaluation
        topic, cell = evaluation.charging, evaluation.sized.choice.cell
        ceiling, floor = self._places()
        handle = self.handles[name]
        if name == "ceiling":
            handle.setValue(min(max(ceiling, floor + 0.05), cell.voltage_full_v))
        else:
            handle.setValue(min(max(floor, cell.voltage_empty_v), ceiling - 0.05))
        ceiling, floor = self._places()
        window = charge_window(
            cell,
            topic.setting.family,
            topic.setting.behaviour,
            topic.setting.group_ah,
            min(ceiling, cell.voltage_full_v),
            floor,
        )
        self._hatch(window)
        self._say(window, "")

    def _let_go(self, name: str) -> None:
        """Keep where a handle was left."""
        cell = self.session.evaluation.sized.choice.cell
        ceiling, floor = self._places()
        if name == "ceiling":
            value = None if ceiling >= cell.voltage_full_v - STEP_V / 2.0 else ceiling
            try_edit(self.session, {"pack.ceiling_v": value}, "charge limit")
        else:
            value = None if floor <= cell.voltage_empty_v + STEP_V / 2.0 else floor
            try_edit(self.session, {"charging.floor_v": value}, "discharge limit")

    def _show_cold(self, evaluation: Evaluation) -> None:
        topic, cell = evaluation.charging, evaluation.sized.choice.cell
        celsius = np.unique(
            np.concatenate(
                (
                    np.linspace(COLDEST_C, WARMEST_C, 151),
                    [
                        cell.charge_min_c - 1e-3,
                        cell.charge_min_c,
                        cell.charge_max_c,
                        cell.charge_max_c + 1e-3,
                    ],
                )
            )
        )
        most = topic.setting.most_cells.number
        warmths = [float(shown(value, "°C")) for value in celsius.tolist()]
        show_points(self.allowed, warmths, most * cold_share(cell, celsius))
        amps, here = topic.charger.amps, evaluation.charging.setting.celsius
        self.flows.setValue(amps)
        self.here.setValue(float(shown(here, "°C")))
        self.cold.show_whole((warmths[0], warmths[-1]), round_range(0.0, 1.15 * max(most, amps)))
        sensors = 0 if topic.setting.board is None else topic.setting.board.sensors
        said = spoken(cold_words(cell, here, amps, most, sensors))
        self.cold_says.setText(
            worded("Charged at {}: {}{}", say(here, "°C"), said[:1].lower(), said[1:])
        )


def _handle(name: str) -> Any:
    """A line across that can be dragged."""
    along, corner = (0.03, (0, 1)) if name == "ceiling" else (0.97, (1, 1))
    words = {"ceiling": "charge limit", "floor": "discharge limit"}[name]
    line = marked_line(0.0, 0, "copper", words, along, corner)
    line.setPen(pg.mkPen(THEME.colour("copper"), width=3))
    line.setHoverPen(pg.mkPen(THEME.colour("copper"), width=5))
    line.setMovable(True)
    return line
