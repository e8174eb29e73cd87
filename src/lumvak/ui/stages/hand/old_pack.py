"""An old pack that the new cells are joined to: its groups, and what both carry over a run."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
import pyqtgraph as pg
from msgspec.structs import asdict
from PyQt6.QtWidgets import QComboBox, QPushButton, QSizePolicy, QVBoxLayout

from lumvak.core import units
from lumvak.core.document.hand import OldGroup
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure, walk
from lumvak.core.matching.extending import LONG_YEARS, WORN
from lumvak.core.matching.old_and_new import OldAndNew
from lumvak.core.record_of_pack.extension import Extension, extension_of
from lumvak.core.units import Kind
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, digits, in_words, parse, say, spoken, worded
from lumvak.ui.stages.hand.lot import offer_cells
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.grid import Grid, pasted_rows
from lumvak.ui.widgets.grid_columns import Record, quantity_column, shown_column
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import (
    Plot,
    axis,
    legend_look,
    marked_line,
    round_range,
    show_points,
)
from lumvak.ui.widgets.quantity_field import edit_or_why, small_field, try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Told
from lumvak.ui.widgets.words import Empty, side_by_side, soft

MEASURED: tuple[tuple[str, str, Kind], ...] = (
    ("old", "ah", units.CAPACITY), ("resists", "mohm", units.MILLIOHM),
    ("OCV", "volts", units.VOLTAGE),
)  # fmt: skip
CAUTION = (
    "Never join the two while they differ in voltage: hundreds of amps may flow with nothing in "
    "the way. Group to group, one after the other, all else covered; BMS and charger off until "
    "the last is joined."
)


COLUMNS = (
    shown_column("group", "group"),
    *(quantity_column(*item, optional=True) for item in MEASURED),
    shown_column("both", "both"),
    shown_column("carries", "first"),
    shown_column("flows", "flows"),
)


class OldPackView(Page):
    """A row for each old group, and the currents of one pair over a discharge."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.cell = QComboBox()
        self.cell.setAccessibleName(in_words("Old cells are"))
        self.parallel = small_field(session, "hand.old.parallel", "in parallel")
        self.years = small_field(session, "hand.old.years", "in use for", width=60)
        self.ratio = small_field(session, "hand.old.ratio", "resistances apart at most")
        self.begin = QPushButton()
        self.drop = QPushButton("no old pack")
        self.nothing = Empty(
            "New cells beside an old pack?", _when(session.project.hand.old.ratio), numbered=False
        )
        self.says = soft("", wrap=True)
        self.caution = soft(CAUTION, wrap=True)
        self.grid = Grid(
            "Old groups",
            COLUMNS,
            self.take,
            lambda: asdict(OldGroup()),
            (6, 14),
            paste=pasted,
        )
        self.plot = Shares()
        self.plot.setMinimumHeight(THEME.px(190))
        self.plot.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        self.fields = side_by_side(self.parallel, self.years, self.ratio)
        self.both = Turning(760)
        self._lay_out()
        self.cell.setObjectName("hand.old.cell")
        self.grid.setObjectName("hand.old.groups")
        self.cell.activated.connect(
            lambda _: try_edit(session, {"hand.old.cell": self.cell.currentData() or None})
        )
        self.begin.clicked.connect(self._begin)
        self.drop.clicked.connect(lambda: try_edit(session, {"hand.old.groups": ()}, "no old pack"))
        self.grid.table.currentCellChanged.connect(lambda *_: self._draw())

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        self.head = flowing(
            side_by_side(soft("old cells are"), self.cell),
            self.parallel,
            self.years,
            self.ratio,
            self.drop,
            gap=14,
        )
        outer.addWidget(self.head)
        outer.addWidget(self.says)
        outer.addWidget(self.nothing)
        outer.addWidget(flowing(self.begin))
        outer.addWidget(self.caution)
        self.both.columns.addWidget(self.grid, 5)
        self.both.columns.addWidget(self.plot, 3)
        outer.addWidget(self.both, 1)
        outer.addStretch(0)

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the old pack of an evaluation."""
        old, beside = evaluation.project.hand.old, evaluation.beside
        offer_cells(self.cell, evaluation, old.cell)
        there = bool(old.groups)
        for widget in (self.head, self.says, self.caution, self.both):
            widget.setVisible(there)
        self.nothing.say(3, _when(old.ratio)[3])
        for widget in (self.nothing, self.begin):
            widget.setVisible(not there)
        self.begin.setText(worded("an old pack of {} groups", evaluation.sized.choice.series))
        self.grid.show_records(_records(evaluation), str(SPEECH.spelling))
        self._say(evaluation, beside)
        self._draw()

    def _say(self, evaluation: Evaluation, beside: OldAndNew) -> None:
        if beside.old is None:
            self.says.setText(
                "".join(f"{spoken(item.text)}. {spoken(item.do)}" for item in beside.findings)
            )
            return
        figures = evaluation.figures
        carries, limit, new = (
            figures[f"hand.old.{key}"].number for key in ("old_cell_a", "limit_a", "new_cell_a")
        )
        first, least, most = (100.0 * values for values in beside.shares)
        said = [
            worded(
                "Both together hold {} in the weakest group and run {} at {}.",
                _said(figures, "weakest_ah"),
                _said(figures, "hours"),
                say(evaluation.sized.pack.current.number, "A"),
            ),
            worded(
                "An old cell carries at most {} of {}, a new one {} of {}.",
                say(carries, "A"),
                say(limit, "A"),
                say(new, "A"),
                say(evaluation.sized.choice.cell.continuous_a, "A"),
            ),
            worded(
                "The old groups carry {} at first, {} later.",
                _span(first.min(), first.max()),
                _span(least.min(), most.max()),
            ),
        ]
        extension = extension_of(evaluation)
        if extension is not None:
            self.session.add_figures(
                walk((extension.strips, extension.between)), self.session.revision
            )
            said.append(extension_said(extension))
        if not beside.old.measured:
            said.append("What was not measured is the sheet's.")
        self.says.setText(" ".join(said))

    @property
    def pair(self) -> int:
        """The pair that is drawn, from 0: the marked one, else the one that is least even."""
        course = self.session.evaluation.beside.course
        row = self.grid.table.currentRow()
        if course is None or 0 <= row < course.one_a.shape[1]:
            return max(row, 0)
        first = course.one_a[0] / course.current_a
        return int(np.argmax(np.abs(first - np.median(first))))

    def _draw(self) -> None:
        self.plot.show_pair(self.session.evaluation, self.pair)

    # What is taken.

    def _begin(self) -> None:
        groups = (OldGroup(),) * self.session.evaluation.sized.choice.series
        if try_edit(self.session, {"hand.old.groups": groups}, "an old pack"):
            self.grid.table.setCurrentCell(0, 1)
            self.grid.table.setFocus()

    def take(self, records: list[Record]) -> str:
        """Keep the groups as they stand in the grid; returns what is wrong with them."""
        groups = tuple({name: record.get(name) for _, name, _ in MEASURED} for record in records)
        return edit_or_why(self.session, {"hand.old.groups": groups}, "old groups")


def extension_said(extension: Extension) -> str:
    """The links from the old cells to the new ones, and the room of these."""
    strips = int(extension.strips.number)
    of = worded("{} strips", strips) if strips > 1 else "one strip"
    sides = " × ".join(f"{side:.0f}" for side in extension.room_mm)
    return worded(
        "{} links join both: the two at the ends carry up to {}, {} of {} "
        "each; those between {}. The new cells take {} mm beside the old.",
        extension.links,
        say(extension.end.number, "A"),
        of,
        spoken(extension.strip),
        say(extension.between.number, "A"),
        sides,
    )


def _span(low: float, high: float) -> str:
    """Shares in per cent."""
    least, most = (digits(float(value), ".0f") for value in (low, high))
    return f"{least} %" if least == most else worded("{} to {} %", least, most)


def _when(ratio: float) -> tuple[str, ...]:
    """When new cells may be joined to an old pack, and how to begin."""
    return (
        "They may lie in parallel with a pack that is in use: measure its groups first.",
        "The chemistry, the voltage when full and the number in series are the same.",
        worded(
            "The old groups keep {} or more of their sheet, and are in use for {} or less.",
            say(WORN, "%"),
            say(LONG_YEARS, in_words("years")),
        ),
        worded(
            "For the same capacity neither resists over {} times what the other does.",
            say(ratio, ""),
        ),
        "Each pair is at one voltage before it is joined. Where one of these does not hold, a "
        "second "
        "pack that is swapped for the first is the better way.",
    )


def pasted(text: str) -> list[Record]:
    """Rows of Ah, mΩ, volts; raises QuantityError."""
    return [
        {
            name: parse(value, kind) if value else None
            for value, (_, name, kind) in zip(values, MEASURED, strict=True)
        }
        for values in pasted_rows(text, len(MEASURED))
    ]


def _records(evaluation: Evaluation) -> list[Record]:
    """The old groups with what stands beside each."""
    beside, records = evaluation.beside, []
    for at, group in enumerate(evaluation.project.hand.old.groups):
        record: Record = {**asdict(group), "group": at + 1}
        if beside.old is None or beside.new is None or beside.joining is None:
            record |= dict.fromkeys(("both", "first", "flows"), "—")
        else:
            amps = float(beside.joining.current_a[at])
            record |= {
                "both": say(float(beside.old.ah[at] + beside.new.ah[at]), in_words("Ah")),
                "first": f"{digits(100.0 * float(beside.shares[0][at]), '.0f')} %",
                "flows": say(amps, "A") if np.isfinite(amps) else "—",
            }
        records.append(record)
    return records


def _said(figures: Mapping[str, Figure], key: str) -> str:
    figure = figures[f"hand.old.{key}"]
    return say(figure.number, figure.unit)


class Shares(Plot):
    """Amps of an old cell and of a new one over a discharge, against what the old one carries."""

    def __init__(self) -> None:
        super().__init__()
        axis(self, "left", "of a cell, A")
        axis(self, "bottom", "discharged for, h")
        self.getAxis("left").setWidth(THEME.px(50))
        self.setAccessibleName(in_words("Currents of old and new cells"))
        self.getPlotItem().setContentsMargins(0, THEME.px(8), THEME.px(8), 0)
        self.legend = self.addLegend(offset=(-8, 8), verSpacing=-6, **legend_look())
        self.old = self.plot(pen=pg.mkPen(THEME.colour("copper"), width=2), name="old")
        self.new = self.plot(pen=pg.mkPen(THEME.colour("verdigris"), width=2), name="new")
        self.limit = marked_line(0.0, 0, "amber", "an old cell carries", 0.03)
        self.addItem(self.limit)
        self._rows: list[tuple[str, ...]] = []

    def show_pair(self, evaluation: Evaluation, pair: int) -> None:
        """Show one pair of groups, from 0."""
        beside = evaluation.beside
        course, old, new = beside.course, beside.old, beside.new
        if course is None or old is None or new is None or pair >= course.one_a.shape[1]:
            return
        one, other = course.one_a[:, pair] / old.parallel, course.other_a[:, pair] / new.parallel
        show_points(self.old, course.hours, one)
        show_points(self.new, course.hours, other)
        limit = evaluation.figures["hand.old.limit_a"].number
        most = max(float(one.max()), float(other.max()))
        # A limit far above would press the curves down; it is told beside the plot.
        self.limit.setVisible(limit < 2.5 * most)
        self.limit.setValue(limit)
        top = max(most, limit) if limit < 2.5 * most else most
        low = min(0.0, float(one.min()), float(other.min()))
        axis(self, "left", worded("of a cell, A; pair {}", pair + 1))
        self.show_whole((0.0, max(float(course.hours[-1]), 1e-3)), round_range(low, 1.15 * top))
        places = np.linspace(0, len(course.hours) - 1, min(8, len(course.hours))).astype(int)
        self._rows = [
            (
                say(float(course.hours[at]), "h"),
                say(float(one[at]), "A"),
                say(float(other[at]), "A"),
            )
            for at in places
        ]

    def told(self) -> Told:
        """The curves as rows."""
        return Told("Currents over a discharge", ("after", "old cell", "new cell"), self._rows)
