"""Stage: discharge. The course of a run until something ends it, beside others, with tolerance."""

from __future__ import annotations

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.run.discharge import Run
from lumvak.core.run.figures import overlaid
from lumvak.core.run.tolerance import Tolerance
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, shown, shown_in, spoken, worded
from lumvak.ui.stages.run.tolerance import TolerancePanel
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled
from lumvak.ui.widgets.pages import Page, on_sheet
from lumvak.ui.widgets.plots import (
    axis,
    legend_look,
    marked_line,
    named_plot,
    round_range,
    show_points,
)
from lumvak.ui.widgets.quantity_field import small_field
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft

FACTS = (
    ("run.time_h", "runs"),
    ("run.ended", "until"),
    ("run.distance_km", "goes"),
    ("run.taken_ah", "takes"),
    ("run.delivered_wh", "delivers"),
    ("run.loss_wh", "loses"),
    ("run.worst_sag_v", "sags by"),
    ("run.warmest_c", "warms to"),
    ("run.peak_from_charge", "a peak stops it from"),
)
LOWER = (("temperature_c", "°C"), ("amps", "A"), ("charge", "charge"))
LOWER_AXES = {"temperature_c": "cells, {}", "amps": "pack, A", "charge": "charge, %"}

NOTHING = np.zeros(0), np.zeros(0)
HOURS_FROM_S = 2.0 * 3600.0
# The pack in hand, then those beside it: a line is told by its style as well as its colour.
LINES = (
    ("copper", Qt.PenStyle.SolidLine),
    ("verdigris", Qt.PenStyle.DashLine),
    ("ink", Qt.PenStyle.DashDotLine),
)


def _axis_words(below: str) -> str:
    return LOWER_AXES[below].format(shown_in("°C"))


class RunStage(Page):
    """Volts above; temperature, amps or charge below, over one axis of time."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._by_hours = False
        on_sheet(self)
        self.labels = [
            FigureLabel(session, key, name, strong=place == 0)
            for place, (key, name) in enumerate(FACTS)
        ]
        self.facts = soft("")
        self.start = small_field(session, "run.start_charge", "from")
        self.what = ChoiceRow([(key, shown_in(word)) for key, word in LOWER], "Shown below")
        self.tolerance = TolerancePanel(session)
        self.volts = named_plot("terminals, V", "")
        self.below = named_plot(_axis_words("temperature_c"), "time, min")
        for plot, least in ((self.volts, 150), (self.below, 104)):
            plot.setMinimumHeight(THEME.px(least))
            # Its own wish for height would make the page scroll where it need not.
            plot.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
            plot.getPlotItem().setContentsMargins(0, THEME.px(8), 0, 0)
        pens = [
            pg.mkPen(THEME.colour(role), width=2 if place == 0 else 1.4, style=style)
            for place, (role, style) in enumerate(LINES)
        ]
        self.volts_curves = [self.volts.plot(pen=pen, connect="finite") for pen in pens]
        self.below_curves = [self.below.plot(pen=pen, connect="finite") for pen in pens]
        self.legend = self.volts.addLegend(offset=(-8, 2), verSpacing=-6, **legend_look())
        self._make_band()
        self.stop_line = marked_line(0.0, 0, "verdigris", "", 0.03)
        self.limit_line = marked_line(0.0, 0, "crimson", "", 0.03, (0, 0))
        self.volts.addItem(self.stop_line)
        self.below.addItem(self.limit_line)
        self._lay_out()
        self.what.picked.connect(self._turn)
        # Both are looked at closer along the same time.
        self.volts.looked.connect(self.below.look_across)
        self.below.looked.connect(self.volts.look_across)
        self.tolerance.drawn.connect(self._show_band)
        self.tolerance.dropped.connect(self._hide_band)

    def _make_band(self) -> None:
        """The band of the volts of the drawn packs, and where their runs end."""
        faint = pg.mkPen(THEME.colour("copper_wash"), width=1)
        self.band_edges = [self.volts.plot(pen=faint, connect="finite") for _ in range(2)]
        wash = QColor(THEME.colour("copper_wash"))
        wash.setAlpha(110)
        self.band = pg.FillBetweenItem(*self.band_edges, brush=pg.mkBrush(wash))
        self.volts.addItem(self.band)
        self.ends = [
            marked_line(0.0, 90, "copper", text, along)
            for text, along in (("19 of 20 run so long", 0.02), ("1 of 20 so long", 0.1))
        ]
        for item in (*self.ends, self.band):
            item.setZValue(-5)
        for item in self.ends:
            self.volts.addItem(item)
        self._hide_band()

    def _lay_out(self) -> None:
        body = QWidget()
        page = QVBoxLayout(self)
        page.setContentsMargins(0, 0, 0, 0)
        page.addWidget(scrolled(body))
        outer = QVBoxLayout(body)
        outer.setContentsMargins(THEME.px(24), THEME.px(14), THEME.px(16), THEME.px(8))
        outer.setSpacing(THEME.px(6))
        head = QHBoxLayout()
        head.addWidget(heading("How does a run go?"))
        head.addStretch(1)
        head.addWidget(self.facts)
        head.addWidget(self.start)
        outer.addLayout(head)
        facts = QHBoxLayout()
        facts.addWidget(flowing(*self.labels, gap=14), 1)
        facts.addWidget(self.what, 0, Qt.AlignmentFlag.AlignBottom)
        outer.addLayout(facts)
        outer.addWidget(self.tolerance)
        outer.addWidget(self.volts, 3)
        outer.addWidget(self.below, 2)

    def _turn(self, what: str) -> None:
        self.what.show_value(what)
        self.show_evaluation(self.session.evaluation)

    def scale_s(self) -> float:
        return 3600.0 if self._by_hours else 60.0

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Draw the run of an evaluation, and those of the packs kept beside."""
        for label in self.labels:
            known = label.key in evaluation.figures
            label.setVisible(known)
            if known:
                label.show_figure()
        self.tolerance.show_evaluation(evaluation)
        run, load = evaluation.run.run, evaluation.sized.demand.load_figure
        what = "the duty" if evaluation.sized.demand.duty else say(load.value, load.unit)
        self.facts.setText(what)
        mine = (
            evaluation.sized.choice.cell.id,
            evaluation.sized.choice.series,
            evaluation.sized.choice.parallel,
        )
        kept = [(item.cell, item.series, item.parallel) for item in evaluation.project.pack.beside]
        others = overlaid(
            evaluation.sized.sized_pack,
            [pack for pack in kept if pack != mine],
            evaluation.project.run,
        )
        runs = [run, *(course.run for course in others)]
        longest = max(float(item.time_s[-1]) for item in runs)
        self._set_hours(longest > HOURS_FROM_S)
        for place, (above, below) in enumerate(
            zip(self.volts_curves, self.below_curves, strict=True)
        ):
            here = place < len(runs)
            show_points(above, *self._course(runs[place], "volts") if here else NOTHING)
            show_points(below, *self._course(runs[place], self.what.value) if here else NOTHING)
        self._name_lines([f"{mine[1]}S{mine[2]}P", *(spoken(item.name) for item in others)])
        self._show_ranges(evaluation, runs, longest)

    def _set_hours(self, by_hours: bool) -> None:
        if by_hours != self._by_hours:
            self._by_hours = by_hours
            axis(self.below, "bottom", "time, h" if by_hours else "time, min")

    def _course(self, run: Run, what: str) -> tuple[np.ndarray, np.ndarray]:
        values = getattr(run, what) * (100.0 if what == "charge" else 1.0)
        return run.time_s / self.scale_s(), shown(values, dict(LOWER).get(what, ""))

    def _name_lines(self, names: list[str]) -> None:
        self.legend.clear()
        if len(names) > 1:
            for name, curve in zip(names, self.volts_curves, strict=False):
                self.legend.addItem(curve, name)

    def _show_ranges(self, evaluation: Evaluation, runs: list[Run], longest: float) -> None:
        stop, limit = (
            evaluation.sized.demand.window.stop.number,
            evaluation.project.pack.temperature_limit_c,
        )
        self.stop_line.setValue(stop)
        self.stop_line.label.setFormat(
            f"{in_words(evaluation.sized.demand.window.stop_words)} {say(stop, 'V')}"
        )
        self.limit_line.label.setFormat(worded("limit {}", say(limit, "°C")))
        limit = float(shown(limit, "°C"))
        self.limit_line.setValue(limit)
        volts = np.concatenate([run.volts[np.isfinite(run.volts)] for run in runs])
        high = max(float(volts.max()) if len(volts) else 0.0, stop)
        low = min(float(volts.min()) if len(volts) else high, stop)
        across = round_range(0.0, longest / self.scale_s())
        self.volts.show_whole(across, round_range(low - 0.05 * (high - low), high))
        seen_below = self.what.value
        self.limit_line.setVisible(seen_below == "temperature_c")
        axis(self.below, "left", _axis_words(seen_below))
        values = np.concatenate([self._course(run, seen_below)[1] for run in runs])
        values = values[np.isfinite(values)]
        least, most = (float(values.min()), float(values.max())) if len(values) else (0.0, 1.0)
        spans = {
            "temperature_c": (least, max(limit, most) + 9.0),
            "amps": (0.0, most),
            "charge": (0.0, 100.0),
        }
        self.below.show_whole(across, round_range(*spans[seen_below]))
        run, warmest = runs[0], float(runs[0].temperature_c.max())
        self.volts.setAccessibleName(worded("Terminal volts over {}", say(run.hours, "h")))
        self.below.setAccessibleName(worded("Cell temperature up to {}", say(warmest, "°C")))

    def _show_band(self, result: Tolerance) -> None:
        times = result.time_s / self.scale_s()
        for edge, values in zip(self.band_edges, (result.band_v[0], result.band_v[2]), strict=True):
            finite = np.isfinite(values)
            show_points(edge, times[finite], values[finite])
            edge.show()
        self.band.show()
        low, _, high = result.run_band_h()
        for line, hours in zip(self.ends, (low, high), strict=True):
            line.setValue(hours * 3600.0 / self.scale_s())
            line.show()
        reached = self.volts.whole[0][1]
        across = round_range(0.0, max(high * 1.05 * 3600.0 / self.scale_s(), reached))
        for plot in (self.volts, self.below):
            plot.show_whole(across, plot.whole[1])

    def _hide_band(self) -> None:
        for item in (*self.band_edges, self.band, *self.ends):
            item.hide()
