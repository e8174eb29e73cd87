"""Where balance leads sit: near the board, off the main leads, off cans of far other potential."""

import numpy as np
import pytest

from lumvak.core.arrangement.layout import Barriers
from lumvak.core.document.taps import TapWay
from lumvak.core.evaluation import Evaluation
from lumvak.core.taps.routes import EDGE_MM, reach_mm, strays, taps_of


def test_leads_keep_off_main_leads_and_off_far_potentials(evaluation: Evaluation) -> None:
    layout, leads = evaluation.laid_out.joined_pack.layout, evaluation.laid_out.joined_pack.leads
    kept = evaluation.project.arrangement.kept_free
    level = layout.level
    plain = taps_of(kept, layout, leads, 60.0)
    main = {lead.terminal for lead in leads}
    assert not main & set(plain.terminal.tolist())
    away = np.abs(layout.terminal_mm - plain.board_mm).sum(axis=1)
    for joint, terminal in enumerate(plain.terminal.tolist()):
        others = [at for at in np.flatnonzero(level == joint).tolist() if at not in main]
        assert away[terminal] == pytest.approx(min(away[at] for at in others))
        assert plain.length_mm[joint] == pytest.approx(1.15 * away[terminal] + 60.0)
    # The cell of a lead lies beside one of far other potential: another one is taken near by.
    joint = 5
    cell = int(plain.terminal[joint]) // 2
    far = Barriers(np.array([[cell, 0 if cell else 1]]), np.array([40.0]))
    moved = taps_of(kept, layout, leads, 60.0, (), far)
    assert int(moved.terminal[joint]) // 2 != cell
    assert moved.length_mm[joint] <= plain.length_mm[joint] + 1.15 * EDGE_MM


def test_a_way_of_the_builders_has_its_own_length(evaluation: Evaluation) -> None:
    layout, leads = evaluation.laid_out.joined_pack.layout, evaluation.laid_out.joined_pack.leads
    kept = evaluation.project.arrangement.kept_free
    plain = taps_of(kept, layout, leads, 60.0)
    start, board = layout.terminal_mm[plain.terminal[3]], plain.board_mm
    corner = (float(start[0]) + 30.0, float(start[1]) + 40.0)
    way = TapWay(lead=3, corners=(corner,))
    laid = taps_of(kept, layout, leads, 60.0, (way, TapWay(lead=99, corners=(corner,))))
    rest = float(np.hypot(board[0] - corner[0], board[1] - corner[1]))
    flat = 50.0 + rest + abs(float(board[2] - start[2]))
    assert laid.length_mm[3] == pytest.approx(1.15 * flat + 60.0)
    assert np.delete(laid.length_mm, 3) == pytest.approx(np.delete(plain.length_mm, 3))


def test_a_way_far_outside_is_not_followed(evaluation: Evaluation) -> None:
    layout, leads = evaluation.laid_out.joined_pack.layout, evaluation.laid_out.joined_pack.leads
    kept = evaluation.project.arrangement.kept_free
    plain = taps_of(kept, layout, leads, 60.0)
    far = TapWay(lead=2, corners=((1e4, 5.0),) * 20)
    laid = taps_of(kept, layout, leads, 60.0, (far, TapWay(lead=3, corners=((5.0, 5.0),))))
    assert (laid.astray, set(laid.ways)) == ((2,), {3})
    assert laid.length_mm[2] == plain.length_mm[2]
    edge = layout.size_mm[0] + reach_mm(layout)
    assert not strays(((edge, 0.0),), layout) and strays(((edge + 1.0, 0.0),), layout)
