"""Verdicts in sentences."""

import numpy as np
import pytest

from lumvak.core.taps.readings import JOINT, MAIN_MINUS, MAIN_PLUS, Case, TapMeter
from lumvak.core.taps.verdict import judged
from lumvak.core.taps.words import blind_v, end_said, verdict_said

USUAL = TapMeter()


def words(groups: int, totals: list[float], meter: TapMeter = USUAL) -> str:
    case = Case(np.full(groups, 3.7), np.array(totals), meter)
    return verdict_said(case, judged(case))


def test_each_verdict_says_what_and_what_to_do() -> None:
    assert words(3, [0, 3.7, 7.4, 11.1]) == "Safe to plug in: every lead reads as its joint does."
    swapped = words(3, [0, 7.4, 3.7, 11.1])
    assert swapped.startswith("Do not plug in. Leads 1 and 2 are swapped. Change the two over")
    shifted = words(3, [0, 3.7, 3.7, 7.4])
    assert "2 things explain it: (1) From lead 2 on each sits one joint too low" in shifted
    assert "Read from lead 3 to main plus. 3.7 V: shifted; 0 V: flat-group." in shifted
    assert "too high; joint 1 has none" in words(3, [0, 7.4, 11.1, np.nan])
    assert "Lead 2 is open" in words(3, [0, 3.7, np.nan, 11.1])
    assert "sits on joint 2, where another is too" in words(4, [0, 7.4, 7.4, 11.1, 14.8])
    assert "Group 2 is 0.6 V under" in words(3, [0, 3.7, 6.8, 10.5])
    assert "wrong way round: its first lead" in words(3, [11.1, 7.4, 3.7, 0])
    assert "Group 3 is the wrong way round" in words(3, [0, 3.7, 7.4, 3.7])
    assert "Nothing that is known" in words(5, [0, 1.1, 9.0, 2.2, 8.8, 16.0])
    assert "Mend one, read all again" in words(4, [3.7, 0, 11.1, 7.4, 14.8])


def test_what_a_meter_does_not_show_is_said_where_it_matters() -> None:
    level = (3.7 * np.arange(25)).tolist()
    assert "a group up to 0.47 V under does not show at the top" in words(24, level)
    fine = TapMeter(0.0005, 2.0, 0.001)
    assert words(24, level, fine) == "Safe to plug in: every lead reads as its joint does."
    case = Case(np.full(24, 3.7), np.array(level))
    assert blind_v(case) == pytest.approx(0.471, abs=0.001)


def test_ends_have_names() -> None:
    ends = (3, MAIN_MINUS, MAIN_PLUS, JOINT + 4)
    assert [end_said(end) for end in ends] == ["lead 3", "main minus", "main plus", "joint 4"]
