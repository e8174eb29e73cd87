"""Lying cells: rows behind rows, layers, and where they begin in an uneven room."""

import numpy as np
import pytest
import shapely
from shapely import affinity

from lumvak.core.arrangement.layout import overlaps
from lumvak.core.arrangement.lying import lying, lying_in
from lumvak.core.arrangement.proposals import placed
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.arrangement import Arrangement, Room


def test_lying_cells_fill_layers_with_groups_across_them(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-18-30p"]
    room = Room(kind="box", length_mm=100.0, width_mm=70.0, height_mm=45.0)
    arrangement = Arrangement(room=room, axis="across", wall_mm=0.0)
    placing = placed(arrangement, cell, 5, 2, 1.0)
    assert placing.fits, placing.short
    layout = placing.layout
    assert set(layout.layer.tolist()) == {0, 1} and not len(overlaps(layout))
    # Each group holds together beside and above, and lies beside the next.
    groups = layout.group[layout.neighbours]
    assert {int(group) for group in groups[groups[:, 0] == groups[:, 1], 0]} == set(range(5))
    assert placing.chosen is not None and placing.chosen.wired == 0


@pytest.mark.parametrize("axis", ["along", "across"])
def test_places_lie_a_cell_and_a_gap_apart(catalogue: Catalogue, axis: str) -> None:
    cell = catalogue.cells["ostrel-18-30p"]
    arrangement = Arrangement(axis=axis)  # type: ignore[arg-type]
    sites = lying(cell, arrangement, 1.0, (2, 3, 2), (10.0, 20.0), None)
    assert len(sites) == 12 and set(sites.stack.tolist()) == {0, 1}
    end, beside = (sites.x_mm, sites.y_mm) if axis == "along" else (sites.y_mm, sites.x_mm)
    assert np.unique(np.round(np.diff(np.unique(beside)), 6)).tolist() == [19.5]
    # Ends take the strips of both rows between them.
    assert np.diff(np.unique(np.round(end, 6))).tolist() == pytest.approx([cell.height_mm + 3.0])
    # Beside and above, never behind: two rows of a net of three by two.
    assert len(sites.pairs) == 2 * (2 * 2 + 3)


def test_the_likely_places_hold_as_much_as_all_that_could_be_tried(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-18-30p"]
    arrangement = Arrangement(axis="along")
    triangle = shapely.Polygon([(0, 0), (320, 20), (90, 210)])
    for turn in (0.0, 20.0, 75.0):
        shape = affinity.rotate(triangle, turn)
        (found,) = lying_in(shape, arrangement, cell, 1.0, 1, True)
        left, top, *_ = shape.bounds
        step = (cell.height_mm + 3.0, 19.5)
        best = max(
            len(
                lying(
                    cell,
                    arrangement,
                    1.0,
                    (8, 20, 1),
                    (left - step[0] * a / 4.0, top - step[1] * b / 4.0),
                    shape,
                )
            )
            for a in range(4)
            for b in range(4)
        )
        assert len(found) >= best
