"""Planes of lying cells on the template, and holes of bars."""

import math

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.making.template import template_of
from lumvak.files.project_file import load_project
from tests.conftest import DEMOS


def test_lying_cells_are_drawn_from_both_ends(catalogue: Catalogue) -> None:
    project = with_values(Project(), {
        "pack.cell": "ostrel-18-30p", "pack.series": 4, "pack.parallel": 2,
        "arrangement.axis": "along",
    })  # fmt: skip
    seen = evaluate(project, catalogue)
    sides = template_of(seen.joined_pack, seen.clearance.ends, seen.cuts)
    assert {side.name.rstrip("0123456789") for side in sides} == {"LOW", "HIGH"}
    cells = [shape for side in sides for shape in side.shapes if shape.layer.endswith("_CELLS")]
    assert len(cells) == 2 * 8 and {shape.diameter_mm for shape in cells} == {18.5}
    strips = [shape for side in sides for shape in side.shapes if "_STRIPS_" in shape.layer]
    assert len(strips) == sum(len(cut.outlines) for cut in seen.cuts)


def test_bars_have_a_hole_at_every_post_and_room_around_it(catalogue: Catalogue) -> None:
    project = with_values(Project(), {
        "pack.cell": "fennimor-b-105", "pack.series": 4, "pack.parallel": 1,
    })  # fmt: skip
    seen = evaluate(project, catalogue)
    bars = [cut for cut in seen.cuts if cut.holes]
    assert len(bars) == 3
    for cut in bars:
        assert [hole.at_mm for hole in cut.holes] == [
            pytest.approx(seen.clearance.ends.planes.uv_mm[end]) for end in cut.joins
        ]
        assert [hole.slot_mm for hole in cut.holes] == [0.0, 1.0]
        assert {hole.diameter_mm for hole in cut.holes} == {6.6}
        edge = min(math.dist(cut.start, cut.holes[0].at_mm), math.dist(cut.end, cut.holes[1].at_mm))
        assert edge >= 1.5 * 6.6
    drawn = template_of(seen.joined_pack, seen.clearance.ends, seen.cuts)[0]
    holes = [shape for shape in drawn.shapes if shape.layer == "A_HOLES"]
    assert sorted(shape.diameter_mm for shape in holes) == [0.0] * 3 + [6.6] * 3


def test_the_demos_with_blocks_and_in_a_frame_show_what_they_are_for(catalogue: Catalogue) -> None:
    punt = evaluate(load_project(DEMOS / "reed-cutter-punt.lumvak.json", catalogue), catalogue)
    assert punt.joined_pack.placing.fits and not punt.flaws
    bars = [cut for cut in punt.cuts if cut.holes]
    assert len(bars) == 7 and {hole.diameter_mm for cut in bars for hole in cut.holes} == {6.6}
    trike = evaluate(load_project(DEMOS / "market-trike.lumvak.json", catalogue), catalogue)
    assert trike.joined_pack.placing.fits and not trike.flaws
    # Between tubes that stand at a slant, in holders, with a board beside its cells.
    assert trike.project.arrangement.room.kind == "outline"
    assert trike.project.arrangement.holder == "wattle-21"
