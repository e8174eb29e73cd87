"""Resistor modules side by side, evening out by hand, and balancing at the bottom."""

from __future__ import annotations

from PyQt6.QtWidgets import QVBoxLayout

from lumvak.core.balancing.by_hand import HandStep, balancing_by_hand
from lumvak.core.balancing.means import bled_over_v
from lumvak.core.balancing.own_resistor import WANTED_H
from lumvak.core.balancing.resistor import SPARE, ResistorChoice, resistor, series_values
from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.speech import digits, in_words, say, say_hours, spoken, worded
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import FieldChoice, small_field, try_edit
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, side_by_side, soft

STRATEGIES = (("threshold", "over its volts"), ("average", "over the lowest"))
YES_NO = ((True, "always"), (False, "while charging"))
HAND = ((True, "to the middle"), (False, "all to the lowest"))


def _rating_mark(item: ResistorChoice) -> str:
    if item.rating_w >= SPARE * item.watts:
        return ""
    return "crimson" if item.burns else "amber"


COLUMNS = (
    Column(
        "resistor",
        text=lambda it: say(it.ohm, "Ω"),
        tip="Of the usual series of values; click one to take it",
    ),
    Column("amps", text=lambda it: say(it.amps, "A"), tip="At the volts where it begins"),
    Column("watts", text=lambda it: say(it.watts, "W"), tip="In one resistor"),
    Column(
        "rated for",
        text=lambda it: say(it.rating_w, "W"),
        mark=_rating_mark,
        tip="At least twice its watts, in a closed box",
    ),
    Column(
        "gets warmer by", text=lambda it: say(it.rise_k, "K"), tip="In the box, with that rating"
    ),
    Column(
        "balanced after",
        text=lambda it: say_hours(it.hours) if it.hours > 0.0 else "even",
        tip="Hours at the top for the groups as they stand",
    ),
    Column("all together", text=lambda it: say(it.all_w, "W"), tip="Heat of all groups at once"),
    Column("", left=True, stretch=True),
)
HAND_COLUMNS = (
    Column("group", text=lambda it: str(it.group), tip="From the most negative"),
    Column(
        "do",
        text=lambda it: it.do,
        mark=lambda it: "copper" if it.do == "discharge" else "verdigris",
        left=True,
        sample="discharge",
        tip="With a resistor, or a charger for one cell",
    ),
    Column("charge", text=lambda it: say(it.ah, in_words("Ah")), tip="That is to flow"),
    Column("amps", text=lambda it: say(it.amps, "A"), tip="On the way, about"),
    Column("for", text=lambda it: say_hours(it.hours), tip="About so long"),
    Column(
        "from", text=lambda it: worded("{} V", digits(it.from_v, ".3f")), tip="Where it rests now"
    ),
    Column(
        "until it rests at",
        text=lambda it: worded("{} V", digits(it.to_v, ".3f")),
        tip="Wait some minutes before it is read",
    ),
    Column("", left=True, stretch=True),
)
CAUTION = (
    "One group at a time, attended, every other terminal covered. A resistor gets hot enough to "
    "burn; a charger for one cell sees that cell alone, so nothing else may be on the pack."
)


def bled_from_v(evaluation: Evaluation) -> float:
    """Where resistors bleed from in V, as said or as usual."""
    module = evaluation.project.charging.module
    return bled_over_v(module, evaluation.charging.setting.ceiling_v)


class ResistorsView(Page):
    """Which resistor, what to do by hand, and how the bottom is balanced."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.fields = {
            "ohm": small_field(session, "charging.module.ohm", "resistor"),
            "watt": small_field(session, "charging.module.watt", "rated for"),
            "from_v": small_field(
                session, "charging.module.from_v", "bleeds over", width=60, usual=bled_from_v
            ),
        }
        self.strategy = FieldChoice(
            session, "charging.module.strategy", STRATEGIES, "Bleeds a group that is"
        )
        self.always = FieldChoice(session, "charging.module.always", YES_NO, "Bleeds")
        self.says, self.hand_says, self.bottom_says = (soft("", wrap=True) for _ in range(3))
        self.labels = [
            FigureLabel(session, "charging.resistor_a", "carries", strong=True),
            FigureLabel(session, "charging.resistor_w", "gives off"),
            FigureLabel(session, "charging.resistor_rating_w", "rated for at least"),
            FigureLabel(
                session, "charging.most_ohm", worded("balanced within {} h by", f"{WANTED_H:.0f}")
            ),
        ]
        self.bottom_labels = [
            FigureLabel(session, "charging.bottom_a", "it draws"),
            FigureLabel(session, "charging.bottom_h", "empty within"),
            FigureLabel(session, "charging.bottom_stop_v", "a charge stops at"),
            FigureLabel(session, "charging.bottom_pack_v", "the pack then at", strong=True),
        ]
        self.table = RowsTable(COLUMNS, "Resistors side by side")
        self.hand_table = RowsTable(HAND_COLUMNS, "By hand")
        self.towards = ChoiceRow(HAND, "Balanced")
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(
            flowing(
                *self.fields.values(),
                side_by_side(soft("a group"), self.strategy),
                self.always,
                gap=14,
            )
        )
        outer.addWidget(flowing(*self.labels, gap=18))
        outer.addWidget(self.says)
        outer.addWidget(self.table)
        outer.addWidget(heading("By hand"))
        outer.addWidget(flowing(side_by_side(soft("balanced"), self.towards)))
        outer.addWidget(self.hand_says)
        outer.addWidget(self.hand_table)
        outer.addWidget(soft(CAUTION, wrap=True))
        outer.addWidget(heading("At the bottom"))
        outer.addWidget(flowing(*self.bottom_labels, gap=18))
        outer.addWidget(self.bottom_says)
        outer.addStretch(1)
        self.table.picked.connect(self.pick)
        self.towards.picked.connect(self._turn)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the resistors of an evaluation."""
        at_v = bled_from_v(evaluation)
        excess = float(evaluation.charging.held.excess_ah.max())
        self._show_resistors(evaluation, at_v, excess)
        self._show_hand(evaluation)
        self._show_bottom(evaluation)

    def _show_resistors(self, evaluation: Evaluation, at_v: float, excess: float) -> None:
        module, series = evaluation.project.charging.module, evaluation.sized.choice.series
        values = sorted({*series_values(module.ohm), module.ohm})
        rows = [
            resistor(ohm, at_v, excess, series, module.watt if ohm == module.ohm else None)
            for ohm in values
        ]
        self.table.show_rows([_row(item, item.ohm == module.ohm) for item in rows])
        fit_height(self.table, len(rows), 7, firm=True)
        mine = next(item for item in rows if item.ohm == module.ohm)
        most = self.session.figure("charging.most_ohm")
        for label in self.labels[:-1]:
            label.show_figure()
        self.labels[-1].setVisible(most is not None)
        if most is not None:
            self.labels[-1].show_figure(worded("{} or less", say(most.number, "Ω")))
        at_most = resistor(
            module.ohm, max(at_v, evaluation.charging.setting.ceiling_v), 0.0, series, module.watt
        )
        words = ""
        if at_most.burns:
            words = worded("Stop: {}.", spoken(at_most.burns))
        elif module.watt < SPARE * mine.watts:
            words = worded(
                "{} is too little: it gets some {} warmer than its box.",
                say(module.watt, "W"),
                say(mine.rise_k, "K"),
            )
        self.says.setText(words)
        self.says.setVisible(bool(words))

    def _show_hand(self, evaluation: Evaluation) -> None:
        now, charging = evaluation.charging.now, evaluation.project.charging
        one_cell_a = min(0.2 * float(now.groups.ah.min()), 2.0)
        steps = balancing_by_hand(
            now.groups, now.share, charging.module.ohm, one_cell_a, bool(self.towards.value)
        )
        self.hand_table.setVisible(bool(steps))
        if not steps:
            self.hand_says.setText(
                in_words("The groups are balanced, as far as is known: nothing to do.")
            )
            return
        self.hand_says.setText(
            worded(
                "With the {} resistor, and a charger for one cell that gives {}. "
                "The most first; read each once it has rested.",
                say(charging.module.ohm, "Ω"),
                say(one_cell_a, "A"),
            )
        )
        self.hand_table.show_rows([_hand_row(item) for item in steps])
        fit_height(self.hand_table, len(steps), 8, firm=True)

    def _show_bottom(self, evaluation: Evaluation) -> None:
        plan = evaluation.charging.bottom
        for label in self.bottom_labels:
            label.show_figure()
        self.bottom_says.setText(
            worded(
                "Empty every group to {} OCV with a load of its own; wait an hour, "
                "and again. From then on a charge must stop when group {} is full, "
                "whatever the pack says, {} V else: a BMS that cuts off at a group "
                "does that, or a charger set that low; no bleed at the top.",
                say(plan.to_v, "V"),
                plan.first,
                digits(plan.usual_v, ".2f"),
            )
        )

    def pick(self, ohm: float) -> None:
        """Take a resistor, with the least rating that will do."""
        evaluation = self.session.evaluation
        at_v = bled_from_v(evaluation)
        found = resistor(ohm, at_v, 0.0, evaluation.sized.choice.series)
        try_edit(
            self.session,
            {"charging.module.ohm": ohm, "charging.module.watt": found.rating_w},
            "resistor",
        )

    def _turn(self, towards: bool) -> None:
        self.towards.show_value(towards)
        self._show_hand(self.session.evaluation)


def _row(item: ResistorChoice, chosen: bool) -> Row:
    return row_of(COLUMNS, item, value=item.ohm, key=item.ohm, chosen=chosen)


def _hand_row(item: HandStep) -> Row:
    return row_of(HAND_COLUMNS, item, key=item.group)
