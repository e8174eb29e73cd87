"""Joints tried on scrap before the pack is joined: read, pulled, and what they tell of the pack."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
import pyqtgraph as pg
from msgspec.structs import asdict
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QPushButton, QSizePolicy, QVBoxLayout

from lumvak.core import units
from lumvak.core.document.joints import WeldRead
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure
from lumvak.core.joints.contacts import NO_JOINT, reads_of
from lumvak.core.units import Kind, QuantityError
from lumvak.ui.session import Session
from lumvak.ui.speech import digits, in_words, parse, said_of, say, spoken, worded
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.entry import large_entry
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import Plot, axis, marked_line, round_range, show_points
from lumvak.ui.widgets.quantity_field import edit_or_why, mark_bad, small_field
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import Told
from lumvak.ui.widgets.words import Empty, plain, side_by_side, soft

READ_BY = (("mohm", "four wires"), ("drop", "drop at a current"))
PULLED = (("", "not pulled"), ("torn", "tore the strip"), ("clean", "came off clean"))
KINDS: dict[str, Kind] = {"mohm": units.MILLIOHM, "drop": units.VOLTAGE}
COLUMNS = (
    Column("joint", tip="In the order they were tried"),
    Column("mΩ", tip="Read with four wires, or the drop over the current"),
    Column("read", left=True, sample="88.8 mV at 88 A", tip="The drop and its current"),
    Column("pulled", left=True, sample="came off clean", tip="What a pull on the strip did"),
    Column("is", left=True, stretch=True, tip="Far off: over twice the middle one"),
)
_TEST_WORDS = {
    "spread": "Test joints differ by {value}.",
    "worst_mohm": "{label}: {value}.",
    "worst_k": "It is {value} over its cell at the load.",
}
CAUTION = (
    "On scrap alone: strip on the can of a spent, emptied cell or on sheet of the same metal; "
    "never on a cell that is swollen or leaks. Eyes covered, nothing that burns near by."
)

STEPS = (
    "Weld a strip to scrap of the same metal, with the tool and the settings that the pack gets.",
    "Read it with four wires across the joint itself, or as the drop at a known current; Enter.",
    "Pull it off: a joint that holds tears the strip and leaves metal behind.",
    "Five or more tell how even they are; their mean then stands for every joint of the pack.",
)


class WeldsView(Page):
    """One test joint after the other, as dots and rows, with what they tell of the pack's."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.at: int | None = None
        self.by = ChoiceRow(READ_BY, "Read by")
        self.current = small_field(session, "joints.weld_test.current_a", "at")
        self.points = small_field(
            session, "joints.weld_test.points", "weld points of each", figure="joints.weld_points"
        )
        self.which = soft("")
        self.entry = large_entry("Reading of the test joint")
        self.pulled = ChoiceRow(PULLED, "What a pull did")
        self.out = QPushButton("take out")
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.says = soft("", wrap=True)
        self.plot = Dots()
        self.plot.setMinimumHeight(THEME.px(170))
        self.plot.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        self.table = RowsTable(COLUMNS, "Test joints")
        self.empty = Empty("No joint is tested yet", STEPS)
        self._lay_out()
        self.table.setObjectName("joints.weld_test.reads")
        self.by.picked.connect(self._read_by)
        self.entry.returnPressed.connect(self.take)
        self.pulled.picked.connect(self.pull)
        self.table.picked.connect(self.turn_to)
        self.out.clicked.connect(self.take_out)

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(
            flowing(side_by_side(soft("read by"), self.by), self.current, self.points, gap=14)
        )
        outer.addWidget(flowing(self.which, self.entry, self.pulled, self.out, gap=12))
        outer.addWidget(self.problem)
        outer.addWidget(self.says)
        outer.addWidget(soft(CAUTION, wrap=True))
        outer.addWidget(self.empty)
        self.both = Turning(640)
        self.both.columns.addWidget(self.plot, 1)
        self.both.columns.addWidget(self.table, 1)
        keep_rows(self.table, 6)
        outer.addWidget(self.both, 1)
        outer.addStretch(0)

    @property
    def _reads(self) -> tuple[WeldRead, ...]:
        return self.session.project.joints.weld_test.reads

    @property
    def _to_pull(self) -> int | None:
        """The joint in hand, or the last one; ``None`` where there is none."""
        last = len(self._reads) - 1
        return self.at if self.at is not None else last if last >= 0 else None

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the test joints of an evaluation."""
        test = evaluation.project.joints.weld_test
        self.current.setVisible(self.by.value == "drop")
        if self.at is not None and self.at >= len(test.reads):
            self.at = None
        self.which.setText(
            worded("joint {}", len(test.reads) + 1 if self.at is None else self.at + 1)
        )
        chosen = None if self.at is None else test.reads[self.at]
        self.pulled.show_value("" if self._to_pull is None else test.reads[self._to_pull].pulled)
        self.out.setEnabled(self.at is not None)
        known = None if chosen is None else chosen.read_mohm
        self.entry.setPlaceholderText(
            (say(0.2, "mΩ") if self.by.value == "mohm" else say(4.0, in_words("mV")))
            if known is None
            else say(known, "mΩ")
        )
        self.empty.setVisible(not test.reads)
        self.both.setVisible(bool(test.reads))
        self._fill(test.reads)
        self._say(evaluation)
        worst = evaluation.figures.get("joints.weld_test.worst_mohm")
        taken = evaluation.laid_out.joined_pack.given.contact_mohm.number
        self.plot.show_reads(reads_of(test), taken, None if worst is None else worst.number)

    def _fill(self, reads: Sequence[WeldRead]) -> None:
        found = reads_of(self.session.project.joints.weld_test)
        most = NO_JOINT * float(np.median(found)) if len(found) else np.inf
        words = dict(PULLED)
        rows = [
            Row(
                (
                    str(place + 1),
                    _number(read.read_mohm),
                    _drop(read),
                    words[read.pulled] if read.pulled else "",
                    "far off" if (read.read_mohm or 0.0) > most else "",
                ),
                value=place,
                key=place,
                chosen=place == self.at,
                marks={3: "crimson"} if read.pulled == "clean" else {},
            )
            for place, read in enumerate(reads)
        ]
        self.table.show_rows(rows)

    def _say(self, evaluation: Evaluation) -> None:
        contact = evaluation.laid_out.joined_pack.given.contact_mohm
        said = [worded("One joint on a cell is taken as {}.", _said(contact))]
        for key, words in _TEST_WORDS.items():
            figure = evaluation.figures.get(f"joints.weld_test.{key}")
            if figure is not None:
                value = say(figure.number, figure.unit)
                said.append(words.format(label=spoken(figure.label), value=value))
        self.says.setText(" ".join(said))

    # Taking readings.

    def _read_by(self, way: str) -> None:
        self.by.show_value(way)
        self.show_evaluation(self.session.evaluation)
        self.entry.setFocus()

    def turn_to(self, place: int | None) -> None:
        """Have a test joint in hand; ``None`` is the next one."""
        self.at = place
        self.show_evaluation(self.session.evaluation)
        self.entry.setFocus()

    def take(self) -> None:
        """Keep what was typed: a new test joint, or another reading of the one in hand."""
        text = self.entry.text().strip()
        if not text:
            self.turn_to(None)
            return
        try:
            value = parse(text, KINDS[self.by.value])
            changes = self._change(value)
        except QuantityError as error:
            mark_bad(self.entry, self.problem, said_of(error))
            return
        problem = self._keep(self.at, changes, "test joint")
        mark_bad(self.entry, self.problem, problem)
        if not problem:
            self.entry.clear()
            self.turn_to(None)

    def _change(self, value: float) -> dict[str, float | None]:
        if self.by.value == "mohm":
            return {"mohm": value, "drop_mv": None, "current_a": None}
        current = self.session.project.joints.weld_test.current_a
        if current is None:
            raise QuantityError(
                "no current is given; accepted: the current of the drop, under “at”"
            )
        return {"mohm": None, "drop_mv": value * 1e3, "current_a": current}

    def _keep(self, place: int | None, changes: Mapping[str, float | str | None], what: str) -> str:
        reads: list[dict[str, object]] = [asdict(read) for read in self._reads]
        if place is None:
            reads.append({**changes})
        else:
            reads[place].update(changes)
        return edit_or_why(self.session, {"joints.weld_test.reads": tuple(reads)}, what)

    def pull(self, what: str) -> None:
        """Keep what a pull did to the joint in hand, or to the one that was read last."""
        if self._to_pull is not None or what:
            problem = self._keep(self._to_pull, {"pulled": what}, "pull")
            mark_bad(self.entry, self.problem, problem)
        self.show_evaluation(self.session.evaluation)

    def take_out(self) -> None:
        """Take the joint in hand out."""
        if self.at is not None:
            reads = (*self._reads[: self.at], *self._reads[self.at + 1 :])
            self.at = None
            edit_or_why(self.session, {"joints.weld_test.reads": reads}, "test joint taken out")

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape and self.entry.hasFocus():
            self.entry.clear()
            mark_bad(self.entry, self.problem, "")
            self.turn_to(None)
        else:
            super().keyPressEvent(event)


class Dots(Plot):
    """Test joints as dots in their order, with lines that they are held against."""

    def __init__(self) -> None:
        super().__init__()
        axis(self, "left", "test joint, mΩ")
        axis(self, "bottom", "in their order")
        self.getAxis("left").setWidth(THEME.px(56))
        self.setAccessibleName(in_words("Test joints"))
        self.getPlotItem().setContentsMargins(0, THEME.px(8), THEME.px(8), 0)
        self.dots = pg.ScatterPlotItem(
            symbol="o",
            size=THEME.px(9),
            pen=pg.mkPen(THEME.colour("verdigris"), width=1.4),
            brush=pg.mkBrush(THEME.colour("verdigris_wash")),
        )
        self.addItem(self.dots)
        self.taken = marked_line(0.0, 0, "copper", "taken for the pack", 0.03)
        self.worst = marked_line(0.0, 0, "amber", "worst of the pack's", 0.55)
        for line in (self.taken, self.worst):
            self.addItem(line)
        self._reads: list[float] = []

    def show_reads(self, reads: np.ndarray, taken: float, worst: float | None) -> None:
        """Show readings in mohm (n,), what is taken for the pack, and the worst of it."""
        self._reads = reads.tolist()
        self.taken.setValue(taken)
        self.worst.setVisible(worst is not None)
        self.worst.setValue(worst or 0.0)
        show_points(self.dots, np.arange(1, len(reads) + 1), reads)
        most = max([*self._reads, taken, worst or 0.0])
        self.show_whole((0.0, max(len(reads), 9) + 1.0), round_range(0.0, 1.1 * most))

    def told(self) -> Told:
        """The dots as rows."""
        rows = [
            (str(place), worded("{} mΩ", digits(mohm, ".3g")))
            for place, mohm in enumerate(self._reads, 1)
        ]
        return Told("Test joints", ("joint", "reads"), rows)


def _said(figure: Figure) -> str:
    word = "assumed" if figure.assumed else "typed" if figure.origin == "typed" else "tested"
    return f"{say(figure.number, 'mΩ')}, {word}"


def _number(value: float | None) -> str:
    return "" if value is None else digits(value, ".3g")


def _drop(read: WeldRead) -> str:
    if read.drop_mv is None or read.current_a is None:
        return "" if read.mohm is None else in_words("four wires")
    return worded("{} at {}", say(read.drop_mv, in_words("mV")), say(read.current_a, "A"))
