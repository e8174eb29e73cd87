"""Cells in hand, dealt into groups: every method side by side, and each cell to its place."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np
from msgspec import Struct, field
from PyQt6.QtWidgets import QProgressBar, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from lumvak.core.arrangement.layout import FACE_A, FACE_B
from lumvak.core.document.hand import By, HandCell, Placed
from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.sharing import busiest_over_fair
from lumvak.core.matching.binding import apart_read, apart_said, pins_read, pins_said
from lumvak.core.matching.dealing import (
    BEST,
    METHOD_NAMES,
    Compared,
    by_voltage,
    compared,
    pool_in_hand,
    spread_of,
)
from lumvak.core.matching.matched import GroupNow
from lumvak.core.matching.pool import Dealt, PoolError
from lumvak.core.matching.readings import seats
from lumvak.core.units import QuantityError
from lumvak.ui.bench_mode import BenchMode, BenchStep
from lumvak.ui.exports import ask_export
from lumvak.ui.pack_drawing.side import SIDE_NAMES, SideShown
from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, said_of, say, worded
from lumvak.ui.stages.hand.answer import TINY, share_said
from lumvak.ui.stages.hand.group_rows import GROUP_COLUMNS, METHOD_COLUMNS
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import edit_or_why, mark_bad, try_edit
from lumvak.ui.widgets.rows import Row, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import Empty, plain, side_by_side, soft
from lumvak.ui.work import Report, Work

BY: tuple[tuple[By, str], ...] = (
    ("capacity", "capacity"), ("resistance", "resistance"), ("both", "both"),
    ("voltage", "voltage alone"),
)  # fmt: skip
BUTTONS = ("assign", "stop", "use these groups", "clear the places", "placing sheet …")
STEPS = (
    "Measure the cells first: capacity of each, or its resistance, or both.",
    "“assign” gives every good cell a group, by each method builders use, side by side.",
    "“use these groups” gives each cell its place in the pack; the drawing shows its number there.",
    "The placing sheet is to tick off; F9 leads from cell to cell.",
)
PROMISES = {
    "voltage": "Cells of one batch in the order of their OCVs: neighbours are joined. "
    "It promises nothing on capacity, for a voltage tells charge and not size.",
    "resistance": "By resistance alone the sharing is even; what the pack delivers is not known "
    "where capacities were not measured.",
}


class DealtCells(Struct, frozen=True, eq=False):
    """What was dealt: the groups by number, the spares, and all methods where there are any."""

    groups: list[list[int]]
    spares: tuple[int, ...]
    compared: Compared | None = None
    over_fair: Mapping[str, float | None] = field(default_factory=dict)


class CellGroupsView(Page):
    """Deal above, the groups below it, and the pack with every number beside them."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.found: DealtCells | None = None
        self._key: object = None
        # How far apart the best is that was found so far; written by the thread that deals.
        self._so_far = 1.0
        self.bench: BenchMode | None = None
        self.work = Work()
        self.by = ChoiceRow(BY, "Grouped by")
        self.buttons = {name: QPushButton(name) for name in BUTTONS}
        self.bar = QProgressBar()
        self.bar.setRange(0, 100)
        self.bar.setFixedWidth(THEME.px(120))
        self.bar.hide()
        self.pins, self.apart = EntryField(), EntryField()
        for line, name, like in (
            (self.pins, "Cells that have their place", "57=g3c2 58=g3c3"),
            (self.apart, "Cells to keep separate", "12,15 3,4,5"),
        ):
            line.setAccessibleName(name)
            line.setPlaceholderText(like)
            line.setFixedWidth(THEME.px(170))
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.says = soft("", wrap=True)
        self.methods = RowsTable(METHOD_COLUMNS, "Methods side by side")
        self.groups = RowsTable(GROUP_COLUMNS, "Groups")
        self.views = [PackView(name) for name in SIDE_NAMES]
        for view in self.views:
            view.describe = self._describe
            view.setMinimumHeight(THEME.px(150))
            view.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        self.empty = Empty("No group has its cells yet", STEPS)
        self._lay_out()
        self.groups.setObjectName("hand.placed")
        self.by.picked.connect(lambda value: try_edit(session, {"hand.by": value}))
        self.pins.editingFinished.connect(self._take_pins)
        self.apart.editingFinished.connect(self._take_apart)
        self.buttons["assign"].clicked.connect(self.deal)
        self.buttons["stop"].clicked.connect(self._stop)
        self.buttons["use these groups"].clicked.connect(self.take)
        self.buttons["clear the places"].clicked.connect(
            lambda: try_edit(session, {"hand.placed": (), "hand.soldered": ()}, "places cleared")
        )
        self.buttons["placing sheet …"].clicked.connect(
            lambda: ask_export(session, self, "placing")
        )
        self.work.done.connect(self._done)
        self.work.failed.connect(
            lambda why: session.tell("stop", worded("Nothing was assigned: {}.", why))
        )
        self.work.progressed.connect(self._progress)

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(flowing(soft("by"), self.by, *self.buttons.values(), self.bar, gap=8))
        outer.addWidget(
            flowing(
                side_by_side(soft("fixed positions"), self.pins),
                side_by_side(soft("keep separate"), self.apart),
                gap=12,
            )
        )
        outer.addWidget(self.problem)
        outer.addWidget(self.says)
        outer.addWidget(self.empty)
        tables, drawn = QWidget(), QWidget()
        left, sides = QVBoxLayout(tables), QVBoxLayout(drawn)
        for inner in (left, sides):
            inner.setContentsMargins(0, 0, 0, 0)
        left.addWidget(self.methods)
        left.addWidget(self.groups, 1)
        keep_rows(self.groups, 5)
        for view, name in zip(self.views, ("side A", "side B"), strict=True):
            column = QWidget()
            inner = QVBoxLayout(column)
            inner.setContentsMargins(0, 0, 0, 0)
            inner.addWidget(soft(name))
            inner.addWidget(view, 1)
            sides.addWidget(column, 1)
        self.both = Turning(700)
        self.both.columns.addWidget(tables, 3)
        self.both.columns.addWidget(drawn, 2)
        outer.addWidget(self.both, 1)
        outer.addStretch(0)

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the groups of an evaluation, and what was dealt for these cells."""
        hand = evaluation.project.hand
        self.by.show_value(hand.by)
        for line, text in ((self.pins, pins_said(hand.pins)), (self.apart, apart_said(hand.apart))):
            if not (line.hasFocus() and line.isModified()):
                line.setText(text)
        key = (
            hand.cells,
            hand.by,
            hand.pins,
            hand.apart,
            hand.old,
            hand.lots,
            evaluation.sized.choice.series,
            evaluation.sized.choice.parallel,
        )
        if self._key is not None and key != self._key:
            self.found = None
            self.work.cancel()
        self._key = key
        busy = self.work.busy
        self.bar.setVisible(busy)
        self.buttons["stop"].setVisible(busy)
        self.buttons["assign"].setEnabled(bool(hand.cells) and not busy)
        self.buttons["use these groups"].setEnabled(self.found is not None)
        for name in ("clear the places", "placing sheet …"):
            self.buttons[name].setEnabled(bool(hand.placed))
        nothing = self.found is None and not hand.placed
        self.empty.setVisible(nothing)
        self.both.setVisible(not nothing)
        self._show_methods()
        self._show_groups(evaluation)
        self._draw(evaluation)
        self._say(evaluation)

    def _say(self, evaluation: Evaluation) -> None:
        matched = evaluation.sized.in_hand
        count = worded(
            "{} groups of {}", evaluation.sized.choice.series, evaluation.sized.choice.parallel
        )
        said = [worded("{} good cells for {}.", len(matched.good), count)]
        if len(evaluation.project.hand.old.groups) == evaluation.sized.choice.series:
            said.append("Each counts with its old group.")
        if self.found is not None and self.found.compared is not None:
            found = self.found.compared
            more = (
                worded(" by more than {}", share_said(max(found.gap, TINY)))
                if found.gap > 0.0
                else ""
            )
            said.append(worded("No assignment is better{}.", more))
        if self.found is not None and self.found.spares:
            spares = ", ".join(map(str, self.found.spares[:20]))
            more = (
                ""
                if len(self.found.spares) <= 20
                else worded(" and {} more", len(self.found.spares) - 20)
            )
            said.append(worded("Left over: {}{}.", spares, more))
        if promise := PROMISES.get(str(self.by.value)):
            said.append(promise)
        self.says.setText(" ".join(said))

    def _show_methods(self) -> None:
        found = None if self.found is None else self.found.compared
        self.methods.setVisible(found is not None)
        if found is None:
            return
        rows = [
            Row(
                (
                    METHOD_NAMES[name],
                    _share(dealt.spread_capacity),
                    _share(dealt.spread_conductance),
                    "—"
                    if np.isnan(dealt.delivered_ah)
                    else say(dealt.delivered_ah, in_words("Ah")),
                    "—" if (over := self._over(name)) is None else f"+{say(over, '%')}",
                ),
                key=name,
                chosen=name == BEST,
            )
            for name, dealt in found.methods.items()
        ]
        self.methods.show_rows(rows)
        fit_height(self.methods, len(rows), 4, firm=True)

    def _over(self, method: str) -> float | None:
        return None if self.found is None else self.found.over_fair.get(method)

    def _show_groups(self, evaluation: Evaluation) -> None:
        groups = evaluation.sized.in_hand.groups
        if not groups and self.found is not None:
            rows = [
                Row((str(place), *("—",) * 5, ", ".join(map(str, sorted(numbers)))), key=place)
                for place, numbers in enumerate(self.found.groups, 1)
            ]
        else:
            rows = [self._row(group) for group in groups]
        self.groups.show_rows(rows)
        self.groups.setVisible(bool(rows))

    def _row(self, group: GroupNow) -> Row:
        return row_of(GROUP_COLUMNS, group, key=group.number)

    def _draw(self, evaluation: Evaluation) -> None:
        for view, drawn in zip(self.views, self._sides(evaluation), strict=True):
            view.show_drawn(drawn)
            view.setVisible(bool(evaluation.sized.in_hand.by_place) or self.found is not None)

    def _sides(self, evaluation: Evaluation, at: int | None = None) -> list[SideShown]:
        """Both sides with the number of each cell; ``at`` is the place in hand."""
        layout, hand = evaluation.laid_out.joined_pack.layout, evaluation.project.hand
        placed = {item.cell: item.number for item in hand.placed}
        if not placed and self.found is not None:
            placed = {item.cell: item.number for item in seats(self.found.groups, hand.pins)}
        numbers = [placed.get(name) for name in layout.name]
        labels = tuple("" if number is None else str(number) for number in numbers)
        done = frozenset(place for place, number in enumerate(numbers) if number in hand.soldered)
        here = frozenset() if at is None else frozenset((at,))
        return [
            SideShown(layout=layout, side=side, labels=labels, covered=done, chosen_cells=here)
            for side in (FACE_A, FACE_B)
        ]

    def _describe(self, kind: str, number: int) -> str:
        evaluation = self.session.evaluation
        if kind != "cell":
            return ""
        name = evaluation.laid_out.joined_pack.layout.name[number]
        cell = evaluation.sized.in_hand.by_place.get(name)
        return (
            worded("{}: no cell yet", name)
            if cell is None
            else worded("{}: cell {}", name, cell.number)
        )

    def _take_pins(self) -> None:
        self._bind(self.pins, lambda text: {"hand.pins": pins_read(text)}, "cells in place")

    def _take_apart(self) -> None:
        self._bind(self.apart, lambda text: {"hand.apart": apart_read(text)}, "cells apart")

    def _bind(self, line: EntryField, read: Callable[[str], dict[str, Any]], what: str) -> None:
        """Take what binds the dealing; what cannot be read stays and is explained."""
        try:
            problem = edit_or_why(self.session, read(line.text()), what)
        except QuantityError as error:
            problem = said_of(error)
        mark_bad(line, self.problem, problem)
        line.setModified(bool(problem))

    # Dealing.

    def deal(self) -> None:
        """Deal the good cells out, off the window's thread."""
        evaluation = self.session.evaluation
        hand, good = evaluation.project.hand, evaluation.sized.in_hand.good
        series, parallel = evaluation.sized.choice.series, evaluation.sized.choice.parallel
        if hand.by == "voltage":
            self._deal_by_voltage(good, series, parallel)
            return
        try:
            pool = pool_in_hand(hand, evaluation.sized.in_hand, series, parallel)
        except PoolError as error:
            self.session.tell("warn", f"{error}.")
            return

        joined_pack, measured = evaluation.laid_out.joined_pack, evaluation.sized.in_hand.ohm

        def task(report: Report) -> DealtCells:
            def told(best: Dealt, share: float) -> bool:
                self._so_far = spread_of(best)
                return report(share)

            found = compared(pool, hand.seed, None, told)
            over: dict[str, float | None] = {}
            for name, dealt in found.methods.items():
                taken = seats(dealt.numbers(), hand.pins)
                ohm = {item.cell: measured.get(item.number, 0.0) for item in taken}
                known = joined_pack.network is not None and all(ohm.values())
                over[name] = (
                    busiest_over_fair(joined_pack.network, joined_pack.layout, ohm)
                    if known and joined_pack.network is not None
                    else None
                )
            spares = tuple(pool.numbers[at] for at in found.best.spares)
            return DealtCells(found.best.numbers(), spares, found, over)

        self.work.start(task, self._key)
        # The button that was pressed gives way to the one that stops it, and takes over again.
        had = self.buttons["assign"].hasFocus()
        self.show_evaluation(evaluation)
        if had:
            self.buttons["stop"].setFocus()

    def _deal_by_voltage(self, good: Sequence[HandCell], series: int, parallel: int) -> None:
        cells = [(cell.number, cell.volts) for cell in good if cell.volts is not None]
        if len(cells) < series * parallel:
            lacking = series * parallel - len(cells)
            self.session.tell("warn", worded("{} good cells with a voltage are missing.", lacking))
            return
        self.found = DealtCells(*by_voltage(cells, series, parallel))
        self.show_evaluation(self.session.evaluation)

    def _done(self, result: object, tag: object) -> None:
        if isinstance(result, DealtCells) and tag == self._key:
            self.found = result
        self._leave_stop()

    def _leave_stop(self) -> None:
        """Show how the dealing ended; the focus goes from the button that stops it to deal."""
        had = self.buttons["stop"].hasFocus()
        self.show_evaluation(self.session.evaluation)
        if had:
            self.buttons["assign"].setFocus()

    def _progress(self, number: int, share: float) -> None:
        if self.work.listens(number):
            self.bar.setValue(round(100.0 * share))
            self.says.setText(worded("So far {} apart.", share_said(self._so_far)))

    def _stop(self) -> None:
        self.work.cancel()
        self._leave_stop()

    def take(self) -> None:
        """Give every cell its place in the pack."""
        if self.found is None:
            return
        placed: tuple[Placed, ...] = seats(self.found.groups, self.session.project.hand.pins)
        if try_edit(self.session, {"hand.placed": placed, "hand.soldered": ()}, "groups"):
            groups = len(self.found.groups)
            self.session.tell(
                "note", worded("{} cells have their places, in {} groups.", len(placed), groups)
            )

    # At the bench.

    def begin_bench(self) -> bool:
        """Check every cell off at its place, one after the other."""
        evaluation = self.session.evaluation
        placed = {item.cell: item.number for item in evaluation.project.hand.placed}
        done = set(evaluation.project.hand.soldered)
        steps = [
            self._bench_step(name, placed, at)
            for at, name in enumerate(evaluation.laid_out.joined_pack.layout.name)
            if name in placed and placed[name] not in done
        ]
        if not steps:
            return False
        self.bench = BenchMode(self.session, "Cells to their places", steps)
        self.bench.showFullScreen()
        return True

    def _bench_step(self, name: str, placed: dict[str, int], at: int) -> BenchStep:
        wanted = placed[name]
        group = name[1:].partition("c")[0]

        def take(text: str) -> str:
            if text and text != str(wanted):
                return _other(text, group, placed)
            soldered = (*self.session.project.hand.soldered, wanted)
            try_edit(
                self.session, {"hand.soldered": soldered}, worded("cell {} in its place", wanted)
            )
            self.session.keep_now()
            return ""

        sides = self._sides(self.session.evaluation, at)
        named = tuple(zip(SIDE_NAMES, sides, strict=True))
        return BenchStep(
            worded("cell {}", wanted),
            worded("to {}, group {}", name, group),
            "every pole that is not worked on",
            worded("{} on the wrapper", wanted),
            named,
            take,
        )


def _other(text: str, group: str, placed: dict[str, int]) -> str:
    """What is wrong with a number that is not the one that is wanted."""
    where = next((name for name, number in placed.items() if str(number) == text), None)
    if where is None:
        return worded("{} has no place in this pack; in hand is group {}", text, group)
    return worded(
        "{} belongs to group {}; in hand is group {}", text, where[1:].partition("c")[0], group
    )


def _share(value: float) -> str:
    return "—" if np.isnan(value) else share_said(value)
