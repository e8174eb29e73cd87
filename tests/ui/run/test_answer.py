"""What the build line says of the run."""

import re

from lumvak.core.evaluation import Evaluation
from lumvak.ui.stages.run.answer import run_answer


def test_hours_and_warmth_are_those_of_the_run(evaluation: Evaluation) -> None:
    told = re.fullmatch(r"(\d+) h (\d+), warms to ([\d.]+) °C", run_answer(evaluation))
    assert told is not None
    hours = int(told[1]) + int(told[2]) / 60.0
    assert abs(hours - evaluation.run.run.hours) < 1.0 / 60.0
    assert abs(float(told[3]) - evaluation.figures["run.warmest_c"].number) < 0.1
