"""The pack at rest, and the rails of a portable supply."""

from __future__ import annotations

import math

import pyqtgraph as pg
from PyQt6.QtWidgets import QSizePolicy, QVBoxLayout

from lumvak.core.evaluation import Evaluation
from lumvak.core.need.rails import ApplianceHours, all_rails, appliance_hours
from lumvak.core.power.at_rest import Shelf
from lumvak.ui.session import Session
from lumvak.ui.speech import digits, in_words, say, say_hours, worded
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import marked_line, named_plot, round_range, show_points
from lumvak.ui.widgets.quantity_field import small_field
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft

RAIL_COLUMNS = (
    Column("rail", left=True, tip="Name of the output"),
    Column("gives", tip="All its appliances together"),
    Column("at most", tip="What the rail can give"),
    Column("amps", tip="At its own voltage"),
    Column("fuse", tip="The fuse of the rail"),
    Column("takes", tip="From the battery, with the loss of the converter"),
    Column("", left=True, stretch=True),
)
APPLIANCE_COLUMNS = (
    Column("appliance", text=lambda it: it.name, left=True, stretch=True, tip="What is fed"),
    Column("rail", text=lambda it: it.rail, left=True, tip="Name of the output"),
    Column("draws", text=lambda it: say(it.draws_w, "W"), tip="Watts of the appliance"),
    Column("wanted", text=lambda it: say_hours(it.wanted_h), tip="Hours it is to run"),
    Column(
        "alone",
        text=lambda it: say_hours(it.alone.number),
        tip="Hours on a charge with nothing else on",
    ),
    Column(
        "with all on",
        text=lambda it: say_hours(it.together.number),
        mark=lambda it: "amber" if it.together.number < it.wanted_h else "",
        tip="Hours on a charge with everything running",
    ),
)
DRAIN_COLUMNS = (
    Column("draws it empty", left=True, stretch=True, tip="What draws while the pack lies"),
    Column("mA", tip="Before the BMS cuts off"),
    Column("share", tip="Of all that is drawn before the cut-off"),
    Column("then", tip="Once the BMS has cut off"),
)
LONGEST_DRAWN_D = 3650.0


def _days(days: float) -> str:
    if not math.isfinite(days):
        return "ever"
    if days < 2.0:
        return say_hours(days * 24.0)
    return (
        worded("{} days", f"{days:.0f}")
        if days < 730.0
        else worded("{} years", digits(days / 365.25, ".1f"))
    )


class RestView(Page):
    """Fields, the charge over days, what draws, and the rails of a portable supply."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.fields = {
            "charge": small_field(session, "rest.charge", "stored at"),
            "days": small_field(session, "rest.days", "stored for"),
            "meter_ma": small_field(session, "rest.meter_ma", "meter", width=60),
            "converter_ma": small_field(session, "rest.converter_ma", "converter", width=60),
            "month_loss": small_field(session, "rest.month_loss", "cells lose a month"),
            "damage_v": small_field(session, "rest.damage_v", "harmed under"),
        }
        self.labels = [
            FigureLabel(session, "rest.drain_ma", "standby drain"),
            FigureLabel(session, "rest.off_ma", "once cut off"),
            FigureLabel(session, "rest.cut_days", "cuts off after"),
            FigureLabel(session, "rest.harm_days", "from there to harm"),
            FigureLabel(session, "rest.total_days", "in all", strong=True),
        ]
        self.course = named_plot("charge, %; 0 is empty by the sheet", "days")
        self.course.setAccessibleName(in_words("Charge against days in storage"))
        self.course.setMinimumHeight(THEME.px(150))
        self.course.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        self.course.getPlotItem().setContentsMargins(0, THEME.px(8), 0, 0)
        self.line = self.course.plot(pen=pg.mkPen(THEME.colour("copper"), width=2))
        self.cut_line = marked_line(0.0, 0, "ink", "cuts off", 0.03)
        self.harm_line = marked_line(0.0, 0, "crimson", "cells are harmed", 0.03, (0, 0))
        self.left_line = marked_line(0.0, 90, "copper", "left", 0.9)
        for item in (self.cut_line, self.harm_line, self.left_line):
            self.course.addItem(item)
        self.drains = RowsTable(DRAIN_COLUMNS, "What draws it empty")
        self.rails_head = heading("Rails")
        self.rails_sum = soft("")
        self.rails = RowsTable(RAIL_COLUMNS, "Rails")
        self.appliances = RowsTable(APPLIANCE_COLUMNS, "Hours of each appliance")
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        outer.addWidget(flowing(*self.fields.values(), gap=14))
        outer.addWidget(flowing(*self.labels, gap=14))
        outer.addWidget(self.course, 1)
        outer.addWidget(self.drains)
        outer.addWidget(self.rails_head)
        outer.addWidget(self.rails_sum)
        outer.addWidget(self.rails)
        outer.addWidget(self.appliances)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the days of an evaluation, and its rails where it has some."""
        rest, shelf = evaluation.project.rest, evaluation.power.shelf
        for label in self.labels:
            figure = evaluation.figures[label.key]
            shown = figure.value is None or figure.unit != "d"
            label.show_figure("" if shown else _days(figure.number))
        self._show_course(shelf, rest.days)
        rails = evaluation.sized.demand.rails
        for widget in (self.rails_head, self.rails_sum, self.rails, self.appliances):
            widget.setVisible(bool(rails))
        if not rails:
            return
        volts = evaluation.sized.pack.nominal.number
        taken_w, taken_a = all_rails(rails, volts)
        self.rails_sum.setText(
            worded(
                "All on: {} from the battery, {} at {}. Rails and their fuses are set under Need.",
                say(taken_w, "W"),
                say(taken_a, "A"),
                say(volts, "V"),
            )
        )
        self.rails.show_rows(
            [
                Row(
                    (
                        load.rail.name,
                        say(load.given_w.value, "W"),
                        "—" if load.rail.limit_w is None else say(load.rail.limit_w, "W"),
                        say(load.current_a, "A"),
                        "none" if load.rail.fuse_a is None else say(load.rail.fuse_a, "A"),
                        say(load.taken_w.value, "W"),
                        "asks for more than it gives" if load.overloaded else "",
                    ),
                    key=load.rail.name,
                    marks={1: "crimson"} if load.overloaded else {},
                )
                for load in rails
            ]
        )
        fit_height(self.rails, len(rails), 5, firm=True)
        counted = evaluation.figures["pack.usable_ah"]
        hours = appliance_hours(
            evaluation.project.need, rails, counted, evaluation.sized.pack.nominal
        )
        self.appliances.show_rows([self._appliance(item) for item in hours])
        fit_height(self.appliances, len(hours), 8, firm=True)

    def _show_course(self, shelf: Shelf, left: float) -> None:
        """Draw the charge from when it is put away until its cells are harmed."""
        put, cut, harm = (100.0 * charge for charge in shelf.charges)
        ends = (shelf.cut_days, shelf.total_days)
        days = [min(end.at_most, LONGEST_DRAWN_D) for end in ends]
        show_points(self.line, [0.0, *days], [put, cut, harm])
        self.cut_line.setValue(cut)
        self.harm_line.setValue(harm)
        self.left_line.setValue(left)
        self.left_line.label.setFormat(worded("stored for {}", _days(left)))
        end = min(LONGEST_DRAWN_D, max(left * 1.5, days[1] * 1.05))
        self.course.show_whole(
            round_range(0.0, end), round_range(min(harm, 0.0) - 3.0, max(put, 1.0))
        )
        whole = sum(item.before_ma for item in shelf.drains)
        self.drains.show_rows(
            [
                Row(
                    (
                        item.name,
                        say(item.before_ma, in_words("mA")),
                        say(item.before_ma / whole, "%"),
                        say(item.after_ma, in_words("mA")),
                    ),
                    key=item.name,
                )
                for item in sorted(shelf.drains, key=lambda item: -item.before_ma)
            ]
        )
        fit_height(self.drains, len(shelf.drains), 4, firm=True)

    def _appliance(self, item: ApplianceHours) -> Row:
        return row_of(APPLIANCE_COLUMNS, item, key=(item.name, item.rail))
