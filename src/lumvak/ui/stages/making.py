"""Joints, making: what to cut from which stock, the order of the work, exports, strip checker."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from lumvak.core import units
from lumvak.core.cutlist import Cut, Stock, cut_lines, cuts_of, size_words, stocks_of
from lumvak.core.evaluate import Evaluation
from lumvak.core.figures import walk
from lumvak.core.stripcheck import check
from lumvak.core.units import round_figures, say
from lumvak.core.weldorder import order_of
from lumvak.files.export import SUFFIXES, write_export
from lumvak.files.problem import FileProblem
from lumvak.ui.fields import Choice, FigureLabel, QuantityField, heading, small_field, soft
from lumvak.ui.flow import flowing, scrolled
from lumvak.ui.session import Session
from lumvak.ui.tables import Column, Row, RowsTable
from lumvak.ui.theme import THEME

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
    Column("do", left=True, stretch=True),
    Column("pieces"),
    Column("volts", tip="The most that stands between two bare places of the pack then"),
)
ROLES = {"group": "within groups", "series": "series joints", "plate": "plates over joints"}


class MakingView(QWidget):
    """Three pages; exports stand at the top."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.page = Choice(PAGES, "Page")
        self.paper = Choice(PAPERS, "Paper")
        self.paper.picked.connect(self.paper.show_value)
        self.page.picked.connect(self.show_page)
        self.cuts = RowsTable(CUTS, "Pieces to cut")
        self.stocks = RowsTable(STOCKS, "Stock")
        self.steps = RowsTable(STEPS, "Order of work")
        self.cover = soft("", wrap=True)
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
        self._covers: list[str] = []
        self.pages = QStackedWidget()
        self._lay_out()
        self.steps.picked.connect(self._show_cover)

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
        layout.addWidget(heading("From which stock"))
        layout.addWidget(self.stocks, 2)
        layout.addWidget(self.total)
        order = QWidget()
        layout = QVBoxLayout(order)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self.steps, 1)
        layout.addWidget(self.cover)
        layout.addWidget(
            soft("A charged cell cannot be switched off. Eye protection, no rings, one lead at a "
                 "time; insulated tools.", wrap=True)
        )  # fmt: skip
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
        outer.addWidget(self.pages, 1)

    def show_page(self, page: str) -> None:
        """Turn to one of the pages."""
        self.page.show_value(page)
        self.pages.setCurrentIndex([key for key, _ in PAGES].index(page))
        self.show_evaluation(self.session.evaluation)

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show what there is to make of the pack of an evaluation."""
        if self.page.value == "check":
            self._show_check(seen)
            return
        self._cuts = cuts_of(seen)
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
                        ROLES[line.role],
                        line.part,
                        line.material,
                        str(line.count),
                        say(line.length_mm * line.count / 1000.0, "m"),
                    ),
                    key=(line.role, line.part_id, line.length_mm),
                )
                for line in lines
            ]
        )
        stocks = stocks_of(seen, lines)
        self.stocks.show_rows([self._stock(item) for item in stocks])
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

    def _show_order(self, seen: Evaluation) -> None:
        steps = order_of(seen, self._cuts)
        self._covers = [item.cover for item in steps]
        self.steps.show_rows(
            [
                Row(
                    (
                        str(place),
                        f"{item.text}. Cover: {item.cover}.",
                        str(item.pieces) if item.pieces else "",
                        say(item.volts, "V"),
                    ),
                    value=place - 1,
                    key=place,
                    marks={3: "amber"} if item.volts > 60.0 else {},
                )
                for place, item in enumerate(steps, 1)
            ]
        )
        self._show_cover(0)

    def _show_cover(self, place: int) -> None:
        if place < len(self._covers):
            self.cover.setText(f"Step {place + 1}, cover: {self._covers[place]}.")

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
