"""What must stand on everything that leaves the program while the pack cannot be built."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.core.spelling import PLAIN, Spelling, spoken

# The colour in which it is written.
WARNING = "#A3262C"


def warning_of(evaluation: Evaluation, spelling: Spelling = PLAIN) -> str:
    """Why the pack must not be built as it is; empty where it may.

    It does not fit, or cells and metal lie where they must not.
    """
    placing = evaluation.laid_out.joined_pack.placing
    if placing.short:
        return f"DO NOT BUILD: does not fit, {spoken(placing.short, spelling)}"
    marked = {flaw.code for flaw in evaluation.flaws}
    stops = [
        item for item in evaluation.findings if item.severity == "stop" and item.code in marked
    ]
    return f"DO NOT BUILD: {spoken(stops[0].text, spelling)}" if stops else ""
