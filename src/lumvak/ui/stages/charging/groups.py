"""Groups: how they stand, what is lost and why, what evens them out, and how it goes on."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pyqtgraph as pg
from msgspec.structs import asdict, replace
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from lumvak.core import said as core_said
from lumvak.core import units
from lumvak.core.balancing.balancing import Balancing
from lumvak.core.balancing.cycles import Cycle
from lumvak.core.balancing.imbalance import Imbalance, imbalance
from lumvak.core.charging_in_hand import cycles_in_hand
from lumvak.core.document.charging import ChargeGroup
from lumvak.core.evaluation import Evaluation
from lumvak.core.fields import fields_of
from lumvak.core.said import Text, capital, phrase, sentences
from lumvak.core.units import QuantityError
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, in_words, parse, said_of, say, say_hours, worded
from lumvak.ui.stages.charging.simulated import Simulated
from lumvak.ui.stages.charging.vessels import VesselsView
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.grid import MOST_IN_FULL, Grid, pasted_rows
from lumvak.ui.widgets.grid_columns import Record, quantity_column, shown_column
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import keep_room, named_plot, round_range, show_points
from lumvak.ui.widgets.quantity_field import FieldChoice, edit_or_why, small_field
from lumvak.ui.widgets.sentence import Sentence
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import side_by_side, soft

BY = (
    ("board", "the BMS"),
    ("module", "resistors"),
    ("active", "an active balancer"),
    ("none", "nothing"),
)
AT = (("top", "top"), ("bottom", "bottom"))
WAYS = (("high-low", "highest to lowest"), ("pack-low", "pack to lowest"),
        ("high-pack", "highest to pack"))  # fmt: skip
PASTED = (("ah", units.CAPACITY), ("share", units.FRACTION), ("volts", units.VOLTAGE),
          ("leak_ma", units.MILLIAMP), ("mohm", units.MILLIOHM))  # fmt: skip
GRID = (
    shown_column("group", "group"),
    quantity_column("holds", "ah", units.CAPACITY, optional=True),
    quantity_column("charge", "share", units.FRACTION, optional=True),
    quantity_column("OCV", "volts", units.VOLTAGE, optional=True),
    quantity_column("loses", "leak_ma", units.MILLIAMP, optional=True),
    quantity_column("resistance", "mohm", units.MILLIOHM, optional=True),
    shown_column("known by", "origin", wide=True, left=True),
)
CAUSES = {
    "none": "Nothing is lost that counts.",
    "out-of-step": "They are out of balance: nothing is wrong with the cells; balancing gives it "
    "back.",
    "small": "Group {} is small: balancing gives nothing back. Stronger cells in it would.",
    "both": "They are out of balance, and group {} is small: balancing gives back the first alone.",
}


EVENS = ("charging.bleed_a", "charging.even_h", "charging.bleed_w", "charging.excess_ah")
FOLLOWING = "Charge after charge is followed, to see whether they come together."
LEGEND = (
    "Hatched at the top: room that stays empty when the first is full; at the bottom: charge that "
    "stays in when the first is empty. A thick wall is a small group. Levels can be dragged."
)


def _line_of(plot: pg.PlotWidget, name: str, colour: str, symbol: str) -> pg.PlotDataItem:
    """A line of a plot with a mark at each cycle."""
    return plot.plot(
        pen=pg.mkPen(THEME.colour(colour), width=2),
        symbol=symbol,
        symbolSize=6,
        symbolBrush=THEME.colour(colour),
        symbolPen=None,
        name=name,
    )


class ChargeGroupsView(Page):
    """The vessels, what evens them out, and usable charge over cycles."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.by = FieldChoice(session, "charging.by", BY, "Balanced by")
        self.where = FieldChoice(session, "charging.at", AT, "Balanced at the")
        self.way = FieldChoice(session, "charging.mover.way", WAYS, "From and to")
        self.fields = {
            "stays_h": small_field(session, "charging.stays_h", "stays on the charger"),
            "between_days": small_field(session, "charging.between_days", "between two charges"),
            "cycles": small_field(session, "charging.cycles", "cycles"),
            "mover.amps": small_field(session, "charging.mover.amps", "carries"),
            "mover.efficiency": small_field(session, "charging.mover.efficiency", "of it arrives"),
        }
        self.says, self.evens = Sentence(session), Sentence(session)
        self.labels = [
            FigureLabel(session, "charging.usable_ah", "usable as they stand", strong=True),
            FigureLabel(session, "charging.lost_ah", "lost in all"),
            FigureLabel(session, "charging.out_of_step_ah", "balancing gives back"),
        ]
        self.vessels = VesselsView()
        self.course = named_plot("usable, Ah", "cycle")
        self.course.setAccessibleName(in_words("Usable charge over cycles"))
        self.line = _line_of(self.course, "usable", "copper", "o")
        self.apart = named_plot("apart at the top, %", "cycle")
        self.apart.setAccessibleName(in_words("How far groups are apart at the top over cycles"))
        self.apart_line = _line_of(self.apart, "apart", "ink", "s")
        self.after = soft("", wrap=True)
        self.grid = Grid(
            "Groups as they are charged",
            GRID,
            self.take,
            dict,
            (3, MOST_IN_FULL),
            self._pasted,
            fixed=True,
        )
        self.forget = QPushButton("forget what was typed")
        self.simulated = Simulated(
            _followed,
            lambda seen: seen.sized.pack.current.number,
        )
        self._lay_out()
        self.grid.setObjectName("charging.groups")
        self.vessels.levelled.connect(self.level)
        self.vessels.levelling.connect(self.try_level)
        self.forget.clicked.connect(lambda: self._keep((), "groups forgotten"))
        self.simulated.ready.connect(self._take_cycles)
        self.simulated.failed.connect(lambda text: session.tell("stop", text))

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(flowing(*self.labels, gap=18))
        outer.addWidget(self.says)
        outer.addWidget(self.vessels, 2)
        outer.addWidget(soft(LEGEND, wrap=True))
        self.moved_by = (self.way, self.fields["mover.amps"], self.fields["mover.efficiency"])
        outer.addWidget(
            flowing(
                side_by_side(soft("balanced by"), self.by),
                side_by_side(soft("at the"), self.where),
                *self.moved_by,
                self.fields["stays_h"],
                self.fields["between_days"],
                self.fields["cycles"],
                gap=14,
            )
        )
        outer.addWidget(self.evens)
        outer.addWidget(self.after)
        both = Turning(640)
        for plot in (self.course, self.apart):
            keep_room(plot, 120)
            both.columns.addWidget(plot)
        outer.addWidget(both, 1)
        outer.addWidget(self._typed())

    def _typed(self) -> QWidget:
        held = QWidget()
        below = QVBoxLayout(held)
        below.setContentsMargins(0, 0, 0, 0)
        below.setSpacing(THEME.px(4))
        below.addWidget(
            soft(
                "What is not typed is as the cells in hand were measured, as modules showed the "
                "groups last, or of the sheet.",
                wrap=True,
            )
        )
        below.addWidget(self.grid)
        self.grid.foot.insertWidget(0, self.forget)
        return held

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the groups of an evaluation; cycles are simulated off the window's thread."""
        charging, topic = evaluation.project.charging, evaluation.charging
        for widget in self.moved_by:
            widget.setVisible(charging.by == "active" and charging.at == "top")
        self.vessels.show_vessels(topic.imbalance)
        self.grid.show_records(
            [self._record(place, evaluation) for place in range(topic.now.count)],
            str(SPEECH.spelling),
        )
        self.forget.setEnabled(bool(charging.groups))
        self._say(evaluation)
        self.simulated.ask(evaluation)

    def _say(self, evaluation: Evaluation) -> None:
        topic = evaluation.charging
        stand, balancing = topic.imbalance, topic.held
        self.says.tell(_stands(stand), ("charging.top_ah", "charging.bottom_ah"))
        for label in self.labels:
            label.show_figure()
        self.evens.tell(_evens(evaluation) if _known(evaluation) else FOLLOWING, EVENS)
        self.about = (
            worded("{} of heat while all are bled", say(balancing.heat_w, "W"))
            if (balancing.bleed is not None)
            else ""
        )

    def _record(self, place: int, evaluation: Evaluation) -> Record:
        groups, now = evaluation.project.charging.groups, evaluation.charging.now
        kept = groups[place] if place < len(groups) else ChargeGroup()
        return {
            **asdict(kept),
            "group": place + 1,
            "origin": worded("size {}, charge {}", now.ah_from[place], now.share_from[place]),
        }

    def _take_cycles(self, found: tuple[Cycle, ...], evaluation: Evaluation) -> None:
        if _known(evaluation):
            self.evens.tell(_evens(evaluation), EVENS)
        count = np.arange(1.0, len(found) + 1.0)
        usable = np.array([cycle.usable_ah for cycle in found])
        apart = np.array([100.0 * cycle.apart for cycle in found])
        for line, plot, values in (
            (self.line, self.course, usable),
            (self.apart_line, self.apart, apart),
        ):
            show_points(line, count, values)
            low, high = float(values.min()), float(values.max())
            room = max(0.05 * high, 1e-3)
            least = 0.0 if plot is self.apart else max(0.0, low - room)
            plot.show_whole((0.5, len(found) + 0.5), round_range(least, high + room))
        last, first = found[-1], found[0]
        ended = {
            "over": "the BMS ends the charge at the first full group",
            "end current": "the charger ends it",
            "time": "it never ends",
        }
        lamp, stays = float(np.ptp(first.lamp)), evaluation.project.charging.stays_h
        more = ""
        if stays > 0.0:
            more = worded(
                ", after {} more on the charger {}", say_hours(stays), say(first.apart, "%")
            )
        if last.flat:
            more += worded(
                ". Group {} is then emptied before the next charge: never charge it", last.flat[0]
            )
        self.after.setText(
            worded(
                "When the charger first shows full, groups are {} apart{}. After "
                "{} cycles {} ({} in the first), and {} apart at the top; {}.",
                say(lamp, "%"),
                more,
                len(found),
                say(last.usable_ah, in_words("Ah")),
                say(first.usable_ah, in_words("Ah")),
                say(last.apart, "%"),
                ended.get(last.ended_by, last.ended_by),
            )
        )

    # What is done.

    def try_level(self, group: int, share: float) -> None:
        """Show what a level that is dragged would do."""
        evaluation = self.session.evaluation
        now = evaluation.charging.now
        shares = now.share.copy()
        shares[group - 1] = share
        stand = imbalance(now.groups.ah, shares * now.groups.ah)
        self.vessels.show_vessels(stand)
        self.says.tell(_stands(stand))
        shown = (stand.usable_ah, stand.lost_ah, stand.by_step_ah)
        for label, value in zip(self.labels, shown, strict=True):
            label.show_figure(say(value, in_words("Ah")))
        self.simulated.try_out(
            lambda report: cycles_in_hand(evaluation, share=shares, report=report), evaluation
        )

    def level(self, group: int, share: float) -> None:
        """Bring a group to a share of its capacity."""
        rows = self._rows()
        kept = rows[group - 1]
        rows[group - 1] = replace(kept, share=share, volts=None)
        self._keep(tuple(rows), worded("charge of group {}", group))

    def take(self, records: list[Record]) -> str:
        """Keep what is known of the groups as it stands in the grid; returns what is wrong."""
        kept = tuple(
            {name: record.get(name) for name in fields_of(ChargeGroup)} for record in records
        )
        # What was typed of a pack of more groups stays.
        more = self.session.project.charging.groups[len(kept) :]
        return edit_or_why(self.session, {"charging.groups": (*kept, *more)}, "groups")

    def paste(self) -> None:
        """Take what is on the clipboard: capacity, charge, volts, loss and resistance in a row."""
        clipboard = QGuiApplication.clipboard()
        try:
            records = self._pasted("" if clipboard is None else clipboard.text())
        except QuantityError as problem:
            self.session.tell("warn", said_of(problem))
            return
        self.take(records)

    def _pasted(self, text: str) -> list[Record]:
        found = []
        for cells in pasted_rows(text, len(PASTED)):
            found.append(
                {
                    name: parse(item, kind) if item else None
                    for (name, kind), item in zip(PASTED, cells, strict=True)
                }
            )
        return found

    def _rows(self) -> list[ChargeGroup]:
        evaluation = self.session.evaluation
        groups = self.session.project.charging.groups
        return [
            groups[place] if place < len(groups) else ChargeGroup()
            for place in range(max(evaluation.charging.now.count, len(groups)))
        ]

    def _keep(self, rows: tuple[ChargeGroup, ...], text: str) -> None:
        if problem := edit_or_why(self.session, {"charging.groups": rows}, text):
            self.session.tell("warn", problem)


def _over_days(balancing: Balancing) -> Text:
    """Over how long groups come together as the pack is used, in words."""
    days = 0.0 if balancing.days is None else balancing.days
    return phrase("over {}", core_said.say(days, "d")) if days >= 1.0 else in_words("within a day")


def _known(evaluation: Evaluation) -> bool:
    """Whether it is known at once if groups come together: nothing is followed, or it was."""
    plain = evaluation.project.charging.at == "bottom" or not evaluation.charging.held.works
    return plain or "balancing" in vars(evaluation.charging)


def _followed(evaluation: Evaluation, report: Callable[[float], bool]) -> tuple[Cycle, ...]:
    """The cycles of an evaluation; whether its groups come together is followed with them."""
    assert evaluation.charging.balancing is not None
    return cycles_in_hand(evaluation, report=report)


def _cause(stand: Imbalance) -> Text:
    words = CAUSES[stand.cause]
    return phrase(words, stand.smallest) if "{}" in words else words


def _stands(stand: Imbalance) -> Text:
    """How groups stand, and why something is lost."""
    return phrase(
        "{} go in until group {} is full, {} come out until group {} is empty. {}",
        core_said.say(stand.top_ah, in_words("Ah")),
        stand.first_full,
        core_said.say(stand.bottom_ah, in_words("Ah")),
        stand.first_empty,
        _cause(stand),
    )


def _evens(evaluation: Evaluation) -> Text:
    """What evens the groups out, for how long, what is left undone, where the heat goes."""
    charging = evaluation.project.charging
    if charging.at == "bottom":
        return in_words(
            "Balanced at the bottom nothing is bled; all begin empty, and the charge must stop at "
            "the first full group: a charger that knows the pack’s volts alone does not."
        )
    if not evaluation.charging.held.works:
        return in_words(
            "Nothing balances them: groups drift apart by what they lose by themselves."
        )
    balancing = evaluation.charging.balancing
    name = capital(balancing.name)
    if balancing.stop:
        return phrase("Stop: {}. {}", balancing.because, balancing.would)
    if balancing.hours is None:
        return phrase("{} never balances them: {}. {}", name, balancing.because, balancing.would)
    if balancing.hours == 0.0:
        return phrase("{} has nothing to do: they are balanced.", name)
    cut_off: Text = ""
    if balancing.cut_off_v is not None:
        cut_off = phrase(
            "The BMS cuts the charge off with the fullest group at {}, bleeds it, "
            "and goes on: the hours get longer by that.",
            core_said.say(balancing.cut_off_v, "V"),
        )
    if balancing.bleed is None:
        return phrase(
            "{} puts {} in and needs {}.",
            name,
            core_said.say(balancing.flow_a, "A"),
            core_said.say_hours(balancing.hours),
        )
    left = phrase("As the pack is used they are balanced {}.", _over_days(balancing))
    over: Text = ""
    if balancing.left_share > 0.01:
        over = phrase(
            "It balances down to {}: over that, the last {}, all are bled alike.",
            core_said.say(balancing.bleed.from_v, "V"),
            core_said.say(balancing.left_share, "%"),
        )
    bleeds = phrase(
        "{} bleeds {} over {}: {} on the charger until they are balanced. All at once give off {}, "
        "on the BMS and into the air around it.",
        name,
        core_said.say(balancing.flow_a, "A"),
        core_said.say(balancing.bleed.from_v, "V"),
        core_said.say_hours(balancing.hours),
        core_said.say(balancing.heat_w, "W"),
    )
    return sentences(bleeds, over, left, cut_off)
