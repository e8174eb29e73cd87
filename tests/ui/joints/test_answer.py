"""What the build line says of the joints."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.ui.stages.joints.answer import joints_answer


def test_the_conductor_between_groups_is_named(barrow: Project, catalogue: Catalogue) -> None:
    made = evaluate(with_values(barrow, {"joints.series.layers": 2}), catalogue)
    chosen = made.laid_out.series.chosen
    assert joints_answer(made).startswith(chosen.part.name) and "2" in joints_answer(made)
    single = evaluate(with_values(barrow, {"pack.series": 1}), catalogue)
    assert joints_answer(single) == "no series connection"
