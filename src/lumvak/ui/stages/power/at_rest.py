"""The pack at rest, and the rails of a portable supply."""

from __future__ import annotations

import math

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QBrush, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QVBoxLayout

from lumvak.core import units
from lumvak.core.evaluation import Evaluation
from lumvak.core.need.rails import ApplianceHours, all_rails, appliance_hours
from lumvak.core.units import digits, say, say_hours
from lumvak.ui.session import Session
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import small_field
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.table_height import fit_height
from lumvak.ui.widgets.tables import RowsTable
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Drawing
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
    Column("appliance", left=True, stretch=True, tip="What is fed"),
    Column("rail", left=True, tip="Name of the output"),
    Column("draws", tip="Watts of the appliance"),
    Column("wanted", tip="Hours it is to run"),
    Column("alone", tip="Hours on a charge with nothing else on"),
    Column("with all on", tip="Hours on a charge with everything running"),
)
LONGEST_DRAWN_D = 3650.0


class ShelfBar(Drawing):
    """Days on the shelf as a bar: until it cuts off, then until its cells are harmed."""

    def __init__(self) -> None:
        super().__init__()
        self._cut = self._harm = self._left = 0.0
        self.setMinimumHeight(THEME.px(92))
        self.setAccessibleName("Days on the shelf")

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(500), THEME.px(92))

    def show_days(self, cut: float, harm: float, left: float) -> None:
        """Days until it cuts off, until harm in all, and for how long it is left."""
        self._cut, self._harm, self._left = cut, harm, left
        self.setAccessibleDescription(f"cuts off after {cut:.0f} days, harmed after {harm:.0f}")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        end = min(LONGEST_DRAWN_D, max(self._left * 1.5, min(self._harm, LONGEST_DRAWN_D) * 1.1))
        left, top, high = THEME.px(4), THEME.px(32), THEME.px(24)
        width = self.width() - 2 * left

        def x(days: float) -> float:
            return left + width * min(days, end) / end

        cut, harm = x(self._cut), x(self._harm)
        painter.fillRect(QRectF(left, top, cut - left, high), THEME.colour("verdigris_wash"))
        painter.fillRect(QRectF(cut, top, harm - cut, high), THEME.colour("amber_wash"))
        rest = QRectF(harm, top, left + width - harm, high)
        painter.fillRect(rest, QBrush(THEME.colour("crimson"), Qt.BrushStyle.BDiagPattern))
        painter.setPen(QPen(THEME.colour("line"), 1))
        painter.drawRect(QRectF(left, top, width, high))
        painter.setFont(THEME.font("note", table=True))
        metrics = painter.fontMetrics()
        for place, words, role in (
            (cut, f"cuts off after {_days(self._cut)}", "ink"),
            (harm, f"harmed after {_days(self._harm)}", "crimson"),
        ):
            painter.setPen(QPen(THEME.colour(role), 1.4))
            painter.drawLine(round(place), top - THEME.px(4), round(place), top + high)
            wide = metrics.horizontalAdvance(words)
            at = min(max(place - wide / 2, left), left + width - wide)
            row = top + high + (THEME.px(16) if role == "ink" else THEME.px(32))
            painter.drawText(round(at), row, words)
        painter.setPen(QPen(THEME.colour("copper"), 2))
        mark = round(x(self._left))
        painter.drawLine(mark, top - THEME.px(10), mark, top + high + THEME.px(2))
        words = f"left for {_days(self._left)}"
        wide = metrics.horizontalAdvance(words)
        painter.drawText(round(min(max(mark - wide / 2, left), left + width - wide)),
                         top - THEME.px(13), words)  # fmt: skip


def _days(days: float) -> str:
    if not math.isfinite(days):
        return "ever"
    if days < 2.0:
        return say_hours(days * 24.0)
    return f"{days:.0f} days" if days < 730.0 else f"{digits(days / 365.25, '.1f')} years"


class RestView(Page):
    """Fields, the bar of days, and the rails of a portable supply."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.fields = {
            "charge": small_field(
                session, "rest.charge", "put away at", units.FRACTION, optional=False
            ),
            "days": small_field(session, "rest.days", "left for", units.DAYS, optional=False),
            "meter_ma": small_field(
                session, "rest.meter_ma", "meter", units.MILLIAMP, optional=False, width=60
            ),
            "converter_ma": small_field(
                session, "rest.converter_ma", "converter", units.MILLIAMP, optional=False, width=60
            ),
            "month_loss": small_field(
                session, "rest.month_loss", "cells lose a month", units.FRACTION, optional=False
            ),
            "damage_v": small_field(session, "rest.damage_v", "harmed under", units.VOLTAGE),
        }
        self.labels = [
            FigureLabel(session, "rest.drain_ma", "drawn at rest"),
            FigureLabel(session, "rest.off_ma", "once cut off"),
            FigureLabel(session, "rest.cut_days", "cuts off after"),
            FigureLabel(session, "rest.harm_days", "from there to harm"),
            FigureLabel(session, "rest.total_days", "in all", strong=True),
        ]
        self.bar = ShelfBar()
        self.rails_head = heading("Rails")
        self.rails_sum = soft("")
        self.rails = RowsTable(RAIL_COLUMNS, "Rails")
        self.appliances = RowsTable(APPLIANCE_COLUMNS, "Hours of each appliance")
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        outer.addWidget(flowing(*self.fields.values(), gap=14))
        outer.addWidget(flowing(*self.labels, gap=14))
        outer.addWidget(self.bar)
        outer.addSpacing(THEME.px(8))
        outer.addWidget(self.rails_head)
        outer.addWidget(self.rails_sum)
        outer.addWidget(self.rails)
        outer.addWidget(self.appliances)
        outer.addStretch(1)

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show the days of an evaluation, and its rails where it has some."""
        rest, shelf = seen.project.rest, seen.power.shelf
        for name, field in self.fields.items():
            field.show_value(getattr(rest, name), seen.figures.get(f"rest.{name}"))
        for label in self.labels:
            figure = seen.figures[label.key]
            shown = figure.value is None or figure.unit != "d"
            label.show_figure("" if shown else _days(figure.number))
        cut, total = shelf.cut_days.value, shelf.total_days.value
        self.bar.show_days(
            math.inf if cut is None else float(cut),
            math.inf if total is None else float(total),
            rest.days,
        )
        rails = seen.demand.rails
        for widget in (self.rails_head, self.rails_sum, self.rails, self.appliances):
            widget.setVisible(bool(rails))
        if not rails:
            return
        volts = seen.pack.nominal.number
        taken_w, taken_a = all_rails(rails, volts)
        self.rails_sum.setText(
            f"All on: {say(taken_w, 'W')} from the battery, {say(taken_a, 'A')} at "
            f"{say(volts, 'V')}. Rails and their fuses are set under Need."
        )
        self.rails.show_rows([
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
        ])  # fmt: skip
        fit_height(self.rails, len(rails), 5, firm=True)
        counted = seen.figures["pack.usable_ah"]
        hours = appliance_hours(seen.project.need, rails, counted, seen.pack.nominal)
        self.appliances.show_rows([self._appliance(item) for item in hours])
        fit_height(self.appliances, len(hours), 8, firm=True)

    def _appliance(self, item: ApplianceHours) -> Row:
        return Row(
            (
                item.name,
                item.rail,
                say(item.draws_w, "W"),
                say_hours(item.wanted_h),
                say_hours(item.alone.number),
                say_hours(item.together.number),
            ),
            key=(item.name, item.rail),
            marks={5: "amber"} if item.together.number < item.wanted_h else {},
        )
