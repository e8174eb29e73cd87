"""Trouble in one line."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import in_words, worded

if TYPE_CHECKING:
    from lumvak.core.trouble.diagnosis import Diagnosis

VIEWS = (("find", "find it"), ("trail", "the trail"), ("repair", "repair"))


def trouble_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    wanted = evaluation.project.trouble
    if wanted.complaint is None:
        return in_words("no complaint")
    count = len(wanted.readings)
    template = "{}, {} reading" if count == 1 else "{}, {} readings"
    return worded(template, wanted.complaint.replace("-", " "), count)


class Found:
    """What was found of the pack at hand, worked out once for all views."""

    def __init__(self) -> None:
        self._of: Evaluation | None = None
        self._found: Diagnosis | None = None

    def of(self, evaluation: Evaluation) -> Diagnosis | None:
        """The causes of what is complained of; ``None`` without a complaint."""
        if self._of is not evaluation:
            from lumvak.core.afterwards.in_trouble import diagnosis_of

            self._of, self._found = evaluation, diagnosis_of(evaluation)
        return self._found
