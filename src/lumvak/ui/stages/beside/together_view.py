"""Both packs together: joined as they stand, and run until the last has opened."""

from __future__ import annotations

import numpy as np
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from lumvak.core.beside.figures import beside_figures
from lumvak.core.beside.findings import STAGE, beside_findings
from lumvak.core.beside.joining import safe_charges
from lumvak.core.beside.side import PartCarries
from lumvak.core.beside.together import Together
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import walk
from lumvak.core.put_beside import put_beside
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, say_hours, spoken, worded
from lumvak.ui.stages.beside.other_file import OtherFile
from lumvak.ui.stages.beside.second_fields import SecondFields
from lumvak.ui.stages.beside.share_chart import ShareChart
from lumvak.ui.widgets.flow import scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, soft

CAUTION = (
    "Read both before each plug: packs that stand apart drive a current through each other that no "
    "BMS was made for. Over 60 V DC is dangerous to touch. Local rules and licensed practice come "
    "before what is said here."
)
FIELDS_PX = 300
COLUMNS = (
    Column("pack", lambda it: it.side, left=True, sample="the second pack", tip="Whose part"),
    Column("part", lambda it: spoken(it.what), left=True, stretch=True, tip="Which part of it"),
    Column(
        "when",
        lambda it: it.when,
        left=True,
        sample="giving",
        tip="Joined: at that moment. Giving and taking: while both run. Alone: once one has opened",
    ),
    Column("carries", lambda it: say(it.carries_a, "A"), sample="000.0 A", tip="At most"),
    Column(
        "may",
        lambda it: say(it.limit_a, "A"),
        sample="000.0 A",
        mark=lambda it: "crimson" if not it.holds else "amber" if it.assumed else "",
        tip="What it may carry continuously; amber where that is assumed, red where it is less",
    ),
)


def _sorted(items: tuple[PartCarries, ...]) -> list[PartCarries]:
    """The nearest to its limit first."""
    return sorted(items, key=lambda it: it.limit_a / max(it.carries_a, 1e-9))


class TogetherView(Page):
    """What is known at the left, what comes of it at the right."""

    def __init__(self, session: Session, other: OtherFile) -> None:
        super().__init__(session)
        self.other = other
        self.fields = SecondFields(session)
        self.refused, self.joining, self.run = plain(""), plain(""), plain("")
        for label in (self.refused, self.joining, self.run):
            label.setWordWrap(True)
        self.refused.setObjectName("bad")
        self.chart = ShareChart()
        self.table = RowsTable(COLUMNS, "What each part carries")
        self.caution = soft(CAUTION, wrap=True)
        self.caution.setObjectName("caution")
        self.waits = soft(
            "Say what stands beside this pack: how many Ah, or its project. Its resistance is "
            "taken to be as usual for its charge until you know it.",
            wrap=True,
        )
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        both = QHBoxLayout()
        both.setSpacing(THEME.px(18))
        self.fields.setFixedWidth(THEME.px(FIELDS_PX))
        self.figures = RowsTable(FIGURES, "Figures of both packs")
        self.figures.setFixedWidth(THEME.px(FIELDS_PX))
        self.figures.picked.connect(session.explain)
        left = QVBoxLayout()
        left.addWidget(self.fields)
        left.addWidget(self.figures)
        left.addStretch(1)
        both.addLayout(left)
        right = QVBoxLayout()
        right.setSpacing(THEME.px(6))
        self.results = QWidget()
        inner = QVBoxLayout(self.results)
        inner.setContentsMargins(0, 0, 0, 0)
        inner.setSpacing(THEME.px(6))
        for widget in (self.joining, self.run):
            inner.addWidget(widget)
        inner.addWidget(self.chart, 4)
        inner.addWidget(self.table, 5)
        keep_rows(self.table, 5)
        right.addWidget(self.waits)
        right.addWidget(self.refused)
        right.addWidget(self.results, 1)
        right.addWidget(self.caution)
        both.addLayout(right, 1)
        outer.addLayout(both, 1)

    def _show_figures(self, found: Together | None) -> None:
        made = () if found is None else tuple(beside_figures(found))
        if self.session.add_figures(walk(made), self.session.revision) and made:
            self.figures.show_rows([row_of(FIGURES, it, value=it.key, key=it.key) for it in made])
            fit_height(self.figures, len(made), 8, firm=True)
        self.figures.setVisible(bool(made))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show both packs of an evaluation."""
        found = put_beside(evaluation, self.other.side())
        self._show_figures(found)
        told = () if found is None else beside_findings(found)
        self.session.add_findings(told, self.session.revision, STAGE)
        self.fields.show_evaluation(evaluation, self.other.problem)
        self.waits.setVisible(found is None)
        self.results.setVisible(found is not None and not found.why_not)
        self.caution.setVisible(found is not None)
        refused = [] if found is None else [f"{spoken(it)}." for it in found.why_not]
        self.refused.setText("\n".join(refused))
        self.refused.setVisible(bool(refused))
        if found is None or found.course is None:
            return
        self.joining.setText(joining_said(found))
        need = evaluation.figures.get("need.consumption_wh_per_km")
        self.run.setText(run_said(found, None if need is None else need.number))
        self.chart.show_together(found)
        self.table.show_rows(
            [row_of(COLUMNS, it, value=at) for at, it in enumerate(_sorted(found.carried))]
        )


FIGURES = (
    Column(
        "figure", lambda it: spoken(it.label), left=True, stretch=True, tip="A click explains it"
    ),
    Column(
        "value",
        lambda it: say(it.value, it.unit),
        sample="00 h 00 0",
        mark=lambda it: "amber" if it.assumed else "",
        tip="Amber where it hangs on what is assumed",
    ),
)


def joining_said(found: Together) -> str:
    """What flows when both are joined, and how far apart they may be."""
    joining = found.joining
    if joining is None:
        return in_words("Nothing flows from one into the other, however far apart they stand.")
    if len(found.plugs) > 1:
        return _plugged_said(found)
    low, high = safe_charges(found.sides[0], found.sides[1], joining.safe_v)
    within = worded(
        "They may be joined within {}: the second between {} and {}.",
        say(joining.safe_v, "V"),
        say(low, "%"),
        say(high, "%"),
    )
    apart = say(abs(joining.apart_v), "V")
    if joining.peak_a < 1e-3:
        at = " and ".join(say(it.at, "%") for it in found.sides)
        return worded("They are level, at {}: nothing flows when they are joined. {}", at, within)
    flows = worded("{} at first, over {}", say(joining.peak_a, "A"), say(joining.seconds, "s"))
    verdict = "every part bears it" if joining.is_safe else "NOT AS THEY STAND"
    spark = " The contact melts where it touches first: it sparks." if joining.sparks else ""
    return worded("Joined now, {} apart: {}; {}.{} {}", apart, flows, verdict, spark, within)


def _plugged_said(found: Together) -> str:
    """What flows at each plug, where there are more than two packs."""
    lines = []
    for place, plug in enumerate(found.plugs, 1):
        apart, peak = say(abs(plug.apart_v), "V"), say(plug.peak_a, "A")
        verdict = "every part bears it" if plug.is_safe else "NOT AS IT STANDS"
        within = say(plug.safe_v, "V")
        lines.append(
            worded(
                "{} onto those before it, {} apart: {}; {}, within {}.",
                found.sides[place].name,
                apart,
                peak,
                verdict,
                within,
            )
        )
    return "\n".join(lines)


def run_said(found: Together, wh_per_km: float | None = None) -> str:
    """How long both run, or how far, against each alone; by how much each warms at most."""
    course = found.course
    assert course is not None
    naive = sum(found.hours_alone)
    more = course.hours / naive - 1.0
    against = worded(
        "{} {} than the sum of both alone", f"{abs(more):.0%}", "more" if more >= 0.0 else "less"
    )
    first = found.first_opens
    then = ""
    if first is not None and len(course.ended) > 1 and course.ended[1][1] > first[1] + 1.0:
        alone_h = (course.ended[1][1] - first[1]) / 3600.0
        name = f"{first[0][:1].upper()}{first[0][1:]}"
        then = worded(" {} opens first; the other takes all for {} more.", name, say_hours(alone_h))
    alone = " and ".join(say_hours(it) for it in found.hours_alone)
    why = "for each carries less at a time"
    if more < 0.0:
        why = "for one opens with charge left in it"
    left = ""
    if first is not None:
        row = int(np.searchsorted(course.seconds, first[1], side="left"))
        held = course.charge[min(row, len(course.seconds) - 1)]
        names = (f"{it.name} {say(float(x), '%')}" for it, x in zip(found.sides, held, strict=True))
        left = worded(" When the first opens there is left: {}.", ", ".join(names))
    far = ""
    if wh_per_km:
        alone_km = " and ".join(say(it.given_wh / wh_per_km, in_words("km")) for it in found.alone)
        far = worded(
            " That is {}; alone {}.", say(course.given_wh / wh_per_km, in_words("km")), alone_km
        )
    warm = " and ".join(say(it, "K") for it in found.rises_k)
    return worded(
        "Together {}; alone {}: {}, {}.{}{}{} They warm by no more than {}, if no heat leaves.",
        say_hours(course.hours),
        alone,
        against,
        why,
        far,
        then,
        left,
        warm,
    )
