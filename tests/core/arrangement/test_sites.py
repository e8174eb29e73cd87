"""Places of a lattice: neighbours against distances, lattices put together, parts cut out."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.arrangement.lattice import lattice
from lumvak.core.arrangement.sites import clear, in_layers, lattice_pairs, together
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.arrangement import Arrangement, KeptFree, Room


@given(
    rows=st.integers(1, 6),
    columns=st.integers(1, 6),
    nested=st.booleans(),
    gone=st.sets(st.integers(0, 35), max_size=10),
)
def test_neighbours_are_those_a_pitch_apart(
    rows: int, columns: int, nested: bool, gone: set[int]
) -> None:
    row, column = (item.ravel() for item in np.mgrid[0:rows, 0:columns])
    x = column + 0.5 * (row % 2) * nested
    y = row * (0.75**0.5 if nested else 1.0)
    kept = [k for k in range(rows * columns) if k not in gone]
    place = np.full(rows * columns, -1)
    place[kept] = np.arange(len(kept))
    pairs = lattice_pairs(place, rows, columns, nested)
    near = {
        (a, b)
        for a in range(len(kept))
        for b in range(a + 1, len(kept))
        if abs(np.hypot(x[kept[a]] - x[kept[b]], y[kept[a]] - y[kept[b]]) - 1.0) < 1e-6
    }
    assert {(int(a), int(b)) for a, b in pairs.tolist()} == near and len(pairs) == len(near)


def test_lattices_put_together_keep_their_own_neighbours(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-18-30p"]
    one = lattice(cell, "up", 1.0, False, 3, 2, (0.0, 0.0), None)
    two = lattice(cell, "up", 1.0, False, 2, 2, (100.0, 0.0), None)
    both = together([one, two])
    assert len(both) == 10 and len(both.pairs) == len(one.pairs) + len(two.pairs)
    apart = np.abs(both.x_mm[both.pairs[:, 0]] - both.x_mm[both.pairs[:, 1]])
    assert apart.max() < 20.0
    tall = in_layers(one, 3)
    assert len(tall) == 18 and len(tall.pairs) == 3 * len(one.pairs)
    assert (tall.layer[tall.pairs[:, 0]] == tall.layer[tall.pairs[:, 1]]).all()


def test_what_a_low_part_takes_is_left_out_with_its_pairs(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-18-30p"]
    room = Room(kind="box", length_mm=62.0, width_mm=42.0, height_mm=140.0)
    low = KeptFree(x_mm=0.0, y_mm=0.0, length_mm=15.0, width_mm=15.0, height_mm=10.0)
    arrangement = Arrangement(room=room, kept_free=(low,))
    sites = in_layers(lattice(cell, "up", 1.0, False, 3, 2, (0.0, 0.0), None), 2)
    left = clear(sites, arrangement, cell, 1.0)
    assert len(left) == 11 and len(left.pairs) == 2 * 7 - 2
    assert left.pairs.max() < 11
    # Places a pitch apart still, in one layer.
    one, other = left.pairs.T
    assert np.allclose(
        np.hypot(left.x_mm[one] - left.x_mm[other], left.y_mm[one] - left.y_mm[other]), 19.5
    )
    assert (left.layer[one] == left.layer[other]).all()
