"""Strips folded over an edge: their length by hand, in the cut list, the network, the metal."""

import numpy as np
import pytest

from lumvak.core.arrangement.folds import fold_between, half_outlines
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation, steps_in_hand
from lumvak.core.joints.pieces import ADDED, FOLD, WIRE
from lumvak.core.making.cut_lines import cut_lines, size_words
from lumvak.core.making.template import template_of
from lumvak.core.spelling import spoken

ROOM = {"kind": "box", "length_mm": 100.0, "width_mm": 76.0, "height_mm": 155.0}


def looked(catalogue: Catalogue, **values: object) -> Evaluation:
    """Two layers of four groups by three cells; the fifth group lies over the fourth."""
    own = {
        "pack.cell": "ostrel-21-48",
        "pack.series": 8,
        "pack.parallel": 3,
        "arrangement.room": ROOM,
        "joints.across": "fold",
        "need.current_a": 20.0,
        "joints.series.part": "nickel-0.15x8",
        "joints.series.strips": 6,
        **{name.replace("__", "."): value for name, value in values.items()},
    }
    return evaluate(with_values(Project(), own), catalogue)


@pytest.fixture(scope="module")
def folded(catalogue: Catalogue) -> Evaluation:
    return looked(catalogue)


def test_a_strip_goes_out_to_the_edge_down_and_back(folded: Evaluation) -> None:
    pieces, layout = folded.laid_out.joined_pack.pieces, folded.laid_out.joined_pack.layout
    own = np.flatnonzero(pieces.kind == FOLD)
    assert len(own) == 3 and not (pieces.kind == WIRE).any()
    for piece in own.tolist():
        a, b = (layout.terminal_mm[end] for end in (pieces.a[piece], pieces.b[piece]))
        # Half a cell out, a layer up (a cell and 3 mm), half a cell back.
        assert pieces.length_mm[piece] == pytest.approx(10.65 + 73.4 + 10.65)
        assert abs(a[2] - b[2]) == pytest.approx(73.4)
    # As nickel of 69.9 nΩ·m, two strips side by side.
    ohm = 69.9e-9 * 94.7e-3 / (2 * 0.15e-3 * 8e-3)
    assert folded.laid_out.joined_pack.sections.ohm[own].tolist() == pytest.approx(
        [ohm] * 3, rel=1e-3
    )


def test_the_cut_list_says_how_long_and_where_it_bends(folded: Evaluation) -> None:
    line = next(line for line in cut_lines(folded.cuts) if line.size.bends_mm)
    assert line.count == 6
    assert line.size.length_mm == pytest.approx(94.7 + 2 * 5.0)
    assert line.size.bends_mm == pytest.approx((5.0 + 10.65, 5.0 + 10.65 + 73.4), abs=0.06)
    assert spoken(size_words(line)).endswith(", bent at 15.7 mm and 89.1 mm")
    cuts = [piece for cut in folded.cuts for piece in cut.pieces]
    assert sorted(cuts) == list(range(len(folded.laid_out.joined_pack.pieces)))


def test_both_halves_are_drawn_and_looked_at_as_metal(folded: Evaluation) -> None:
    sides = template_of(folded.laid_out.joined_pack, folded.laid_out.clearance.ends, folded.cuts)
    bent = [cut for cut in folded.cuts if cut.beyond]
    assert {len(cut.outlines) for cut in bent} == {1}
    for cut in bent:
        ((other, ring),) = cut.beyond
        assert other != cut.plane and len(ring) == 4
    welds = [shape for side in sides for shape in side.shapes if shape.layer.endswith("_WELDS")]
    joins = sum(len(cut.joins) for cut in folded.cuts)
    assert len(welds) == 4 * joins
    # A strip so wide that it lies on the next cell of another group is found.
    assert not folded.laid_out.clearance.flaws


def test_the_half_of_a_strip_ends_at_the_edge(folded: Evaluation) -> None:
    pieces, layout = folded.laid_out.joined_pack.pieces, folded.laid_out.joined_pack.layout
    piece = int(np.flatnonzero(pieces.kind == FOLD)[0])
    fold = fold_between(layout, int(pieces.a[piece]), int(pieces.b[piece]))
    assert fold is not None and fold.legs_mm == pytest.approx((10.65, 73.4, 10.65))
    here, _ = half_outlines(fold, 8.0, 5.0)
    xs = [x for x, _ in here]
    edge = layout.corner_mm[0] + layout.size_mm[0]
    assert max(xs) == pytest.approx(edge) and min(xs) == pytest.approx(edge - 10.65 - 5.0)


def test_within_one_plane_nothing_is_folded(folded: Evaluation) -> None:
    assert fold_between(folded.laid_out.joined_pack.layout, 0, 2) is None


def test_bars_are_not_folded_and_lying_cells_keep_their_wires(catalogue: Catalogue) -> None:
    bars = looked(catalogue, joints__series={"part": "copper-bar-1.5x12"})
    assert not (bars.laid_out.joined_pack.pieces.kind == FOLD).any()


def test_what_a_strip_passes_on_the_side_is_told(folded: Evaluation) -> None:
    """Up the side of the fifth group's cells, whose cans are a group lower than the joint."""
    told = next(item for item in folded.findings if item.code == "fold-side")
    assert told.severity == "note" and "3 folded strips pass cans 4.2 V apart" in spoken(told.text)
    steps = [step.text for step in steps_in_hand(folded)]
    assert any("barrier over the edge" in spoken(text) for text in steps)


def test_a_piece_that_ends_in_two_planes_is_a_wire(catalogue: Catalogue) -> None:
    """Between the layers nothing lies flat; within one an added piece does."""
    for other, kind in (("g5c2n", WIRE), ("g4c3p", ADDED)):
        evaluation = looked(catalogue, joints__changes=({"a": "g4c1p", "b": other},))
        pieces = evaluation.laid_out.joined_pack.pieces
        ends = {pieces.name(piece) for piece in np.flatnonzero(pieces.kind == kind).tolist()}
        assert any("g4c1" in spoken(name) and other[:-1] in spoken(name) for name in ends)
