"""Making: what to cut, and from which stock."""

from __future__ import annotations

from msgspec import Struct
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation, fixings_in_hand
from lumvak.core.making.cut_lines import cut_lines, size_words
from lumvak.core.making.cut_list import Cut
from lumvak.core.making.stock import Stock, stocks_of
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.quantity_field import small_field
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

CUTS = (
    Column("no", left=True, tip="The number that the template shows on each such piece"),
    Column("piece", left=True, tip="Width × length"),
    Column("for", left=True, tip="What the piece joins"),
    Column("conductor", left=True, stretch=True, tip="What it is cut from"),
    Column("material", left=True, tip="Of the conductor"),
    Column("how many", tip="Pieces of this size"),
    Column("together", tip="Length of all of them"),
)


def _opened(item: Stock) -> str:
    long = item.unit_mm >= 1000
    unit = say(item.unit_mm / 1000.0, "m") if long else say(item.unit_mm, in_words("mm"))
    return f"{item.units} × {unit}"


STOCKS = (
    Column(
        "stock",
        text=lambda it: spoken(it.part),
        left=True,
        stretch=True,
        tip="What the pieces are cut from",
    ),
    Column("cut", text=lambda it: say(it.cut_m, "m"), tip="Length of all pieces cut from it"),
    Column("to open", text=_opened, tip="Rolls, bars or sheets that the plan takes"),
    Column("at least", text=lambda it: str(it.least), tip="No plan needs fewer"),
    Column("left over", text=lambda it: say(it.left_m, "m"), tip="Of what is opened"),
    Column("mass", text=lambda it: say(it.mass_g, "g"), tip="Of the pieces cut"),
    Column(
        "cost", text=lambda it: say(it.price, in_words("money")), tip="Of the length that is cut"
    ),
)
ROLES = {"group": "within groups", "series": "series connections", "plate": "plates over taps",
         "bridge": "over windows"}  # fmt: skip


class ShownPieces(Struct, frozen=True):
    """Pieces that are marked, that are not laid yet, and cells covered on side A and side B."""

    marked: frozenset[int] = frozenset()
    away: frozenset[int] = frozenset()
    covered: tuple[frozenset[int], frozenset[int]] = (frozenset(), frozenset())


class CutList(QWidget):
    """Pieces to cut and the stock they come from; ``changed`` when another line was picked."""

    changed = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.cuts = RowsTable(CUTS, "Pieces to cut")
        self.stocks = RowsTable(STOCKS, "Stock")
        self.chosen: int | None = None
        self.total = soft("", wrap=True)
        self.fields = [
            small_field(session, "making.roll_m", "a roll holds"),
            small_field(session, "making.sheet_mm", "a sheet or bar is long", width=60),
            small_field(session, "making.overhang_mm", "beyond the last joint"),
        ]
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(THEME.px(6))
        layout.addWidget(flowing(*self.fields, gap=18))
        layout.addWidget(self.cuts, 3)
        layout.addWidget(self.stocks, 2)
        layout.addWidget(self.total)
        layout.addStretch(1)
        self.cuts.picked.connect(self._pick)

    def show_cuts(self, evaluation: Evaluation, cuts: tuple[Cut, ...]) -> ShownPieces:
        """List the pieces of the pack in hand; tells those of the line that was picked."""
        lines = cut_lines(cuts)
        self.cuts.show_rows(
            [
                Row(
                    (
                        str(place + 1),
                        spoken(size_words(line)),
                        ROLES[line.size.role],
                        spoken(line.size.part),
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
        fit_height(self.cuts, len(lines), 7, least=6)
        stocks = stocks_of(lines, evaluation.sized.parts.conductors, evaluation.project.making)
        self.stocks.show_rows([self._stock(item) for item in stocks])
        fit_height(self.stocks, len(stocks), 5, least=4)
        marked: frozenset[int] = frozenset()
        if self.chosen is not None and self.chosen < len(lines):
            line = lines[self.chosen]
            marked = frozenset(
                piece for cut in cuts if cut.size == line.size for piece in cut.pieces
            )
        layers = {cut.layers for cut in cuts}
        counted = "layers are counted as pieces; " if max(layers, default=1) > 1 else ""
        self.total.setText(
            worded(
                "{} pieces, {}length {}, mass {}, cost {}.",
                sum(line.count for line in lines),
                counted,
                say(sum(item.cut_m for item in stocks), "m"),
                say(sum(item.mass_g for item in stocks), "g"),
                say(sum(item.price for item in stocks), in_words("money")),
            )
            + _besides(evaluation)
            + "".join(
                worded(
                    " A piece of {} is {} long, more than its stock: join it over a "
                    "cell, or take longer stock.",
                    spoken(item.part),
                    say(item.too_long_mm, in_words("mm")),
                )
                for item in stocks
                if item.too_long_mm
            )
        )
        return ShownPieces(marked)

    def _stock(self, item: Stock) -> Row:
        return row_of(STOCKS, item, key=item.part)

    def _pick(self, place: int) -> None:
        self.chosen = None if place == self.chosen else place
        self.changed.emit()


def _besides(evaluation: Evaluation) -> str:
    """Rings, screws and washers in a sentence."""
    found = [f"{item.count} × {spoken(item.name)}" for item in fixings_in_hand(evaluation)]
    return worded(" Besides: {}.", ", ".join(found)) if found else ""
