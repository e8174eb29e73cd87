"""Arrangement, the room: its shape and size, rows and holder, blocks of cells."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from msgspec.structs import asdict
from PyQt6.QtWidgets import QFileDialog, QPushButton, QVBoxLayout, QWidget

from lumvak.core.catalogue.cells import Cell
from lumvak.core.catalogue.holders import Holder
from lumvak.core.evaluation import Evaluation
from lumvak.core.making.holding import LOOSE_MM
from lumvak.core.units import LENGTH_MM
from lumvak.files.outline_apart import load_outline_apart
from lumvak.files.outline_file import Outline
from lumvak.files.problem import FileProblem
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, said_of, worded
from lumvak.ui.stages.part_box import PartBox
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.flow import flowing, scrolled
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import (
    GridColumn,
    Record,
    count_column,
    quantity_column,
    words_column,
)
from lumvak.ui.widgets.quantity_field import FieldChoice, edit_or_why, small_field, try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import side_by_side, soft
from lumvak.ui.work import Report, Work

KINDS = (("none", "free"), ("box", "box"), ("outline", "outline"), ("round", "round"))
ROWS = (("straight", "straight rows"), ("nested", "nested"))
LYING = (("up", "standing"), ("along", "lying along"), ("across", "lying across"))
AXIS_WORDS = {"up": "standing", "along": "lying along", "across": "lying across"}
LISTS = (("blocks", "blocks of cells"), ("corners", "corners"), ("holes", "holes"))
NO_HOLDER = "no holder"
OPTIONAL = ("height_mm", "pitch_mm", "between_mm", "plate_mm")
LOAD = "outline from a drawing …"
DRAWINGS = "Drawings (*.dxf *.svg);;All files (*)"


def _length(head: str, field: str) -> GridColumn:
    return quantity_column(head, field, LENGTH_MM)


# What is taken for a field that is empty, where that has another name.
HELD = {"pitch_mm": "holder.pitch_mm"}


class RoomPanel(QWidget):
    """Everything that is said of the room; every entry edits the project."""

    def __init__(self, session: Session) -> None:
        """The panel is long: it names every field of the room."""
        super().__init__()
        self.session = session
        self.kind = FieldChoice(session, "arrangement.room.kind", KINDS, "Room")
        self.rows = FieldChoice(session, "arrangement.rows", ROWS, "Rows")
        self.axis = FieldChoice(session, "arrangement.axis", LYING, "Cells stand or lie")
        self.fields = {
            name: small_field(
                session, f"arrangement.{path}", label, width=58, figure=HELD.get(path, "")
            )
            for name, path, label in (
                ("length_mm", "room.length_mm", "length"),
                ("width_mm", "room.width_mm", "width"),
                ("diameter_mm", "room.diameter_mm", "diameter"),
                ("height_mm", "room.height_mm", "height"),
                ("wall_mm", "wall_mm", "free to the wall"),
                ("pitch_mm", "pitch_mm", "pitch"),
                ("between_mm", "between_mm", "between layers"),
                ("plate_mm", "plate_mm", "pressed between plates of"),
            )
        }
        self.swell = small_field(session, "arrangement.swell_share", "they grow by", width=52)
        self.holder = PartBox(session, "arrangement.holder", "Holder", NO_HOLDER)
        self.gap = small_field(session, "joints.gap_mm", "gap", width=52)
        self.barrier = small_field(session, "arrangement.barrier_v", "barrier over", width=52)
        self.reading = Work()
        self.reading.done.connect(self._take_read)
        self.reading.failed.connect(lambda text: self._stopped("stop", text))
        self.destroyed.connect(self.reading.end)
        self.load = QPushButton(LOAD)
        self.load.setToolTip(in_words("A closed shape from a DXF or SVG file"))
        self.load.clicked.connect(self._ask_for_drawing)
        self.draw = QPushButton("draw it")
        self.draw.setToolTip(
            in_words(
                "Click the corners on the drawing; the first once more closes it, Backspace takes "
                "one back, Escape gives up"
            )
        )
        self.which = ChoiceRow(LISTS, "Which list")
        self.which.picked.connect(self._show_list)
        self.lists = {
            "blocks": Grid(
                "Blocks of cells",
                (
                    _length("x", "x_mm"),
                    _length("y", "y_mm"),
                    count_column("columns", "columns"),
                    count_column("rows", "rows"),
                    words_column("cells", "axis", AXIS_WORDS, wide=True),
                ),
                self._taker("arrangement.blocks", "blocks of cells"),
                lambda: {"x_mm": 0.0, "y_mm": 0.0, "columns": 3, "rows": 1, "axis": "up"},
                (1, 4),
            ),
            "corners": Grid(
                "Corners of the outline",
                (_length("x", "x_mm"), _length("y", "y_mm")),
                self._take_corners,
                lambda: {"x_mm": 0.0, "y_mm": 0.0},
                (1, 4),
            ),
            "holes": Grid(
                "Holes",
                (_length("x", "x_mm"), _length("y", "y_mm"), _length("diameter", "diameter_mm")),
                self._taker("arrangement.room.holes", "holes"),
                lambda: {"x_mm": 20.0, "y_mm": 20.0, "diameter_mm": 6.0},
                (1, 4),
            ),
        }
        self._lay_out()

    def _lay_out(self) -> None:
        inner = QWidget()
        layout = QVBoxLayout(inner)
        layout.setContentsMargins(THEME.px(12), 0, THEME.px(6), 0)
        layout.setSpacing(THEME.px(6))
        layout.addWidget(side_by_side(soft("room"), self.kind))
        names = ("length_mm", "width_mm", "diameter_mm", "height_mm", "wall_mm")
        layout.addWidget(
            flowing(*(self.fields[name] for name in names), self.load, self.draw, gap=14)
        )
        layout.addWidget(self.rows)
        layout.addWidget(self.axis)
        layout.addWidget(
            flowing(
                self.holder,
                self.gap,
                self.fields["pitch_mm"],
                self.fields["between_mm"],
                self.barrier,
                self.swell,
                self.fields["plate_mm"],
                gap=14,
            )
        )
        layout.addWidget(self.which)
        for grid in self.lists.values():
            layout.addWidget(grid)
        layout.addStretch(1)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(scrolled(inner))
        self._show_list("blocks")

    def _show_list(self, which: str) -> None:
        self.which.show_value(which)
        for name, grid in self.lists.items():
            grid.setVisible(name == which)

    def _taker(self, path: str, text: str) -> Callable[[list[Record]], str]:
        def take(records: list[Record]) -> str:
            return edit_or_why(self.session, {path: tuple(records)}, text)

        return take

    def _take_corners(self, records: list[Record]) -> str:
        corners = tuple((item["x_mm"], item["y_mm"]) for item in records)
        changes: dict[str, Any] = {"arrangement.room.outline": corners}
        return edit_or_why(self.session, changes, "corners of the outline")

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the room of an evaluation."""
        arrangement, room = evaluation.project.arrangement, evaluation.project.arrangement.room
        self._show_holder(evaluation)
        shown = {
            "length_mm": room.kind == "box",
            "width_mm": room.kind == "box",
            "diameter_mm": room.kind == "round",
            "height_mm": room.kind != "none",
            "wall_mm": room.kind != "none",
        }
        for name, visible in shown.items():
            self.fields[name].setVisible(visible)
        self.load.setVisible(room.kind == "outline")
        self.draw.setVisible(room.kind == "outline")
        self.gap.setVisible(arrangement.pitch_mm is None and arrangement.holder is None)
        offered = [item for item in LISTS if item[0] != "corners" or room.kind == "outline"]
        self.which.offer(offered)
        if self.which.value == "corners" and room.kind != "outline":
            self._show_list("blocks")
        self.lists["blocks"].show_records([asdict(item) for item in arrangement.blocks])
        self.lists["corners"].show_records([{"x_mm": x, "y_mm": y} for x, y in room.outline])
        self.lists["holes"].show_records([asdict(item) for item in room.holes])

    def _show_holder(self, evaluation: Evaluation) -> None:
        """The holder of round cells; of flat ones by how much they grow, and the plates."""
        arrangement, cell = evaluation.project.arrangement, evaluation.sized.choice.cell
        flat = cell.diameter_mm is None
        self.holder.setVisible(not flat or arrangement.holder is not None)
        known = evaluation.sized.parts.holders
        fitting = [
            item for item in known.values() if item.id == arrangement.holder or _takes(item, cell)
        ]
        self.holder.offer([(item.name, item.id) for item in fitting], arrangement.holder, NO_HOLDER)
        for field in (self.swell, self.fields["plate_mm"]):
            field.setVisible(flat)

    def _ask_for_drawing(self) -> None:
        if self.reading.busy:
            self.reading.cancel()
            self._stopped("note", "Reading was stopped; nothing was changed.")
            return
        name, _ = QFileDialog.getOpenFileName(self, "Outline from a drawing", "", DRAWINGS)
        if name:
            self.take_drawing(Path(name))

    def take_drawing(self, path: Path) -> None:
        """Read the outline of a drawing; what was left out, and what is wrong, is said.

        It is read in a process of its own, and can be stopped.
        """

        def read(keep_on: Report) -> tuple[Outline | None, str]:
            try:
                return load_outline_apart(path, keep_on), ""
            except FileProblem as problem:
                return None, said_of(problem)

        self.reading.start(read, (path, self.session.path))
        self.load.setText(in_words("stop reading"))

    def _stopped(self, severity: str, text: str) -> None:
        self.load.setText(LOAD)
        self.session.tell(severity, text)

    def _take_read(self, read: tuple[Outline | None, str], tag: tuple[Path, Path | None]) -> None:
        found, problem = read
        path, project = tag
        if found is None or project != self.session.path:
            self._stopped(
                "stop", problem or worded("{} was read for another project; not taken", path.name)
            )
            return
        self.load.setText(LOAD)
        taken = try_edit(
            self.session,
            {
                "arrangement.room.kind": "outline",
                "arrangement.room.outline": found.corners,
                "arrangement.room.cut_outs": found.cut_outs,
                "arrangement.room.holes": tuple(asdict(item) for item in found.holes),
            },
            "outline from a drawing",
        )
        if taken and found.ignored:
            self.session.tell(
                "warn", worded("{}: left out {}.", path.name, ", ".join(found.ignored))
            )


def _takes(holder: Holder, cell: Cell) -> bool:
    """Whether a cell goes into a holder and is not loose in it."""
    return cell.diameter_mm is not None and (
        0.0 <= holder.diameter_mm - cell.diameter_mm <= LOOSE_MM
    )
