"""The joints in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.candidates import layers_name
from lumvak.ui.speech import in_words, spoken

VIEWS = (("table", "assembled pack"), ("conductors", "conductors"), ("making", "making"))


def joints_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    if not evaluation.laid_out.series.setting.joints:
        return in_words("no series connection")
    chosen = evaluation.laid_out.series.chosen
    return f"{spoken(chosen.part.said)}, {spoken(layers_name(chosen.layers))}"
