"""Joints, take-off places: several of them compared in one go, the best proposed."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from msgspec.structs import asdict
from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.joined_pack import points_of
from lumvak.core.joints.take_off import Lead
from lumvak.core.joints.variants import TakeOffPlace, as_it_is, take_off_places
from lumvak.ui.session import Session
from lumvak.ui.speech import digits, in_words, round_figures, say, worded
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

COLUMNS = (
    Column(
        "main leads leave from",
        text=lambda it: it.name,
        left=True,
        stretch=True,
        tip="Places of the negative and the positive lead",
    ),
    Column("leads", text=lambda it: str(len(it.leads)), tip="How many leave at each end"),
    Column(
        "busiest cell A",
        text=lambda it: round_figures(it.busiest_cell_a),
        tip="Most current through one cell",
    ),
    Column(
        "× equal share",
        text=lambda it: digits(it.times_fair, ".2f"),
        tip="That, over an even share of the load",
    ),
    Column(
        "least A",
        text=lambda it: round_figures(it.least_cell_a),
        tip="Least current through one cell",
    ),
    Column(
        "most in a piece A",
        text=lambda it: round_figures(it.busiest_piece_a),
        tip="Most current in one strip",
    ),
    Column("heat W", text=lambda it: round_figures(it.loss_w), tip="In strips and wires"),
    Column(
        "joints mΩ", text=lambda it: round_figures(it.joint_ohm * 1e3), tip="All joints together"
    ),
    Column(
        "strips carry",
        text=lambda it: say(it.limit_a, "A"),
        tip="Pack current at which the first piece is at its limit",
    ),
)


class TakeOffs(QWidget):
    """A row a place; picking one sets the leads there. The one drawn stands first."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.table = RowsTable(COLUMNS, "Places for the main leads")
        self.table.setObjectName("joints.lead_points")
        self.about = soft("")
        self.share = QPushButton("one lead more on each pole")
        self.fewer = QPushButton("one less")
        self.follow = QPushButton("back to the place in words")
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(2))
        outer.addWidget(flowing(self.about, self.share, self.fewer, self.follow))
        outer.addWidget(self.table, 1)
        keep_rows(self.table, 6)
        self.table.picked.connect(self._pick)
        self.share.clicked.connect(self._share)
        self.fewer.clicked.connect(self._less)
        self.follow.clicked.connect(
            lambda: try_edit(session, {"joints.lead_points": ()}, "main-lead position")
        )

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Compare the places for the pack of an evaluation."""
        drawn = as_it_is(evaluation.laid_out.joined_pack)
        places = take_off_places(evaluation.laid_out.joined_pack)
        self.follow.setEnabled(bool(evaluation.project.joints.lead_points))
        self.fewer.setVisible(len(evaluation.laid_out.joined_pack.leads) > 2)
        if drawn is None:
            self.about.setText(in_words("Nothing to compare until the joints are put right."))
            self.table.show_rows([])
            return
        best = next((item for item in places if item.proposed), None)
        self.about.setText(
            worded(
                "● Proposed: {}, {} × equal share",
                best.variant.name,
                digits(best.variant.times_fair, ".2f"),
            )
            if best is not None
            else ""
        )
        rows = [self._row(TakeOffPlace(drawn, False), chosen=True)]
        rows += [self._row(item) for item in places]
        self.table.show_rows(rows)

    def _row(self, item: TakeOffPlace, chosen: bool = False) -> Row:
        variant = item.variant
        return row_of(
            COLUMNS,
            variant,
            value=None if chosen else variant,
            chosen=chosen,
            proposed=item.proposed,
        )

    def _pick(self, variant: Any) -> None:
        if variant is None:
            return
        set_leads(self.session, variant.leads)

    def _less(self) -> None:
        """The last lead of each pole goes, as long as it has more than one."""
        joined_pack = self.session.evaluation.laid_out.joined_pack
        leads = list(joined_pack.leads)
        for pole in "-+":
            own = [lead for lead in leads if lead.pole == pole]
            if len(own) > 1:
                leads.remove(own[-1])
        set_leads(self.session, leads)

    def _share(self) -> None:
        """Another lead on each pole, at the cell of the end group that is farthest from others."""
        joined_pack = self.session.evaluation.laid_out.joined_pack
        parallel = joined_pack.layout.parallel
        leads = points_of(joined_pack, joined_pack.leads)
        added = []
        for pole in ("-", "+"):
            taken = [item.cell for item in leads if item.pole == pole]
            free = [cell for cell in range(1, parallel + 1) if cell not in taken]
            if free:
                far = max(free, key=lambda cell, held=taken: min(abs(cell - t) for t in held))  # type: ignore[misc]
                added.append({"pole": pole, "cell": far})
        if added:
            kept = tuple(asdict(item) for item in leads)
            try_edit(self.session, {"joints.lead_points": (*kept, *added)}, "main-lead position")
        else:
            self.session.tell("note", in_words("Every cell of the end groups has a lead already."))


def set_leads(session: Session, leads: Sequence[Lead]) -> bool:
    """Let the main leads of the pack in hand leave from other places."""
    points = points_of(session.evaluation.laid_out.joined_pack, leads)
    return try_edit(session, {"joints.lead_points": points}, "main-lead position")
