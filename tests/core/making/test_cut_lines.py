"""The cut list by kinds of piece."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.making.cut_lines import cut_lines


def test_layers_are_counted_and_plates_cover_their_cells(
    barrow: Project, catalogue: Catalogue
) -> None:
    double = evaluate(with_values(barrow, {"joints.series.layers": 2}), catalogue)
    series = next(line for line in cut_lines(double.cuts) if line.size.role == "series")
    assert series.count == 52
    sheets = {"joints.side_a": "sheet", "joints.side_b": "sheet"}
    plates = [
        cut
        for cut in evaluate(with_values(barrow, sheets), catalogue).cuts
        if cut.size.role == "plate"
    ]
    # A plate a level: thirteen joints over two groups, and one over each end group.
    assert len(plates) == 15
    assert {round(cut.size.width_mm, 1) for cut in plates} == {19.3, 42.1}
    assert {round(cut.size.length_mm, 1) for cut in plates} == {156.1}
