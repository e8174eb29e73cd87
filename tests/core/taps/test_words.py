"""Verdicts in sentences."""

import re

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.spelling import spoken
from lumvak.core.taps.faults import OPEN, singles_of
from lumvak.core.taps.hypotheses import Hypothesis
from lumvak.core.taps.readings import JOINT, MAIN_MINUS, MAIN_PLUS, Between, Case, TapMeter
from lumvak.core.taps.verdict import judged
from lumvak.core.taps.words import blind_v, end_said, repair, verdict_said

USUAL = TapMeter()


def words(groups: int, totals: list[float], meter: TapMeter = USUAL) -> str:
    case = Case(np.full(groups, 3.7), np.array(totals), meter, (Between(0, 1, 3.7),))
    return spoken(verdict_said(case, judged(case)))


def wrong(groups: int, totals: list[float]) -> str:
    case = Case(np.full(groups, 3.7), np.array(totals), USUAL)
    return spoken(verdict_said(case, judged(case)))


def test_each_verdict_says_what_and_what_to_do() -> None:
    safe = words(3, [0, 3.7, 7.4, 11.1])
    assert safe.startswith(
        "Safe to plug in: every lead reads as its tap does. Group voltages are known"
    )
    assert wrong(3, [0, 3.7, 7.4, 11.1]).startswith(
        "Not yet safe: the totals fit, but an open lead"
    )
    swapped = wrong(3, [0, 7.4, 3.7, 11.1])
    assert swapped.startswith(
        "Do not plug in. Leads 1 and 2 are swapped. Change leads 1 and 2 over"
    )
    shifted = wrong(3, [0, 3.7, 3.7, 7.4])
    assert "2 things explain it: (1) From lead 2 on each sits one tap too low" in shifted
    assert "Read from lead 3 to main plus. 3.7 V: leads shifted; 0 V: a group flat." in shifted
    assert "too high; tap 1 has none" in wrong(3, [0, 7.4, 11.1, np.nan])
    assert "Lead 2 is open" in wrong(3, [0, 3.7, np.nan, 11.1])
    assert "sits on tap 2, where another is too" in wrong(4, [0, 7.4, 7.4, 11.1, 14.8])
    assert "Group 2 is 0.6 V ± 0.06 V under" in wrong(3, [0, 3.7, 6.8, 10.5])
    assert "wrong way round: its first lead" in wrong(3, [11.1, 7.4, 3.7, 0])
    assert "Group 3 is the wrong way round" in wrong(3, [0, 3.7, 7.4, 3.7])
    assert "Nothing that is known" in wrong(5, [0, 1.1, 9.0, 2.2, 8.8, 16.0])
    ring = wrong(5, [0, 7.4, 11.1, 3.7, 14.8, 18.5])
    assert "The order of 3 leads is mixed: 1 on tap 2, 2 on tap 3 and 3 on tap 1." in ring
    assert "Move leads 1 to 2 down by 1 tap each. Move lead 3 from tap 1 to tap 3." in ring
    two = wrong(4, [3.7, 0, 11.1, 7.4, 14.8])
    assert "Change leads 0 and 1 over. Change leads 2 and 3 over. Cover the bare ends" in two


def test_what_is_not_told_of_the_groups_is_said() -> None:
    level = (3.7 * np.arange(25)).tolist()
    said = words(24, level)
    assert (
        said.startswith("Safe to plug in")
        and "Group voltages are known no closer than 0.92 V" in said
    )
    assert "Read from lead 23 to lead 24" in said
    fine = TapMeter(0.0001, 1.0, 0.001)
    assert "none is weak" in words(24, level, fine)
    case = Case(np.full(24, 3.7), np.array(level), USUAL, (Between(0, 1, 3.7),))
    both = sum(float(USUAL.within(np.array([volts]))[0]) for volts in level[-2:])
    assert blind_v(judged(case)) == pytest.approx(both)


def mended(joint: np.ndarray, said: str) -> np.ndarray:
    """Where leads sit once what is said was done, word by word."""
    last = len(joint) - 1
    found = joint.copy()
    if "Turn the plug's order round" in said:
        found = found[::-1].copy()
    for one, other in re.findall(r"Change leads (\d+) and (\d+) over", said):
        found[[int(one), int(other)]] = found[[int(other), int(one)]]
    for first, end, way, far in re.findall(
        r"Move leads (\d+) to (\d+) (up|down) by (\d+) taps? each", said
    ):
        found[int(first) : int(end) + 1] += int(far) * (1 if way == "up" else -1)
    for lead, at, to in re.findall(r"Move lead (\d+) from tap (\d+) to tap (\d+)", said):
        assert found[int(lead)] == int(at)
        found[int(lead)] = int(to)
    for lead in re.findall(r"crimp or the joint of lead (\d+): it belongs on tap \1", said):
        found[int(lead)] = int(lead)
    assert found.min() >= OPEN and found.max() <= last
    return found


@pytest.mark.parametrize("groups", [2, 3, 7, 14])
def test_what_is_said_mends_every_single_fault(groups: int) -> None:
    """Do what it says and read again: right."""
    singles = singles_of(groups)
    right = np.arange(groups + 1)
    for fault, joint in zip(singles.faults, singles.joint, strict=True):
        found = Hypothesis(fault.name, (fault,), joint, (), 0.0)
        assert (mended(joint.astype(int), spoken(repair(found))) == right).all(), (
            fault,
            repair(found),
        )


@given(st.permutations(range(8)))
def test_what_is_said_mends_any_order_of_the_leads(order: list[int]) -> None:
    joint = np.array(order)
    found = Hypothesis("two-faults", (), joint.astype(np.int16), (), 0.0)
    assert (mended(joint, spoken(repair(found))) == np.arange(8)).all()


def test_ends_have_names() -> None:
    ends = (3, MAIN_MINUS, MAIN_PLUS, JOINT + 4)
    assert [spoken(end_said(end)) for end in ends] == [
        "lead 3",
        "main minus",
        "main plus",
        "tap 4",
    ]
