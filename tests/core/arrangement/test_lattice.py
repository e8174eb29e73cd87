"""Lattices, against counts by another way."""

import math

import pytest
import shapely

from lumvak.core.arrangement.lattice import lattices_in
from lumvak.core.arrangement.layers import layers_in
from lumvak.core.arrangement.layout import overlaps
from lumvak.core.arrangement.outline import outline_of
from lumvak.core.arrangement.proposals import placed
from lumvak.core.arrangement.set_aside import usable
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.arrangement import Arrangement, Room
from tests.packs import best_lattice

# A bicycle frame's triangle, its longest side steep.
FRAME = ((0.0, 0.0), (430.0, 30.0), (160.0, 330.0))


@pytest.mark.parametrize("rows", ["straight", "nested"])
@pytest.mark.parametrize("turn", [0.0, 17.0, 128.0])
def test_a_triangle_holds_as_much_whichever_way_it_is_drawn(
    catalogue: Catalogue, rows: str, turn: float
) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    turned = shapely.affinity.rotate(shapely.Polygon(FRAME), turn, origin=(0, 0))
    left, top, *_ = turned.bounds
    outline = tuple((x - left, y - top) for x, y in turned.exterior.coords[:-1])
    arrangement = Arrangement(room=Room(kind="outline", outline=outline), rows=rows)  # type: ignore[arg-type]
    free = usable(outline_of(arrangement.room)[0], arrangement, cell, 1.0)
    assert free is not None
    found = max(map(len, lattices_in(free, arrangement, cell, 1.5)))
    best = best_lattice(free, cell.diameter_mm or 0.0, 1.5, rows == "nested")  # type: ignore[arg-type]
    assert found >= 0.97 * best


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


@pytest.mark.parametrize(("rows", "step"), [("straight", 19.5), ("nested", 19.5 * math.sqrt(0.75))])
def test_lying_layers_are_as_high_as_their_cells(
    catalogue: Catalogue, rows: str, step: float
) -> None:
    cell = catalogue.cells["ostrel-18-30p"]
    tall = 18.5 + 3 * step
    for height, layers in ((tall + 0.01, 4), (tall - 0.01, 3)):
        room = Room(kind="box", height_mm=height)
        arrangement = Arrangement(room=room, axis="along", rows=rows)  # type: ignore[arg-type]
        assert layers_in(arrangement, cell, 1.0) == layers


def test_a_barrier_of_another_thickness_is_counted(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-18-30p"]
    room = Room(kind="box", height_mm=2 * 65.2 + 2 * 5.0)
    assert layers_in(Arrangement(room=room, between_mm=5.0), cell, 1.0) == 2
    assert layers_in(Arrangement(room=room, between_mm=5.1), cell, 1.0) == 1
    two = placed(
        Arrangement(room=room.model_copy(update={"length_mm": 50.0, "width_mm": 50.0}),
                    between_mm=5.0), cell, 4, 2, 1.0,
    ).layout  # fmt: skip
    assert sorted(set(two.z_mm.tolist())) == pytest.approx([32.6, 32.6 + 65.2 + 5.0])
