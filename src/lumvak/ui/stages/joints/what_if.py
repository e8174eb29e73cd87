"""Joints, what if: something broken, or a variant held, beside the pack as drawn."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.variants import Broken, Variant, as_it_is, what_if
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

HEADS = (
    ("", ""),
    ("as drawn", "The pack as it is"),
    ("broken", "With the pieces and cells broken that are marked"),
    ("difference", "Broken, over as drawn"),
    ("held", "The pack that is held for comparison"),
    ("difference", "As drawn, over held"),
)


class WhatIf(QWidget):
    """Figures of the variants in rows, with their differences."""

    break_asked = pyqtSignal(object)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.held: Variant | None = None
        self.about = soft("")
        self.hold = QPushButton("hold the pack as drawn")
        self.drop = QPushButton("let go")
        self.look = QPushButton("look at the held one")
        self.look.setCheckable(True)
        self.worst = QPushButton("break the hottest piece")
        self.table = RowsTable(
            tuple(
                Column(head, left=place == 0, stretch=place == 0, sample="−0.00 mΩ", tip=tip)
                for place, (head, tip) in enumerate(HEADS)
            ),
            "Variants side by side",
        )
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(2))
        outer.addWidget(flowing(self.about, self.worst, self.hold, self.look, self.drop))
        outer.addWidget(self.table, 1)
        keep_rows(self.table, 6)
        self.hold.clicked.connect(self._hold)
        self.drop.clicked.connect(self._drop)
        self.worst.clicked.connect(self._break_hottest)

    def show_evaluation(self, evaluation: Evaluation, broken: Broken) -> None:
        """Compare the pack as drawn with the broken and with the held variant."""
        drawn = as_it_is(evaluation.laid_out.joined_pack)
        other = None if broken.nothing else what_if(evaluation.laid_out.joined_pack, broken)
        self.drop.setEnabled(self.held is not None)
        self.look.setVisible(self.held is not None)
        self.hold.setEnabled(drawn is not None)
        self.worst.setEnabled(drawn is not None and len(evaluation.laid_out.joined_pack.pieces) > 0)
        if drawn is None:
            self.about.setText(in_words("Nothing to compare until the joints are put right."))
            self.table.show_rows([])
            return
        self.about.setText(self._words(evaluation, broken, other))
        rows = []
        for place, (name, value, unit) in enumerate(drawn.lines):
            cells = [name, say(value, unit)]
            for variant in (other, self.held):
                if variant is None:
                    cells += ["—", ""]
                    continue
                theirs = variant.lines[place][1]
                # The held one came first: what has changed since is the difference.
                change = theirs - value if variant is other else value - theirs
                cells += [say(theirs, unit), signed(change, unit)]
            rows.append(Row(tuple(cells), value=None, key=name))
        self.table.show_rows(rows)

    def _words(self, evaluation: Evaluation, broken: Broken, other: Variant | None) -> str:
        if broken.nothing:
            return in_words("Click a strip or a cell on the drawing to take it as broken.")
        if other is None:
            return in_words("No current passes any more: the pack is dead.")
        layout = evaluation.laid_out.joined_pack.layout
        return worded(
            "The others then carry up to {} ({}) and {} in one piece ({}).",
            say(other.busiest_cell_a, "A"),
            layout.name[other.cell],
            say(other.busiest_piece_a, "A"),
            spoken(other.piece_name),
        )

    def _hold(self) -> None:
        self.held = as_it_is(self.session.evaluation.laid_out.joined_pack)
        self.show_evaluation(self.session.evaluation, Broken())
        self.session.tell(
            "note", in_words("Held. Change the joints, and the differences stand here.")
        )

    def _drop(self) -> None:
        self.held = None
        self.look.setChecked(False)
        self.show_evaluation(self.session.evaluation, Broken())

    def _break_hottest(self) -> None:
        drawn = as_it_is(self.session.evaluation.laid_out.joined_pack)
        if drawn is not None:
            self.break_asked.emit(Broken(frozenset({drawn.piece})))


def signed(value: float, unit: str) -> str:
    """A difference with its sign; nothing where there is none."""
    if abs(value) < 1e-9:
        return "="
    return f"{'+' if value > 0 else '−'}{say(abs(value), unit)}"
