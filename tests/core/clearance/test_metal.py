"""What lies too near, against areas and distances worked out by hand."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec import Struct
from shapely.geometry import box
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.layout import Layout
from lumvak.core.arrangement.proposals import placed
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.clearance.metal import Metals, both, too_near
from lumvak.core.clearance.planes import Ends, ends_of
from lumvak.core.document.arrangement import Arrangement

CELL, GAP = "ostrel-21-48", 1.5


class Metal(Struct, frozen=True):
    """One piece: what it is, its plane and potential, its shape."""

    name: str
    plane: int
    level: int
    shape: BaseGeometry


def together(metals: list[Metal]) -> Metals:
    shape = np.array([item.shape for item in metals], dtype=object)
    plane = np.array([item.plane for item in metals])
    level = np.array([item.level for item in metals])
    return Metals(shape, plane, level, lambda k: metals[k].name)


@pytest.fixture(scope="module")
def layout(catalogue: Catalogue) -> Layout:
    """Three groups of two in one row of columns, 22.8 mm apart."""
    return placed(Arrangement(), catalogue.cells[CELL], 3, 2, GAP).layout


@pytest.fixture(scope="module")
def ends(layout: Layout) -> Ends:
    return ends_of(layout)


def bar(ends: Ends, end: int, width: float, height: float, level: int, shift: float = 0.0) -> Metal:
    u, v = ends.planes.uv_mm[end].tolist()
    shape = box(u - width / 2 + shift, v - height / 2, u + width / 2 + shift, v + height / 2)
    return Metal(f"bar {level}", int(ends.planes.plane[end]), level, shape)


def test_a_piece_on_its_own_end_is_clear_and_crosses_its_rim(layout: Layout, ends: Ends) -> None:
    found = too_near(together([bar(ends, 0, 30.0, 8.0, 1)]), ends, None, 4.2)
    assert not found.near and found.rings == (0,)
    # Within the cap it crosses nothing.
    assert not too_near(together([bar(ends, 0, 5.0, 5.0, 1)]), ends, None, 4.2).rings
    # On a negative end there is no rim of another potential.
    assert not too_near(together([bar(ends, 1, 20.0, 8.0, 0)]), ends, None, 4.2).rings


def test_a_piece_over_a_foreign_rim_is_a_short_and_says_how_much(ends: Ends) -> None:
    # From the end of group 3 on side A over the can of group 2, whose level there is 1.
    third = 8 if ends.planes.face[ends.planes.plane[8]] == 0 else 9
    level = int(ends.level[third])
    found = too_near(together([bar(ends, third, 30.0, 8.0, level)]), ends, None, 4.2)
    (near,) = [item for item in found.near if item.touches]
    assert near.end // 2 in (2, 3)
    # 15 mm to the side; the neighbour's can begins at 22.8 - 10.65 mm.
    assert 10.0 < near.over_mm2 < (15.0 - 12.15) * 8.0
    assert near.volts == pytest.approx(4.2 * abs(level - int(ends.level[near.end])))


@given(apart=st.floats(0.01, 6.0), least=st.floats(0.5, 4.0))
def test_two_pieces_are_told_exactly_where_they_are_nearer_than_the_least(
    ends: Ends, apart: float, least: float
) -> None:
    one = bar(ends, 0, 4.0, 4.0, 1)
    _, low, right, high = one.shape.bounds
    other = Metal("other", one.plane, 5, box(right + apart, -1e3, right + apart + 1.0, -1e3 + 1.0))
    far = too_near(together([one, other]), ends, least, 4.2)
    assert not [item for item in far.near if item.other >= 0]
    beside = Metal("beside", one.plane, 5, box(right + apart, low, right + apart + 0.5, high))
    pairs = [
        item for item in too_near(together([one, beside]), ends, least, 4.2).near if item.other >= 0
    ]
    assert bool(pairs) == (apart < least - 1e-3)
    if pairs:
        assert pairs[0].apart_mm == pytest.approx(apart, abs=1e-6)
        assert pairs[0].volts == pytest.approx(16.8)


def test_planes_keep_pieces_apart(ends: Ends) -> None:
    one = bar(ends, 0, 10.0, 10.0, 1)
    other = Metal("other side", 1 - one.plane, 3, one.shape)
    assert not [
        item for item in too_near(together([one, other]), ends, None, 4.2).near if item.other >= 0
    ]


def test_what_was_looked_at_before_is_not_looked_at_again(ends: Ends) -> None:
    every = together(
        [bar(ends, 0, 30.0, 30.0, 1), bar(ends, 4, 30.0, 30.0, 2), bar(ends, 8, 30.0, 30.0, 3)]
    )
    whole = too_near(every, ends, None, 4.2)
    parts = both(
        too_near(together([bar(ends, 0, 30.0, 30.0, 1)]), ends, None, 4.2),
        too_near(every, ends, None, 4.2, first=1),
    )
    pair = {frozenset((item.metal, item.other, item.end)) for item in whole.near}
    assert pair == {frozenset((item.metal, item.other, item.end)) for item in parts.near}
    assert (whole.closest_mm, whole.rings) == (parts.closest_mm, parts.rings)
