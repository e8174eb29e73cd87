"""Group voltages as modules, boards or meters give them: apart by how much, and how it goes on."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

import numpy as np
import pyqtgraph as pg
from msgspec.structs import asdict
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QFileDialog, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from lumvak.core import units
from lumvak.core.document.watch import MOST_SETS
from lumvak.core.evaluation import Evaluation
from lumvak.core.taps.shown import explained
from lumvak.core.taps.watch import Correction, VoltageSet
from lumvak.files.logs.volts_log import read_volts
from lumvak.files.problem import FileProblem, read_text
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, digits, in_words, said_of, say, spoken, worded
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import Record, count_column, quantity_column, text_column
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import Plot, axis, marked_line, round_range
from lumvak.ui.widgets.quantity_field import (
    FieldChoice,
    edit_or_why,
    empty_v,
    full_v,
    mark_bad,
    small_field,
)
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Told
from lumvak.ui.widgets.words import Empty, plain, side_by_side, soft

ENDS = (("negative", "most negative"), ("positive", "most positive"))
BUTTONS = ("paste", "import a log …", "forget this set")
COLUMNS = (
    Column("set", text=lambda it: str(it[0] + 1), tip="In the order they were taken"),
    Column("when", text=lambda it: it[1].when, left=True, stretch=True, tip="As it was logged"),
    Column(
        "mean",
        text=lambda it: worded("{} V", digits(it[1].mean_v, ".3f")),
        tip="Of all groups, corrected",
    ),
    Column(
        "apart",
        text=lambda it: worded("{} mV", digits(it[1].spread_v * 1000.0, ".0f")),
        tip="Highest less lowest",
    ),
    Column(
        "high",
        text=lambda it: str(it[1].highest),
        tip="The group that is first to the top when charged",
    ),
    Column("low", text=lambda it: str(it[1].lowest), tip="The group that is first to the bottom"),
)
HISTORY, MOST_NUMBERS = 400, 14


CALIBRATION = (
    text_column("module", "module"),
    count_column("from group", "first"),
    count_column("groups", "groups"),
    quantity_column("shown", "shown_v", units.VOLTAGE),
    quantity_column("meter", "true_v", units.VOLTAGE),
    text_column("day", "day"),
    text_column("instrument", "instrument", wide=True),
)  # fmt: skip


STEPS = (
    "Type the voltages of all groups in a row, as a module, the BMS or the meter shows them.",
    "Or paste a row, or import a log: then they are drawn over time, and what drifts is named.",
    "With two sets, days apart, the groups that lose charge by themselves are told.",
)


class VoltagesView(Page):
    """Bars of one set about its mean, the history beside it, and what shows them held true."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.at: int | None = None
        self.entry = EntryField()
        self.entry.setAccessibleName(in_words("Volts of every group"))
        self.entry.setPlaceholderText(in_words("volts of every group, parted by semicolons; Enter"))
        self.entry.setMinimumWidth(THEME.px(330))
        self.one_is = FieldChoice(session, "watch.one_is", ENDS, "Group 1 is the")
        self.fields = {
            "apart_v": small_field(session, "watch.apart_v", "apart at most"),
            "low_v": small_field(session, "watch.low_v", "none under", usual=empty_v),
            "high_v": small_field(session, "watch.high_v", "none over", usual=full_v),
        }
        self.buttons = {name: QPushButton(name) for name in BUTTONS}
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.says = soft("", wrap=True)
        self.shown = soft("", wrap=True)
        self.bars = Bars()
        self.bars.setMinimumHeight(THEME.px(190))
        self.bars.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        self.table = RowsTable(COLUMNS, "Sets of group voltages")
        self.grid = Grid("Calibration", CALIBRATION, self.take_points, self._point, (2, 5))
        self.grid.setObjectName("watch.calibrations")
        self.table.setObjectName("watch.sets")
        self.corrections = soft("", wrap=True)
        self.empty = Empty("No group voltages yet", STEPS, numbered=False)
        self._lay_out()
        self.entry.returnPressed.connect(self.take)
        self.table.picked.connect(self.turn_to)
        self.buttons["paste"].clicked.connect(self.paste)
        self.buttons["import a log …"].clicked.connect(self.ask_in)
        self.buttons["forget this set"].clicked.connect(self.forget)

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(flowing(self.entry, *self.buttons.values(), gap=10))
        outer.addWidget(
            flowing(
                side_by_side(soft("group 1 is the"), self.one_is), *self.fields.values(), gap=14
            )
        )
        outer.addWidget(self.problem)
        outer.addWidget(self.says)
        outer.addWidget(self.shown)
        outer.addWidget(self.empty)
        self.both = Turning(700)
        self.both.columns.addWidget(self.bars, 3)
        self.both.columns.addWidget(self.table, 2)
        keep_rows(self.table, 6)
        outer.addWidget(self.both, 1)
        outer.addStretch(0)
        held = QWidget()
        below = QVBoxLayout(held)
        below.setContentsMargins(0, 0, 0, 0)
        below.addWidget(soft("Held against a meter: one point gives an offset, two a gain too."))
        below.addWidget(self.grid)
        below.addWidget(self.corrections)
        outer.addWidget(held)

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the group voltages of an evaluation."""
        watch, sets = evaluation.project.watch, evaluation.watched.seen
        if self.at is not None and self.at >= len(sets):
            self.at = None
        at = len(sets) - 1 if self.at is None else self.at
        self.buttons["forget this set"].setEnabled(bool(sets))
        first = max(0, len(sets) - HISTORY)
        self.table.show_rows(
            [
                _row(item, first + place, first + place == at)
                for place, item in enumerate(sets[first:])
            ]
        )
        self.grid.show_records([asdict(item) for item in watch.calibrations], str(SPEECH.spelling))
        self.corrections.setText(
            " ".join(_corrected(item) for item in evaluation.watched.corrections)
        )
        self.bars.show_set(
            sets[at] if sets else None, watch.apart_v, evaluation.sized.choice.series
        )
        self.empty.setVisible(not sets)
        self.both.setVisible(bool(sets))
        self._say(evaluation, sets[at] if sets else None)

    def _say(self, evaluation: Evaluation, item: VoltageSet | None) -> None:
        if item is None:
            self.says.setText(worded("{} voltages make a set.", evaluation.sized.choice.series))
            self.shown.hide()
            return
        self.says.setText(
            worded(
                "{} in the mean, {} apart. Group {} is first to the top, group {} to the bottom.",
                say(item.mean_v, "V"),
                say(item.spread_v * 1000.0, in_words("mV")),
                item.highest,
                item.lowest,
            )
        )
        groups = evaluation.sized.in_hand.groups
        known = [group.volts for group in groups]
        measured = [volts for volts in known if volts is not None]
        self.shown.setVisible(len(measured) == evaluation.sized.choice.series)
        if len(measured) == evaluation.sized.choice.series:
            told = explained(item.volts.tolist(), measured)
            self.shown.setText(
                in_words("Against the cells in hand: ")
                + " ".join(f"{spoken(one.words)} {spoken(one.do)}".strip() for one in told[:3])
            )

    def turn_to(self, place: int) -> None:
        """Show a set."""
        self.at = place
        self.show_evaluation(self.session.evaluation)

    # What is taken.

    def take(self) -> None:
        """Keep the set that was typed."""
        text = self.entry.text().strip()
        if text and self._take(
            text.replace(" ", ";") if ";" not in text else text, "what is typed"
        ):
            self.entry.clear()

    def paste(self) -> None:
        """Take rows of voltages from the clipboard."""
        clipboard = QGuiApplication.clipboard()
        self._take("" if clipboard is None else clipboard.text(), "what was pasted")

    def ask_in(self) -> None:
        """Ask for a log of group voltages and take it in."""
        name, _ = QFileDialog.getOpenFileName(
            self,
            "Bring group voltages in",
            str(Path.home()),
            "Tables (*.csv *.txt *.tsv *.log);;All files (*)",
        )
        if name:
            self.bring_in(Path(name))

    def take_file(self, path: Path) -> None:
        self.bring_in(path)

    def bring_in(self, path: Path) -> None:
        """Take in a log of group voltages, all of it or nothing."""
        try:
            text = read_text(path)
        except FileProblem as problem:
            self.session.tell("stop", said_of(problem))
            return
        self._take(text, path.name)

    def _take(self, text: str, where: str) -> bool:
        watch, series = self.session.project.watch, self.session.evaluation.sized.choice.series
        try:
            log = read_volts(text, where, series, watch.one_is == "positive")
        except FileProblem as problem:
            mark_bad(self.entry, self.problem, said_of(problem))
            return False
        sets = (*watch.sets, *log.sets)[-MOST_SETS:]
        problem_said = edit_or_why(self.session, {"watch.sets": sets}, "group voltages")
        mark_bad(self.entry, self.problem, problem_said)
        if problem_said:
            return False
        self.session.keep_now()
        self.at = None
        self.show_evaluation(self.session.evaluation)
        if log.millivolts:
            self.session.tell("note", worded("{}: read as millivolts.", where))
        return True

    def forget(self) -> None:
        """Take the set that is shown out."""
        seen, watch = self.session.evaluation.watched.seen, self.session.project.watch
        if not seen:
            return
        series = self.session.evaluation.sized.choice.series
        fits = [at for at, item in enumerate(watch.sets) if len(item.volts) == series]
        out = fits[-1 if self.at is None else self.at]
        self.at = None
        edit_or_why(
            self.session,
            {"watch.sets": (*watch.sets[:out], *watch.sets[out + 1 :])},
            "set of group voltages forgotten",
        )

    def take_points(self, records: list[Record]) -> str:
        """Keep the calibration as it stands in the grid; returns what is wrong with it."""
        return edit_or_why(self.session, {"watch.calibrations": tuple(records)}, "calibration")

    def _point(self) -> dict[str, Any]:
        """A point like the last one, of the whole pack where there is none."""
        points = self.session.project.watch.calibrations
        if points:
            return asdict(points[-1])
        series = self.session.evaluation.sized.choice.series
        return {
            "module": "board",
            "first": 1,
            "groups": series,
            "shown_v": 3.7,
            "true_v": 3.7,
            "day": "",
            "instrument": "",
        }


class Bars(Plot):
    """Each group about the mean, in millivolts."""

    def __init__(self) -> None:
        super().__init__()
        axis(self, "left", "about the mean, mV")
        axis(self, "bottom", "group, from the most negative")
        self.getAxis("left").setWidth(THEME.px(58))
        self.setAccessibleName(in_words("Group voltages about their mean"))
        self.getPlotItem().setContentsMargins(0, THEME.px(8), THEME.px(8), 0)
        self.item = pg.BarGraphItem(x=[], height=[], width=0.7)
        self.addItem(self.item)
        self.limits = [marked_line(0.0, 0, "amber", word, 0.98, (1, 1)) for word in ("let", "")]
        for line in self.limits:
            self.addItem(line)
        self._rows: list[tuple[str, ...]] = []

    def show_set(self, item: VoltageSet | None, apart_v: float, groups: int) -> None:
        """Show one set; half of what groups may be apart lies on either side of the mean."""
        # Whole groups, and no more numbers than have room.
        self.getAxis("bottom").setTickSpacing(max(1, math.ceil(groups / MOST_NUMBERS)), 1)
        volts = np.zeros(0) if item is None else item.volts
        about = (volts - volts.mean()) * 1e3 if len(volts) else volts
        half = apart_v * 500.0
        brushes = [
            pg.mkBrush(THEME.colour("amber" if abs(value) > half else "verdigris"))
            for value in about.tolist()
        ]
        self.item.setOpts(
            x=np.arange(1, len(about) + 1),
            height=about,
            width=0.7,
            brushes=brushes,
            pen=pg.mkPen(THEME.colour("sheet")),
        )
        for line, place in zip(self.limits, (half, -half), strict=True):
            line.setValue(place)
        most = max(half, float(np.abs(about).max(initial=0.0)))
        self.show_whole((0.0, groups + 1.0), round_range(-1.2 * most, 1.2 * most))
        self._rows = [
            (
                str(place),
                worded("{} V", digits(float(one), ".3f")),
                worded("{} mV", digits(float(off), "+.0f")),
            )
            for place, (one, off) in enumerate(zip(volts, about, strict=True), 1)
        ]

    def told(self) -> Told:
        """The bars as rows."""
        return Told("Group voltages", ("group", "volts", "about the mean"), self._rows)


def _row(item: VoltageSet, place: int, chosen: bool) -> Row:
    return row_of(COLUMNS, (place, item), value=place, key=place, chosen=chosen)


def _corrected(item: Correction) -> str:
    words = f"{item.module}: {say(item.offset_v * 1e3, in_words('mV'))}"
    if item.gain != 1.0:
        words += worded(" and × {}", digits(item.gain, ".4f"))
    drift = (
        ""
        if item.drift_v is None
        else worded(", drifted {}", say(item.drift_v * 1000.0, in_words("mV")))
    )
    return worded("{} since {}{}.", words, item.day or "no day", drift)
