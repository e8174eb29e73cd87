"""Lattices, against counts by another way."""

import pytest
import shapely

from lumvak.core.arrangement.lattice import lattices_in
from lumvak.core.arrangement.outline import outline_of
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
