"""Two faults of the leads at once, found again whatever they are."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.taps.faults import OPEN, moved, shifted_down, singles_of, swapped
from lumvak.core.taps.pairs import lead_pairs
from lumvak.core.taps.readings import Case


def as_read(joint: np.ndarray, groups: int) -> Case:
    level = 3.7 * np.arange(groups + 1)
    return Case(np.full(groups, 3.7), np.where(joint < 0, np.nan, level[joint]))


@given(st.data())
def test_two_that_were_swapped_moved_or_shifted_are_found(data: st.DataObject) -> None:
    groups = data.draw(st.integers(3, 14))
    lead = st.integers(0, groups)
    joint = np.arange(groups + 1, dtype=np.int16)
    for _ in range(2):
        kind = data.draw(st.sampled_from(["swapped", "open", "doubled", "shifted"]))
        if kind == "swapped":
            joint = swapped(joint, data.draw(lead), data.draw(lead))
        elif kind == "open":
            joint = moved(joint, data.draw(lead), OPEN)
        elif kind == "doubled":
            one = data.draw(lead)
            joint = moved(joint, one, data.draw(lead.filter(one.__ne__)))
        elif (joint[1:] > 0).all():
            joint = shifted_down(joint, data.draw(st.integers(1, groups)))
    found = list(lead_pairs(as_read(joint, groups), singles_of(groups)))
    singles = singles_of(groups).joint
    single = bool((singles == joint).all(axis=1).any())
    assert single or any((item[1] == joint).all() for item in found)
    assert all(item[2] < 0.0 for item in found)
    assert all(len(item[0]) == 2 or item[0][0].name == "mixed" for item in found)


def test_a_pair_is_given_once_by_its_likeliest_names() -> None:
    joint = swapped(swapped(np.arange(7, dtype=np.int16), 1, 2), 4, 5)
    found = [
        item for item in lead_pairs(as_read(joint, 6), singles_of(6)) if (item[1] == joint).all()
    ]
    assert len(found) == 1
    assert {fault.leads for fault in found[0][0]} == {(1, 2), (4, 5)}
