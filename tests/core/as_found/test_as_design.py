"""What was seen as the design of the project."""

from msgspec.structs import replace

from lumvak.core.as_found.as_design import design_changes
from lumvak.core.as_found.known import known_of
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.document.edit import value_at, with_values
from lumvak.core.document.project import Project
from lumvak.files.catalogue_file import load_catalogue
from tests.core.as_found.test_risks import SOUND

PARTS = load_catalogue()[0]


def test_all_of_it_is_taken() -> None:
    changes = design_changes(SOUND, known_of(SOUND, PARTS), PARTS)
    made = with_values(Project(), changes)
    wanted = {
        "pack.series": 10,
        "pack.parallel": 4,
        "pack.cell": "ostrel-18-25p",
        "joints.series.strips": 4,
        "joints.series.layers": 2,
        "joints.take_off": "spread",
        "leads.area_mm2": 5.3,
    }
    assert {path: value_at(made, path) for path in wanted} == wanted
    strip = PARTS.conductors[str(made.joints.series.part)]
    assert (strip.material, strip.thickness_mm, strip.width_mm) == ("nickel", 0.2, 8.0)
    assert PARTS.fuses[str(made.power.fuse)].rating_a == 30.0
    assert PARTS.boards[str(made.protection.board)].series == 10
    assert PARTS.connectors[str(made.power.connector)].continuous_a == 45.0


def test_what_was_not_seen_changes_nothing() -> None:
    assert design_changes(AsFound(), known_of(AsFound(), PARTS), PARTS) == {}


def test_what_is_not_there_is_none_on_purpose() -> None:
    bare = replace(SOUND, bms="none", bms_a=None, fuse="none", fuse_a=None)
    changes = design_changes(bare, known_of(bare, PARTS), PARTS)
    assert changes["power.fuse"] == changes["protection.board"] == "none"


def test_a_strip_that_nobody_sells_is_left_open() -> None:
    odd = replace(SOUND, thickness_mm=1.5, width_mm=90.0)
    assert "joints.series.part" not in design_changes(odd, known_of(odd, PARTS), PARTS)
