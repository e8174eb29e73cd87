"""Cells moved by hand: exactly as far, against a neighbour, and never into one."""

import numpy as np
import pytest

from lumvak.core.arrangement.moved_by_hand import (
    moved,
    nudged,
    renumbered,
    shifted,
    swapped,
    turned,
)
from lumvak.core.document.edit import ProjectError
from lumvak.core.evaluation import Evaluation


def test_a_nudge_is_exact_and_turning_twice_is_nothing(evaluation: Evaluation) -> None:
    placing = evaluation.laid_out.joined_pack.placing
    was = placing.layout
    last = len(was) - 1
    beyond = float(np.ptp(was.x_mm)) + 60.0
    free = shifted(was, [last], beyond, 0.0)
    assert free.x_mm[last] - was.x_mm[last] == pytest.approx(beyond)
    assert np.array_equal(free.x_mm[:last], was.x_mm[:last])
    spots = was.spots()
    once = turned(placing, [3])
    assert [one.turned != two.turned for one, two in zip(once, spots, strict=True)].count(True) == 1


def test_two_cells_never_take_one_place(evaluation: Evaluation) -> None:
    placing = evaluation.laid_out.joined_pack.placing
    was = placing.layout
    dx = float(was.x_mm[1] - was.x_mm[0])
    dy = float(was.y_mm[1] - was.y_mm[0])
    with pytest.raises(ProjectError, match="the same place; nothing was moved"):
        nudged(placing, [0], dx, dy)


def test_a_cell_snaps_a_gap_away_from_a_neighbour(evaluation: Evaluation) -> None:
    """Moved back to about where it was, it lies exactly where it was."""
    placing = evaluation.laid_out.joined_pack.placing
    was = placing.layout
    spots = moved(placing, [5], 0.7, -0.4)
    assert spots[5].x_mm == pytest.approx(float(was.x_mm[5]), abs=1e-3)
    assert spots[5].y_mm == pytest.approx(float(was.y_mm[5]), abs=1e-3)


def test_swapping_and_renumbering_keep_every_place(evaluation: Evaluation) -> None:
    placing = evaluation.laid_out.joined_pack.placing
    was = placing.layout
    places = sorted(zip(was.x_mm.round(3).tolist(), was.y_mm.round(3).tolist(), strict=True))
    for spots in (swapped(placing, 2, 40), renumbered(placing)):
        assert sorted((round(one.x_mm, 3), round(one.y_mm, 3)) for one in spots) == places
    spots = swapped(placing, 2, 40)
    assert spots[2].x_mm == pytest.approx(float(was.x_mm[40]), abs=1e-3)
    first = renumbered(placing)[0]
    assert first.x_mm == pytest.approx(float(was.x_mm[-was.parallel]), abs=1e-3)
