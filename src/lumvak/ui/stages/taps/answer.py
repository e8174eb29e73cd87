"""The balance leads in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import in_words, worded

VIEWS = (("guide", "where they go"), ("check", "check"), ("harness", "harness"),
         ("voltages", "voltages"))  # fmt: skip


def taps_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    leads, check = evaluation.project.balance_leads, evaluation.balance.check
    count = evaluation.sized.choice.series + 1
    if check.verdict is not None:
        if check.verdict.safe:
            return in_words("safe to plug in")
        return (
            in_words("lead 0 not proven") if check.verdict.unproven else in_words("do not plug in")
        )
    if check.read:
        return worded("{} of {} read", len(check.read), count)
    done = sum(number < count for number in leads.soldered)
    return worded("{} of {} soldered", done, count) if done else worded("{} leads", count)
