"""Plates: every own place under them, every other clear, whatever the shape of the groups."""

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Point, Polygon

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.clearance.plates import letter_of
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from tests.length import so_many


@settings(max_examples=so_many(8, 12))
@given(
    series=st.integers(2, 8),
    parallel=st.integers(2, 10),
    nested=st.booleans(),
    box=st.floats(0.95, 1.4),
)
def test_a_plate_covers_its_cells_and_keeps_off_all_others(
    catalogue: Catalogue, series: int, parallel: int, nested: bool, box: float
) -> None:
    side = round((series * parallel) ** 0.5 * 20.0 * box + 24.0, 1)
    project = with_values(
        Project(),
        {
            "pack.cell": "ostrel-18-30p",
            "pack.series": series,
            "pack.parallel": parallel,
            "joints.side_a": "sheet",
            "joints.side_b": "sheet",
            "arrangement.rows": "nested" if nested else "straight",
            "arrangement.room": {"kind": "box", "length_mm": side, "width_mm": side},
        },
    )
    evaluation = evaluate(project, catalogue)
    layout = evaluation.laid_out.joined_pack.layout
    plates = [cut for cut in evaluation.cuts if cut.size.role == "plate"]
    assert evaluation.laid_out.series.chosen.part.form == "sheet"
    assert {terminal for cut in plates for terminal in cut.joins} == set(range(2 * len(layout)))
    shapes = [Polygon(*cut.outlines, cut.windows) for cut in plates]
    for cut, shape in zip(plates, shapes, strict=True):
        places = shapely.points(layout.terminal_mm[list(cut.joins), :2])
        assert shape.is_valid and shapely.contains(shape, places).all()
        for cell in range(len(layout)):
            if layout.level[2 * cell] == cut.level or layout.level[2 * cell + 1] == cut.level:
                continue
            can = Point(layout.x_mm[cell], layout.y_mm[cell]).buffer(18.5 / 2.0 - 0.01)
            assert not can.intersects(shape)
    for one in range(len(plates)):
        for other in range(one):
            if plates[one].face == plates[other].face:
                assert shapes[one].distance(shapes[other]) >= 2.0 - 1e-6
    assert not evaluation.laid_out.clearance.flaws


def test_a_corner_between_cells_is_filled(catalogue: Catalogue) -> None:
    project = with_values(
        Project(),
        {
            "pack.cell": "ostrel-18-30p",
            "pack.series": 1,
            "pack.parallel": 4,
            "joints.side_a": "sheet",
            "joints.side_b": "sheet",
            "joints.gap_mm": 1.5,
            "arrangement.room": {"kind": "box", "length_mm": 43.0, "width_mm": 43.0},
        },
    )
    evaluation = evaluate(project, catalogue)
    plate = next(cut for cut in evaluation.cuts if cut.size.role == "plate")
    shape = Polygon(*plate.outlines)
    # Two by two cells: the middle between them is metal, and the corners are round.
    assert shape.contains(shape.centroid) and not plate.windows
    assert plate.size.width_mm == pytest.approx(20.0 + 16.5, abs=0.1)


@pytest.mark.parametrize(
    ("cells", "letter"),
    [
        ([(0, 0), (1, 0), (2, 0)], ""),
        ([(0, 0), (1, 0), (2, 0), (2, 1)], "L"),
        ([(0, 0), (0, 1), (1, 0), (2, 0), (2, 1)], "U"),
        ([(0, 0), (1, 0), (2, 0), (1, 1)], "T"),
        ([(0, 0), (1, 0), (1, 1), (2, 1)], "Z"),
        ([(0, 0), (1, 0), (1, 1), (2, 1), (2, 2), (3, 2)], "stepped"),
    ],
)
@pytest.mark.parametrize("turn", [0.0, 33.0, 90.0])
def test_a_plate_is_called_by_the_letter_it_looks_like(
    cells: list[tuple[int, int]], letter: str, turn: float
) -> None:
    squares = [shapely.box(20 * x, 20 * y, 20 * x + 20, 20 * y + 20) for x, y in cells]
    shape = shapely.affinity.rotate(shapely.union_all(squares), turn)
    assert letter_of(shape, 200.0) == letter
