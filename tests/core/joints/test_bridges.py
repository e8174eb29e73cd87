"""Bridges over the windows of a plate: by hand, in the cut list, in the network."""

import math

import pytest
from shapely.geometry import Point, Polygon

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation, steps_in_hand
from lumvak.core.making.template import template_of
from lumvak.core.spelling import spoken


def looked(catalogue: Catalogue, **values: object) -> Evaluation:
    own = {
        "pack.cell": "ostrel-21-48",
        "pack.series": 4,
        "pack.parallel": 3,
        "need.current_a": 30.0,
        "joints.side_a": "tabs",
        "joints.side_b": "tabs",
        "joints.series.part": "copper-sheet-0.5",
        **{name.replace("__", "."): value for name, value in values.items()},
    }
    return evaluate(with_values(Project(), own), catalogue)


def codes(evaluation: Evaluation) -> set[str]:
    return {item.code for item in evaluation.findings if item.code.startswith("bridge-")}


def test_both_halves_of_a_bridge_lie_side_by_side(catalogue: Catalogue) -> None:
    """Nickel of 69.9 nΩ·m, 0.15 × 8 mm, over 10 mm: two halves of 5 mm."""
    evaluation = looked(catalogue, joints__bridge="nickel-0.15x8", joints__window_mm=10.0)
    half = 69.9e-9 * 5e-3 / (0.15e-3 * 8e-3)
    assert evaluation.figures["joints.bridge_mohm"].number == pytest.approx(
        1e3 * half / 2, rel=1e-3
    )
    contact = evaluation.figures["joints.contact_mohm"].number
    assert evaluation.figures["network.contact_mohm"].number == pytest.approx(
        contact + 500 * half, rel=1e-3
    )
    # Twice as wide a window warms the bridge four times, but for what leaves by its face.
    wide = looked(catalogue, joints__bridge="nickel-0.15x8", joints__window_mm=16.0)
    narrow = looked(catalogue, joints__bridge="nickel-0.15x8", joints__window_mm=8.5)
    rises = [item.figures["joints.bridge_rise_k"].number for item in (wide, narrow)]
    assert 1.8 < rises[0] / rises[1] < (16.0 / 8.5) ** 2 * 1.05


def test_every_cell_under_a_plate_has_a_window_and_a_bridge(catalogue: Catalogue) -> None:
    evaluation = looked(catalogue)
    assert (
        evaluation.laid_out.made.bridge is not None
        and evaluation.laid_out.made.bridge.window.assumed
    )
    window = evaluation.laid_out.made.bridge.window.number
    assert window == 10.5
    plates = [cut for cut in evaluation.cuts if cut.size.role == "plate"]
    bridges = [cut for cut in evaluation.cuts if cut.size.role == "bridge"]
    assert len(bridges) == 2 * 12 == sum(len(cut.windows) for cut in plates)
    uv = evaluation.laid_out.clearance.ends.planes.uv_mm
    for plate in plates:
        for ring in plate.windows:
            hole = Polygon(ring)
            assert hole.area == pytest.approx(math.pi * window**2 / 4, rel=1e-3)
            assert min(hole.centroid.distance(Point(*uv[end])) for end in plate.joins) < 1e-6
    for bridge in bridges:
        # It lies on the copper on both sides, within the end of its cell.
        (end,) = bridge.joins
        piece = Polygon(bridge.outlines[0])
        assert piece.area == pytest.approx(bridge.size.width_mm * bridge.size.length_mm)
        assert bridge.size.length_mm == pytest.approx(window + 8.0)
        assert Point(*uv[end]).buffer(21.3 / 2).contains(piece)
    assert sorted(piece for cut in evaluation.cuts for piece in cut.pieces) == list(
        range(len(evaluation.laid_out.joined_pack.pieces))
    )
    assert "Off the pack: join a bridge" in spoken(steps_in_hand(evaluation)[0].text)
    drawn = template_of(
        evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, evaluation.cuts
    )
    layers = [shape.layer for side in drawn for shape in side.shapes]
    assert sum(layer.endswith("STRIPS_BRIDGE") for layer in layers) == 24


def test_what_does_not_go_together_is_told(catalogue: Catalogue) -> None:
    assert codes(looked(catalogue)) == set()
    assert codes(looked(catalogue, joints__series__part="nickel-sheet-0.15")) == {"bridge-needless"}
    wide = looked(catalogue, joints__bridge="nickel-0.2x10", joints__window_mm=9.0)
    assert "bridge-wide" in codes(wide)
    hot = looked(
        catalogue, joints__bridge="nickel-0.1x5", joints__window_mm=18.0, need__current_a=90.0
    )
    assert "bridge-hot" in codes(hot)


def test_one_side_alone_may_have_windows(catalogue: Catalogue) -> None:
    evaluation = looked(catalogue, joints__side_b="strips")
    assert {cut.face for cut in evaluation.cuts if cut.size.role == "bridge"} == {0}


def test_flat_cells_have_no_windows(catalogue: Catalogue) -> None:
    evaluation = looked(catalogue, pack__cell="kimbry-p-50", joints__series={})
    assert evaluation.laid_out.made.bridge is None
    assert not [cut for cut in evaluation.cuts if cut.size.role == "bridge"]
