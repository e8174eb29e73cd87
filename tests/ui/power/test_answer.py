"""What the build line says of the power path."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.ui.stages.power.answer import power_answer


def test_board_and_fuse_are_named_and_so_is_what_is_missing(
    barrow: Project, catalogue: Catalogue
) -> None:
    made = evaluate(barrow, catalogue)
    assert made.board is not None and made.power.fuse.part is not None
    assert power_answer(made) == f"{made.board.board.name}, {made.power.fuse.part.name}"
    bare = evaluate(with_values(barrow, {"power.fuse": "none"}), catalogue)
    assert power_answer(bare).endswith(", no fuse")
