"""What the build line says of the arrangement."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.ui.stages.arrangement.answer import arrangement_answer


def test_sides_are_said_or_that_it_does_not_fit(barrow: Project, catalogue: Catalogue) -> None:
    made = evaluate(barrow, catalogue)
    length = made.laid_out.joined_pack.layout.size_mm[0]
    assert arrangement_answer(made).startswith(f"{length:.0f} ×")
    room = {"kind": "box", "length_mm": 80.0, "width_mm": 80.0, "height_mm": 80.0}
    small = {f"arrangement.room.{name}": value for name, value in room.items()}
    assert arrangement_answer(evaluate(with_values(barrow, small), catalogue)) == "does not fit"
