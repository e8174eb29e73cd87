"""Ways to join two packs, side by side."""

from __future__ import annotations

from PyQt6.QtWidgets import QVBoxLayout

from lumvak.core.beside.ways import JoinWay, ways_of
from lumvak.core.evaluation import Evaluation
from lumvak.core.put_beside import load_of, sides_of
from lumvak.ui.session import Session
from lumvak.ui.speech import say, say_hours, spoken
from lumvak.ui.stages.beside.other_file import OtherFile
from lumvak.ui.widgets.flow import scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, soft


def _hours(way: JoinWay) -> str:
    return "" if way.found.course is None else say_hours(way.found.course.hours)


def _peak(way: JoinWay) -> str:
    joining = way.found.joining
    if joining is None or joining.peak_a < 1e-3:
        return "0 A"
    return say(joining.peak_a, "A")


COLUMNS = (
    Column(
        "way",
        lambda it: spoken(it.what),
        left=True,
        sample="with a switch, once they are level",
        tip="How they are joined; a click has it in force",
    ),
    Column("runs", _hours, sample="00 h 00", tip="Until the last has opened"),
    Column("when joined", _peak, sample="000.0 A", tip="What flows as they stand now"),
    Column(
        "loses",
        lambda it: say(it.heat_w, "W") if it.heat_w else "",
        sample="00.0 W",
        tip="In its diodes, at most",
    ),
    Column(
        "parts",
        lambda it: "hold" if it.holds else "do not hold",
        left=True,
        sample="do not hold",
        mark=lambda it: "verdigris" if it.holds else "crimson",
        tip="Whether every part carries what it would",
    ),
    Column(
        "prevents",
        lambda it: spoken(it.prevents),
        left=True,
        stretch=True,
        tip="What can no longer happen",
    ),
)


class WaysView(Page):
    """A row for each; what each wants stands below."""

    def __init__(self, session: Session, other: OtherFile) -> None:
        super().__init__(session)
        self.other = other
        self.table = RowsTable(COLUMNS, "Ways to join")
        self.wants = plain("")
        self.wants.setWordWrap(True)
        self.waits = soft(
            "Say first what stands beside this pack, under “both together”.", wrap=True
        )
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        for widget in (self.waits, self.table, self.wants):
            outer.addWidget(widget)
        outer.addStretch(1)
        self.table.picked.connect(
            lambda by: try_edit(session, {"beside.by": by}, "how it is joined")
        )

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show all ways for the packs of an evaluation."""
        wanted = evaluation.project.beside
        sides = sides_of(evaluation, self.other.side())
        ways: tuple[JoinWay, ...] = ()
        if sides is not None:
            ways = ways_of(sides, load_of(evaluation), wanted.between_ohm)
        ways = tuple(it for it in ways if not it.found.why_not)
        self.waits.setVisible(not ways)
        self.table.setVisible(bool(ways))
        self.table.show_rows(
            [row_of(COLUMNS, it, value=it.by, key=it.by, chosen=it.by == wanted.by) for it in ways]
        )
        fit_height(self.table, len(ways), 6, firm=True)
        self.wants.setText("\n".join(f"{spoken(it.what)}: {spoken(it.wants)}." for it in ways))
