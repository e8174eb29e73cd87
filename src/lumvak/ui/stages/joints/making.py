"""Joints, making: what to cut from which stock, the order of the work, exports, strip checker."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from lumvak.core import units
from lumvak.core.arrangement.layout import FACE_A, FACE_B
from lumvak.core.evaluation import Evaluation, cuts_in_hand
from lumvak.core.figures.figure import walk
from lumvak.core.figures.finding import TOUCH_SAFE_V
from lumvak.core.making.cut_list import Cut, cut_lines, size_words
from lumvak.core.making.order_of_work import order_of
from lumvak.core.making.stock import Stock, stocks_of
from lumvak.core.making.strip_check import check
from lumvak.core.units import round_figures, say
from lumvak.files.export.formats import SUFFIXES, write_export
from lumvak.files.problem import FileProblem
from lumvak.ui.pack_drawing.side import Drawn
from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.session import Session
from lumvak.ui.widgets.choice import Choice
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import QuantityField, small_field
from lumvak.ui.widgets.tables import Column, Row, RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

PAGES = (("cut", "cut list"), ("order", "order of work"), ("check", "strip checker"))
PAPERS = (("a4", "A4"), ("letter", "Letter"))
EXPORTS = (("pdf", "template, PDF …"), ("svg", "SVG …"), ("dxf", "DXF …"), ("csv", "CSV …"),
           ("spice", "netlist …"))  # fmt: skip
CUTS = (
    Column("piece", left=True),
    Column("for", left=True),
    Column("conductor", left=True, stretch=True),
    Column("material", left=True),
    Column("how many"),
    Column("together"),
)
STOCKS = (
    Column("stock", left=True, stretch=True),
    Column("cut"),
    Column("to open"),
    Column("at least", tip="No plan needs fewer"),
    Column("left over"),
    Column("mass"),
    Column("price"),
)
STEPS = (
    Column("", left=True),
    Column("do, and cover", left=True, stretch=True),
    Column("pieces"),
    Column("volts", tip="The most that stands between two bare places of the pack then"),
)
ROLES = {"group": "within groups", "series": "series joints", "plate": "plates over joints"}


class MakingView(Page):
    """Three pages; exports stand at the top."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.page = Choice(PAGES, "Page")
        self.paper = Choice(PAPERS, "Paper")
        self.paper.picked.connect(self.paper.show_value)
        self.page.picked.connect(self.show_page)
        self.cuts = RowsTable(CUTS, "Pieces to cut")
        self.stocks = RowsTable(STOCKS, "Stock")
        self.steps = RowsTable(STEPS, "Order of work")
        self.side_a, self.side_b = PackView("Side A, facing you"), PackView("Side B, turned over")
        self.chosen: Any = None
        self.step = 0
        self.total = soft("", wrap=True)
        self.fields = [
            small_field(session, "making.roll_m", "a roll holds", units.LENGTH_M, optional=False),
            small_field(session, "making.sheet_mm", "a sheet or bar is long", units.LENGTH_MM,
                        optional=False, width=60),
            small_field(session, "making.overhang_mm", "beyond the last joint", units.LENGTH_MM,
                        optional=False),
        ]  # fmt: skip
        self.checks = [
            QuantityField(session, f"making.check_{name}", label, kind, optional=name == "mohm")
            for name, label, kind in (
                ("mohm", "Measured", units.MILLIOHM),
                ("meter_mohm", "Meter within ±", units.MILLIOHM),
                ("length_mm", "Between the probes", units.LENGTH_MM),
                ("width_mm", "Width", units.LENGTH_MM),
                ("thickness_mm", "Thickness", units.LENGTH_MM),
            )
        ]
        self.verdict = soft("", wrap=True)
        self.resistivity = FigureLabel(session, "check.resistivity", "resistivity", strong=True)
        self._cuts: tuple[Cut, ...] = ()
        self.pages = QStackedWidget()
        self._lay_out()
        self.steps.picked.connect(self._pick_step)
        self.cuts.picked.connect(self._pick_line)

    def _lay_out(self) -> None:
        top = QHBoxLayout()
        top.addWidget(self.page)
        top.addStretch(1)
        buttons = []
        for to, name in EXPORTS:
            button = QPushButton(name)
            button.clicked.connect(lambda _, to=to: self._ask_where(to))
            buttons.append(button)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addLayout(top)
        outer.addWidget(flowing(soft("export"), *buttons, soft("paper"), self.paper))
        cut = QWidget()
        layout = QVBoxLayout(cut)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(THEME.px(6))
        layout.addWidget(flowing(*self.fields, gap=18))
        layout.addWidget(self.cuts, 3)
        layout.addWidget(self.stocks, 2)
        layout.addWidget(self.total)
        order = QWidget()
        layout = QVBoxLayout(order)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self.steps, 1)
        checker = QWidget()
        layout = QVBoxLayout(checker)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(
            soft("Send a known current through a strip of known size, and read the drop between "
                 "two points on it; or use a meter with four wires.", wrap=True)
        )  # fmt: skip
        for field in self.checks:
            layout.addWidget(field)
        layout.addWidget(self.resistivity)
        self.verdict.setFont(THEME.font("section", strong=True))
        layout.addWidget(self.verdict)
        layout.addStretch(1)
        for page in (cut, order, scrolled(checker)):
            self.pages.addWidget(page)
        outer.addWidget(self.pages, 3)
        self.sides = QWidget()
        pair = QHBoxLayout(self.sides)
        pair.setContentsMargins(0, 0, 0, 0)
        for view, name in ((self.side_a, "side A"), (self.side_b, "side B, turned over")):
            column = QVBoxLayout()
            column.setSpacing(0)
            column.addWidget(soft(name))
            column.addWidget(view, 1)
            pair.addLayout(column, 1)
        outer.addWidget(self.sides, 2)

    def show_page(self, page: str) -> None:
        """Turn to one of the pages."""
        self.page.show_value(page)
        self.pages.setCurrentIndex([key for key, _ in PAGES].index(page))
        self.show_evaluation(self.session.evaluation)

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show what there is to make of the pack of an evaluation."""
        self.sides.setVisible(self.page.value != "check")
        if self.page.value == "check":
            self._show_check(seen)
            return
        self._cuts = cuts_in_hand(seen)
        if self.page.value == "cut":
            self._show_cuts(seen)
        else:
            self._show_order(seen)

    def _show_cuts(self, seen: Evaluation) -> None:
        making = seen.project.making
        values = (making.roll_m, making.sheet_mm, making.overhang_mm)
        for field, value in zip(self.fields, values, strict=True):
            field.show_value(value, None)
        lines = cut_lines(self._cuts)
        self.cuts.show_rows(
            [
                Row(
                    (
                        size_words(line),
                        ROLES[line.size.role],
                        line.size.part,
                        line.size.material,
                        str(line.count),
                        say(line.size.length_mm * line.count / 1000.0, "m"),
                    ),
                    value=place,
                    chosen=place == self.chosen,
                    key=(line.size.role, line.size.part_id, line.size.length_mm),
                )
                for place, line in enumerate(lines)
            ]
        )
        fit_height(self.cuts, len(lines), 7)
        stocks = stocks_of(lines, seen.catalogue.conductors, seen.project.making)
        self.stocks.show_rows([self._stock(item) for item in stocks])
        fit_height(self.stocks, len(stocks), 5)
        marked: frozenset[int] = frozenset()
        if self.chosen is not None and self.chosen < len(lines):
            line = lines[self.chosen]
            marked = frozenset(
                piece for cut in self._cuts if cut.size == line.size for piece in cut.pieces
            )  # fmt: skip
        self._draw(seen, marked, frozenset(), (frozenset(), frozenset()))
        layers = {cut.layers for cut in self._cuts}
        counted = "layers are counted as pieces; " if max(layers, default=1) > 1 else ""
        self.total.setText(
            f"{sum(line.count for line in lines)} pieces, {counted}"
            f"{say(sum(item.cut_m for item in stocks), 'm')}, "
            f"{say(sum(item.mass_g for item in stocks), 'g')}, "
            f"{round_figures(sum(item.price for item in stocks))} in money."
            + "".join(
                f" A piece of {item.part} is {say(item.too_long_mm, 'mm')} long, more than its "
                "stock: join it over a cell, or take longer stock."
                for item in stocks
                if item.too_long_mm
            )
        )

    def _stock(self, item: Stock) -> Row:
        unit = f"{say(item.unit_mm / 1000.0, 'm')}" if item.unit_mm >= 1000 else (
            say(item.unit_mm, "mm")
        )  # fmt: skip
        return Row(
            (
                item.part,
                say(item.cut_m, "m"),
                f"{item.units} × {unit}",
                str(item.least),
                say(item.left_m, "m"),
                say(item.mass_g, "g"),
                round_figures(item.price),
            ),
            key=item.part,
        )

    def _pick_line(self, place: int) -> None:
        self.chosen = None if place == self.chosen else place
        self._show_cuts(self.session.evaluation)

    def _pick_step(self, place: int) -> None:
        self.step = place
        self._show_order(self.session.evaluation)

    def _show_order(self, seen: Evaluation) -> None:
        steps = order_of(seen.table, self._cuts)
        self.step = min(self.step, len(steps) - 1)
        rows = []
        for place, item in enumerate(steps):
            here = place == self.step
            marks = {3: "amber"} if item.volts > TOUCH_SAFE_V else {}
            count = str(item.count) if item.count else ""
            rows.append(Row((str(place + 1), f"{item.text}.", count, say(item.volts, "V")),
                            value=place, chosen=here, key=place, marks=marks))  # fmt: skip
            rows.append(Row(("", f"cover {item.cover}", "", ""), value=place, faded=True,
                            key=(place, "cover")))  # fmt: skip
        self.steps.show_rows(rows)
        step = steps[self.step]
        everything = frozenset(range(len(seen.table.layout)))
        under = tuple(
            everything - step.bare if step.face in (-1, face) else everything
            for face in (FACE_A, FACE_B)
        )
        laid = step.now | step.done
        away = frozenset(range(len(seen.table.pieces))) - laid
        self._draw(seen, step.now, away, (under[0], under[1]))

    def _draw(
        self,
        seen: Evaluation,
        marked: frozenset[int],
        away: frozenset[int],
        covered: tuple[frozenset[int], frozenset[int]],
    ) -> None:
        """Both sides: some pieces stand out, some are not laid yet, some cells are covered."""
        table = seen.table
        views = (self.side_a, self.side_b)
        for view, side, under in zip(views, (FACE_A, FACE_B), covered, strict=True):
            view.show_drawn(
                Drawn(
                    layout=table.layout,
                    side=side,
                    pieces=table.pieces,
                    width_mm=table.sections.width_mm * table.sections.strips,
                    leads=table.leads if not away else (),
                    absent=away,
                    marked=marked,
                    covered=under,
                )
            )

    def _show_check(self, seen: Evaluation) -> None:
        making = seen.project.making
        values = (making.check_mohm, making.check_meter_mohm, making.check_length_mm,
                  making.check_width_mm, making.check_thickness_mm)  # fmt: skip
        for field, value in zip(self.checks, values, strict=True):
            field.show_value(value, None)
        found = check(making)
        self.resistivity.setVisible(found is not None)
        if found is None:
            self.verdict.setText("Enter what the meter reads.")
            return
        self.session.add_figures(walk((found.resistivity,)), self.session.revision)
        self.resistivity.show_figure()
        self.verdict.setText(found.text + ".")

    def _ask_where(self, to: str) -> None:
        session = self.session
        folder = session.path.parent if session.path is not None else Path.home()
        suggested = folder / f"{session.project.name}{SUFFIXES[to]}"
        name, _ = QFileDialog.getSaveFileName(self, "Export", str(suggested))
        if name:
            self.export(to, Path(name))

    def export(self, to: str, path: Path) -> None:
        """Write an export; what is wrong is said."""
        try:
            write_export(self.session.evaluation, to, path, self.paper.value)
        except FileProblem as problem:
            self.session.tell("stop", str(problem))
            return
        self.session.tell("note", f"Written to {path}.")
