"""What the build line says of proving."""

from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.document.proving import Proving
from lumvak.core.evaluate import evaluate
from lumvak.ui.stages.prove.answer import prove_answer
from tests.proofs import reading


def test_it_counts_tests(barrow: Project, catalogue: Catalogue) -> None:
    assert prove_answer(evaluate(barrow, catalogue)) == "nothing measured"
    one = reading("groups", 3.7, "group:1")
    project = replace(barrow, proving=Proving(readings=(one, one)))
    assert prove_answer(evaluate(project, catalogue)) == "1 test taken"
    both = Proving(readings=(one, reading("insulation", 0.0, "case")))
    assert prove_answer(evaluate(replace(barrow, proving=both), catalogue)) == "2 tests taken"
