"""Every single fault of the leads, as where they sit."""

from itertools import pairwise

import numpy as np
import pytest

from lumvak.core.taps.faults import (
    OPEN,
    PRIOR,
    group_kinds,
    moved,
    shifted_down,
    shifted_up,
    singles_of,
    swapped,
)

RIGHT = np.arange(5, dtype=np.int16)


def test_what_each_fault_does_to_four_groups() -> None:
    assert swapped(RIGHT, 1, 3).tolist() == [0, 3, 2, 1, 4]
    assert moved(RIGHT, 2, OPEN).tolist() == [0, 1, OPEN, 3, 4]
    assert shifted_down(RIGHT, 2).tolist() == [0, 1, 1, 2, 3]
    assert shifted_up(RIGHT, 2, 4).tolist() == [0, 1, 3, 4, 4]
    assert shifted_up(RIGHT, 2, OPEN).tolist() == [0, 1, 3, 4, OPEN]
    # Who sits on nothing is not shifted, nor who sits on the lowest joint.
    assert shifted_up(moved(RIGHT, 3, OPEN), 2, 4).tolist() == [0, 1, 3, OPEN, 4]
    assert shifted_down(swapped(RIGHT, 0, 3), 2).tolist() == [3, 1, 1, 0, 3]


@pytest.mark.parametrize("groups", [1, 3, 24])
def test_all_of_a_count_are_there_once_and_weigh_what_their_names_do(groups: int) -> None:
    singles = singles_of(groups)
    leads = groups + 1
    names = [fault.name for fault in singles.faults]
    assert names[0] == "right"
    assert names.count("swapped") == leads * groups // 2
    assert names.count("shifted") == groups + 2 * groups
    assert names.count("open") == leads
    assert names.count("doubled") == leads * groups
    assert singles.joint.shape == (len(names), leads)
    assert singles.joint.min() >= OPEN
    assert singles.joint.max() <= groups
    for name in set(names):
        share = np.exp(singles.log_prior[[item == name for item in names]]).sum()
        assert share == pytest.approx(PRIOR[name])


def test_kinds_of_a_group_follow_each_other_without_a_gap() -> None:
    kinds = group_kinds(3.7)
    assert [kind[0] for kind in kinds] == [
        "weak-group",
        "flat-group",
        "flat-group",
        "reversed-group",
    ]
    for before, after in pairwise(kinds):
        assert before[2] == pytest.approx(after[1])
    assert kinds[0][1] == 0.15
    assert kinds[-1][1] < 3.7 * 2 < kinds[-1][2]
