"""In which order the pieces are joined."""

import pytest

from lumvak.core.evaluation import Evaluation, steps_in_hand
from lumvak.core.spelling import spoken


def test_groups_come_before_joints_and_volts_rise(evaluation: Evaluation) -> None:
    steps = steps_in_hand(evaluation)
    volts = [step.volts for step in steps]
    assert volts == sorted(volts)
    assert volts[0] == pytest.approx(4.2) and volts[-1] == pytest.approx(58.8)
    assert [step.face for step in steps] == [-1, -1, 0, 1, 0, 1, -1, -1]
    assert "insulating ring" in spoken(steps[1].text) and steps[1].count == 98
    assert volts[4] == pytest.approx(8.4)
    laid = steps[-1].done
    assert laid == frozenset(range(len(evaluation.laid_out.joined_pack.pieces)))
    assert steps[4].bare == frozenset(range(14))
    assert all(step.cover for step in steps)
