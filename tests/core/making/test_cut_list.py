"""Every piece of the pack as it is cut."""

import pytest

from lumvak.core.evaluation import Evaluation
from lumvak.core.making.cut_lines import cut_lines, where
from lumvak.core.spelling import spoken


def test_strips_of_a_straight_pack_are_cut_whole(evaluation: Evaluation) -> None:
    cuts = evaluation.cuts
    lines = {line.size.role: line for line in cut_lines(cuts)}
    # Fourteen groups with two ends; six gaps of 22.8 mm and 5 mm beyond at both ends.
    assert lines["group"].count == 28
    assert lines["group"].size.length_mm == pytest.approx(6 * 22.8 + 10.0)
    assert lines["series"].count == 26 and lines["series"].size.length_mm == pytest.approx(32.8)
    laid = [piece for cut in cuts for piece in cut.pieces]
    assert sorted(laid) == list(range(len(evaluation.laid_out.joined_pack.pieces)))
    assert spoken(where(cuts[0])).startswith("tap ")
