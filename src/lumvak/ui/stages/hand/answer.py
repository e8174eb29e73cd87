"""Cells in hand in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import digits, in_words, worded

# Less apart than this is no difference to anybody.
TINY = 1e-4
VIEWS = (
    ("measure", "measure"), ("judge", "judge"), ("groups", "groups"), ("beside", "old pack"),
    ("welds", "test joints"),
)  # fmt: skip


def hand_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    cells = evaluation.project.hand.cells
    if not cells:
        return in_words("none measured")
    # Beside an old pack the new groups differ as its groups do, and the sums are alike.
    spread = evaluation.figures.get("hand.spread")
    if spread is not None:
        spread = evaluation.figures.get("hand.old.spread", spread)
    if spread is not None:
        return worded(
            "{} placed, {} apart", evaluation.sized.in_hand.seats, share_said(spread.number)
        )
    return worded("{} of {} good", len(evaluation.sized.in_hand.good), len(cells))


def share_said(share: float) -> str:
    """A small share in per cent, to two figures."""
    return f"{digits(100.0 * share, '.2g')} %" if share >= TINY else f"< {digits(0.01, 'g')} %"
