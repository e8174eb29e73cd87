"""Joints, making: what to cut from which stock, the order of the work, exports, strip checker."""

from __future__ import annotations

from functools import cached_property, partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import (
    QHBoxLayout,
    QMenu,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from lumvak.core.arrangement.layout import FACE_A, FACE_B
from lumvak.core.evaluation import Evaluation, steps_in_hand
from lumvak.ui.bench_mode import BenchMode, BenchStep
from lumvak.ui.exports import EXPORTS, ask_export
from lumvak.ui.pack_drawing.side import SIDE_NAMES, SideShown
from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.stages.joints.cut_list import CutList, ShownPieces
from lumvak.ui.stages.joints.order_of_work import OrderOfWork, shown_in
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.flow import scrolled_body
from lumvak.ui.widgets.pages import Page, Stack
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

if TYPE_CHECKING:
    from lumvak.ui.stages.joints.strip_check import StripCheck

PAGES = (("cut", "cut list"), ("order", "order of work"), ("check", "strip checker"))
PAPERS = (("a4", "A4"), ("letter", "Letter"))


def _drawn(evaluation: Evaluation, shown: ShownPieces) -> tuple[SideShown, SideShown]:
    """Both sides: some pieces stand out, some are not laid yet, some cells are covered."""
    joined_pack = evaluation.laid_out.joined_pack
    a, b = (
        SideShown(
            layout=joined_pack.layout,
            side=side,
            pieces=joined_pack.pieces,
            width_mm=joined_pack.sections.width_mm * joined_pack.sections.strips,
            leads=joined_pack.leads if not shown.away else (),
            absent=shown.away,
            marked=shown.marked,
            covered=under,
        )
        for side, under in zip((FACE_A, FACE_B), shown.covered, strict=True)
    )
    return a, b


class MakingView(Page):
    """Three pages; exports stand at the top, and both sides of the pack below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.page = ChoiceRow(PAGES, "Page")
        self.paper = ChoiceRow(PAPERS, "Paper")
        self.paper.picked.connect(self._lay_on)
        self.page.picked.connect(self.show_page)
        self.cut_list, self.order = CutList(session), OrderOfWork()
        self.side_a, self.side_b = map(PackView, SIDE_NAMES)
        self.pages = Stack()
        self.export = QPushButton("Export …")
        self.bench: BenchMode | None = None
        self._lay_out()
        for page in (self.cut_list, self.order):
            page.changed.connect(lambda: self.show_evaluation(self.session.evaluation))

    def _lay_out(self) -> None:
        top = QHBoxLayout()
        top.addWidget(self.page)
        top.addStretch(1)
        menu = QMenu(self.export)
        for name, to, use in EXPORTS:
            menu.addAction(f"{in_words(name)}\t{in_words(use)}", partial(self._ask_where, to))
        self.export.setMenu(menu)
        for widget in (soft("paper"), self.paper, self.export):
            top.addWidget(widget)
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addLayout(top)
        for page in (self.cut_list, self.order):
            self.pages.addWidget(page)
        outer.addWidget(self.pages, 1)
        self.sides = QWidget()
        pair = QHBoxLayout(self.sides)
        pair.setContentsMargins(0, 0, 0, 0)
        for view, name in ((self.side_a, "side A"), (self.side_b, "side B, turned over")):
            column = QVBoxLayout()
            column.setSpacing(0)
            column.addWidget(soft(name))
            column.addWidget(view, 1)
            # As high as there is room, for the lists above take what they need.
            view.setMinimumHeight(THEME.px(170))
            view.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
            pair.addLayout(column, 1)
        outer.addWidget(self.sides, 3)

    @cached_property
    def strip_check(self) -> StripCheck:
        """The strip checker, made when it is first turned to: what plots is slow to load."""
        from lumvak.ui.stages.joints.strip_check import StripCheck

        made = StripCheck(self.session)
        self.pages.addWidget(made)
        return made

    def show_page(self, page: str) -> None:
        """Turn to one of the pages."""
        self.page.show_value(page)
        widget = {"cut": self.cut_list, "order": self.order}.get(page) or self.strip_check
        self.pages.setCurrentWidget(widget)
        self.show_evaluation(self.session.evaluation)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what there is to make of the pack of an evaluation."""
        self.paper.show_value(self.session.paper)
        self.sides.setVisible(self.page.value != "check")
        if self.page.value == "check":
            self.strip_check.show_evaluation(evaluation)
        elif self.page.value == "cut":
            self._draw(evaluation, self.cut_list.show_cuts(evaluation, evaluation.cuts))
        else:
            self._draw(evaluation, self.order.show_order(evaluation))

    def _draw(self, evaluation: Evaluation, shown: ShownPieces) -> None:
        for view, drawn in zip((self.side_a, self.side_b), _drawn(evaluation, shown), strict=True):
            view.show_drawn(drawn)

    def begin_bench(self) -> bool:
        """The order of work, step by step at the bench."""
        evaluation = self.session.evaluation
        names, faces = ("side A, facing you", "side B, turned over"), (FACE_A, FACE_B)
        steps = []
        for place, step in enumerate(steps_in_hand(evaluation), 1):
            sides = tuple(
                (name, drawn)
                for face, name, drawn in zip(
                    faces, names, _drawn(evaluation, shown_in(evaluation, step)), strict=True
                )
                if step.face in (-1, face)
            )
            volts = worded("up to {} within reach", say(step.volts, "V"))
            steps.append(
                BenchStep(
                    f"{place}", f"{spoken(step.text)}; {volts}.", spoken(step.cover), "", sides
                )
            )
        self.bench = BenchMode(self.session, "Order of work", steps)
        self.bench.showFullScreen()
        return True

    def _ask_where(self, to: str) -> None:
        ask_export(self.session, self, to)

    def _lay_on(self, paper: str) -> None:
        self.session.remembered.emit("paper", paper)
        self.paper.show_value(self.session.paper)
