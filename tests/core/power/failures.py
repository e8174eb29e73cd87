"""What brings a finding about and what cures it: the rows that the tests of findings share."""

from typing import Any

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.finding import Finding

# Code, demo, what brings it about, what cures it.
Failure = tuple[str, str, dict[str, Any], dict[str, Any]]


def codes(evaluation: Evaluation) -> set[str]:
    """Codes of what there is to notice on the power path."""
    return {item.code for item in evaluation.findings if item.stage == "power"}


def each(failures: tuple[Failure, ...]) -> pytest.MarkDecorator:
    """One test a failure, named by its code and its demo."""
    names = [f"{code} {demo}" for code, demo, *_ in failures]
    return pytest.mark.parametrize("failure", failures, ids=names)


def told_and_cured(
    failure: Failure, demos: dict[str, Project], catalogue: Catalogue
) -> tuple[Finding, Evaluation]:
    """The finding of a failure, with all its sentences, and the evaluation that has it.

    Asserts that it is told, says why and what to do, and is gone once it is cured.
    """
    code, demo, cause, cure = failure
    project = with_values(demos[demo], cause)
    evaluation = evaluate(project, catalogue)
    assert code in codes(evaluation)
    found = next(item for item in evaluation.findings if item.code == code)
    assert found.text
    assert found.why
    assert found.do
    assert code not in codes(evaluate(with_values(project, cure), catalogue))
    return found, evaluation
