"""What the build line says of cells and count."""

from lumvak.core.evaluation import Evaluation
from lumvak.ui.stages.cells.answer import cells_answer


def test_the_pack_is_said_as_builders_write_it(evaluation: Evaluation) -> None:
    choice = evaluation.sized.choice
    assert cells_answer(evaluation) == f"14S7P of {choice.cell.name}"
