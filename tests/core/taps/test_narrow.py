"""What is left out at once explains nothing; what is kept is all that may."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.taps.faults import singles_of
from lumvak.core.taps.narrow import alike, may_be, may_lack
from lumvak.core.taps.readings import counts, explains, lacks, wired
from tests.harnesses import GROUP_FAULTS, LEAD_FAULTS, harness

FAULTS = st.lists(st.sampled_from((*LEAD_FAULTS, *GROUP_FAULTS)), max_size=3)


@given(seed=st.integers(0, 10**6), faults=FAULTS, groups=st.integers(2, 12))
def test_nothing_that_explains_the_readings_is_left_out(
    seed: int, faults: list[str], groups: int
) -> None:
    """Against all of them, looked at one by one."""
    case = harness(np.random.default_rng(seed), seed % 2 == 0, faults, groups).case()
    singles = singles_of(groups)
    thought = wired(case, singles.joint)
    assert set(np.flatnonzero(explains(thought)).tolist()) <= set(may_be(case, singles).tolist())
    for group, may in may_lack(case, singles):
        count = counts(case, thought, group)
        low, high, fits = lacks(thought.off, count, thought.within, thought.lost)
        most = 2.2 * float(case.groups[group - 1])
        fits &= (low <= most) & (high >= 0.0)
        assert set(np.flatnonzero(fits).tolist()) <= set(may.tolist())


@given(seed=st.integers(0, 10**6), groups=st.integers(2, 9), wild=st.sets(st.integers(0, 9)))
def test_harnesses_are_found_by_where_their_leads_sit(
    seed: int, groups: int, wild: set[int]
) -> None:
    singles = singles_of(groups)
    draw = np.random.default_rng(seed)
    joint = singles.joint[int(draw.integers(len(singles.joint)))]
    anywhere = np.array([lead in wild for lead in range(groups + 1)])
    same = ((singles.joint == joint) | anywhere).all(axis=1)
    assert sorted(alike(singles, joint, anywhere).tolist()) == np.flatnonzero(same).tolist()


def test_few_are_left_of_many() -> None:
    """A weak group in a hundred: of some 15,000 harnesses no more than some hundred are tried."""
    made = harness(np.random.default_rng(3), False, ("swapped", "weak-group"), 100)
    singles = singles_of(100)
    assert len(singles.joint) > 15_000
    assert max(len(may) for _, may in may_lack(made.case(), singles)) < 200
