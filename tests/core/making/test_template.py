"""Planes of lying cells on the template, and holes of bars."""

import math

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.making.template import template_of
from lumvak.files.project_file import load_project
from tests.conftest import DEMOS


def test_lying_cells_are_drawn_from_both_ends(catalogue: Catalogue) -> None:
    project = with_values(
        Project(),
        {
            "pack.cell": "ostrel-18-30p",
            "pack.series": 4,
            "pack.parallel": 2,
            "arrangement.axis": "along",
        },
    )
    evaluation = evaluate(project, catalogue)
    sides = template_of(
        evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, evaluation.cuts
    )
    assert {side.name.rstrip("0123456789") for side in sides} == {"LOW", "HIGH"}
    cells = [shape for side in sides for shape in side.shapes if shape.layer.endswith("_CELLS")]
    assert len(cells) == 2 * 8 and {shape.diameter_mm for shape in cells} == {18.5}
    strips = [shape for side in sides for shape in side.shapes if "_STRIPS_" in shape.layer]
    assert len(strips) == sum(len(cut.outlines) for cut in evaluation.cuts)


def test_bars_have_a_hole_at_every_post_and_room_around_it(catalogue: Catalogue) -> None:
    project = with_values(
        Project(),
        {
            "pack.cell": "fennimor-b-105",
            "pack.series": 4,
            "pack.parallel": 1,
        },
    )
    evaluation = evaluate(project, catalogue)
    bars = [cut for cut in evaluation.cuts if cut.holes]
    assert len(bars) == 3
    for cut in bars:
        assert [hole.at_mm for hole in cut.holes] == [
            pytest.approx(evaluation.laid_out.clearance.ends.planes.uv_mm[end]) for end in cut.joins
        ]
        assert [hole.slot_mm for hole in cut.holes] == [0.0, 1.0]
        assert {hole.diameter_mm for hole in cut.holes} == {6.6}
        edge = min(math.dist(cut.start, cut.holes[0].at_mm), math.dist(cut.end, cut.holes[1].at_mm))
        assert edge >= 1.5 * 6.6
    drawn = template_of(
        evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, evaluation.cuts
    )[0]
    holes = [shape for shape in drawn.shapes if shape.layer == "A_HOLES"]
    assert sorted(shape.diameter_mm for shape in holes) == [0.0] * 3 + [6.6] * 3


def test_the_demos_with_blocks_and_in_a_frame_show_what_they_are_for(catalogue: Catalogue) -> None:
    punt = evaluate(load_project(DEMOS / "reed-cutter-punt.lumvak.json", catalogue), catalogue)
    assert punt.laid_out.joined_pack.placing.fits and not punt.flaws
    bars = [cut for cut in punt.cuts if cut.holes]
    assert len(bars) == 7 and {hole.diameter_mm for cut in bars for hole in cut.holes} == {6.6}
    trike = evaluate(load_project(DEMOS / "market-trike.lumvak.json", catalogue), catalogue)
    assert trike.laid_out.joined_pack.placing.fits and not trike.flaws
    # Between tubes that stand at a slant, in holders, with a board beside its cells.
    assert trike.project.arrangement.room.kind == "outline"
    assert trike.project.arrangement.holder == "wattle-21"


def test_the_template_is_true_to_size_and_mirrored(evaluation: Evaluation) -> None:
    cuts = evaluation.cuts
    side_a, side_b = template_of(
        evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, cuts
    )
    length, width, _ = evaluation.laid_out.joined_pack.layout.size_mm
    for side in (side_a, side_b):
        cells = [shape for shape in side.shapes if shape.layer == f"{side.name}_CELLS"]
        assert len(cells) == 98
        places = np.array([shape.points[0] for shape in cells])
        assert np.ptp(places[:, 0]) + 21.3 == pytest.approx(length)
        assert np.ptp(places[:, 1]) + 21.3 == pytest.approx(width)
        assert side.width_mm >= length and side.height_mm >= width
    first_a, first_b = (
        next(shape.points[0] for shape in side.shapes if shape.layer.endswith("_CELLS"))
        for side in (side_a, side_b)
    )
    assert first_a[0] == pytest.approx(side_b.width_mm - first_b[0], abs=5.0)
    assert first_a[0] < 20.0 < first_b[0]
    strip = next(cut for cut in cuts if cut.size.role == "group")
    (corners,) = strip.outlines
    assert math.dist(corners[0], corners[1]) == pytest.approx(strip.size.length_mm)
    assert math.dist(corners[1], corners[2]) == pytest.approx(strip.size.width_mm)
