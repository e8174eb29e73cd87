"""The arrangement in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import in_words, say_sides


def arrangement_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    placing = evaluation.laid_out.joined_pack.placing
    if placing.short:
        return in_words("does not fit")
    sides = [
        evaluation.figures[f"layout.{side}_mm"].number for side in ("length", "width", "height")
    ]
    return f"{say_sides(sides)}{', by hand' if placing.by_hand else ''}"
