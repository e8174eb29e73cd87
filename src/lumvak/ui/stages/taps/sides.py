"""Both sides of the pack with its balance leads, one of them marked."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from lumvak.core.arrangement.layout import FACE_A, FACE_B
from lumvak.core.evaluation import Evaluation
from lumvak.core.taps.guide import TapGuide
from lumvak.ui.pack_drawing.side import SIDE_NAMES, SideShown, kept_free_of
from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.widgets.flow import Turning
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft


def facing_of(
    evaluation: Evaluation, guides: Sequence[TapGuide], lead: TapGuide
) -> tuple[tuple[str, SideShown], ...]:
    """The side on which a lead is worked, with its name."""
    drawn = sides_of(evaluation, guides, lead.number)
    return tuple(
        (name, side)
        for name, side in zip(SIDE_NAMES, drawn, strict=True)
        if name.lower().startswith(lead.side.lower())
    )


def sides_of(evaluation: Evaluation, guides: Sequence[TapGuide], at: int | None) -> list[SideShown]:
    """Both sides; the lead ``at`` is marked with its way."""
    kept = kept_free_of(evaluation.project.arrangement)
    done = frozenset(evaluation.project.balance_leads.soldered)
    found = evaluation.balance.check.verdict
    wrong = () if found is None or found.safe else found.hypotheses
    doubted = frozenset(
        lead for item in wrong for lead in range(len(item.joint)) if item.joint[lead] != lead
    )
    return [
        SideShown(
            layout=evaluation.laid_out.joined_pack.layout,
            side=side,
            taps=evaluation.laid_out.taps.terminal,
            kept_free=kept,
            taps_done=done,
            taps_wrong=doubted,
            tap=at,
            route=None if at is None else guides[at].route_mm,
        )
        for side in (FACE_A, FACE_B)
    ]


class BothSides(Turning):
    """The two drawings beside each other, or one below the other where it is narrow."""

    def __init__(self, made: Callable[[str], PackView] = PackView) -> None:
        super().__init__(560)
        self.views = [made(name) for name in SIDE_NAMES]
        for view, name in zip(self.views, SIDE_NAMES, strict=True):
            view.setMinimumHeight(THEME.px(150))
            view.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
            column = QWidget()
            inner = QVBoxLayout(column)
            inner.setContentsMargins(0, 0, 0, 0)
            inner.addWidget(soft(name.split(",")[0]))
            inner.addWidget(view, 1)
            self.columns.addWidget(column, 1)

    def show_sides(self, drawn: Sequence[SideShown]) -> None:
        """Show both sides."""
        for view, side in zip(self.views, drawn, strict=True):
            view.show_drawn(side)
