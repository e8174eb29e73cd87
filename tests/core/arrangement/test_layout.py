"""A layout against plain geometry: extents, terminals, walls, potentials."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.arrangement.layout import (
    FACE_A,
    FACE_B,
    FACE_HIGH,
    FACE_LOW,
    Layout,
    barriers_of,
    between_mm,
    half_sizes,
    layout_of,
    near_pairs,
    overlaps,
    potential_v,
)
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.checked import made
from lumvak.core.document.arrangement import Spot
from tests.length import so_many

FULL_V = 4.2


@pytest.fixture(scope="module")
def cell(catalogue: Catalogue) -> Cell:
    return catalogue.cells["ostrel-21-48"]


def row_of(
    cell: Cell, count: int, step_mm: float, axis: str = "up", turned: bool = False
) -> Layout:
    """Cells of as many groups in a row along x."""
    spots = [
        made(
            Spot,
            {
                "group": place + 1,
                "x_mm": 100.0 + place * step_mm,
                "y_mm": 50.0,
                "axis": axis,
                "turned": turned,
            },
        )
        for place in range(count)
    ]
    return layout_of(cell, count, 1, 0.5, spots)


@given(
    st.lists(st.tuples(st.floats(0, 400), st.floats(0, 400)), min_size=2, max_size=30),
    st.floats(1.0, 100.0),
)
@settings(max_examples=so_many(10, 40), deadline=None)
def test_near_pairs_are_those_of_a_plain_search(
    places: list[tuple[float, float]], reach: float
) -> None:
    x, y = (np.array(column) for column in zip(*places, strict=True))
    far = np.hypot(x[:, None] - x, y[:, None] - y)
    one, other = np.nonzero(np.triu(far <= reach, 1))
    # What lies at the reach to the last digit may fall on either side.
    clear = ~np.isclose(far[one, other], reach, rtol=1e-9)
    found = {tuple(pair) for pair in near_pairs(x, y, reach).tolist()}
    wanted = set(zip(one[clear].tolist(), other[clear].tolist(), strict=True))
    assert wanted <= found
    assert all(far[pair] <= reach * (1.0 + 1e-9) for pair in found)


def test_a_lying_cell_takes_its_length_along_its_axis(cell: Cell) -> None:
    assert cell.diameter_mm is not None
    radius, half = cell.diameter_mm / 2.0, cell.height_mm / 2.0
    assert half_sizes(cell, "up") == pytest.approx((radius, radius, half))
    assert half_sizes(cell, "along") == pytest.approx((half, radius, radius))
    assert half_sizes(cell, "across") == pytest.approx((radius, half, radius))


@pytest.mark.parametrize(
    ("axis", "turned", "plus", "minus"),
    [
        ("up", False, FACE_A, FACE_B),
        ("up", True, FACE_B, FACE_A),
        ("along", False, FACE_HIGH, FACE_LOW),
        ("across", True, FACE_LOW, FACE_HIGH),
    ],
)
def test_each_pole_is_reached_from_its_face(
    cell: Cell, axis: str, turned: bool, plus: int, minus: int
) -> None:
    layout = row_of(cell, 1, 30.0, axis, turned)
    assert layout.face.tolist() == [plus, minus]
    # The poles lie a cell's length apart, about its middle.
    one, two = layout.terminal_mm
    assert np.linalg.norm(one - two) == pytest.approx(cell.height_mm)
    middle = (layout.x_mm[0], layout.y_mm[0], layout.z_mm[0])
    assert (one + two) / 2.0 == pytest.approx(middle)


@given(st.floats(15.0, 40.0))
def test_walls_of_standing_cells_are_apart_by_their_step(catalogue: Catalogue, step: float) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    assert cell.diameter_mm is not None
    layout = row_of(cell, 3, step)
    pairs = np.array([[0, 1], [1, 2], [0, 2]])
    assert between_mm(layout, pairs) == pytest.approx(
        np.array([step, step, 2.0 * step]) - cell.diameter_mm
    )
    assert bool(len(overlaps(layout))) == (step < cell.diameter_mm - 1e-3)


def test_size_corner_and_centre_are_those_of_the_walls(cell: Cell) -> None:
    layout = row_of(cell, 4, 25.0)
    assert cell.diameter_mm is not None
    assert layout.size_mm[0] == pytest.approx(3 * 25.0 + cell.diameter_mm)
    assert layout.size_mm[1] == pytest.approx(cell.diameter_mm)
    assert layout.corner_mm == pytest.approx(
        (100.0 - cell.diameter_mm / 2.0, 50.0 - cell.diameter_mm / 2.0)
    )
    assert layout.centre_mm[:2] == pytest.approx((137.5, 50.0))
    again = layout_of(cell, 4, 1, 0.5, layout.spots())
    assert np.array_equal(again.terminal_mm, layout.terminal_mm)
    assert again.name == ("g1c1", "g2c1", "g3c1", "g4c1")


def test_cans_side_by_side_want_a_barrier_by_the_groups_between_them(cell: Cell) -> None:
    """A snake of four groups: the ends of two rows meet three groups apart."""
    step = cell.pitch_mm + 0.5
    at = [(0, 0), (1, 0), (1, 1), (0, 1)]
    spots = [
        Spot(group=place + 1, x_mm=100.0 + x * step, y_mm=100.0 + y * step)
        for place, (x, y) in enumerate(at)
    ]
    layout = layout_of(cell, 4, 1, 0.5, spots)
    found = barriers_of(layout, FULL_V, FULL_V + 0.1)
    assert found.pairs.tolist() == [[0, 3]]
    assert found.volts == pytest.approx([potential_v(3, FULL_V)])
    assert len(barriers_of(layout, FULL_V, 0.1).pairs) == 4
    assert not len(barriers_of(layout, FULL_V, potential_v(3, FULL_V)).pairs)
