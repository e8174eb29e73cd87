"""What remains of readings, whether the plug may go in, and the reading that decides."""

from collections import Counter

import numpy as np
import pytest
from tools.taps import double, single

from lumvak.core.taps.readings import MAIN_MINUS, MAIN_PLUS, Between, Case, TapMeter
from lumvak.core.taps.verdict import TapVerdict, judged
from tests.harnesses import GROUP_FAULTS, LEAD_FAULTS, followed, harness
from tests.length import so_many

GROUPS = np.array([3.71, 3.70, 3.69, 3.72, 3.70])
LEVEL = np.concatenate([[0.0], np.cumsum(GROUPS)])


def verdict(totals: np.ndarray, *more: Between) -> TapVerdict:
    return judged(Case(GROUPS, totals, more=more))


def names(found: TapVerdict) -> set[str]:
    return {item.name for item in found.hypotheses}


PROOF = Between(0, 1, 3.71)


def test_right_is_safe_and_nothing_else_is() -> None:
    found = verdict(LEVEL, PROOF)
    assert found.safe and found.leads == "right"
    assert names(found) == {"right"}
    swapped = LEVEL.copy()
    swapped[[2, 3]] = LEVEL[[3, 2]]
    found = verdict(swapped)
    assert not found.safe
    assert (found.hypotheses[0].name, found.hypotheses[0].leads) == ("swapped", (2, 3))
    assert names(verdict(LEVEL[::-1])) == {"reversed"}


def test_a_shift_and_a_flat_group_are_told_apart_at_the_pole() -> None:
    shifted = LEVEL.copy()
    shifted[3:] = LEVEL[2:-1]
    found = verdict(shifted)
    assert names(found) == {"shifted", "flat-group"}
    assert found.next is not None
    assert (found.next.start, found.next.end) == (5, MAIN_PLUS)
    expects = dict(zip(found.next.decides, found.next.expects, strict=True))
    assert expects["shifted"] == pytest.approx(3.70)
    assert expects["flat-group"] == pytest.approx(0.0, abs=0.1)
    assert names(verdict(shifted, Between(5, MAIN_PLUS, 3.70))) == {"shifted"}
    assert names(verdict(shifted, Between(5, MAIN_PLUS, 0.0))) == {"flat-group"}


def test_what_nothing_explains_is_an_answer() -> None:
    found = verdict(np.array([0.0, 1.2, 3.1, 5.9, 9.1, 15.2]))
    assert not found.explained
    assert not found.safe
    assert found.next is not None
    assert found.next.end == 1
    with pytest.raises(ValueError, match="5 readings for 6 leads"):
        verdict(LEVEL[:-1])


def test_groups_that_may_be_off_what_is_given_leave_leads_told() -> None:
    off = GROUPS + np.array([0.04, -0.05, 0.03, 0.05, -0.02])
    level = np.concatenate([[0.0], np.cumsum(off)])
    proof = (Between(0, 1, float(off[0])),)
    assert judged(Case(GROUPS, level, more=proof, apart_v=0.06)).safe
    level[[1, 2]] = level[[2, 1]]
    found = judged(Case(GROUPS, level, apart_v=0.06))
    assert names(found) == {"swapped"}


def test_leads_far_from_their_joint_are_named_though_groups_are_off_what_is_given() -> None:
    """How far a reading may be off goes with the groups below the joint it is thought to sit on."""
    fine = TapMeter(0.0005, 2.0, 0.001)
    groups = np.full(10, 3.7)
    level = np.concatenate([[0.0], np.cumsum(groups + 0.02)])
    assert names(judged(Case(groups, level[::-1], fine, apart_v=0.05))) == {"reversed"}
    level[[1, 10]] = level[[10, 1]]
    found = judged(Case(groups, level, fine, apart_v=0.05))
    assert (names(found), found.hypotheses[0].leads) == ({"swapped"}, (1, 10))


def test_a_fine_meter_tells_little_apart_as_well() -> None:
    fine = TapMeter(0.0005, 2.0, 0.001)
    weak = LEVEL.copy()
    weak[4:] -= 0.2
    assert names(judged(Case(GROUPS, weak, fine))) == {"weak-group"}


@pytest.mark.parametrize("each", [False, True])
def test_the_campaign_of_goals_in_short(each: bool) -> None:
    """The whole of it is ./bench taps."""
    draw = np.random.default_rng(11)
    safe = sum(followed(harness(draw, each, ()), 2)[0].safe for _ in range(so_many(50, 150)))
    assert safe >= so_many(49, 149)
    for name in (*LEAD_FAULTS, *GROUP_FAULTS):
        found = Counter(single(draw, each, name) for _ in range(so_many(8, 25)))
        if name != "weak-group":
            # A weak group may hide in the error of a meter that is off anew each time.
            assert found["safe"] == 0
            assert found["missed"] == 0
    pairs = Counter(double(draw, each) for _ in range(so_many(12, 40)))
    assert pairs["safe"] == 0
    assert pairs["named"] + pairs["among"] >= so_many(10, 36)


def test_a_named_reading_leaves_the_very_harness() -> None:
    draw = np.random.default_rng(3)
    for _ in range(20):
        made = harness(draw, False, ("shifted",), groups=6)
        found, rounds = followed(made, 2)
        assert rounds <= 2
        assert all(made.is_told_by(item) for item in found.hypotheses)


def test_an_open_lead_0_is_told_only_from_it_upwards() -> None:
    """It reads 0 V from main minus, as a good one does."""
    found = verdict(LEVEL)
    assert (found.leads, found.safe, found.unproven) == ("open-question", False, True)
    assert found.next is not None and (found.next.start, found.next.end) == (0, 1)
    for proof in (Between(0, 1, 3.71), Between(0, MAIN_PLUS, 18.52), Between(2, 0, -7.41)):
        assert verdict(LEVEL, proof).safe
    # From main minus it proves nothing, and nothing read upwards says that it is open.
    assert not verdict(LEVEL, Between(MAIN_MINUS, 0, 0.0)).safe
    opened = verdict(LEVEL, Between(0, 1, 0.0))
    assert not opened.safe and opened.leads == "wrong"
    assert (opened.hypotheses[0].name, opened.hypotheses[0].leads) == ("open", (0,))
    # Where the board has no such lead main minus is that.
    assert judged(Case(GROUPS, LEVEL, zero_is_main=True)).safe


def test_leads_and_groups_are_two_verdicts() -> None:
    groups = np.full(14, 3.65)
    level = np.concatenate([[0.0], np.cumsum(groups)])
    more = [Between(0, 1, 3.65)]
    found = judged(Case(groups, level, more=tuple(more), apart_v=0.05))
    assert found.safe and not all(item.told for item in found.groups)
    # What the totals leave blind is their error at both ends, and the spread of the groups.
    meter = TapMeter()
    blind = sum(float(meter.within(np.array([volts]))[0]) for volts in (level[13], level[14]))
    assert found.groups[13].least_told_v == pytest.approx(blind + 0.05)
    # The next readings go from lead to lead, where least is told first.
    assert found.next is not None and (found.next.start, found.next.end) == (13, 14)
    while found.next is not None:
        more.append(Between(found.next.start, found.next.end, 3.65))
        found = judged(Case(groups, level, more=tuple(more), apart_v=0.05))
        assert found.safe
    assert all(item.told for item in found.groups)


@pytest.mark.parametrize("lacks", [0.15, 0.3, 0.6])
@pytest.mark.parametrize("group", [1, 7, 14])
def test_a_weak_group_is_told_once_it_was_read_across(lacks: float, group: int) -> None:
    true = np.full(14, 3.65)
    true[group - 1] -= lacks
    level = np.concatenate([[0.0], np.cumsum(true)])
    more = (Between(0, 1, float(true[0])), Between(group - 1, group, float(true[group - 1])))
    found = judged(Case(np.full(14, 3.65), level, more=more, apart_v=0.05))
    assert not found.safe and found.leads == "right"
    assert found.hypotheses[0].groups == (group,)
    assert found.groups[group - 1].lacks_v == pytest.approx(lacks)
