"""Joints, measured cells: resistance and voltage of single cells by their place."""

from __future__ import annotations

from msgspec.structs import asdict
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.units import CAPACITY, MILLIOHM, VOLTAGE, Kind, QuantityError
from lumvak.ui.session import Session
from lumvak.ui.speech import parse
from lumvak.ui.widgets.flow import scrolled
from lumvak.ui.widgets.grid import Grid, pasted_rows
from lumvak.ui.widgets.grid_columns import GridColumn, Record, quantity_column
from lumvak.ui.widgets.quantity_field import edit_or_why
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

KINDS: tuple[Kind, ...] = (MILLIOHM, VOLTAGE, CAPACITY)


def _place(text: str, _: Record) -> str:
    if not text:
        raise QuantityError("a place is wanted, such as g3c2: the second cell of group 3")
    return text.lower()


class MeasuredCells(QWidget):
    """A row a cell; the currents follow at once. Rows can be pasted from a spreadsheet."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.grid = Grid(
            "Measured cells",
            (
                GridColumn("place", "cell", _place, lambda value, _: str(value), left=True),
                quantity_column("resistance", "mohm", MILLIOHM, optional=True),
                quantity_column("OCV", "volts", VOLTAGE, optional=True),
                quantity_column("capacity", "ah", CAPACITY, optional=True),
            ),
            self.take,
            lambda: {"cell": self._next(), "mohm": None, "volts": None, "ah": None},
            (2, 6),
            paste=self.pasted,
        )
        inner = QWidget()
        layout = QVBoxLayout(inner)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(THEME.px(4))
        layout.addWidget(
            soft(
                "Cells that were not measured count as the sheet says, at half charge. Paste rows "
                "of place, mΩ, volts, Ah.",
                wrap=True,
            )
        )
        layout.addWidget(self.grid)
        layout.addStretch(1)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(scrolled(inner))

    def _next(self) -> str:
        """The first place of the pack that has no row yet."""
        known = {item.cell for item in self.session.project.measured}
        names = self.session.evaluation.laid_out.joined_pack.layout.name
        return next((name for name in names if name not in known), "g1c1")

    def take(self, records: list[Record]) -> str:
        return edit_or_why(self.session, {"measured": tuple(records)}, "measured cells")

    def pasted(self, text: str) -> list[Record]:
        """Rows of place, mΩ, volts, Ah; raises QuantityError."""
        records = []
        for place, *values in pasted_rows(text, 4):
            if not place:
                continue
            read = [
                parse(value, kind) if value else None
                for value, kind in zip(values, KINDS, strict=True)
            ]
            records.append(
                dict(zip(("cell", "mohm", "volts", "ah"), (place.lower(), *read), strict=True))
            )
        return records

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the measured cells of an evaluation."""
        self.grid.show_records([asdict(item) for item in evaluation.project.measured])
