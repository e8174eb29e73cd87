"""Everything that the pack takes."""

from __future__ import annotations

from PyQt6.QtWidgets import QPushButton, QVBoxLayout

from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.bill import BillLine, bill_cost, bill_of
from lumvak.ui.exports import ask_export
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft


def _much(line: BillLine) -> str:
    return say(line.count, line.unit) if line.unit == "m" else f"{line.count:g} {line.unit}".strip()


COLUMNS = (
    Column("what", lambda it: spoken(it.what), left=True, stretch=True, tip="What the pack takes"),
    Column("how much", _much, sample="00.00 m", tip="Count, length or area"),
    Column(
        "cost",
        lambda it: "" if it.cost is None else say(it.cost, in_words("money")),
        sample="0000.00",
        tip="Where it is known",
    ),
    Column(
        "in hand",
        lambda it: str(it.in_hand or ""),
        sample="000",
        tip="What was measured under Cells in hand",
    ),
    Column(
        "note",
        lambda it: spoken(it.note),
        left=True,
        sample="one over the joints of each side",
        tip="How it is counted",
    ),
)


class BillView(Page):
    """A line for each thing, its cost where it is known."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.total = heading("")
        self.table = RowsTable(COLUMNS, "Bill of materials")
        self.save = QPushButton("save as CSV …")
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        outer.addWidget(flowing(self.total, self.save))
        outer.addWidget(self.table)
        outer.addWidget(
            soft(
                "Areas of tube, foam and tape are for the outer size of the pack as "
                "laid, without a case.",
                wrap=True,
            )
        )
        outer.addStretch(1)
        self.save.clicked.connect(lambda: ask_export(self.session, self, "bom"))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what the pack of an evaluation takes."""
        lines = bill_of(evaluation)
        unknown = sum(line.cost is None for line in lines)
        cost = say(bill_cost(lines), in_words("money"))
        self.total.setText(
            worded("{}, and {} things of unknown cost", cost, unknown) if unknown else cost
        )
        rows = [row_of(COLUMNS, it, value=place) for place, it in enumerate(lines)]
        self.table.show_rows(rows)
        fit_height(self.table, len(rows), 30, firm=True)
