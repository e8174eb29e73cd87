"""Proving in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import in_words, worded

VIEWS = (("tests", "tests"), ("bench", "instruments"), ("proven", "as proven"))


def prove_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    readings = evaluation.project.proving.readings
    tests = len({item.test for item in readings})
    if not tests:
        return in_words("nothing measured")
    return worded("{} test{} taken", tests, "s" if tests > 1 else "")
