"""What a cell's sheet draws: discharges and pulses, typed, pasted or traced, and how they fit."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lumvak.core.catalogue.catalogue import PartsFile
from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.sheet_curves import LEAST_POINTS, ROOM_C
from lumvak.core.cells.behaviour import Behaviour, behaviour_of
from lumvak.core.cells.cell_sheet import CellProblem, changed, free_id
from lumvak.core.cells.sheet_reading import (
    curve_of,
    curve_told,
    fit_told,
    parse_curve,
    pulse_of,
)
from lumvak.core.evaluation import Evaluation
from lumvak.core.units import (
    CAPACITY,
    CURRENT,
    FRACTION,
    MILLIOHM,
    SECONDS,
    TEMPERATURE,
    VOLTAGE,
    QuantityError,
)
from lumvak.files.own_parts import merged
from lumvak.files.problem import FileProblem
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, said_of, spoken, worded
from lumvak.ui.stages.cells.curves_plot import CurvesPlot
from lumvak.ui.stages.cells.tracing import TracePicture
from lumvak.ui.widgets.choice import list_box
from lumvak.ui.widgets.flow import flowing, scrolled
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import Record, quantity_column, shown_column
from lumvak.ui.widgets.pages import Page, Stack
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft

PICTURES = "Pictures (*.png *.jpg *.jpeg *.webp *.bmp);;All files (*)"


class SheetCurvesView(Page):
    """The curves and pulses of one cell at the left, what they give at the right."""

    def __init__(self, session: Session) -> None:
        """It is long, for it lists the columns of three grids."""
        super().__init__(session)
        self._cell: Cell | None = None
        self._own = False
        # A discharge that has no points yet: amps and degC.
        self._draft: tuple[float, float] | None = None
        self._marked = 0
        self.which = list_box("Cell whose sheet is shown")
        self.duplicate = QPushButton("duplicate to type")
        self.duplicate.setToolTip(in_words("Only a cell of your own can be typed into"))
        self.note = soft("", wrap=True)
        self.curves = Grid(
            "Discharges of the sheet",
            (
                quantity_column("current", "amps", CURRENT),
                quantity_column("cell at", "celsius", TEMPERATURE),
                shown_column("points", "count"),
                shown_column("fit is off", "off"),
                shown_column("its end", "ends"),
            ),
            self._take_curves,
            lambda: {"amps": 0.0, "celsius": ROOM_C, "count": 0, "off": "", "ends": ""},
            (3, 6),
        )
        self.points = Grid(
            "Points of the marked discharge",
            (
                quantity_column("taken", "ah", CAPACITY),
                quantity_column("cell", "volts", VOLTAGE),
            ),
            self._take_points,
            lambda: {"ah": 0.0, "volts": 0.0},
            (4, 40),
            self._pasted,
        )
        self.points.setToolTip(in_words("Paste lines of Ah taken and volts, such as 1.25 3.62"))
        self.pulses = Grid(
            "Pulses of the sheet",
            (
                quantity_column("charge", "charge", FRACTION),
                quantity_column("after", "seconds", SECONDS),
                quantity_column("cell at", "celsius", TEMPERATURE),
                quantity_column("DC", "milliohm", MILLIOHM),
            ),
            self._take_pulses,
            self._blank_pulse,
            (2, 5),
        )
        self.trace = QPushButton("trace a picture …")
        self.trace.setToolTip(
            in_words("Click points of the marked discharge on a picture of the sheet")
        )
        self.picture = TracePicture()
        self.plot = CurvesPlot()
        self.told = soft("", wrap=True)
        self._lay_out()
        self.which.activated.connect(lambda place: self.show_sheet(self.which.itemData(place)))
        self.duplicate.clicked.connect(self._duplicate)
        self.trace.clicked.connect(self._ask_picture)
        self.picture.taken.connect(self._take_traced)
        self.picture.closed.connect(lambda: self.right.setCurrentIndex(0))
        self.curves.table.currentCellChanged.connect(lambda row, *_: self._mark(row))

    def _lay_out(self) -> None:
        left, right = QVBoxLayout(), QVBoxLayout()
        left.setSpacing(THEME.px(4))
        left.addWidget(flowing(self.which, self.duplicate, gap=10))
        left.addWidget(self.note)
        left.addWidget(heading("Discharges"))
        left.addWidget(self.curves)
        points = QHBoxLayout()
        points.addWidget(heading("Its points"))
        points.addStretch(1)
        points.addWidget(self.trace)
        left.addLayout(points)
        left.addWidget(self.points, 1)
        left.addWidget(heading("Pulses"))
        left.addWidget(self.pulses)
        left.setContentsMargins(0, 0, THEME.px(6), 0)
        side = QWidget()
        side.setLayout(left)
        right.addWidget(self.plot, 1)
        right.addWidget(self.told)
        right.setContentsMargins(0, 0, 0, 0)
        seen = QWidget()
        seen.setLayout(right)
        self.right = Stack()
        self.right.addWidget(seen)
        self.right.addWidget(self.picture)
        sides = QHBoxLayout(self)
        sides.setContentsMargins(THEME.px(24), THEME.px(4), THEME.px(12), THEME.px(8))
        sides.setSpacing(THEME.px(14))
        sides.addWidget(scrolled(side), 5)
        sides.addWidget(self.right, 6)

    # What is shown.

    def show_sheet(self, cell: str) -> None:
        """Turn to the sheet of another cell."""
        self._draft, self._marked = None, 0
        self._cell = self.session.evaluation.sized.parts.cells.get(cell)
        self.show_evaluation(self.session.evaluation)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the sheet of the cell turned to, at first that of the pack in hand."""
        name = self._cell.id if self._cell is not None else evaluation.sized.choice.cell.id
        cell = evaluation.sized.parts.cells.get(name, evaluation.sized.choice.cell)
        own = {item.id for item in self._parts().cells}
        self._cell, self._own = cell, cell.id in own
        names = [
            (item.id, item.name + (in_words(" · mine") if item.id in own else ""))
            for item in evaluation.sized.sized_pack.table.cells
        ]
        if [
            (self.which.itemData(at), self.which.itemText(at)) for at in range(self.which.count())
        ] != names:
            self.which.clear()
            for value, text in names:
                self.which.addItem(text, value)
        self.which.setCurrentIndex(self.which.findData(cell.id))
        behaviour = behaviour_of(cell, evaluation.sized.parts.chemistry_of(cell))
        self.duplicate.setVisible(not self._own)
        self.trace.setEnabled(self._own)
        self.note.setText(self._advice(cell))
        self.note.setVisible(bool(self.note.text()))
        for grid in (self.curves, self.points, self.pulses):
            grid.set_locked(not self._own)
        self._fill(cell, behaviour)
        self.plot.show_cell(cell, behaviour, self._marked)
        self.told.setText(
            "\n".join(
                f"{spoken(label)}: {spoken(words)}" for label, words in fit_told(cell, behaviour)
            )
        )

    def _advice(self, cell: Cell) -> str:
        if not self._own:
            return in_words("Not of your own: duplicate it, and enter what its sheet draws.")
        room = [curve for curve in cell.curves if curve.at_room]
        if not room:
            return in_words(
                "Enter a slow discharge at 25 °C first, such as that at 0.2 C: it gives the "
                "OCV. Until then the cell is taken to be as its family."
            )
        if len(room) == 1:
            return in_words(
                "A second discharge at 25 °C, at 1 C or more, gives its resistance and lag."
            )
        if len(room) == len(cell.curves):
            return in_words(
                "One in the cold, at 1 C if the sheet has it, shows how it changes there."
            )
        return ""

    def _fill(self, cell: Cell, behaviour: Behaviour) -> None:
        records: list[Record] = []
        for place, curve in enumerate(cell.curves):
            off, ends = map(spoken, curve_told(behaviour, place))
            records.append(
                {
                    "amps": curve.current_a,
                    "celsius": curve.temperature_c,
                    "count": len(curve.points),
                    "off": off,
                    "ends": ends,
                }
            )
        if self._draft is not None:
            amps, celsius = self._draft
            records.append({"amps": amps, "celsius": celsius, "count": 0, "off": "", "ends": ""})
        self._marked = min(self._marked, max(len(records) - 1, 0))
        self.curves.show_records(records, cell.id)
        if records and self.curves.table.currentRow() != self._marked:
            self.curves.table.setCurrentCell(self._marked, 0)
        self._fill_points()
        self.pulses.show_records(
            [
                {
                    "charge": pulse.charge,
                    "seconds": pulse.seconds,
                    "celsius": pulse.temperature_c,
                    "milliohm": pulse.ohm * 1e3,
                }
                for pulse in cell.pulses
            ],
            cell.id,
        )

    def _fill_points(self) -> None:
        assert self._cell is not None
        curves = self._cell.curves
        shown = curves[self._marked].points if self._marked < len(curves) else ()
        self.points.show_records(
            [{"ah": ah, "volts": volts} for ah, volts in shown], f"{self._cell.id} {self._marked}"
        )

    def _mark(self, row: int) -> None:
        if row >= 0 and row != self._marked and self._cell is not None:
            self._marked = row
            self._fill_points()
            self.plot.weigh(row)

    # What is typed, pasted or traced.

    def _parts(self) -> PartsFile:
        try:
            return self.session.own
        except FileProblem:
            # What is wrong with the file was said at the start; it is left as it is.
            return PartsFile()

    def _change(self, changes: dict[str, Any], text: str) -> str:
        assert self._cell is not None
        try:
            fresh = changed(self._cell, changes)
            self.session.edit_own(merged(self._parts(), (fresh,)), f"{fresh.name}, {text}")
        except (CellProblem, FileProblem) as problem:
            return said_of(problem)
        return ""

    def _take_curves(self, records: list[Record]) -> str:
        """A changed current or temperature, a discharge begun, or one removed."""
        assert self._cell is not None
        curves = list(self._cell.curves)
        if len(records) > len(curves) + (self._draft is not None):
            return self._begin()
        if len(records) < len(curves) + (self._draft is not None):
            return self._remove(self.curves.table.currentRow())
        for place, record in enumerate(records):
            asked = (record["amps"], record["celsius"])
            if place >= len(curves):
                if not asked[0] > 0.0:
                    return in_words("a discharge needs a current, such as 1 A")
                self._draft = asked
                continue
            if asked == (curves[place].current_a, curves[place].temperature_c):
                continue
            try:
                curves[place] = curve_of(*asked, curves[place].points)
            except QuantityError as error:
                return said_of(error)
            return self._change({"curves": tuple(curves)}, "discharge")
        return ""

    def _begin(self) -> str:
        """A discharge without points yet; it is kept once it has some."""
        assert self._cell is not None
        if self._draft is not None:
            return in_words("enter the points of the discharge begun first")
        taken = {
            round(curve.current_a / self._cell.capacity_typical_ah, 2)
            for curve in self._cell.curves
        }
        rate = next((rate for rate in (0.2, 1.0, 2.0, 0.5, 3.0) if rate not in taken), 1.5)
        self._draft = (round(rate * self._cell.capacity_typical_ah, 3), ROOM_C)
        self._marked = len(self._cell.curves)
        self.show_evaluation(self.session.evaluation)
        return ""

    def _remove(self, place: int) -> str:
        assert self._cell is not None
        curves = self._cell.curves
        if place >= len(curves):
            self._draft = None
            self.show_evaluation(self.session.evaluation)
            return ""
        return self._change({"curves": (*curves[:place], *curves[place + 1 :])}, "discharge")

    def _take_points(self, records: list[Record]) -> str:
        assert self._cell is not None
        curves = list(self._cell.curves)
        draft = self._marked >= len(curves)
        if draft and self._draft is None:
            return in_words("add a discharge first")
        points = sorted((item["ah"], item["volts"]) for item in records)
        if draft and len(points) < LEAST_POINTS:
            # Kept in the grid as typed; there is no discharge of so few points.
            return ""
        amps, celsius = (
            self._draft
            if draft and self._draft is not None
            else (curves[self._marked].current_a, curves[self._marked].temperature_c)
        )
        try:
            fresh = curve_of(amps, celsius, points)
        except QuantityError as error:
            return said_of(error)
        before, self._draft = self._draft, None if draft else self._draft
        curves[self._marked : self._marked + 1] = [fresh]
        problem = self._change({"curves": tuple(curves)}, "discharge")
        if problem:
            self._draft = before
        return problem

    def _pasted(self, text: str) -> list[Record]:
        assert self._cell is not None
        pairs = parse_curve(text, self._cell.capacity_typical_ah)
        return [{"ah": ah, "volts": volts} for ah, volts in pairs]

    def _blank_pulse(self) -> Record:
        assert self._cell is not None
        evaluation = self.session.evaluation
        ohm = behaviour_of(
            self._cell, evaluation.sized.parts.chemistry_of(self._cell)
        ).ten_second_ohm
        return {"charge": 0.5, "seconds": 10.0, "celsius": ROOM_C, "milliohm": round(ohm * 1e3, 2)}

    def _take_pulses(self, records: list[Record]) -> str:
        try:
            pulses = tuple(
                pulse_of(item["charge"], item["seconds"], item["celsius"], item["milliohm"] / 1e3)
                for item in records
            )
        except QuantityError as error:
            return said_of(error)
        return self._change({"pulses": pulses}, "pulse")

    def _duplicate(self) -> None:
        assert self._cell is not None
        catalogue = self.session.evaluation.sized.parts
        name = worded("{} copy", self._cell.name)
        fresh = replace(self._cell, id=free_id(name, catalogue.cells), name=name, sample=False)
        curve = catalogue.chemistry_of(self._cell)
        extra = (curve,) if curve.id.startswith("own-") else ()
        self._cell = fresh
        try:
            self.session.edit_own(merged(self._parts(), (fresh,), extra), worded("add {}", name))
        except FileProblem as problem:
            self.session.tell("stop", said_of(problem))

    # Tracing.

    def _ask_picture(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "A picture of the discharges", str(Path.home()), PICTURES
        )
        if name:
            self.open_picture(Path(name))

    def open_picture(self, path: Path) -> None:
        """Lay a picture of the sheet out, to click the points of the marked discharge on."""
        assert self._cell is not None
        if self._marked >= len(self._cell.curves) and self._draft is None and self._begin():
            return
        if problem := self.picture.open(path, self._cell):
            self.session.tell("stop", problem)
            return
        self.right.setCurrentWidget(self.picture)
        self.picture.setFocus(Qt.FocusReason.OtherFocusReason)

    def _take_traced(self, points: Any) -> None:
        if problem := self._take_points([{"ah": ah, "volts": volts} for ah, volts in points]):
            self.picture.say(problem)
            return
        self.right.setCurrentIndex(0)
