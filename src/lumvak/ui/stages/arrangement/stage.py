"""Stage: arrangement. The pack in its room from above, ranked proposals, and work by hand."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from msgspec.structs import asdict
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lumvak.core.arrangement.findings import barrier_for
from lumvak.core.arrangement.layout import FACE_A, FACE_B, FACE_NAMES, potential_v
from lumvak.core.arrangement.moved_by_hand import (
    moved,
    nudged,
    renumbered,
    shifted,
    swapped,
    turned,
)
from lumvak.core.arrangement.proposals import Placing, Proposal
from lumvak.core.document.arrangement import Spot
from lumvak.core.document.edit import ProjectError
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import first_of
from lumvak.ui.pack_drawing.layer_choice import LayerChoice
from lumvak.ui.pack_drawing.side import SideShown, kept_free_of
from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.stages.arrangement.list_rows import BARRIERS, COLUMNS, TAPS
from lumvak.ui.stages.arrangement.parts_list import PartsList
from lumvak.ui.stages.arrangement.room import RoomPanel
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.flow import flowing, scrolled
from lumvak.ui.widgets.pages import Page, Split, Stack, on_sheet
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.rows import LazyRows, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft

SIDES = ((FACE_A, "side A"), (FACE_B, "side B"))
LISTS = (
    ("ways", "proposals"),
    ("parts", "parts in the room"),
    ("barriers", "barriers"),
    ("taps", "balance leads"),
)
STEP_MM = 1.0
SIDE_BY_SIDE_PX = 790


class ArrangementStage(Page):
    """The drawing and the room side by side; proposals below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.chosen: frozenset[int] = frozenset()
        self._ghost: tuple[float, float] | None = None
        on_sheet(self)
        self.side = ChoiceRow(SIDES, "Side")
        self.layers = LayerChoice()
        self.view = PackView("The pack from above")
        self.view.movable = True
        self.view.describe = self._describe
        self.room = RoomPanel(session)
        self.table = RowsTable(COLUMNS, "Proposals for the path")
        self.barriers = RowsTable(BARRIERS, "Cans side by side that need a barrier")
        self.taps = RowsTable(TAPS, "Balance leads")
        self.list = ChoiceRow(LISTS, "Which list")
        self.parts = PartsList(session)
        self.table.setObjectName("arrangement.way")
        self.parts.setObjectName("arrangement.kept_free")
        self.view.setObjectName("arrangement.spots")
        self.lists = Stack()
        for table in (self.table, self.parts, self.barriers, self.taps):
            self.lists.addWidget(table)
            if isinstance(table, RowsTable):
                keep_rows(table, 6)
        self.state = soft("")
        self.buttons = {
            name: QPushButton(text)
            for name, text in (
                ("turn", "turn over"),
                ("swap", "swap the two"),
                ("renumber", "count from the other end"),
                ("anew", "lay anew"),
            )
        }
        self.labels = [
            FigureLabel(session, key, name, strong=place == 0)
            for place, (key, name) in enumerate(
                (
                    ("layout.length_mm", "length"),
                    ("layout.width_mm", "width"),
                    ("layout.height_mm", "height"),
                    ("layout.mass_kg", "mass"),
                    ("layout.centre_x_mm", "centre →"),
                    ("layout.centre_y_mm", "↓"),
                    ("layout.neighbour_v", "between cans"),
                    ("layout.taps_m", "balance leads"),
                )
            )
        ]
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        head = QHBoxLayout()
        head.addWidget(heading("How do the cells lie?"))
        head.addStretch(1)
        head.addWidget(self.layers)
        head.addWidget(self.side)
        drawn = QWidget()
        left = QVBoxLayout(drawn)
        left.setContentsMargins(0, 0, THEME.px(8), 0)
        left.setSpacing(THEME.px(2))
        left.addWidget(self.view, 1)
        self.view.setMinimumHeight(THEME.px(170))
        left.addWidget(flowing(self.state, *self.buttons.values()))
        self.split = Split(
            self.session, "arrangement", Qt.Orientation.Horizontal, (drawn, self.room), (470, 310)
        )
        self.split.setStretchFactor(0, 1)
        under = QWidget()
        lower = QVBoxLayout(under)
        lower.setContentsMargins(0, THEME.px(2), 0, 0)
        lower.setSpacing(THEME.px(4))
        lower.addWidget(flowing(*self.labels))
        lower.addWidget(self.list, 0, Qt.AlignmentFlag.AlignLeft)
        lower.addWidget(self.lists, 1)
        self.halves = Split(
            self.session,
            "arrangement.lists",
            Qt.Orientation.Vertical,
            (self.split, under),
            (300, 220),
            THEME.px(3),
        )
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(24), THEME.px(12), THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addLayout(head)
        outer.addWidget(scrolled(self.halves), 1)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """The room beside the drawing where there is the width for both, else below it."""
        super().resizeEvent(event)
        beside = self.width() >= THEME.px(SIDE_BY_SIDE_PX)
        self.split.setOrientation(Qt.Orientation.Horizontal if beside else Qt.Orientation.Vertical)
        self.room.setMinimumHeight(0 if beside else THEME.px(200))

    def _connect(self) -> None:
        self.side.picked.connect(self._show_side)
        self.layers.picked.connect(lambda _: self._draw(self.session.evaluation))
        self.view.cell_clicked.connect(self._choose)
        self.view.nothing_clicked.connect(lambda: self.take_chosen(frozenset()))
        self.view.cells_dragged.connect(self._drag)
        self.view.block_dragged.connect(self._drag_block)
        self.view.stepped.connect(self._step)
        self.list.picked.connect(self._show_list)
        self.room.draw.clicked.connect(self._begin_outline)
        self.view.outline_drawn.connect(self._take_outline)
        self.barriers.picked.connect(lambda pair: self.take_chosen(frozenset(pair)))
        self.table.picked.connect(self._pick)
        self.buttons["turn"].clicked.connect(
            lambda: self._by_hand(lambda: turned(self._placing, self.chosen), "turned cells")
        )
        self.buttons["swap"].clicked.connect(
            lambda: self._by_hand(
                lambda: swapped(self._placing, min(self.chosen), max(self.chosen)), "swapped cells"
            )
        )
        self.buttons["renumber"].clicked.connect(
            lambda: self._by_hand(lambda: renumbered(self._placing), "numbers of the groups")
        )
        self.buttons["anew"].clicked.connect(
            lambda: try_edit(self.session, {"arrangement.spots": ()}, "cells laid anew")
        )

    @property
    def _placing(self) -> Placing:
        return self.session.evaluation.laid_out.joined_pack.placing

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the arrangement of an evaluation."""
        self._ghost = None
        layout = evaluation.laid_out.joined_pack.layout
        self.chosen = frozenset(cell for cell in self.chosen if cell < len(layout))
        self.layers.show_layers(layout)
        self.room.show_evaluation(evaluation)
        self.parts.show_evaluation(evaluation)
        for label in self.labels:
            label.show_figure()
        self._draw(evaluation)
        self._list(evaluation)

    def _draw(self, evaluation: Evaluation) -> None:
        joined_pack, arrangement = evaluation.laid_out.joined_pack, evaluation.project.arrangement
        placing = joined_pack.placing
        layout = placing.layout
        if self._ghost is not None:
            layout = shifted(layout, self.chosen, *self._ghost)
        self.view.show_drawn(
            SideShown(
                layout=layout,
                side=self.side.value,
                layer=self.layers.layer,
                room=placing.shape,
                kept_free=kept_free_of(arrangement),
                flaws=placing.flaws,
                barriers=evaluation.laid_out.barriers.pairs
                if self._ghost is None
                else evaluation.laid_out.barriers.pairs[:0],
                chosen_cells=self.chosen,
                taps=evaluation.laid_out.taps.terminal,
            )
        )
        many = len(self.chosen)
        if many:
            self.state.setText(worded("{} {} chosen", many, "cell" if many == 1 else "cells"))
        elif placing.short:
            # The margin tells what else would do.
            self.state.setText(spoken(first_of(placing.short)))
        elif placing.by_hand:
            self.state.setText(in_words("placed by hand"))
        else:
            self.state.setText(in_words("click cells, Shift for more; drag them"))
        self.buttons["turn"].setVisible(many > 0)
        self.buttons["swap"].setVisible(many == 2)
        self.buttons["anew"].setVisible(bool(arrangement.spots))

    def _list(self, evaluation: Evaluation) -> None:
        placing = evaluation.laid_out.joined_pack.placing
        full = evaluation.sized.choice.cell.voltage_full_v
        chosen = placing.chosen.key if placing.chosen is not None else ""
        self.table.show_rows(
            [
                self._row(item, item.key == chosen, full, place == 0)
                for place, item in enumerate(placing.proposals)
            ]
        )

        self.list.offer(
            [
                ("ways", "proposals"),
                (
                    "parts",
                    worded("parts in the room ({})", len(evaluation.project.arrangement.kept_free)),
                ),
                ("barriers", worded("barriers ({})", len(evaluation.laid_out.barriers.pairs))),
                ("taps", "balance leads"),
            ]
        )
        layout = evaluation.laid_out.joined_pack.layout
        order = np.argsort(-evaluation.laid_out.barriers.volts, kind="stable")
        self.barriers.show_rows(
            LazyRows(len(order), lambda place: self._barrier(evaluation, order, place))
        )
        self.taps.show_rows(
            [
                Row(
                    (
                        str(level),
                        layout.name[terminal // 2],
                        FACE_NAMES[layout.face[terminal]],
                        say(potential_v(level, full), "V"),
                        say(length, in_words("mm")),
                    ),
                    key=level,
                )
                for level, (terminal, length) in enumerate(
                    zip(
                        evaluation.laid_out.taps.terminal.tolist(),
                        evaluation.laid_out.taps.length_mm.tolist(),
                        strict=True,
                    )
                )
            ]
        )

    def _barrier(self, evaluation: Evaluation, order: Any, place: int) -> Row:
        joined_pack = evaluation.laid_out.joined_pack
        one, other = (int(cell) for cell in evaluation.laid_out.barriers.pairs[order[place]])
        volts = float(evaluation.laid_out.barriers.volts[order[place]])
        name = joined_pack.layout.name
        both = worded("{} and {}", name[one], name[other])
        return row_of(BARRIERS, (both, volts), value=(one, other), key=(one, other))

    def _row(self, item: Proposal, chosen: bool, full_v: float, best: bool) -> Row:
        return row_of(COLUMNS, (item, full_v), value=item.key, chosen=chosen, proposed=best)

    def _describe(self, kind: str, number: int) -> str:
        evaluation = self.session.evaluation
        layout = evaluation.laid_out.joined_pack.layout
        if kind != "cell":
            return ""
        full = evaluation.sized.choice.cell.voltage_full_v
        group = int(layout.group[number])
        text = worded(
            "{}, group {}: {} to {} when full",
            layout.name[number],
            group + 1,
            say(potential_v(group, full), "V"),
            say(potential_v(group + 1, full), "V"),
        )
        near = [
            volts
            for pair, volts in zip(
                evaluation.laid_out.barriers.pairs, evaluation.laid_out.barriers.volts, strict=True
            )
            if number in pair
        ]
        if near:
            text += worded(
                "; {} to a can beside it: {}", say(max(near), "V"), barrier_for(max(near))
            )
        return text

    # What is done.

    def _show_side(self, side: int) -> None:
        self.side.show_value(side)
        self._draw(self.session.evaluation)

    def take_file(self, path: Path) -> None:
        self.room.take_drawing(path)

    def show_path(self, path: str) -> None:
        lists = {"arrangement.way": "ways", "arrangement.kept_free": "parts"}
        if path in lists:
            self._show_list(lists[path])

    def _show_list(self, which: str) -> None:
        self.list.show_value(which)
        self.lists.setCurrentIndex([key for key, _ in LISTS].index(which))

    def _begin_outline(self) -> None:
        self.view.begin_sketch()
        self.session.tell(
            "note", in_words("Click the corners; the first once more closes the outline.")
        )

    def _take_outline(self, corners: tuple[tuple[float, float], ...]) -> None:
        """A drawn outline begins at its own corner, as an imported one does."""
        left, top = min(x for x, _ in corners), min(y for _, y in corners)
        moved_to = tuple((x - left, y - top) for x, y in corners)
        changes = {"arrangement.room.outline": moved_to, "arrangement.room.cut_outs": ()}
        try_edit(self.session, changes, "drawn outline")

    def _choose(self, cell: int, more: bool) -> None:
        self.take_chosen(self.chosen ^ {cell} if more else frozenset({cell}))

    def take_chosen(self, cells: frozenset[int]) -> None:
        self.chosen = cells
        self._draw(self.session.evaluation)

    def _by_hand(self, change: Callable[[], tuple[Spot, ...]], text: str) -> None:
        """Make a change by hand; one that cannot be is said and changes nothing."""
        try:
            spots = change()
        except ProjectError as error:
            self._ghost = None
            self.session.tell("warn", f"{error}.")
            self._draw(self.session.evaluation)
            return
        self._ghost = None
        try_edit(
            self.session,
            {"arrangement.spots": tuple(asdict(item) for item in spots)},
            text,
        )

    def _drag(self, dx_mm: float, dy_mm: float, done: bool) -> None:
        if not self.chosen:
            return
        if done:
            self._by_hand(lambda: moved(self._placing, self.chosen, dx_mm, dy_mm), "moved cells")
            return
        self._ghost = (dx_mm, dy_mm)
        self._draw(self.session.evaluation)

    def _step(self, across: float, down: float) -> None:
        """Ctrl and an arrow move what is in hand by a millimetre, without snapping."""
        if not self.chosen:
            return
        self._by_hand(
            lambda: nudged(self._placing, self.chosen, across * STEP_MM, down * STEP_MM),
            "moved cells",
        )

    def _drag_block(self, number: int, dx_mm: float, dy_mm: float, done: bool) -> None:
        if not done:
            return
        blocks = [asdict(item) for item in self.session.project.arrangement.kept_free]
        blocks[number]["x_mm"] = float(round(blocks[number]["x_mm"] + dx_mm))
        blocks[number]["y_mm"] = float(round(blocks[number]["y_mm"] + dy_mm))
        try_edit(self.session, {"arrangement.kept_free": tuple(blocks)}, "parts in the room")

    def _pick(self, key: Any) -> None:
        try_edit(self.session, {"arrangement.way": key, "arrangement.spots": ()}, "proposal")
