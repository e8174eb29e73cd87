"""Stage: discharge. The course of a run from full until something ends it."""

from __future__ import annotations

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from lumvak.core.evaluate import Evaluation
from lumvak.core.units import say
from lumvak.ui.fields import FigureLabel, heading, soft
from lumvak.ui.plots import axis, marked_line, round_range, show_range
from lumvak.ui.session import Session
from lumvak.ui.theme import THEME

FACTS = (
    ("run.time_h", "runs"),
    ("run.ended", "until"),
    ("run.taken_ah", "takes"),
    ("run.delivered_wh", "delivers"),
    ("run.loss_wh", "loses"),
    ("run.warmest_c", "warms to"),
)
HOURS_FROM_S = 2.0 * 3600.0


class RunStage(QWidget):
    """Volts above, temperature of the cells below, over one axis of time."""

    key = "run"

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._by_hours = False
        self.setObjectName("sheet")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.labels = [
            FigureLabel(session, key, name, strong=place == 0)
            for place, (key, name) in enumerate(FACTS)
        ]
        self.peak = FigureLabel(session, "run.peak_from_charge", "a peak stops it from")
        self.about = soft("")
        self.volts = self._plot("terminals, V", "")
        self.warmth = self._plot("cells, °C", "time, min")
        curve = pg.mkPen(THEME.colour("copper"), width=2)
        self.volts_curve = self.volts.plot(pen=curve, connect="finite")
        self.warmth_curve = self.warmth.plot(pen=curve)
        self.stop_line = marked_line(0.0, 0, "verdigris", "stops at {value:.3g} V", 0.03)
        self.limit_line = marked_line(0.0, 0, "crimson", "limit {value:.3g} °C", 0.03)
        self.volts.addItem(self.stop_line)
        self.warmth.addItem(self.limit_line)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(24), THEME.px(14), THEME.px(16), THEME.px(8))
        outer.setSpacing(THEME.px(6))
        head = QHBoxLayout()
        head.addWidget(heading("How does a run go?"))
        head.addStretch(1)
        head.addWidget(self.about)
        outer.addLayout(head)
        for row in (self.labels[:3], [*self.labels[3:], self.peak]):
            facts = QHBoxLayout()
            facts.setSpacing(THEME.px(14))
            for label in row:
                facts.addWidget(label)
            facts.addStretch(1)
            outer.addLayout(facts)
        outer.addWidget(self.volts, 3)
        outer.addWidget(self.warmth, 2)

    def _plot(self, left: str, bottom: str) -> pg.PlotWidget:
        plot = pg.PlotWidget(background=THEME.colour("sheet"))
        plot.setMenuEnabled(False)
        plot.setMouseEnabled(x=False, y=False)
        plot.hideButtons()
        plot.disableAutoRange()
        plot.getPlotItem().setContentsMargins(0, THEME.px(8), 0, 0)
        axis(plot, "left", left)
        axis(plot, "bottom", bottom)
        plot.getAxis("left").setWidth(THEME.px(52))
        return plot

    def show_evaluation(self, seen: Evaluation) -> None:
        """Draw the run of an evaluation."""
        for label in (*self.labels, self.peak):
            label.show_figure()
        run, load = seen.run.run, seen.demand.load_figure
        what = "the duty" if seen.demand.duty else say(load.value, load.unit)
        self.about.setText(f"{what}, from full")
        by_hours = bool(run.time_s[-1] > HOURS_FROM_S)
        if by_hours != self._by_hours:
            self._by_hours = by_hours
            axis(self.warmth, "bottom", "time, h" if by_hours else "time, min")
        times = run.time_s / (3600.0 if by_hours else 60.0)
        self.volts_curve.setData(times, run.volts)
        self.warmth_curve.setData(times, run.temperature_c)
        stop, limit = seen.demand.window.stop.number, seen.project.pack.temperature_limit_c
        self.stop_line.setValue(stop)
        self.limit_line.setValue(limit)
        finite = run.volts[np.isfinite(run.volts)]
        high = max(float(finite.max()) if len(finite) else 0.0, stop)
        low = min(float(finite.min()) if len(finite) else high, stop)
        coolest, warmest = float(run.temperature_c.min()), float(run.temperature_c.max())
        across = round_range(0.0, float(times[-1]))
        show_range(self.volts, across, round_range(low - 0.05 * (high - low), high))
        show_range(self.warmth, across, round_range(coolest, max(limit, warmest) + 5.0))
        self.volts.setAccessibleName(f"Terminal volts over {say(run.hours, 'h')}")
        self.warmth.setAccessibleName(f"Cell temperature up to {say(warmest, '°C')}")
