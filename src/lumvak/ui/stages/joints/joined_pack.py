"""Joints, on the table: both sides of the pack with the current in every piece."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lumvak.core.arrangement.layout import FACE_A, FACE_B, potential_v
from lumvak.core.document.joints import PieceChange
from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.network import Flow
from lumvak.core.joints.piece_sections import rise_per_square, rises_k
from lumvak.core.joints.pieces import Pieces, terminal_name
from lumvak.core.joints.variants import Broken, Variant, what_if
from lumvak.ui.pack_drawing.layer_choice import LayerChoice
from lumvak.ui.pack_drawing.side import SIDE_NAMES, SideShown
from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, worded
from lumvak.ui.stages.joints.hot_spots import HotSpots
from lumvak.ui.stages.joints.lead_tool import LeadTool
from lumvak.ui.stages.joints.measured_cells import MeasuredCells
from lumvak.ui.stages.joints.pattern import LaidHow
from lumvak.ui.stages.joints.take_off import TakeOffs
from lumvak.ui.stages.joints.what_if import WhatIf
from lumvak.ui.stages.joints.words import Legend, group_rows, over_shown, piece_words
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled
from lumvak.ui.widgets.pages import Page, Split, Stack
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import Column
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

Array = NDArray[np.float64]
SHOWN = (("current", "current"), ("warmth", "warmth"), ("strips", "strips"))
GROUPS = (
    Column("group", left=True, tip="From the most negative"),
    Column("most", tip="Current of the busiest cell of the group"),
    Column("least", tip="Current of the idlest cell of the group"),
    Column("apart", tip="Between the two"),
    Column("of the mean", tip="How far the busiest is over an even share"),
    Column("at its cells", tip="Mean voltage across the cells of the group, under load"),
)
LOWER = (
    ("hot", "hot spots"),
    ("places", "main-lead positions"),
    ("how", "how it is laid"),
    ("broken", "what if"),
    ("groups", "groups"),
    ("cells", "measured cells"),
)


class OnTableView(Page):
    """Both sides, the lower one as it is seen when the pack is turned over; below, what follows."""

    def __init__(self, session: Session) -> None:
        """It is long, for it names every part of the page."""
        super().__init__(session)
        self.piece: int | None = None
        self.broken = Broken()
        self._pieces: Pieces | None = None
        self.shown = ChoiceRow(SHOWN, "What the drawing shows")
        self.layers = LayerChoice()
        self.following = ChoiceRow(LOWER, "What follows from it")
        self.legend = Legend()
        self.side_a, self.side_b = map(PackView, SIDE_NAMES)
        self.state = soft("")
        self.whole = QPushButton("make whole again")
        self.join = QPushButton("join the two")
        self.cells: tuple[int, ...] = ()
        self.face = FACE_A
        self.lead_tool = LeadTool(session)
        self.measured = MeasuredCells(session)
        self.groups = RowsTable(GROUPS, "Currents within the groups")
        keep_rows(self.groups, 6)
        self.labels = [
            FigureLabel(session, key, name, strong=place == 0)
            for place, (key, name) in enumerate(
                (
                    ("network.busiest_cell_a", "busiest cell"),
                    ("network.fair_cell_a", "equal share"),
                    ("network.cell_excess", "above it"),
                    ("network.hottest_k", "hottest piece"),
                    ("network.joint_ohm", "all joints"),
                    ("network.drop_v", "lost"),
                    ("network.piece_w", "heat"),
                )
            )
        ]
        self.hot = HotSpots(session)
        self.places = TakeOffs(session)
        self.how = LaidHow(session)
        self.what_if = WhatIf(session)
        self.below = Stack()
        pages = (self.hot, self.places, self.how, self.what_if, self.groups, self.measured)
        for page in pages:
            self.below.addWidget(page)
        self._lay_out()
        self.shown.picked.connect(self._show)
        self.layers.picked.connect(lambda _: self._draw(session.evaluation))
        self.following.picked.connect(self.show_lower)
        self.join.clicked.connect(self._join)
        for view, face in ((self.side_a, FACE_A), (self.side_b, FACE_B)):
            view.cell_clicked.connect(
                lambda cell, more, face=face: self._choose_cell(cell, more, face)
            )
            view.describe = self.describe
            view.piece_clicked.connect(self.choose_piece)
            view.lead_dragged.connect(self.lead_tool.drag)
            view.pole_keyed.connect(self.lead_tool.take)
            view.stepped.connect(self.lead_tool.step)
        self.lead_tool.told.connect(self.state.setText)
        self.lead_tool.dragged.connect(self._show_dragged)
        self.lead_tool.dropped.connect(lambda: self._draw(session.evaluation))
        self.hot.piece_picked.connect(self.choose_piece)
        self.hot.break_asked.connect(self.break_piece)
        self.what_if.break_asked.connect(self._take_broken)
        self.what_if.look.toggled.connect(lambda _: self._draw(session.evaluation))
        self.whole.clicked.connect(lambda: self._take_broken(Broken()))

    def _lay_out(self) -> None:
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(4))
        outer.addWidget(
            flowing(self.shown, self.layers, self.legend, self.state, self.join, self.whole, gap=14)
        )
        drawn = QWidget()
        sides = QHBoxLayout(drawn)
        sides.setContentsMargins(0, 0, 0, 0)
        sides.setSpacing(THEME.px(10))
        for view, name in (
            (self.side_a, "side A, facing you"),
            (self.side_b, "side B, turned over to the side"),
        ):
            column = QVBoxLayout()
            column.setSpacing(0)
            column.addWidget(soft(name))
            column.addWidget(view, 1)
            sides.addLayout(column, 1)
        under = QWidget()
        lower = QVBoxLayout(under)
        lower.setContentsMargins(0, THEME.px(2), 0, 0)
        lower.setSpacing(THEME.px(4))
        lower.addWidget(flowing(*self.labels))
        lower.addWidget(self.following, 0, Qt.AlignmentFlag.AlignLeft)
        lower.addWidget(self.below, 1)
        self.split = Split(
            self.session,
            "joints.table",
            Qt.Orientation.Vertical,
            (drawn, under),
            (240, 260),
            THEME.px(3),
        )
        outer.addWidget(scrolled(self.split), 1)

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the pack of an evaluation."""
        self.lead_tool.let_go()
        joined_pack = evaluation.laid_out.joined_pack
        self._follow(joined_pack)
        self.layers.show_layers(joined_pack.layout)
        for label in self.labels:
            label.show_figure()
        self._draw(evaluation)
        self._show_below(evaluation)

    def _follow(self, joined_pack: JoinedPack) -> None:
        """Keep the same pieces in hand and broken where their numbers have changed."""
        was, self._pieces = self._pieces, joined_pack.pieces
        if was is joined_pack.pieces or was is None:
            return
        now = joined_pack.pieces
        number = {
            pair: k for k, pair in enumerate(zip(now.a.tolist(), now.b.tolist(), strict=True))
        }

        def renumbered(piece: int) -> int | None:
            return number.get((int(was.a[piece]), int(was.b[piece])))

        self.piece = None if self.piece is None else renumbered(self.piece)
        kept = (renumbered(piece) for piece in self.broken.pieces)
        self.broken = Broken(
            frozenset(piece for piece in kept if piece is not None),
            frozenset(cell for cell in self.broken.cells if cell < len(joined_pack.layout)),
        )

    def _variant(self, evaluation: Evaluation) -> Variant | None:
        return (
            None if self.broken.nothing else what_if(evaluation.laid_out.joined_pack, self.broken)
        )

    def _draw(self, evaluation: Evaluation) -> None:
        """It is long, for all that is drawn is named."""
        joined_pack = evaluation.laid_out.joined_pack
        broken = self._variant(evaluation)
        flow, leads = joined_pack.flow, joined_pack.leads
        held = self.what_if.held
        if held is not None and self.what_if.look.isChecked():
            joined_pack, flow, leads = held.joined_pack, held.flow, held.leads
        elif self.lead_tool.live is not None:
            leads, flow = self.lead_tool.live
        elif broken is not None:
            flow = broken.flow
        strength, most = self._strengths(joined_pack, flow)
        strips = self.shown.value == "strips"
        if strength is None:
            full = potential_v(
                joined_pack.layout.series, evaluation.sized.choice.cell.voltage_full_v
            )
            self.legend.show_ramps(("potential", "0 V", worded("{}, full", say(full, "V"))))
        else:
            cells = ("over", in_words("under equal share"), in_words("above"))
            self.legend.show_ramps(("current", "0", most), cells)
        if joined_pack is not evaluation.laid_out.joined_pack:
            self.state.setText(in_words("the held one"))
        elif self.broken.nothing:
            self.state.setText(
                "" if joined_pack.solved is not None else in_words("not solved: see the marks")
            )
        elif broken is None:
            self.state.setText(in_words("no current passes any more"))
        else:
            many = len(self.broken.pieces) + len(self.broken.cells)
            self.state.setText(worded("{} taken as broken", many))
        self.cells = tuple(cell for cell in self.cells if cell < len(joined_pack.layout))
        self.join.setVisible(len(self.cells) == 2)
        if self.cells and self.broken.nothing:
            names = " and ".join(joined_pack.layout.name[cell] for cell in self.cells)
            more = "" if len(self.cells) == 2 else ", Shift for a second one to join it to"
            self.state.setText(names + more)
        self.whole.setVisible(not self.broken.nothing)
        for view, side in ((self.side_a, FACE_A), (self.side_b, FACE_B)):
            view.show_drawn(
                SideShown(
                    layout=joined_pack.layout,
                    side=side,
                    layer=self.layers.layer,
                    pieces=joined_pack.pieces,
                    width_mm=joined_pack.sections.width_mm * joined_pack.sections.strips,
                    strength=strength,
                    cell_over=None if strips else over_shown(joined_pack, flow),
                    taps=evaluation.laid_out.taps.terminal if strips else None,
                    leads=leads,
                    flaws=evaluation.flaws,
                    chosen_piece=self.piece,
                    chosen_cells=frozenset(self.cells),
                    broken_cells=self.broken.cells,
                    gone=self.broken.pieces,
                )
            )
            view.setAccessibleDescription(
                worded("{} cells, {} pieces", len(joined_pack.layout), len(joined_pack.pieces))
            )

    def _strengths(self, joined_pack: JoinedPack, flow: Flow | None) -> tuple[Array | None, str]:
        """Shares of the strongest piece, and the strongest in words."""
        if flow is None or self.shown.value == "strips" or not len(joined_pack.pieces):
            return None, ""
        if self.shown.value == "warmth":
            rises = rises_k(
                joined_pack.sections,
                rise_per_square(joined_pack.sections),
                flow.piece_a,
                joined_pack.around_c,
            )
            finite = np.where(np.isfinite(rises), rises, 0.0)
            most = max(float(finite.max()), 1e-9)
            shares = np.where(np.isfinite(rises), rises / most, 1.0)
            return shares, worded("{} over the cells", say(most, "K"))
        amps = np.abs(flow.piece_a)
        most = max(float(amps.max()), 1e-9)
        return amps / most, worded("{} in one piece", say(most, "A"))

    def describe(self, kind: str, number: int) -> str:
        evaluation = self.session.evaluation
        joined_pack = evaluation.laid_out.joined_pack
        flow = joined_pack.flow if self.lead_tool.live is None else self.lead_tool.live[1]
        broken = self._variant(evaluation)
        flow = broken.flow if broken is not None else flow
        if kind == "lead":
            lead = joined_pack.leads[number]
            amps = "" if flow is None else f", {say(abs(float(flow.lead_a[number])), 'A')}"
            return worded(
                "main lead {}{}: drag it along the strips", "−" if lead.pole == "-" else "+", amps
            )
        if kind == "piece":
            return piece_words(joined_pack, number, flow)
        layout = joined_pack.layout
        level = layout.level
        text = worded(
            "{}: between tap {} and {}",
            layout.name[number],
            level[2 * number + 1],
            level[2 * number],
        )
        if flow is not None:
            text += worded(
                ", {}, {} at its positive end",
                say(float(flow.cell_a[number]), "A"),
                say(float(flow.terminal_v[2 * number]), "V"),
            )
        return text

    # What is done.

    def _show(self, shown: str) -> None:
        self.shown.show_value(shown)
        self._draw(self.session.evaluation)

    def show_path(self, path: str) -> None:
        lower = {"joints.lead_points": "places", "joints.changes": "hot"}
        if path in lower:
            self.show_lower(lower[path])
        elif self.how.findChild(QWidget, path) is not None:
            self.show_lower("how")

    def show_lower(self, page: str) -> None:
        """Turn to one of the pages below the drawing."""
        self.following.show_value(page)
        self._show_below(self.session.evaluation)

    def _show_below(self, evaluation: Evaluation) -> None:
        page = self.following.value
        shown = {
            "hot": self.hot,
            "places": self.places,
            "how": self.how,
            "broken": self.what_if,
            "groups": self.groups,
            "cells": self.measured,
        }
        self.below.setCurrentWidget(shown[page])
        if page == "hot":
            self.hot.show_evaluation(evaluation, self.piece)
        elif page == "places":
            self.places.show_evaluation(evaluation)
        elif page == "how":
            self.how.show_evaluation(evaluation)
        elif page == "groups":
            self.groups.show_rows(group_rows(evaluation.laid_out.joined_pack))
        elif page == "cells":
            self.measured.show_evaluation(evaluation)
        else:
            self.what_if.show_evaluation(evaluation, self.broken)

    def choose_piece(self, piece: int) -> None:
        """Take a piece in hand: its figures and what can be done with it."""
        if self.following.value == "broken":
            self.break_piece(piece)
            return
        self.piece = piece
        self.following.show_value("hot")
        evaluation = self.session.evaluation
        self.layers.show_value(
            int(
                evaluation.laid_out.joined_pack.layout.layer[
                    evaluation.laid_out.joined_pack.pieces.a[piece] // 2
                ]
            )
        )
        self._draw(evaluation)
        self._show_below(evaluation)

    def break_piece(self, piece: int) -> None:
        """Take a piece as broken, or as whole again."""
        self._take_broken(Broken(self.broken.pieces ^ {piece}, self.broken.cells))

    def _choose_cell(self, cell: int, more: bool, face: int) -> None:
        if self.following.value == "broken":
            self._take_broken(Broken(self.broken.pieces, self.broken.cells ^ {cell}))
            return
        if more and self.cells and self.cells[0] != cell:
            self.cells = (self.cells[0], cell)
        else:
            self.cells = () if self.cells == (cell,) else (cell,)
        self.face = face
        self._draw(self.session.evaluation)

    def _join(self) -> None:
        """A piece of strip between the two cells in hand, on the side where they were chosen."""
        layout = self.session.evaluation.laid_out.joined_pack.layout
        ends = []
        for cell in self.cells:
            on_face = [end for end in (2 * cell, 2 * cell + 1) if layout.face[end] == self.face]
            ends.append(terminal_name(layout, (on_face or [2 * cell])[0]))
        self.cells = ()
        kept = tuple(
            item for item in self.session.project.joints.changes if {item.a, item.b} != set(ends)
        )
        added = PieceChange(a=ends[0], b=ends[1], layers=1)
        try_edit(self.session, {"joints.changes": (*kept, added)}, "added piece")

    def _take_broken(self, broken: Broken) -> None:
        self.broken = broken
        evaluation = self.session.evaluation
        self._draw(evaluation)
        if not broken.nothing:
            self.following.show_value("broken")
        self._show_below(evaluation)

    def _show_dragged(self, variant: Variant) -> None:
        """While a lead is dragged only what hangs on the network follows it."""
        self._draw(self.session.evaluation)
        self.labels[0].show_figure(say(variant.busiest_cell_a, "A"))
        self.labels[2].show_figure(say(variant.excess, "%"))
        self.labels[3].show_figure(say(variant.hottest_k, "K"))
