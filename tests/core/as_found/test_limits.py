"""What each part of a found pack carries, against slices of a strip and the network of a pack."""

import math

import pytest
from msgspec.structs import replace

from lumvak.core.as_found.as_design import design_changes
from lumvak.core.as_found.known import known_of
from lumvak.core.as_found.limits import (
    FoundLink,
    held_for,
    links_of,
    one_strip_a,
    strips_of,
    weakest_of,
)
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from tests.found_packs import slices_a

PARTS = load_catalogue()[0]
FOUND = AsFound(
    begun=True,
    cell="ostrel-18-25p",
    series_cells=10,
    parallel=4,
    strips=1,
    layers=1,
    thickness_mm=0.15,
    width_mm=8.0,
    metal="nickel",
    leads_leave="middle",
    bms="none",
    fuse="none",
    lead_mm2=3.3,
    connector_a=30.0,
    years=0.0,
    cycles=0.0,
)


def links(found: AsFound) -> dict[str, FoundLink]:
    return {it.key: it for it in links_of(found, known_of(found, PARTS))}


@pytest.mark.parametrize("metal", ["nickel", "plated steel", "copper", "nickel-copper"])
@pytest.mark.parametrize(("thick", "wide", "layers"), [(0.1, 5.0, 1), (0.15, 7.0, 1), (0.3, 10, 2)])
def test_a_strip_carries_what_a_row_of_slices_says(
    metal: str, thick: float, wide: float, layers: int
) -> None:
    by_slices = slices_a(metal, thick, wide, layers, 20.0, 20.0)
    assert one_strip_a(metal, thick, wide, layers, 20.0)[0] == pytest.approx(by_slices, rel=2e-3)


def test_the_network_of_the_same_pack_says_the_same() -> None:
    """What was seen, made the design of a project and solved as a network of all its pieces."""
    changes = design_changes(FOUND, known_of(FOUND, PARTS), PARTS)
    made = evaluate(with_values(Project(as_found=FOUND), changes), PARTS)
    solved = {it.key: it.continuous_a for it in made.path.links}
    found = links(FOUND)
    assert made.sized.choice.count == "10S4P"
    for key, share in (("series-joints", 0.2), ("group-joints", 0.25), ("leads", 0.02)):
        assert found[key].continuous.value == pytest.approx(solved[key], rel=share), key
    assert found["cells"].continuous.value == pytest.approx(4 * 20.0 * 0.8)


def test_more_strips_layers_or_metal_carry_more() -> None:
    one = links(FOUND)["series-joints"].continuous.value
    assert links(replace(FOUND, strips=2))["series-joints"].continuous.value == 2.0 * one
    for change in ({"layers": 2}, {"metal": "copper"}, {"thickness_mm": 0.2}, {"width_mm": 12.0}):
        assert links(replace(FOUND, **change))["series-joints"].continuous.value > one
    assert links(replace(FOUND, metal="plated steel"))["series-joints"].continuous.value < one


def test_a_strip_for_each_cell_leaves_the_groups_nothing_to_carry() -> None:
    whole = links(replace(FOUND, strips=4, leads_leave="spread"))
    assert whole["group-joints"].continuous.value == math.inf
    assert whole["take-offs"].continuous.value == math.inf
    end, middle = (links(replace(FOUND, leads_leave=it)) for it in ("end", "middle"))
    ratio = middle["take-offs"].continuous.value / end["take-offs"].continuous.value
    assert ratio == pytest.approx(2.0)


def test_for_a_while_everything_carries_more() -> None:
    for link in links(FOUND).values():
        steady, ten, one = (it.value for it in link.carries)
        assert steady <= ten <= one


def test_marks_switches_and_shunts_narrow_what_a_bms_carries() -> None:
    there = replace(FOUND, bms="there")
    bare, marked = links(there)["board"], links(replace(there, bms_a=40.0))["board"]
    assert marked.continuous.width < bare.continuous.width
    counted = links(replace(there, bms_a=40.0, switches=2))["board"]
    assert counted.continuous.high == 42.0 and counted.continuous.low == 22.0
    assert links(replace(there, switches=2))["board"].continuous.high == 50.0
    shunted = links(replace(there, shunt_mohm=1.0))["board"]
    assert shunted.continuous.value == pytest.approx(40.0)
    assert links(FOUND)["board"].continuous.low == math.inf


def test_what_nobody_saw_has_its_whole_span() -> None:
    bare = links(AsFound())
    for key, link in bare.items():
        seen = links(FOUND)[key].continuous
        assert link.continuous.low <= seen.low and link.continuous.high >= seen.high, key
    assert spoken(bare["fuse"].detail) == "not seen"
    assert spoken(links(FOUND)["series-joints"].detail) == "one nickel strip of 0.15 × 8 mm"


def test_all_hold_what_the_weakest_does() -> None:
    every = links_of(FOUND, known_of(FOUND, PARTS))
    assert weakest_of(every).key == "series-joints"
    assert held_for(every, 0) == links(FOUND)["series-joints"].continuous
    assert strips_of(FOUND, known_of(FOUND, PARTS)).count.value == 1.0
