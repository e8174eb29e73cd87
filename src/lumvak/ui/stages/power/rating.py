"""What the pack gives for good and for a while, what sets it, and what the next upgrade buys."""

from __future__ import annotations

import math

from PyQt6.QtWidgets import QPushButton, QVBoxLayout

from lumvak.core.evaluation import Evaluation, path_in_hand
from lumvak.core.proving.measured import measured
from lumvak.core.proving.proof import STANDINGS, standing_of
from lumvak.core.rating.chain import RATED_FOR_S, rating, rating_key
from lumvak.core.rating.upgrades import Upgrade, upgrades
from lumvak.core.rating.working import step_figure
from lumvak.ui.explain import explain_made
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, say_fixed, spoken, worded
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft

TIMES = tuple(
    (item, "continuous" if item is None else worded("for {}", say(item, "s")))
    for item in RATED_FOR_S
)
LINK_COLUMNS = (
    Column("link", left=True, tip="Place in the path"),
    Column("what", left=True, stretch=True, tip="The part and its measure"),
    *(
        Column(words, sample="0000 A", tip=worded("Pack current that the link holds {}", words))
        for _, words in TIMES
    ),
    Column("load", tip="What is drawn continuously"),
    Column("margin", tip="Of the continuous limit, over the load"),
)
STEP_COLUMNS = (
    Column("then raise", left=True, tip="The weakest link after the steps above"),
    Column("by", left=True, stretch=True, tip="What lifts it"),
    Column("from", sample="0000 A", tip="Rating of the path before"),
    Column("to", sample="0000 A", tip="Rating of the path after"),
    Column("cost", sample="000.00", tip="Cost of the change"),
)


class RatingView(Page):
    """Every link with its limits above, the next upgrades below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.labels = [
            FigureLabel(session, rating_key(seconds), words, strong=seconds is None)
            for seconds, words in TIMES
        ]
        self.links = RowsTable(LINK_COLUMNS, "Links of the path")
        self.steps = RowsTable(STEP_COLUMNS, "Upgrades")
        self.total = soft("", wrap=True)
        self.standing = soft("", wrap=True)
        self.take = QPushButton("")
        self.step = 0
        self._steps: tuple[Upgrade, ...] = ()
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(flowing(*self.labels, gap=14))
        outer.addWidget(self.standing)
        outer.addWidget(self.links)
        outer.addWidget(heading("What would the next upgrade buy?"))
        outer.addWidget(self.steps)
        outer.addWidget(flowing(self.take))
        outer.addWidget(self.total)
        outer.addStretch(1)
        self.links.cell_clicked.connect(lambda key, _: self._explain(key))
        self.links.picked.connect(self._explain)
        self.steps.picked.connect(self._pick_step)
        self.steps.cell_clicked.connect(lambda place, _: self._pick_step(place))
        self.take.clicked.connect(self._take)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the rating of the path of an evaluation, and its upgrades."""
        ratings = [rating(evaluation.path.links, seconds) for seconds, _ in TIMES]
        for label, item in zip(self.labels, ratings, strict=True):
            label.setVisible(item is not None)
            if item is not None:
                label.show_figure(f"{say_fixed(item.current_a, 'A')}, {spoken(item.link.name)}")
        self.standing.setText(STANDINGS[standing_of(measured(evaluation.project.proving))])
        rows = []
        for link in evaluation.path.links:
            held = [
                link.continuous_a if seconds is None else link.limit_a(seconds)
                for seconds, _ in TIMES
            ]
            marks = {
                2 + place: "crimson" if link.bursts else "amber"
                for place, item in enumerate(ratings)
                if item is not None and item.link is link
            }
            spare = "—" if math.isinf(link.continuous_a) else say(link.headroom, "%")
            rows.append(
                Row(
                    (
                        spoken(link.name),
                        spoken(link.detail),
                        *(say(amps, "A") for amps in held),
                        say(link.demand_a, "A"),
                        spare,
                    ),
                    value=link.key,
                    marks=marks,
                    key=link.key,
                )
            )
        self.links.show_rows(rows)
        fit_height(self.links, len(rows), 12, firm=True)
        steps = self._steps = upgrades(path_in_hand(evaluation))
        self.step = min(self.step, max(len(steps) - 1, 0))
        self.steps.show_rows(
            [_step_row(step, steps, place, place == self.step) for place, step in enumerate(steps)]
        )
        fit_height(self.steps, len(steps), 6, firm=True)
        taken = steps[self.step] if steps else None
        self.take.setVisible(taken is not None and taken.cost is not None)
        if taken is not None:
            self.take.setText(worded("take {} for the {}", spoken(taken.what), spoken(taken.name)))
        paid = [step.cost for step in steps if step.cost is not None]
        self.total.setText(
            worded(
                "All of them: about {}, to {}. Conductors and wires are counted by "
                "their length, work is not.",
                say(sum(paid), in_words("money")),
                say(steps[-1].to_a, "A"),
            )
            if paid
            else in_words("Nothing on offer raises it.")
        )

    def _explain(self, key: str) -> None:
        link = next((item for item in self.session.evaluation.path.links if item.key == key), None)
        if link is not None:
            self.session.explain(link.limit.key)

    def _pick_step(self, place: int) -> None:
        """Mark a step, and show how what it raises the path to came about."""
        self.step = place
        self.show_evaluation(self.session.evaluation)
        links = {link.key: link for link in self.session.evaluation.path.links}
        step = self._steps[place]
        explain_made(self.session, step_figure(step, links[step.link].limit))

    def _take(self) -> None:
        """Take the part of the step that is marked."""
        step = self._steps[self.step]
        self.step = 0
        if step.changes:
            try_edit(self.session, dict(step.changes), spoken(step.what))
        else:
            self.session.tell(
                "note", worded("{}: set it under “{}”.", spoken(step.what), spoken(step.name))
            )


def _step_row(step: Upgrade, steps: tuple[Upgrade, ...], place: int, chosen: bool) -> Row:
    to = say(step.to_a, "A")
    if step.in_vain:
        other = next((item.name for item in steps[place + 1 :] if item.link != step.link), "")
        to = worded("as weak: {}", spoken(other)) if other else "no more"
    return Row(
        (
            spoken(step.name),
            spoken(step.what),
            say(step.from_a, "A"),
            to,
            "—" if step.cost is None else say(step.cost, in_words("money")),
        ),
        value=place,
        key=place,
        chosen=chosen,
        faded=step.cost is None,
    )
