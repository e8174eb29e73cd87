"""Planes of the ends, against places worked out by hand."""

import math

import numpy as np
import pytest
import shapely

from lumvak.core.arrangement.proposals import placed
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.clearance.planes import CIRCLE_QUARTER, discs, ends_of, planes_of
from lumvak.core.document.arrangement import Arrangement, Room


def test_standing_cells_have_a_plane_on_each_side_of_each_layer(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    room = Room(kind="box", length_mm=190.0, width_mm=170.0, height_mm=150.0)
    layout = placed(Arrangement(room=room), cell, 14, 7, 1.5).layout
    planes = planes_of(layout)
    assert len(planes) == 4
    assert sorted(zip(planes.face.tolist(), planes.layer.tolist(), strict=True)) == [
        (0, 0),
        (0, 1),
        (1, 0),
        (1, 1),
    ]
    assert planes.uv_mm == pytest.approx(layout.terminal_mm[:, :2])


def test_lying_cells_are_seen_from_their_ends(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    layout = placed(Arrangement(axis="along"), cell, 3, 2, 1.5).layout
    planes = planes_of(layout)
    ends = ends_of(layout)
    across = layout.terminal_mm[:, 1]
    assert planes.uv_mm[:, 0] == pytest.approx(across)
    # The can's end: its diameter at the rim, and at the negative end all but the fold is bare.
    assert shapely.area(ends.rim) == pytest.approx(math.pi * 21.3**2 / 4.0, rel=0.01)
    assert shapely.area(ends.bare[1]) == pytest.approx(math.pi * 19.3**2 / 4.0, rel=0.01)
    assert (ends.rim_level[0::2] == layout.level[0::2] - 1).all()
    assert (ends.rim_level[1::2] == layout.level[1::2]).all()


def test_a_lying_block_has_both_posts_on_its_top(catalogue: Catalogue) -> None:
    cell = catalogue.cells["fennimor-b-50"]
    layout = placed(Arrangement(axis="across"), cell, 3, 1, 1.5).layout
    places = layout.terminal_mm.reshape(3, 2, 3)
    assert places[:, 0, :2] == pytest.approx(places[:, 1, :2])
    assert abs(places[:, 0, 2] - places[:, 1, 2]) == pytest.approx(0.6 * 148.0)
    assert len(planes_of(layout)) == 1


def test_circles_are_those_that_a_point_grows_to() -> None:
    draw = np.random.default_rng(1)
    middle, radius = draw.uniform(-200.0, 300.0, (40, 2)), draw.uniform(1.0, 30.0, 40)
    grown = shapely.buffer(shapely.points(middle), radius, quad_segs=CIRCLE_QUARTER)
    assert shapely.area(shapely.symmetric_difference(discs(middle, radius), grown)).max() < 1e-9
