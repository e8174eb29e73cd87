"""The need in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import say, worded


def need_answer(evaluation: Evaluation) -> str:
    """What the build line says of the stage."""
    need, demand = evaluation.project.need, evaluation.sized.demand
    load = say(demand.load_figure.value, demand.load_figure.unit)
    answer = f"{say(need.rated_voltage_v, 'V')}, {load}"
    if need.peak_current_a is not None:
        answer += worded(
            ", {} for {}", say(demand.peak.value, "A"), say(demand.peak_duration.value, "s")
        )
    return answer
