"""A charge over time: volts, amps, charge and warmth with their band, and what ends it."""

from __future__ import annotations

from typing import Any

import numpy as np
import pyqtgraph as pg
from PyQt6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from lumvak.core import said as core_said
from lumvak.core.balancing.imbalance import LEAST_LOSS
from lumvak.core.charging.charge_window import cold_words
from lumvak.core.charging.to_full import ENDED_WORDS, Charge, cost_of
from lumvak.core.charging_in_hand import charge_in_hand, why_not_begun
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import Text, phrase
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, say_hours, worded
from lumvak.ui.stages.charging.simulated import Simulated
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import (
    Plot,
    keep_room,
    marked_line,
    named_plot,
    round_range,
    show_points,
)
from lumvak.ui.widgets.quantity_field import charging_c, small_field
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.sentence import Sentence
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

COLUMNS = (
    Column("phase", left=True, sample="pre-charge", tip="In the order in which they come"),
    Column("lasts", tip="From where it begins until it ends"),
    Column("puts in", tip="Through every group"),
    Column("ends with", left=True, stretch=True, tip="What turns it to the next"),
)
PLOTS = (
    ("volts", "pack, V", "Volts of the pack while it is charged"),
    ("amps", "charge current, A", "Charge current over time"),
    ("share", "charge, %", "Charge of the pack while it is charged"),
    ("celsius", "cells, °C", "Warmth of the cells while they are charged"),
)


class TimeView(Page):
    """How long a charge takes with the charger in force, and what it is like."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.fields = {
            "start": small_field(session, "charging.start", "charged from"),
            "cell_c": small_field(
                session, "charging.cell_c", "cells at", width=60, usual=charging_c
            ),
            "tariff": small_field(session, "charging.tariff", "a kWh costs", width=60),
            "mains_share": small_field(session, "charging.mains_share", "of the mains arrives"),
        }
        self.says, self.more = Sentence(session), soft("", wrap=True)
        self.table = RowsTable(COLUMNS, "Phases of the charge")
        self.plots: dict[str, Plot] = {}
        self.lines: dict[str, Any] = {}
        self.bands: dict[str, tuple[Any, Any]] = {}
        self.simulated = Simulated(lambda seen, _: charge_in_hand(seen, band=True))
        self.charge: Charge | None = None
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(flowing(*self.fields.values(), gap=14))
        outer.addWidget(self.says)
        outer.addWidget(self.more)
        outer.addWidget(self.table)
        outer.addWidget(self._four(), 1)
        self.held = marked_line(0.0, 0, "verdigris", "the charger holds", 0.03, (0, 0))
        self.plots["volts"].addItem(self.held)
        self.simulated.ready.connect(self._take)
        self.simulated.failed.connect(lambda text: session.tell("stop", text))

    def _four(self) -> QWidget:
        """The four plots, two by two."""
        held = QWidget()
        grid = QGridLayout(held)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(THEME.px(8))
        pen = pg.mkPen(THEME.colour("copper"), width=2)
        edge = pg.mkPen(None)
        for place, (key, axis, name) in enumerate(PLOTS):
            plot = named_plot(axis, "hours")
            plot.setAccessibleName(name)
            keep_room(plot, 130)
            if key in ("volts", "amps"):
                low, high = plot.plot(pen=edge), plot.plot(pen=edge)
                fill = pg.FillBetweenItem(low, high, brush=THEME.colour("copper_wash"))
                plot.addItem(fill)
                self.bands[key] = (low, high)
            self.lines[key] = plot.plot(pen=pen, name=axis)
            self.plots[key] = plot
            grid.addWidget(plot, place // 2, place % 2)
        return held

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the charge of an evaluation; it is simulated off the window's thread."""
        self.about = worded("with {}", evaluation.charging.charger.name)
        if self._does_not_flow(evaluation):
            return
        self.simulated.ask(evaluation)
        if self.charge is None:
            self.says.tell("It is worked out …")
        elif not self.simulated.busy:
            self._say(evaluation, self.charge)

    def _does_not_flow(self, evaluation: Evaluation) -> bool:
        """Say so where a charge does not begin, or gives nothing; whether that is so."""
        topic, start = evaluation.charging, evaluation.project.charging.start
        present_v, text = topic.setting.present_v(start), why_not_begun(evaluation)
        if text:
            pass
        elif topic.charger.kind == "nickel" or topic.charger.volts > present_v:
            return False
        else:
            text = phrase(
                "{} gives {} and the pack stands at {}: nothing flows. Take one for {}.",
                topic.charger.name,
                core_said.say(topic.charger.volts, "V"),
                core_said.say(present_v, "V"),
                core_said.say(topic.right.volts.number, "V"),
            )
        self.simulated.cancel()
        self.charge = None
        self.says.tell(text, (topic.right.volts.key,))
        self.more.setText("")
        self.table.show_rows([])
        for line in (
            *self.lines.values(),
            *(item for pair in self.bands.values() for item in pair),
        ):
            show_points(line, [], [])
        return True

    def _take(self, charge: Charge, evaluation: Evaluation) -> None:
        self.charge = charge
        self._say(evaluation, charge)
        hours = charge.seconds / 3600.0
        across = round_range(0.0, max(charge.hours, 0.1))
        shown = {
            "volts": charge.volts,
            "amps": charge.amps,
            "share": 100.0 * charge.share,
            "celsius": charge.celsius,
        }
        for key, values in shown.items():
            show_points(self.lines[key], hours, values)
            low, high = float(np.min(values)), float(np.max(values))
            band = {"volts": charge.band_v, "amps": charge.band_a}.get(key)
            if band is not None:
                for line, edge in zip(self.bands[key], band, strict=True):
                    show_points(line, hours, edge)
                low, high = min(low, float(band.min())), max(high, float(band.max()))
            if key in ("amps", "share"):
                low = 0.0
            if key == "celsius":
                low, high = low - 1.0, high + 1.0
            self.plots[key].show_whole(across, round_range(low, max(high, low + 1e-3)))
        hold = evaluation.charging.charger.volts
        self.held.setVisible(evaluation.charging.charger.kind != "nickel")
        self.held.setValue(hold)

    def _say(self, evaluation: Evaluation, charge: Charge) -> None:
        """It is long, for each line is a few words."""
        topic, charging = evaluation.charging, evaluation.project.charging
        hours: Text = core_said.say_hours(charge.hours)
        if charge.band_h is not None:
            low, high = (core_said.say_hours(value) for value in charge.band_h)
            hours = phrase("{} ({} to {})", hours, low, high)
        stops = min(charge.stops_share, 1.0)
        mean_v = float(charge.group_v[-1].mean())
        left = (1.0 - stops) * float(topic.now.groups.ah.mean())
        ends: Text = phrase("{} a cell", core_said.say(mean_v, "V"))
        if left > LEAST_LOSS * topic.setting.group_ah:
            ends = phrase("{}, {} given up", ends, core_said.say(left, in_words("Ah")))
        self.says.tell(
            phrase(
                "{}, ended by {}: {} full, {}.",
                hours,
                ENDED_WORDS[charge.ended_by],
                core_said.say(stops, "%"),
                ends,
            ),
            (topic.right.volts.key,),
        )
        cost = ""
        if charging.tariff is not None:
            money = cost_of(charge.wh, charging.mains_share, charging.tariff)
            cost = worded(" It costs {}.", say(money, in_words("money")))
        first = ""
        differ = bool(np.ptp(charge.group_share) > 1e-6)
        if charge.ended_by in ("board", "first full group") and differ:
            first = worded(" Group {} is full first.", charge.first)
        cold = cold_words(
            evaluation.sized.choice.cell,
            topic.setting.celsius,
            topic.charger.amps,
            topic.setting.most_cells.number,
            0 if topic.setting.board is None else topic.setting.board.sensors,
        )
        self.more.setText(
            worded(
                "{} and {} go in, {} of it stays.{}{} {}",
                say(charge.ah, in_words("Ah")),
                say(charge.wh, in_words("Wh")),
                say(charge.efficiency, "%"),
                cost,
                first,
                cold,
            )
        )
        until = {
            "pre-charge": "all groups over the empty voltage",
            "bulk": "the charger’s volts are reached",
        }
        self.table.show_rows(
            [
                Row(
                    (
                        part.name,
                        say_hours(part.hours),
                        say(part.ah, in_words("Ah")),
                        ENDED_WORDS[charge.ended_by]
                        if place == len(charge.parts) - 1
                        else until[part.name],
                    ),
                    key=part.name,
                )
                for place, part in enumerate(charge.parts)
            ]
        )
        fit_height(self.table, len(charge.parts), 3, firm=True)
