"""Joints, hot spots: the pieces nearest to their limits, and the piece in hand."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from lumvak.core.document.joints import PieceChange
from lumvak.core.evaluation import Evaluation, figures_of_piece
from lumvak.core.joints.network import drops_v
from lumvak.core.joints.pieces import ADDED, terminal_name
from lumvak.core.joints.variants import hot_spots
from lumvak.ui.session import Session
from lumvak.ui.speech import round_figures, say, spoken
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import Column, Row
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

COLUMNS = (
    Column("piece", left=True, stretch=True, tip="From where to where, and of what"),
    Column("A", tip="At the continuous current"),
    Column("mΩ", tip="Resistance of the piece, cold"),
    Column("mV", tip="Across the piece at the continuous current"),
    Column("W", tip="Heat in the piece at the continuous current"),
    Column("rise K", tip="Over the cells, a wire over the air"),
    Column("share", tip="Of the pack current"),
    Column("pack may draw", tip="Pack current at which this piece is at its limit"),
)
MOST_LAYERS = 12


class HotSpots(QWidget):
    """A ranked table; the chosen piece can be doubled, left out, or taken as broken."""

    piece_picked = pyqtSignal(int)
    break_asked = pyqtSignal(int)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.piece: int | None = None
        self.table = RowsTable(COLUMNS, "Pieces nearest to their limits")
        self.name = soft("")
        self.more = QPushButton("one layer more")
        self.less = QPushButton("one layer less")
        self.out = QPushButton("leave it out")
        self.back = QPushButton("undo changes to pieces")
        self.snap = QPushButton("what if it breaks")
        self.whole = QPushButton("all pieces of this joint")
        self.whole.setCheckable(True)
        self.whole.setToolTip("What is set then holds for every like piece on the same joint")
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(2))
        row = QHBoxLayout()
        row.addWidget(
            flowing(self.name, self.more, self.less, self.out, self.snap, self.whole, self.back), 1
        )
        outer.addLayout(row)
        outer.addWidget(self.table, 1)
        keep_rows(self.table, 6)
        self.table.picked.connect(self.piece_picked.emit)
        self.table.cell_clicked.connect(self._explain)
        self.more.clicked.connect(lambda: self._layer(1))
        self.less.clicked.connect(lambda: self._layer(-1))
        self.out.clicked.connect(lambda: self._set(0))
        self.snap.clicked.connect(self._break)
        self.back.clicked.connect(
            lambda: try_edit(session, {"joints.changes": ()}, "changes to pieces")
        )

    def show_evaluation(self, evaluation: Evaluation, piece: int | None) -> None:
        """Show the hot spots, and the piece in hand first where it is none of them."""
        self.piece = piece
        ranked = hot_spots(evaluation.laid_out.joined_pack)
        if piece is not None and piece not in ranked:
            ranked.insert(0, piece)
        self.table.show_rows([self._row(evaluation, item) for item in ranked])
        name = "Choose a piece here or on the drawing"
        if piece is not None:
            called = spoken(evaluation.laid_out.joined_pack.pieces.name(piece))
            name = f"{called}, {self._layers(evaluation, piece)} ×"
        self.name.setText(name)
        for button in (self.more, self.less, self.out, self.snap, self.whole):
            button.setVisible(piece is not None)
        self.back.setVisible(bool(evaluation.project.joints.changes))

    def _layers(self, evaluation: Evaluation, piece: int) -> int:
        sections = evaluation.laid_out.joined_pack.sections
        if sections.wire[piece]:
            return int(sections.strips[piece])
        return int(sections.layers[piece])

    def _row(self, evaluation: Evaluation, piece: int) -> Row:
        joined_pack = evaluation.laid_out.joined_pack
        flow, carried = joined_pack.flow, joined_pack.carried
        if flow is None or carried is None or joined_pack.solved is None:
            return Row((spoken(joined_pack.pieces.name(piece)), *(["—"] * 7)), value=piece)
        limit, rise = float(carried.pack_limit_a[piece]), float(carried.rise_k[piece])
        amps = abs(float(flow.piece_a[piece]))
        current = evaluation.sized.pack.current.number
        over = limit < current - 1e-9
        ohm = float(joined_pack.sections.ohm[piece])
        return Row(
            (
                spoken(joined_pack.pieces.name(piece)),
                round_figures(amps),
                round_figures(ohm * 1e3),
                round_figures(float(drops_v(flow, joined_pack.sections.ohm)[piece]) * 1e3),
                round_figures(float(flow.piece_w[piece])),
                round_figures(rise) if math.isfinite(rise) else "runs away",
                say(abs(float(joined_pack.solved.share.piece_a[piece])), "%"),
                say(limit, "A") if math.isfinite(limit) else "no limit",
            ),
            value=piece,
            chosen=piece == self.piece,
            marks={7: "crimson"} if over else {},
            key=spoken(joined_pack.pieces.name(piece)),
        )

    def _explain(self, value: Any, column: int) -> None:
        """The working of a number of a piece, in the margin."""
        evaluation = self.session.evaluation
        if column == 0 or evaluation.laid_out.network is None:
            return
        made = figures_of_piece(evaluation, int(value))
        self.session.add_figures(made, self.session.revision)
        names = (
            "",
            "current_a",
            "resistance_ohm",
            "drop_mv",
            "loss_w",
            "rise_k",
            "share",
            "limit_a",
        )
        self.session.explain(f"piece.{names[column]}")

    def _layer(self, step: int) -> None:
        if self.piece is None:
            return
        now = self._layers(self.session.evaluation, self.piece)
        self._set(min(max(now + step, 1), MOST_LAYERS))

    def _set(self, layers: int) -> None:
        if self.piece is None:
            return
        evaluation = self.session.evaluation
        pieces = evaluation.laid_out.joined_pack.pieces
        alike = [self.piece]
        if self.whole.isChecked():
            same = (pieces.level == pieces.level[self.piece]) & (
                pieces.kind == pieces.kind[self.piece]
            )
            alike = np.flatnonzero(same).tolist()
        kept = {frozenset((item.a, item.b)): item for item in evaluation.project.joints.changes}
        for piece in alike:
            one, two = (
                terminal_name(pieces.layout, int(end[piece])) for end in (pieces.a, pieces.b)
            )
            kept.pop(frozenset((one, two)), None)
            if layers or pieces.kind[piece] != ADDED:
                kept[frozenset((one, two))] = PieceChange(a=one, b=two, layers=layers)
        try_edit(self.session, {"joints.changes": tuple(kept.values())}, "piece")

    def _break(self) -> None:
        if self.piece is not None:
            self.break_asked.emit(self.piece)
