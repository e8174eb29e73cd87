"""Parts that take room: which layers, which places, what is wrong with them."""

import math

import pytest
from msgspec.structs import replace

from lumvak.core.arrangement.outline import outline_of
from lumvak.core.arrangement.proposals import placed
from lumvak.core.arrangement.set_aside import between_cells_mm, layers_taken, part_flaws
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.checked import made
from lumvak.core.document.arrangement import Arrangement, KeptFree, Room, Spot
from lumvak.core.evaluate import evaluate
from lumvak.core.spelling import spoken
from tests.length import so_many
from tests.packs import in_the_way, random_pack

ROOM = Room(kind="box", length_mm=120.0, width_mm=76.0, height_mm=150.0)


@pytest.fixture
def cell(catalogue: Catalogue) -> Cell:
    return catalogue.cells["ostrel-21-48"]


def part(**values: object) -> KeptFree:
    return made(KeptFree, {"x_mm": 2.0, "y_mm": 2.0, "length_mm": 45.0, "width_mm": 45.0, **values})


def test_a_part_takes_the_layers_that_it_reaches(cell: Cell) -> None:
    """Layers of 73 mm from the floor; the lid hangs at 150 mm."""
    room = Arrangement(room=ROOM)

    def taken(**values: object) -> list[bool]:
        return layers_taken(part(**values), room, cell, 1.5).tolist()

    assert taken() == [True, True]
    assert taken(height_mm=10.0) == [True, False]
    assert taken(height_mm=cell.height_mm + 3.0) == [True, False]
    assert taken(height_mm=cell.height_mm + 3.1) == [True, True]
    # Two layers end at 146 mm: four are left under the lid.
    spare = 150.0 - 2 * (cell.height_mm + 3.0)
    assert taken(height_mm=spare, stands="lid") == [False, False]
    assert taken(height_mm=spare + 0.1, stands="lid") == [False, True]


def test_a_sensor_lies_between_the_cells(cell: Cell) -> None:
    """Between four circles of a square, and between three of a triangle."""
    for rows, pitches in (("straight", math.sqrt(2.0)), ("nested", 2.0 / math.sqrt(3.0))):
        free = pitches * 22.8 - 21.3
        assert between_cells_mm(cell, 1.5, rows == "nested") == pytest.approx(free)
        wanted = Arrangement(room=ROOM, rows=rows)  # type: ignore[arg-type]
        for size, takes in ((free - 0.01, False), (free + 0.01, True)):
            probe = part(kind="sensor", length_mm=size, width_mm=size)
            assert layers_taken(probe, wanted, cell, 1.5).any() == takes


def test_cells_lie_over_a_low_part_and_beside_a_high_one(cell: Cell) -> None:
    """Five by three places; four of them in the corner are taken, in one layer or in both."""
    for height, series in ((40.0, 26), (None, 22)):
        wanted = Arrangement(room=ROOM, kept_free=(part(height_mm=height),))
        assert placed(wanted, cell, series, 1, 1.5).fits
        assert not placed(wanted, cell, series + 1, 1, 1.5).fits


def test_a_cell_by_hand_may_not_stand_in_a_low_part(cell: Cell) -> None:
    spots = tuple(
        Spot(group=k + 1, x_mm=14.0 + 23.0 * k, y_mm=14.0, layer=layer, turned=bool(k % 2))
        for layer in (0,)
        for k in range(4)
    )
    wanted = Arrangement(room=ROOM, spots=spots, kept_free=(part(height_mm=10.0, length_mm=20.0),))
    found = placed(wanted, cell, 4, 1, 1.5)
    assert [flaw.code for flaw in found.flaws] == ["cell-outside"] and "g1c1" in spoken(
        found.flaws[0].text
    )
    above = tuple(replace(spot, layer=1) for spot in spots)
    assert placed(replace(wanted, spots=above), cell, 4, 1, 1.5).fits


def test_air_between_two_halves_gives_each_a_lattice_of_its_own(cell: Cell) -> None:
    """Two halves of two by three cells; one lattice over both would lose a column."""
    half = 2 * 21.3 + 1.5
    air = KeptFree(name="air", kind="air", x_mm=2.0 + half, y_mm=0.0, length_mm=8.0, width_mm=100.0)
    room = Room(kind="box", length_mm=2 * half + 8.0 + 4.01, width_mm=3 * 21.3 + 3.0 + 4.01)
    wanted = Arrangement(room=room, kept_free=(air,))
    found = placed(wanted, cell, 4, 3, 1.5)
    assert found.fits and found.chosen is not None and found.chosen.wired == 1
    layout = found.layout
    assert not ((layout.x_mm > 2.0 + half - 10.0) & (layout.x_mm < 10.0 + half + 10.0)).any()


def test_no_cell_of_a_random_pack_stands_in_a_part(catalogue: Catalogue) -> None:
    """In space, by a few lines of their own."""
    looked = 0
    for seed in range(so_many(100, 400)):
        pack = random_pack(catalogue, seed)
        arrangement = pack.project.arrangement
        if not arrangement.kept_free or looked >= 6:
            continue
        evaluation = evaluate(pack.project, catalogue)
        if evaluation.laid_out.joined_pack.placing.fits:
            looked += 1
            assert not in_the_way(evaluation), pack.name
    assert looked == 6


def test_parts_that_cannot_lie_so_are_told() -> None:
    def codes(*parts: KeptFree) -> list[str]:
        wanted = Arrangement(room=ROOM, kept_free=parts)
        return [flaw.code for flaw in part_flaws(outline_of(ROOM)[0], wanted)]

    assert codes(part()) == []
    assert codes(part(x_mm=80.0)) == ["part-outside"]
    assert codes(part(height_mm=151.0)) == ["part-high"]
    assert codes(part(), part(x_mm=46.0)) == ["parts-overlap"]
    assert codes(part(), part(x_mm=47.0)) == []
    low, hung = part(height_mm=70.0), part(height_mm=80.0, stands="lid")
    assert codes(low, hung) == []
    assert codes(low, part(height_mm=80.1, stands="lid")) == ["parts-overlap"]
