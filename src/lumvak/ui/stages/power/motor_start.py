"""The start of the motor through the board's stages, with and without a surge part."""

from __future__ import annotations

import math

import numpy as np
import pyqtgraph as pg
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.power.motor_start import StartCase, StartRun, largest_start
from lumvak.core.power.working import start_figure
from lumvak.ui.explain import explain_made
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, say_about, say_delay, worded
from lumvak.ui.stages.part_box import PartBox
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import (
    legend_look,
    marked_line,
    named_plot,
    round_range,
    show_points,
)
from lumvak.ui.widgets.quantity_field import small_field
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import side_by_side, soft

COLUMNS = (
    Column("trigger", left=True, tip="How it is pulled: at once, or slowly"),
    Column("surge part", left=True, tip="With or without the part that limits the start"),
    Column("peak", tip="Most current at the battery"),
    Column("opens?", left=True, tip="Whether a level of the BMS opens, and when"),
    Column("margin", tip="At the level with the least margin"),
    Column("which level", left=True, stretch=True, tip="The level with the least margin"),
)
# Pull, with a surge part, colour, line.
RUNS = (
    ("fast", False, "copper", Qt.PenStyle.SolidLine, "fast pull"),
    ("fast", True, "verdigris", Qt.PenStyle.SolidLine, "fast, with surge part"),
    ("slow", False, "copper", Qt.PenStyle.DashLine, "slow pull"),
    ("slow", True, "verdigris", Qt.PenStyle.DashLine, "slow, with surge part"),
)
SHOWN_S = 2.0


class StartView(Page):
    """Fields above, the current over time, and who trips below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.fields = {
            "spin_up_s": small_field(session, "start.spin_up_s", "runs up in"),
            "fast_s": small_field(session, "start.fast_s", "a fast pull"),
            "slow_s": small_field(session, "start.slow_s", "a slow pull"),
            "pause_s": small_field(session, "start.pause_s", "between starts"),
        }
        self.stall = small_field(session, "need.stall_current_a", "stall", width=60)
        self.surge = PartBox(session, "power.surge", "Surge thermistor")
        self.labels = [
            FigureLabel(session, "start.current_a", "a start draws", strong=True),
            FigureLabel(session, "power.surge_cold_ohm", "surge part cold"),
            FigureLabel(session, "power.surge_loss_w", "loses hot"),
            FigureLabel(session, "power.surge_recovery_s", "cold again after"),
        ]
        self.plot = named_plot("pack, A", "time, s")
        self.plot.setMinimumHeight(THEME.px(180))
        self.plot.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        self.plot.getPlotItem().setContentsMargins(0, THEME.px(8), 0, 0)
        self.plot.setAccessibleName(in_words("Current of a start against time"))
        self.legend = self.plot.addLegend(
            offset=(-8, 2), verSpacing=-6, colCount=2, **legend_look()
        )
        self.lines = [
            self.plot.plot(
                pen=pg.mkPen(THEME.colour(role), width=2 if with_ else 1.8, style=style), name=name
            )
            for _, with_, role, style, name in RUNS
        ]
        self._runs: list[StartRun | None] = [None] * len(RUNS)
        self.stage_lines: list[pg.InfiniteLine] = []
        self.empty, self.filler = soft("", wrap=True), QWidget()
        self.table = RowsTable(COLUMNS, "Starts")
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(flowing(self.stall, *self.fields.values(), gap=14))
        outer.addWidget(
            flowing(side_by_side(soft("Surge thermistor"), self.surge), *self.labels, gap=14)
        )
        outer.addWidget(self.empty)
        outer.addWidget(self.filler, 1)
        outer.addWidget(self.plot, 1)
        outer.addWidget(self.table)
        self.table.picked.connect(self._explain)

    def _explain(self, value: tuple[str, bool]) -> None:
        """Show how what a start has to spare came about."""
        evaluation = self.session.evaluation
        run = self._runs[[run[:2] for run in RUNS].index(value)]
        figure = None if run is None else start_figure(value[0], run, evaluation.figures)
        if figure is not None:
            explain_made(self.session, figure)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Run the starts of an evaluation and draw them."""
        start, power = evaluation.project.start, evaluation.power
        self.surge.offer(
            [("none", "none"), *((item.part.name, item.part.id) for item in power.surge.found)],
            evaluation.project.power.surge,
        )
        for label in self.labels:
            label.setVisible(label.key in evaluation.figures)
            label.show_figure()
        runs = self._runs = [power.start_of(pull, with_) for pull, with_, *_ in RUNS]
        case = power.start
        known = case is not None and case.known
        self.empty.setVisible(not known)
        if not known:
            motor = evaluation.project.need.kind in ("vehicle", "tool")
            runs = self._runs = self._largest(case if motor else None, start.slow_s)
        drawn = any(run is not None for run in runs)
        self.filler.setVisible(not drawn)
        self.plot.setVisible(drawn)
        self.table.setVisible(drawn)
        if not drawn:
            self.about = ""
            return
        tried = power.surge_tried
        part = "" if tried is None else tried.part.name
        self.about = (
            ""
            if not known
            else (
                worded("with {}, as fitted", part)
                if power.surge.part is not None
                else worded("with {}, were it fitted", part)
                if part
                else ""
            )
        )
        self._draw(evaluation, runs)
        rows = [
            self._row(pull, part if with_ else "none", run)
            for (pull, with_, *_), run in zip(RUNS, runs, strict=True)
            if run is not None
        ]
        self.table.show_rows(rows)
        fit_height(self.table, len(rows), 4, firm=True)

    def _largest(self, case: StartCase | None, slow_s: float) -> list[StartRun | None]:
        """The largest starts that the board lets by, where the motor's own is not known."""
        words = (
            "No start is known. Enter the stall current: what the motor draws while it stands. "
            "Measure it, or take the old pack's voltage ÷ the resistance between its contacts. "
            "A controller that limits the current needs none."
        )
        runs: list[StartRun | None] = [None] * len(RUNS)
        if case is not None and case.stages:
            for place, (pull, with_, *_) in enumerate(RUNS):
                if not with_:
                    own = case.pull_s if pull == "fast" else slow_s
                    runs[place] = largest_start(replace(case, pull_s=own, surge=None))
            said = [
                worded("up to {} with a {} pull", say(run.case.start_a, "A"), pull)
                for run, (pull, *_) in zip(runs, RUNS, strict=True)
                if run is not None
            ]
            if said and math.isfinite(case.limit_a):
                words = worded(
                    "The controller lets {} by, so that any motor starts through this "
                    "BMS, as drawn. The stall current of the motor says how fast.",
                    say(case.limit_a, "A"),
                )
            elif said:
                words += worded(
                    " This BMS starts a motor that draws {}, as drawn.", ", ".join(said)
                )
        self.empty.setText(words)
        return runs

    def _draw(self, evaluation: Evaluation, runs: list[StartRun | None]) -> None:
        most, end = 1.0, 0.1
        for line, run in zip(self.lines, runs, strict=True):
            if run is None:
                show_points(line, [], [])
                continue
            amps, seconds = run.current_a, run.seconds
            if run.trip_s is not None:
                # The board opens, and nothing flows any more.
                kept = seconds < run.trip_s
                seconds = np.concatenate([seconds[kept], [run.trip_s, run.trip_s, seconds[-1]]])
                at = float(np.interp(run.trip_s, run.seconds, amps))
                amps = np.concatenate([amps[kept], [at, 0.0, 0.0]])
            show_points(line, seconds, amps)
            most, end = max(most, run.peak_a), max(end, float(run.seconds[-1]))
        self.legend.clear()
        for line, run, (*_, name) in zip(self.lines, runs, RUNS, strict=True):
            if run is not None:
                self.legend.addItem(line, name)
        for item in self.stage_lines:
            self.plot.removeItem(item)
        self.stage_lines = []
        board = evaluation.power.board
        for stage in () if board is None else board.stages:
            if stage.current_a <= most * 1.6:
                words = worded(
                    "opens over {} for {}", say(stage.current_a, "A"), say_delay(stage.delay_s)
                )
                made = marked_line(stage.current_a, 0, "crimson", words, 0.22, (0, 1))
                self.plot.addItem(made)
                self.stage_lines.append(made)
                most = max(most, stage.current_a)
        end = min(end, max(SHOWN_S, evaluation.project.start.slow_s * 1.4))
        self.plot.show_whole(
            (0.0, round_range(0.0, end)[1]), (0.0, round_range(0.0, most * 1.1)[1])
        )

    def _row(self, pull: str, part: str, run: StartRun) -> Row:
        worst = run.worst
        trips = run.trip_s is not None
        spare, which = "—", ""
        if worst is not None:
            spare = say(worst.spare_a, "A")
            which = worded(
                "{} for {}; {} drawn for that long",
                say(worst.stage.current_a, "A"),
                say_delay(worst.stage.delay_s),
                say(worst.sustained_a, "A"),
            )
            if 0.0 < worst.over_s < math.inf:
                which += worded(", over it for {}", say_about(worst.over_s))
        return Row(
            (
                pull,
                part,
                say(run.peak_a, "A"),
                worded("after {}", say_about(run.trip_s)) if run.trip_s else "no",
                spare,
                which,
            ),
            value=(pull, part != "none"),
            key=(pull, part),
            marks={3: "crimson"} if trips else {},
        )
