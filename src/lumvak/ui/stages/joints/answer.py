"""The joints in one line."""

from __future__ import annotations

from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.candidates import layers_name
from lumvak.ui.speech import spoken

VIEWS = (("table", "on the table"), ("conductors", "conductors"), ("making", "making"))


def joints_answer(seen: Evaluation) -> str:
    """What the build line says of the stage."""
    if not seen.series.setting.joints:
        return "no series joint"
    chosen = seen.series.chosen
    return f"{chosen.part.name}, {spoken(layers_name(chosen.layers))}"
