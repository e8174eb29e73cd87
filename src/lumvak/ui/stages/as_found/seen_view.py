"""What was seen of a pack: from outside, of its groups, under the wrapper."""

from __future__ import annotations

from typing import Any

from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from lumvak.core.as_found.as_design import design_changes
from lumvak.core.as_found.audit import Audit
from lumvak.core.as_found.counting import SeriesCount
from lumvak.core.as_found.figures import sold_and_given
from lumvak.core.as_found.looks import OF_A_BMS
from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.found_page import verdict_said
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.stages.as_found.answer import audit_of
from lumvak.ui.stages.as_found.seen_box import NOT_SEEN, GroupVolts, SeenBox
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.pages import Page, on_sheet
from lumvak.ui.widgets.quantity_field import QuantityField, try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

TWO_COLUMNS_PX = 700
# The words of each field that is a choice.
CHOICES: dict[str, tuple[tuple[Any, str], ...]] = {
    "state": (
        ("sound", "sound"), ("swollen", "swollen"), ("leaking", "leaking"),
        ("wet", "was in water"), ("burnt", "burnt"),
    ),
    "charger": (("itself", "the charger itself"), ("bms", "the BMS alone")),
    "stored": (("full", "full"), ("half", "about half"), ("empty", "empty")),
    "form": (
        ("18650", "18650"), ("21700", "21700"), ("26650", "26650"), ("32700", "32700"),
        ("pouch", "pouch"), ("prismatic", "prismatic"),
    ),
    "alike": (("alike", "all alike"), ("mixed", "of several kinds")),
    "metal": (
        ("nickel", "nickel"), ("plated steel", "plated steel"),
        ("nickel-copper", "nickel on copper"), ("copper", "copper"),
    ),
    "leads_leave": (("end", "one end"), ("middle", "the middle"), ("spread", "spread over it")),
    "bms": (("there", "there is one"), ("none", "there is none")),
    "bleeds": ((True, "yes"), (False, "none")),
    "ports": ((1, "one for both"), (2, "charge apart")),
    "fuse": (("there", "there is one"), ("none", "there is none")),
    "held": (
        ("holders", "holders"), ("glue-barriers", "glue, with barriers"), ("glue", "glue alone"),
    ),
}  # fmt: skip
# Every group of fields with its head, in the order in which they are seen.
LEFT = (
    ("From outside", ("state", "promised_a", "promised_ah", "lead_mm2", "connector_a", "charger")),
    ("Its life", ("years", "cycles", "stored", "measured_ah")),
    ("Its groups", ("series_cells", "tap_wires", "full_v", "group_v")),
)
RIGHT = (
    ("Its cells", ("cell", "form", "chemistry", "parallel", "alike", "held")),
    ("Strips", ("strips", "layers", "thickness_mm", "width_mm", "metal", "leads_leave")),
    (
        "BMS and fuse",
        ("bms", "bms_a", "switches", "shunt_mohm", "sense_leads", "bleeds", "ports", "fuse",
         "fuse_a"),
    ),
)  # fmt: skip

STRIKES = {"bms": OF_A_BMS, "fuse": ("fuse_a",)}


class SeenView(Page):
    """The fields in two columns, and what comes of them over both."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        on_sheet(self)
        self.fields: dict[str, QWidget] = {}
        self.verdict, self.gives = plain(""), soft("", wrap=True)
        self.verdict.setWordWrap(True)
        self.verdict.setObjectName("strong")
        self.counted = soft("", wrap=True)
        self.take = QPushButton("take it as the design")
        self.begin = QPushButton("this project begins from a pack as found")
        self.not_begun = soft(
            "This project begins from a need. Say so where the pack is there already: what was "
            "seen of it becomes its design, and what was not seen is told with what it costs.",
            wrap=True,
        )
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(7))
        for widget in (self.not_begun, flowing(self.begin), self.verdict, self.gives):
            outer.addWidget(widget)
        self.body = Turning(TWO_COLUMNS_PX, 24)
        self.body.columns.addLayout(self._column(LEFT), 1)
        self.body.columns.addLayout(self._column(RIGHT), 1)
        outer.addWidget(self.body)
        self.take_row = flowing(
            self.take, soft("Counts, cells, strips, leads, BMS and fuse, in one step."), gap=8
        )
        outer.addWidget(self.take_row)
        outer.addStretch(1)
        self.take.clicked.connect(self._take)
        self.begin.clicked.connect(
            lambda: try_edit(session, {"as_found.begun": True}, "begins from a pack as found")
        )

    def _column(self, groups: tuple[tuple[str, tuple[str, ...]], ...]) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(THEME.px(4))
        for title, names in groups:
            column.addWidget(heading(title))
            for name in names:
                self.fields[name] = self._field(name)
                column.addWidget(self.fields[name])
            if title == "Its groups":
                column.addWidget(self.counted)
        column.addStretch(1)
        return column

    def _field(self, name: str) -> QWidget:
        path = f"as_found.{name}"
        if name == "group_v":
            return GroupVolts(self.session)
        if name == "cell":
            cells = self.session.catalogue.cells.values()
            return SeenBox(self.session, path, tuple((it.id, it.name) for it in cells))
        if name == "chemistry":
            known = self.session.catalogue.chemistries.values()
            return SeenBox(self.session, path, tuple((it.id, it.name) for it in known))
        if name in CHOICES:
            strikes = tuple(f"as_found.{it}" for it in STRIKES.get(name, ()))
            return SeenBox(self.session, path, CHOICES[name], strikes)
        return QuantityField(self.session, path, empty=NOT_SEEN)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what comes of what was seen."""
        found = evaluation.project.as_found
        self.not_begun.setVisible(not found.begun)
        self.begin.setVisible(not found.begun)
        self.verdict.setVisible(found.begun)
        self.gives.setVisible(found.begun)
        self.body.setVisible(found.begun)
        self.take_row.setVisible(found.begun)
        if not found.begun:
            return
        audit = audit_of(evaluation)
        self.verdict.setText(f"{spoken(verdict_said(audit))}.")
        self.gives.setText(f"{spoken(sold_and_given(audit))}. {_bands(audit)}")
        self.counted.setText(counted_said(audit.known.series))
        for name in OF_A_BMS:
            self.fields[name].setVisible(found.bms != "none")
        self.fields["fuse_a"].setVisible(found.fuse != "none")
        for name in ("form", "chemistry"):
            self.fields[name].setVisible(found.cell is None)

    def _take(self) -> None:
        audit = audit_of(self.session.evaluation)
        changes = design_changes(audit.found, audit.known, self.session.evaluation.sized.parts)
        if changes:
            try_edit(self.session, changes, "the design as it was found")
        else:
            self.session.tell("note", in_words("Nothing that the design is made of was seen yet."))


def _bands(audit: Audit) -> str:
    amps, ah = audit.continuous, audit.capacity_ah
    return worded(
        "{} to {} by what was seen; it holds {}, {} to {}.",
        say(amps.low, "A"),
        say(amps.high, "A"),
        say(ah.value, in_words("Ah")),
        say(ah.low, in_words("Ah")),
        say(ah.high, in_words("Ah")),
    )


def counted_said(count: SeriesCount) -> str:
    """How many groups there are, and which count is likely wrong."""
    if not count.ways:
        return in_words("Not counted yet: by its cells, its balance leads, or its volts when full.")
    said = worded("{} groups", count.likely)
    if count.odd is None:
        ways = ", ".join(it.words for it in count.ways)
        return worded("{}, by {}.", said, ways)
    return worded(
        "{}; {} by {} is likely wrong: {}.",
        said,
        count.odd.groups,
        count.odd.words,
        spoken(count.why),
    )
