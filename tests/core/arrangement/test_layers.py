"""Layers, holders and cells that grow, against lengths added up by hand."""

import math

import pytest
from msgspec.structs import replace

from lumvak.core.arrangement.layers import gap_of, grown, in_holder, layers_in, spans_mm, swell_of
from lumvak.core.arrangement.proposals import placed
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.arrangement import Arrangement, Room


def test_layers_stand_on_each_other_with_strips_between(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-21-48"]
    spans = spans_mm(Arrangement(between_mm=4.0), cell, 1.5, 3)
    tall = cell.height_mm + 4.0
    assert spans.tolist() == [pytest.approx([k * tall, (k + 1) * tall]) for k in range(3)]
    lying = spans_mm(Arrangement(axis="along"), cell, 1.5, 2)
    assert lying[1].tolist() == pytest.approx([22.8, 22.8 + 21.3])


def test_a_holder_sets_pitch_wall_and_layers(catalogue: Catalogue) -> None:
    holder, cell = catalogue.holders["trellis-21"], catalogue.cells["ostrel-21-48"]
    room = Room(kind="box", length_mm=200.0, width_mm=100.0, height_mm=80.0)
    held = in_holder(Arrangement(room=room, holder=holder.id), holder)
    assert gap_of(held, cell, 1.5) == pytest.approx(23.0 - 21.3)
    assert held.wall_mm == pytest.approx(2.0 + 0.8)
    assert held.between_mm == pytest.approx(3.0 + 2 * 1.2)
    # What was typed of pitch and layers stands over the holder's.
    typed = in_holder(Arrangement(pitch_mm=24.0, between_mm=7.0), holder)
    assert (typed.pitch_mm, typed.between_mm) == (24.0, 7.0)
    # Lying ones have the edge below and above them.
    lying = in_holder(Arrangement(room=room, axis="along"), holder)
    assert lying.room.height_mm == pytest.approx(80.0 - 1.6)
    assert in_holder(Arrangement(room=room), None).room == room


def test_places_lie_a_holders_pitch_apart_and_its_edge_off_the_wall(catalogue: Catalogue) -> None:
    holder, cell = catalogue.holders["trellis-21"], catalogue.cells["ostrel-21-48"]
    # Nine places in a row: 8 pitches, a cell, two edges and two walls.
    wide = 8 * 23.0 + 21.3 + 2 * (0.8 + 2.0)
    for spare, fits in ((0.01, True), (-0.01, False)):
        room = Room(kind="box", length_mm=wide + spare, width_mm=30.0)
        laid = placed(Arrangement(room=room, holder=holder.id), cell, 9, 1, 1.5, holder)
        assert laid.fits == fits


def test_pouches_are_laid_as_thick_as_they_grow(catalogue: Catalogue) -> None:
    pouch, block = catalogue.cells["kimbry-p-50"], catalogue.cells["fennimor-b-105"]
    assert swell_of(Arrangement(), pouch).assumed and swell_of(Arrangement(), pouch).number == 0.08
    assert grown(block, Arrangement()) is block
    assert grown(catalogue.cells["ostrel-21-48"], Arrangement(swell_share=0.2)).thickness_mm is None
    thick = pouch.thickness_mm or 0.0
    for share in (None, 0.0, 0.05):
        laid = placed(Arrangement(swell_share=share), pouch, 6, 1, 1.0)
        each = thick * (1.08 if share is None else 1.0 + share)
        assert laid.layout.size_mm[1] == pytest.approx(6 * each + 5 * 1.0)


def test_plates_take_their_thickness_at_both_ends_of_a_stack(catalogue: Catalogue) -> None:
    pouch = catalogue.cells["kimbry-p-50"]
    wide = 6 * (pouch.thickness_mm or 0.0) + 5 * 1.0 + 2 * 2.0
    for plate, spare, fits in ((None, 0.01, True), (4.0, 7.99, False), (4.0, 8.01, True)):
        room = Room(kind="box", length_mm=pouch.footprint_mm[0] + 4.1, width_mm=wide + spare)
        wanted = Arrangement(room=room, swell_share=0.0, plate_mm=plate)
        assert placed(wanted, pouch, 6, 1, 1.0).fits == fits


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
        Arrangement(room=replace(room, length_mm=50.0, width_mm=50.0), between_mm=5.0),
        cell,
        4,
        2,
        1.0,
    ).layout
    assert sorted(set(two.z_mm.tolist())) == pytest.approx([32.6, 32.6 + 65.2 + 5.0])
