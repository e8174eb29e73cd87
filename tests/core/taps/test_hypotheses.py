"""Harnesses that explain readings, in any order of their leads, and what groups lack."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.taps.faults import Fault
from lumvak.core.taps.hypotheses import Hypothesis, weighed
from lumvak.core.taps.readings import Case
from lumvak.core.taps.verdict import judged
from tests.core.taps.test_verdict import LEVEL, names, verdict


@given(st.permutations(range(9)))
def test_any_order_of_the_leads_is_told(order: list[int]) -> None:
    """Where each sits is read off the totals, however it came about; never one wrong name."""
    groups = np.array([3.71, 3.68, 3.7, 3.72, 3.69, 3.7, 3.73, 3.7])
    level = np.concatenate([[0.0], np.cumsum(groups)])
    found = judged(Case(groups, level[order]))
    assert any((item.joint == order).all() for item in found.hypotheses)
    assert not found.safe and found.unproven == (order == list(range(9)))


def test_three_leads_in_a_ring_are_one_order_that_is_mixed() -> None:
    order = [0, 2, 3, 1, 4, 5]
    found = verdict(LEVEL[order])
    assert names(found) == {"mixed"} and found.hypotheses[0].leads == (1, 2, 3)
    # The last three may also be shifted, and the last hang on nothing that reads as joint 3 does.
    found = verdict(LEVEL[[0, 1, 2, 4, 5, 3]])
    assert names(found) == {"mixed", "shifted"} and found.next is not None


def test_how_much_a_group_lacks_is_told() -> None:
    weak = LEVEL.copy()
    weak[3:] -= 0.5
    found = verdict(weak)
    assert names(found) == {"weak-group"}
    (group, lacks, within), *_ = found.hypotheses[0].lack
    assert (group, lacks) == (3, pytest.approx(0.5, abs=0.02))
    assert 0.5 - lacks < within < 0.1
    assert math.isclose(found.hypotheses[0].probability, 1.0)


def test_what_remains_adds_up_and_parts_of_one_fault_are_one() -> None:
    joint = np.arange(4, dtype=np.int16)

    def one(name: str, log_weight: float) -> Hypothesis:
        return Hypothesis(
            "weak-group", (Fault("weak-group", groups=(int(name),)),), joint, (), log_weight
        )

    kept = weighed([one("1", 0.0), one("1", 0.0), one("2", math.log(1.0)), one("3", -20.0)])
    assert [item.groups for item in kept] == [(1,), (2,)]
    assert [item.probability for item in kept] == pytest.approx([2.0 / 3.0, 1.0 / 3.0])
