"""Laid out, joined and solved: as often as a stronger joint is wanted, and once where none is."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.laid_out import MOST_ATTEMPTS
from lumvak.core.spelling import spoken
from lumvak.core.steps import Steps
from tests.needs import random_need

# A need whose first joints fail in the network.
UNEVEN = 98


def test_joints_that_hold_at_once_are_solved_once(catalogue: Catalogue, barrow: Project) -> None:
    steps = Steps()
    evaluate(barrow, catalogue, steps=steps)
    assert not [name for name in steps.ran if name.startswith("attempt")]


def test_a_stronger_joint_is_laid_and_solved_again(catalogue: Catalogue) -> None:
    project, steps = random_need(UNEVEN), Steps()
    evaluation = evaluate(project, catalogue, steps=steps)
    attempts = {name.split()[1] for name in steps.ran if name.startswith("attempt")}
    assert 1 <= len(attempts) < MOST_ATTEMPTS
    # Few joints at their limit get more layers; most of them a stronger conductor.
    told = [item.text for item in evaluation.findings if item.code == "joint-layers"]
    reasons = spoken(evaluation.laid_out.group.reason) + spoken(evaluation.laid_out.series.reason)
    over = max(evaluation.laid_out.group.over, evaluation.laid_out.series.over) > 1.0
    assert told or over
    assert ("times what equal sharing asks" in reasons) == over
    # What was tried rests with the need: an edit elsewhere runs nothing of it again.
    again = evaluate(with_values(project, {"note": "x"}), catalogue, steps=steps)
    assert not [name for name in steps.ran if name.startswith("attempt")]
    assert again.laid_out.group is evaluation.laid_out.group
