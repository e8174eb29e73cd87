"""The library of cells: sort, filter, compare, and keep cells of one's own."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import Any

from msgspec.structs import asdict, replace
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lumvak.core.catalogue.catalogue import PartsFile
from lumvak.core.catalogue.cells import FAMILY_NAMES, Cell
from lumvak.core.cells.cell_model import resistance
from lumvak.core.cells.cell_sheet import begun_from, free_id
from lumvak.core.comparison.cells_at_work import AtWork, at_work
from lumvak.core.evaluation import Evaluation
from lumvak.core.units import COUNT, QuantityError
from lumvak.files.catalogue_file import read_parts
from lumvak.files.own_parts import cells_csv, merged, parts_text, read_cells_csv
from lumvak.files.problem import FileProblem, read_text, write_atomically
from lumvak.ui.explain import explain_other
from lumvak.ui.exports import write_out
from lumvak.ui.session import Session
from lumvak.ui.speech import (
    SPEECH,
    in_words,
    parse,
    round_figures,
    said_of,
    say_fixed,
    say_sides,
    worded,
)
from lumvak.ui.stages.cells.cell_sheet import CellSheet
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import flowing, scrolled
from lumvak.ui.widgets.pages import Page, Split
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import side_by_side, soft

COLUMNS = (
    Column("cell", left=True, stretch=True, tip="Name of the cell; a mark stands before your own"),
    Column("chemistry", left=True, tip="Family of the chemistry"),
    Column("size", left=True, tip="Form, or diameter and height"),
    Column("Ah", tip="Typical capacity"),
    Column("A", tip="Continuous current of the sheet"),
    Column("mΩ", tip="DC resistance after 10 s; ◇ where it is assumed"),
    Column("g", tip="Mass of one cell"),
    Column("Wh/kg", tip="Energy for its mass, typical capacity at nominal volts"),
    Column("/Wh", tip="Cost for each Wh"),
    Column("held", tip="How many are in the drawer"),
    Column("pack", left=True, tip="The best pack of this cell for the need, or as chosen"),
    Column("gives", tip="Ah a cell delivers down to the low-voltage cut-off"),
    Column("warms", tip="Its cells at the end of the duty"),
)
COLUMN_FIGURES = {
    3: "cell.capacity_typical_ah", 4: "cell.continuous_a", 5: "cell.resistance_ohm",
    6: "cell.mass_g", 7: "cell.wh_per_kg", 8: "cell.price_per_wh", 10: "pack.parallel",
    11: "cell.delivered_ah", 12: "heat.temperature_end_c",
}  # fmt: skip
FILTER = "Cells (*.csv *.json);;All files (*)"


def size_of(cell: Cell) -> str:
    """The format, or the sides where it has no name of its own."""
    if cell.diameter_mm is not None:
        return cell.format
    return say_sides((cell.width_mm or 0.0, cell.thickness_mm or 0.0, cell.height_mm), "g")


class LibraryView(Page):
    """The table above; below it the sheet of the cell that is marked."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.marked = ""
        self._order: tuple[int, bool] = (0, False)
        self._packs: dict[str, tuple[str, int, int]] = {}
        self._rows: list[tuple[tuple[Any, ...], Row]] = []
        self.table = RowsTable(COLUMNS, "Library of cells", sortable=True)
        self.sheet = CellSheet(session)
        self.search = EntryField()
        self.search.setAccessibleName(in_words("Search the library"))
        self.search.setPlaceholderText(in_words("search"))
        self.search.setFixedWidth(THEME.px(104))
        self.family = QComboBox()
        self.family.setAccessibleName(in_words("Chemistry shown"))
        for value, text in (("", "every chemistry"), *FAMILY_NAMES.items(), ("own", "my own")):
            self.family.addItem(text, value)
        self.currency = soft("")
        self.currency.setToolTip(in_words("Set by the preferences"))
        self.held = EntryField()
        self.held.setAccessibleName(in_words("On hand"))
        self.held.setPlaceholderText("0")
        self.held.setFixedWidth(THEME.px(52))
        self.held.setToolTip(in_words("How many of the marked cell are in the drawer"))
        self.buttons = {
            name: QPushButton(name) for name in ("new", "duplicate", "delete", "in and out …")
        }
        menu = QMenu(self)
        for text, do in (
            ("Bring cells in …", self._ask_in),
            ("Write all cells as CSV …", partial(self._ask_out, ".csv", False)),
            ("Write my own cells as CSV …", partial(self._ask_out, ".csv", True)),
            ("Write my own cells as JSON …", partial(self._ask_out, ".json", True)),
        ):
            action = menu.addAction(in_words(text))
            if action is not None:
                action.triggered.connect(lambda _=False, do=do: do())
        self.buttons["in and out …"].setMenu(menu)
        self._lay_out()
        self.table.picked.connect(self.mark)
        self.table.sort_asked.connect(self._sort)
        self.table.cell_clicked.connect(self._explain)
        self.search.textChanged.connect(lambda _: self._fill())
        self.family.currentIndexChanged.connect(lambda _: self._fill())
        self.held.editingFinished.connect(self._hold)
        self.buttons["new"].clicked.connect(self._new)
        self.buttons["duplicate"].clicked.connect(self._duplicate)
        self.buttons["delete"].clicked.connect(self._delete)

    def _lay_out(self) -> None:
        above = QWidget()
        outer = QVBoxLayout(above)
        outer.setContentsMargins(THEME.px(24), THEME.px(2), THEME.px(12), THEME.px(4))
        outer.setSpacing(THEME.px(4))
        outer.addWidget(
            flowing(
                self.search,
                self.family,
                side_by_side(soft("on hand"), self.held),
                self.currency,
                *self.buttons.values(),
                gap=6,
            )
        )
        outer.addWidget(self.table, 1)
        keep_rows(self.table, 6)
        split = Split(
            self.session, "cells.library", Qt.Orientation.Vertical, (above, self.sheet), (214, 330)
        )
        page = QVBoxLayout(self)
        page.setContentsMargins(0, 0, 0, 0)
        page.addWidget(scrolled(split))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show all cells at hand, and what each would do for this need."""
        cells = evaluation.sized.sized_pack.table.cells
        if self.marked not in evaluation.sized.parts.cells:
            self.marked = evaluation.sized.choice.cell.id
        work = at_work(evaluation.sized.sized_pack, evaluation.sized.options)
        self._packs = {
            cell.id: (cell.id, int(series), int(parallel))
            for cell, series, parallel in zip(cells, work.series, work.parallel, strict=True)
        }
        held = {item.cell: item.count for item in evaluation.project.pack.drawer}
        self.currency.setText(
            worded("costs in {}", SPEECH.spelling.currency) if SPEECH.spelling.currency else ""
        )
        own = {cell.id for cell in self._own().cells}
        self._rows = [
            self._row(evaluation, work, place, held.get(cell.id, 0), cell.id in own)
            for place, cell in enumerate(cells)
        ]
        self._fill()

    def _row(
        self, evaluation: Evaluation, work: AtWork, place: int, held: int, own: bool
    ) -> tuple[tuple[Any, ...], Row]:
        cell = evaluation.sized.sized_pack.table.cells[place]
        family = evaluation.sized.parts.chemistry_of(cell).family
        ohm = resistance(cell)
        series, parallel = int(work.series[place]), int(work.parallel[place])
        gives, warm = float(work.delivered_ah[place]), float(work.warmest_c[place])
        serves = bool(work.serves[place])
        name = cell.name + (in_words(" · mine") if own else "")
        keys = (
            cell.name.lower(),
            family,
            size_of(cell),
            cell.capacity_typical_ah,
            cell.continuous_a,
            ohm.number,
            cell.mass_g,
            cell.wh_per_kg,
            cell.price_per_wh,
            held,
            series * parallel if serves else 10**6,
            gives,
            warm,
        )
        texts = (
            name,
            FAMILY_NAMES[family],
            size_of(cell),
            round_figures(cell.capacity_typical_ah),
            round_figures(cell.continuous_a),
            round_figures(ohm.number * 1e3) + (" ◇" if ohm.assumed else ""),
            round_figures(cell.mass_g),
            f"{cell.wh_per_kg:.0f}",
            round_figures(cell.price_per_wh),
            str(held) if held else "",
            f"{series}S{parallel}P" if serves else "none",
            worded("{} Ah", round_figures(gives)),
            say_fixed(warm, "°C"),
        )
        own_mark = "own" if own else family
        return (*keys, own_mark), Row(texts, value=cell.id, faded=not serves, key=own_mark)

    def _fill(self) -> None:
        words = self.search.text().lower().split()
        wanted = self.family.currentData()
        place, falling = self._order
        shown = [
            (keys, row)
            for keys, row in self._rows
            if all(word in " ".join(row.cells[:3]).lower() for word in words)
            and (not wanted or wanted in (keys[-1], keys[1]))
        ]
        shown.sort(key=lambda item: item[0][place], reverse=falling)
        self.table.show_rows(
            [
                Row(row.cells, row.value, chosen=row.value == self.marked, faded=row.faded)
                for _, row in shown
            ]
        )
        self._show_marked()

    def _sort(self, place: int) -> None:
        """Sort by a column; once more turns the order round."""
        same = self._order[0] == place
        self._order = (place, not self._order[1] if same else False)
        self.table.show_sorted(*self._order)
        self._fill()

    def mark(self, cell: Any) -> None:
        """Show the sheet of a cell."""
        self.marked = cell
        self._fill()
        self.table.show_chosen()

    def _explain(self, cell: Any, place: int) -> None:
        """Show how a number of the marked cell came about, in the pack it is shown in."""
        if place in COLUMN_FIGURES:
            explain_other(self.session, self._packs[cell], COLUMN_FIGURES[place])

    def _show_marked(self) -> None:
        evaluation = self.session.evaluation
        if self.marked not in evaluation.sized.parts.cells:
            return
        own = any(cell.id == self.marked for cell in self._own().cells)
        self.buttons["delete"].setEnabled(own)
        held = [item.count for item in evaluation.project.pack.drawer if item.cell == self.marked]
        if not self.held.hasFocus():
            self.held.setText(str(held[0]) if held else "")
        self.sheet.show_cell(evaluation, self.marked, own)

    # Cells of one's own.

    def _own(self) -> PartsFile:
        try:
            return self.session.own
        except FileProblem:
            # What is wrong with the file was said at the start; it is left as it is.
            return PartsFile()

    def _keep(self, parts: PartsFile, text: str) -> bool:
        try:
            self.session.edit_own(parts, text)
        except FileProblem as problem:
            self.session.tell("stop", said_of(problem))
            return False
        return True

    def _add(self, source: Cell, name: str) -> None:
        taken = self.session.evaluation.sized.parts.cells
        fresh = replace(source, id=free_id(name, taken), name=name, sample=False)
        curve = self.session.evaluation.sized.parts.chemistry_of(source)
        extra = (curve,) if curve.id.startswith("own-") else ()
        self.marked = fresh.id
        self._keep(merged(self._own(), (fresh,), extra), worded("add {}", name))

    def _new(self) -> None:
        """A new cell begins as the marked one without what only its own sheet can say."""
        source = self.session.evaluation.sized.parts.cells[self.marked]
        self._add(begun_from(source), "New cell")

    def _duplicate(self) -> None:
        source = self.session.evaluation.sized.parts.cells[self.marked]
        self._add(source, worded("{} copy", source.name))

    def _delete(self) -> None:
        own = self._own()
        left = tuple(cell for cell in own.cells if cell.id != self.marked)
        if len(left) < len(own.cells):
            self._keep(replace(own, cells=left), worded("delete {}", self.marked))

    def _hold(self) -> None:
        """Enter how many of the marked cell are on hand."""
        text = self.held.text().strip() or "0"
        drawer = self.session.project.pack.drawer
        try:
            count = int(parse(text, COUNT))
            if not 0 <= count <= 100_000:
                raise QuantityError(worded("On hand: {} was given; accepted: 0 to 100000", count))
        except QuantityError as error:
            self.session.tell("warn", said_of(error))
            return
        others = [asdict(item) for item in drawer if item.cell != self.marked]
        mine = [{"cell": self.marked, "count": count}] if count else []
        try_edit(self.session, {"pack.drawer": (*others, *mine)}, "cells on hand")

    # Files.

    def _ask_in(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Bring cells in", str(Path.home()), FILTER)
        if name:
            self.bring_in(Path(name))

    def take_file(self, path: Path) -> None:
        self.bring_in(path)

    def _like(self) -> list[Cell]:
        """What a cell of few figures is guessed after: the one in force, then the others."""
        chosen = self.session.evaluation.sized.choice.cell
        return [chosen, *self.session.catalogue.cells.values()]

    def bring_in(self, path: Path) -> None:
        """Add the cells of a CSV or JSON file to one's own; a problem changes nothing."""
        try:
            text = read_text(path)
            if path.suffix.lower() == ".json":
                found = read_parts(text, path.name)
                cells, curves = found.cells, found.chemistries
            else:
                cells, curves = read_cells_csv(text, path.name, self._like()), ()
            known = {*self.session.catalogue.chemistries, *(item.id for item in curves)}
            for cell in cells:
                if cell.chemistry not in known:
                    raise FileProblem(
                        worded(
                            "{}: “{}” names the chemistry “{}”; accepted: {}",
                            path.name,
                            cell.id,
                            cell.chemistry,
                            ", ".join(sorted(known)),
                        )
                    )
            plain = [replace(cell, sample=False) for cell in cells]
            taken = [cell.id for cell in plain if cell.id in self.session.catalogue.cells]
            if plain:
                self.marked = plain[0].id
            self.session.edit_own(
                merged(self._own(), plain, curves), worded("cells of {}", path.name)
            )
        except FileProblem as problem:
            self.session.tell("stop", said_of(problem))
            return
        words = worded(
            "{} cell{} brought in from {}", len(cells), "s" if len(cells) != 1 else "", path.name
        )
        if taken:
            words += worded("; {} of them stand in place of those of the same id", len(taken))
        self.session.tell("note", words + ".")

    def _ask_out(self, suffix: str, own: bool) -> None:
        suggested = str(Path.home() / f"cells{suffix}")
        name, _ = QFileDialog.getSaveFileName(self, "Write cells out", suggested, FILTER)
        if name:
            path = Path(name)
            self.write_out(path if path.suffix else path.with_suffix(suffix), own)

    def write_out(self, path: Path, own: bool) -> None:
        """Write all cells, or one's own, as CSV or JSON."""
        parts = self._own()
        cells = parts.cells if own else self.session.catalogue.cell_list
        text = parts_text(parts) if path.suffix.lower() == ".json" else cells_csv(cells)
        said = worded("{} cells written to {}.", len(cells), path.name)
        write_out(self.session, path, lambda: write_atomically(path, text), said)
