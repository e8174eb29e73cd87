"""Joints, hot spots: the pieces nearest to their limits, and the piece in hand."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from msgspec import Struct
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from lumvak.core.document.joints import PieceChange
from lumvak.core.evaluation import Evaluation, figures_of_piece
from lumvak.core.joints.network import drops_v
from lumvak.core.joints.pieces import ADDED, terminal_name
from lumvak.core.joints.variants import hot_spots
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, round_figures, say, spoken
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft


class HotSpot(Struct, frozen=True):
    """A piece in a line; ``over`` where the pack draws more than it lets it."""

    name: str
    amps: float
    ohm: float
    drop_v: float
    watts: float
    rise_k: float
    share: float
    limit_a: float
    over: bool


COLUMNS = (
    Column(
        "piece",
        text=lambda it: it.name,
        left=True,
        stretch=True,
        tip="From where to where, and of what",
    ),
    Column("A", text=lambda it: round_figures(it.amps), tip="At the continuous current"),
    Column("mΩ", text=lambda it: round_figures(it.ohm * 1e3), tip="Resistance of the piece, cold"),
    Column(
        "mV",
        text=lambda it: round_figures(it.drop_v * 1e3),
        tip="Across the piece at the continuous current",
    ),
    Column(
        "W",
        text=lambda it: round_figures(it.watts),
        tip="Heat in the piece at the continuous current",
    ),
    Column(
        "rise K",
        text=lambda it: round_figures(it.rise_k) if math.isfinite(it.rise_k) else "runs away",
        tip="Over the cells, a wire over the air",
    ),
    Column("share", text=lambda it: say(it.share, "%"), tip="Of the pack current"),
    Column(
        "pack may draw",
        text=lambda it: say(it.limit_a, "A") if math.isfinite(it.limit_a) else "no limit",
        mark=lambda it: "crimson" if it.over else "",
        tip="Pack current at which this piece is at its limit",
    ),
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
        self.table.setObjectName("joints.changes")
        self.name = soft("")
        self.more = QPushButton("one layer more")
        self.less = QPushButton("one layer less")
        self.out = QPushButton("leave it out")
        self.back = QPushButton("undo changes to pieces")
        self.snap = QPushButton("what if it breaks")
        self.whole = QPushButton("all pieces of this connection")
        self.whole.setCheckable(True)
        self.whole.setToolTip(
            in_words("What is set then holds for every like piece on the same connection")
        )
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
        name = in_words("Choose a piece here or on the drawing")
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
        name = spoken(joined_pack.pieces.name(piece))
        if flow is None or carried is None or joined_pack.solved is None:
            return Row((name, *(["—"] * 7)), value=piece)
        limit = float(carried.pack_limit_a[piece])
        spot = HotSpot(
            name,
            amps=abs(float(flow.piece_a[piece])),
            ohm=float(joined_pack.sections.ohm[piece]),
            drop_v=float(drops_v(flow, joined_pack.sections.ohm)[piece]),
            watts=float(flow.piece_w[piece]),
            rise_k=float(carried.rise_k[piece]),
            share=abs(float(joined_pack.solved.share.piece_a[piece])),
            limit_a=limit,
            over=limit < evaluation.sized.pack.current.number - 1e-9,
        )
        return row_of(COLUMNS, spot, value=piece, chosen=piece == self.piece, key=name)

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
