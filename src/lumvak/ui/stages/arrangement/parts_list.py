"""Arrangement: the parts that take room beside the cells, where they stand and what they weigh."""

from __future__ import annotations

from msgspec.structs import asdict
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lumvak.core.document.arrangement import KeptFree
from lumvak.core.evaluation import Evaluation
from lumvak.core.units import GRAM, LENGTH_MM, QuantityError
from lumvak.ui.session import Session
from lumvak.ui.speech import say
from lumvak.ui.widgets.flow import scrolled
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import GridColumn, Record, quantity_column, words_column
from lumvak.ui.widgets.quantity_field import edit_or_why
from lumvak.ui.widgets.words import soft

KIND_WORDS = {
    "board": "BMS", "leads": "way out of the leads", "sensor": "sensor", "foam": "foam",
    "air": "air", "other": "something else",
}  # fmt: skip
STANDS_WORDS = {"floor": "on the floor", "lid": "over the cells"}
SAYS = "Without a height a part takes all layers. Each can be dragged on the drawing."


def _name(text: str, _: Record) -> str:
    if not text:
        raise QuantityError("a name is wanted, such as BMS or foam")
    return text


class PartsList(QWidget):
    """Every part with its place, size and weight; every entry edits the project."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        # What the evaluation takes where nothing was typed, by the place of the part.
        self._taken: list[str] = []
        self.grid = Grid(
            "Parts in the room",
            (
                GridColumn("part", "name", _name, lambda value, _: str(value), wide=True),
                words_column("is", "kind", KIND_WORDS),
                quantity_column("x", "x_mm", LENGTH_MM),
                quantity_column("y", "y_mm", LENGTH_MM),
                quantity_column("length", "length_mm", LENGTH_MM),
                quantity_column("width", "width_mm", LENGTH_MM),
                quantity_column("height", "height_mm", LENGTH_MM, True, lambda _: "all"),
                words_column("stands", "stands", STANDS_WORDS),
                quantity_column("weighs", "mass_g", GRAM, True, self._weight),
            ),
            self._take,
            lambda: asdict(KeptFree(name="BMS", kind="board")),
            (2, 6),
        )
        inner = QWidget()
        layout = QVBoxLayout(inner)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(soft(SAYS, wrap=True))
        layout.addWidget(self.grid)
        layout.addStretch(1)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(scrolled(inner))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the parts of an evaluation."""
        kept = evaluation.project.arrangement.kept_free
        weighed = [item for item in evaluation.laid_out.inside.things if item.kind == "parts"]
        self._taken = [
            say(item.mass_g, "g") if item.mass_g else "" for item in weighed[: len(kept)]
        ]
        self.grid.show_records([asdict(item) for item in kept], "|".join(self._taken))

    def _weight(self, record: Record) -> str:
        """What is taken as the weight of a part of which none was typed."""
        place = next((at for at, item in enumerate(self.grid.records) if item is record), 0)
        return self._taken[place] if place < len(self._taken) else ""

    def _take(self, records: list[Record]) -> str:
        changes = {"arrangement.kept_free": tuple(records)}
        return edit_or_why(self.session, changes, "parts in the room")
