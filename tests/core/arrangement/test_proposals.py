import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.arrangement.layout import FACE_A, FACE_B, barriers_of, between_mm, overlaps
from lumvak.core.arrangement.moved_by_hand import moved, nudged, renumbered, swapped, turned
from lumvak.core.arrangement.outline import outline_flaws, outline_of
from lumvak.core.arrangement.proposals import Placing, placed
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.arrangement import Arrangement, CellBlock, Hole, KeptFree, Room
from lumvak.core.document.edit import ProjectError
from lumvak.core.spelling import spoken
from tests.length import so_many

TRIANGLE = ((0.0, 0.0), (420.0, 0.0), (0.0, 420.0))


@pytest.fixture
def cell(catalogue: Catalogue) -> Cell:
    return catalogue.cells["ostrel-21-48"]


def box(length: float, width: float, height: float | None = None) -> Room:
    return Room(kind="box", length_mm=length, width_mm=width, height_mm=height)


def check_sound(placing: Placing, series: int, parallel: int) -> None:
    """What must hold of any layout: all cells, none overlapping, all in the free room."""
    layout = placing.layout
    assert len(layout) == series * parallel
    assert not len(overlaps(layout))
    if placing.fits and placing.free is not None:
        cells = shapely.points(layout.x_mm, layout.y_mm).tolist()
        radius = layout.half_mm[0, 0]
        assert all(placing.free.buffer(1e-3).contains(item.buffer(radius - 2e-3)) for item in cells)


@pytest.mark.parametrize("rows", ["straight", "nested"])
@pytest.mark.parametrize(
    "room",
    [
        Room(),
        box(345.0, 170.0),
        box(190.0, 170.0, 160.0),
        Room(kind="outline", outline=TRIANGLE, holes=(Hole(x_mm=90, y_mm=90, diameter_mm=12),)),
        Room(kind="round", diameter_mm=300.0),
    ],
)
def test_every_proposal_is_sound(cell: Cell, room: Room, rows: str) -> None:
    arrangement = Arrangement(room=room, rows=rows)  # type: ignore[arg-type]
    placing = placed(arrangement, cell, 14, 7, 1.5)
    check_sound(placing, 14, 7)
    assert placing.fits, placing.short
    scores = [item.score for item in placing.proposals]
    assert placing.chosen is not None and placing.chosen.key == placing.proposals[0].key
    for item in placing.proposals:
        again = placed(replace(arrangement, way=item.key), cell, 14, 7, 1.5)
        check_sound(again, 14, 7)
        assert (again.layout.x_mm == item.layout.x_mm).all()
        assert item.least_front >= 1
    assert scores[1:] == sorted(scores[1:], reverse=True)


@settings(max_examples=so_many(10, 40))
@given(st.integers(1, 16), st.integers(1, 9), st.sampled_from(["straight", "nested"]))
def test_without_a_room_every_count_fits(series: int, parallel: int, rows: str) -> None:
    cell = Cell(
        id="c",
        name="c",
        chemistry="x",
        format="18650",
        voltage_full_v=4.2,
        voltage_nominal_v=3.6,
        voltage_empty_v=2.5,
        capacity_typical_ah=2.5,
        continuous_a=10.0,
        charge_standard_a=1.0,
        mass_g=45.0,
        diameter_mm=18.4,
        height_mm=65.0,
        price=1.0,
    )
    placing = placed(Arrangement(rows=rows), cell, series, parallel, 1.0)  # type: ignore[arg-type]
    check_sound(placing, series, parallel)
    assert placing.fits


def test_a_straight_pack_has_the_size_of_its_rows(cell: Cell) -> None:
    length, width, height = placed(Arrangement(), cell, 14, 7, 1.5).layout.size_mm
    assert length == pytest.approx(14 * 21.3 + 13 * 1.5)
    assert width == pytest.approx(7 * 21.3 + 6 * 1.5)
    assert height == pytest.approx(cell.height_mm + 3.0)
    held = placed(Arrangement(pitch_mm=23.0), cell, 14, 7, 1.5).layout.size_mm
    assert held[0] == pytest.approx(13 * 23.0 + 21.3)
    # Nested, the groups run along the rows, where a strip of one piece lies over each.
    nested = placed(Arrangement(rows="nested"), cell, 14, 7, 1.5).layout.size_mm
    assert nested[1] == pytest.approx(21.3 + 13 * 22.8 * math.sqrt(0.75))
    assert nested[0] == pytest.approx(6.5 * 22.8 + 21.3)


@pytest.mark.parametrize(("by", "along"), [("length", 0), ("width", 1)])
def test_what_is_missing_is_enough_and_not_much_more(cell: Cell, by: str, along: int) -> None:
    sides = [200.0, 170.0]
    short = placed(Arrangement(room=box(*sides)), cell, 14, 7, 1.5).short
    said = {
        part.split(" mm in ")[1].split(" ")[0]: float(part.split(" ")[0])
        for part in spoken(short)[9:].split(" or ")
        if " mm in " in part
    }
    assert said.keys() == {"length", "width"}
    assert "42 cells" in spoken(short)
    grown = list(sides)
    grown[along] += said[by] + 1.0
    assert placed(Arrangement(room=box(*grown)), cell, 14, 7, 1.5).fits
    grown[along] -= 4.0
    assert not placed(Arrangement(room=box(*grown)), cell, 14, 7, 1.5).fits


def test_a_room_too_low_says_so_and_layers_double_what_fits(cell: Cell) -> None:
    low = placed(Arrangement(room=box(400.0, 400.0, 60.0)), cell, 4, 2, 1.5)
    assert spoken(low.short) == "short by 13.4 mm in height"
    flat = placed(Arrangement(room=box(190.0, 170.0, 80.0)), cell, 14, 7, 1.5)
    assert not flat.fits
    brick = placed(Arrangement(room=box(190.0, 170.0, 150.0)), cell, 14, 7, 1.5)
    assert brick.fits and set(brick.layout.layer.tolist()) == {0, 1}
    assert brick.chosen is not None and brick.chosen.wired == 1


def test_a_ring_serves_where_rows_do_not(cell: Cell) -> None:
    room = Room(kind="round", diameter_mm=70.0)
    placing = placed(Arrangement(room=room), cell, 5, 1, 1.5)
    assert placing.fits and placing.chosen is not None and placing.chosen.key == "rings"
    assert "in diameter" in spoken(
        placed(Arrangement(room=Room(kind="round", diameter_mm=50.0)), cell, 5, 1, 1.5).short
    )


def test_kept_free_is_kept_free(cell: Cell) -> None:
    block = KeptFree(x_mm=0.0, y_mm=0.0, length_mm=60.0, width_mm=60.0)
    for room in (Room(), box(400.0, 260.0)):
        layout = placed(Arrangement(room=room, kept_free=(block,)), cell, 14, 7, 1.5).layout
        assert not ((layout.x_mm < 70.0) & (layout.y_mm < 70.0)).any()


def test_blocks_point_their_own_way(cell: Cell) -> None:
    blocks = (CellBlock(columns=3, rows=1), CellBlock(x_mm=70.0, columns=1, rows=2, axis="across"))
    layout = placed(Arrangement(blocks=blocks), cell, 5, 1, 1.5).layout
    assert layout.axis.tolist() == [0, 0, 0, 2, 2]
    assert layout.half_mm[3, 1] == cell.height_mm / 2
    short = placed(Arrangement(blocks=blocks), cell, 6, 1, 1.5)
    assert spoken(short.short) == "the blocks hold 5 cells, 6 are wanted"


@pytest.mark.parametrize(
    ("outline", "code"),
    [
        (
            ((0.0, 0.0), (300.0, 0.0), (0.0, 200.0), (300.0, 200.0), (400.0, 100.0)),
            "outline-crosses",
        ),
        (((0.0, 0.0), (300.0, 0.0), (100.0, 0.0)), "outline-empty"),
        ((), "outline-open"),
    ],
)
def test_a_flawed_outline_is_named_at_its_place(
    cell: Cell, outline: tuple[tuple[float, float], ...], code: str
) -> None:
    room = Room(kind="outline", outline=outline)
    (flaw,) = outline_flaws(room)
    assert flaw.code == code
    if code == "outline-crosses":
        assert (flaw.x_mm, flaw.y_mm) == (
            pytest.approx(218.18, abs=0.01),
            pytest.approx(54.55, abs=0.01),
        )
    assert outline_of(room)[0] is None
    placing = placed(Arrangement(room=room), cell, 14, 7, 1.5)
    assert not placing.fits and len(placing.layout) == 98


def test_a_cut_out_beside_the_outline_and_a_narrow_holder_are_named(cell: Cell) -> None:
    away = ((500.0, 0.0), (520.0, 0.0), (520.0, 20.0))
    room = Room(kind="outline", outline=TRIANGLE, cut_outs=(away,))
    assert [flaw.code for flaw in outline_flaws(room)] == ["cut-out-outside"]
    narrow = placed(Arrangement(pitch_mm=18.5), cell, 4, 2, 1.5)
    assert [flaw.code for flaw in narrow.flaws] == ["holder-narrow"]


def test_work_by_hand_keeps_what_was_not_touched(cell: Cell) -> None:
    placing = placed(Arrangement(room=box(400.0, 200.0)), cell, 5, 3, 1.5)
    was = placing.layout
    spots = nudged(placing, {14}, 20.0, 0.0)
    now = placed(Arrangement(room=box(400.0, 200.0), spots=spots), cell, 5, 3, 1.5)
    assert now.by_hand and now.fits
    assert now.layout.x_mm[14] == pytest.approx(was.x_mm[14] + 20.0)
    assert now.layout.x_mm[:14] == pytest.approx(was.x_mm[:14])
    flipped = turned(placing, {0})
    assert [spot.turned for spot in flipped][:4] == [True, False, False, True]
    exchanged = swapped(placing, 0, 5)
    assert exchanged[0].x_mm == pytest.approx(was.x_mm[5])
    assert exchanged[5].x_mm == pytest.approx(was.x_mm[0])
    assert exchanged[0].turned == bool(was.turned[0])
    assert [spot.x_mm for spot in renumbered(placing)][:3] == pytest.approx(was.x_mm[12:])


def test_a_moved_cell_snaps_beside_another_and_never_onto_it(cell: Cell) -> None:
    placing = placed(Arrangement(), cell, 5, 3, 1.5)
    was = placing.layout
    spots = moved(placing, {14}, 21.0, -21.0)
    assert spots[14].x_mm == pytest.approx(was.x_mm[14] + 22.8)
    assert spots[14].y_mm == pytest.approx(was.y_mm[14] - 22.8)
    with pytest.raises(ProjectError, match="would take up the same place"):
        nudged(placing, {14}, -20.0, 0.0)
    boxed = placed(Arrangement(room=box(140.0, 80.0)), cell, 5, 3, 1.5)
    with pytest.raises(ProjectError, match="would not lie in the free room"):
        nudged(boxed, {14}, 40.0, 0.0)


def test_spots_that_no_longer_match_are_named_and_kept(cell: Cell) -> None:
    placing = placed(Arrangement(), cell, 5, 3, 1.5)
    spots = placing.layout.spots()
    other = placed(Arrangement(spots=spots), cell, 6, 3, 1.5)
    assert [flaw.code for flaw in other.flaws] == ["spots-count"]
    assert spoken(other.short) == ""
    assert len(other.layout) == 18
    onto = (*spots[:-1], replace(spots[0], group=5))
    flawed = placed(Arrangement(spots=onto), cell, 5, 3, 1.5)
    assert [flaw.code for flaw in flawed.flaws] == ["cells-overlap"]


def test_potential_between_cans_is_that_of_the_groups_between(cell: Cell) -> None:
    way = Arrangement(way="x7b2")
    layout = placed(way, cell, 14, 7, 1.5).layout
    found = barriers_of(layout, 4.2, 10.0)
    pairs, volts = found.pairs, found.volts
    assert len(pairs) and volts.max() == pytest.approx(13 * 4.2)
    assert (volts > 10.0).all()
    assert between_mm(layout, pairs) == pytest.approx(np.full(len(pairs), 1.5))
    straight = placed(Arrangement(), cell, 14, 7, 1.5).layout
    assert not len(barriers_of(straight, 4.2, 10.0).pairs)


def test_ends_alternate_from_group_to_group(cell: Cell, catalogue: Catalogue) -> None:
    layout = placed(Arrangement(), cell, 4, 2, 1.5).layout
    assert layout.face[0::2].reshape(4, 2)[:, 0].tolist() == [FACE_A, FACE_B, FACE_A, FACE_B]
    posts = placed(Arrangement(), catalogue.cells["fennimor-b-105"], 4, 1, 1.5).layout
    assert set(posts.face.tolist()) == {FACE_A}
    first = posts.terminal_mm[:, 0].reshape(4, 2)
    signs = np.sign(first[:, 0] - first[:, 1])
    assert (signs[1:] == -signs[:-1]).all()
