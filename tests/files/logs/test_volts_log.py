"""Logs of group voltages in many spellings, and what is wrong by its line."""

import pytest

from lumvak.files.logs.volts_log import read_volts
from lumvak.files.problem import FileProblem


@pytest.mark.parametrize(
    "text",
    [
        "3.70;3.71;3.69",
        "3,70;3,71;3,69",
        "3.70,3.71,3.69",
        "3.70\t3.71\t3.69",
        "3700;3710;3690",
        "g1;g2;g3\n3.70;3.71;3.69",
        "\ufeff3.70;3.71;3.69\n\n",
    ],
)
def test_a_row_is_read_in_many_spellings(text: str) -> None:
    log = read_volts(text, "here", 3)
    assert [item.volts for item in log.sets] == [(3.70, 3.71, 3.69)]
    assert log.millivolts == ("3700" in text)


def test_rows_may_say_when_and_count_from_either_end() -> None:
    text = "time;a;b\n12:00;3.70;3.71\n12:05;3.69;3.71"
    log = read_volts(text, "here", 2)
    assert [(item.when, item.volts) for item in log.sets] == [
        ("12:00", (3.70, 3.71)),
        ("12:05", (3.69, 3.71)),
    ]
    turned = read_volts(text, "here", 2, from_positive=True)
    assert turned.sets[0].volts == (3.71, 3.70)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "nothing in it; wanted is a row of 3 voltages"),
        ("a;b;c", "a row of heads and no voltages"),
        ("3.7;3.7", "line 1: 1 voltages for 3 groups"),
        ("3.7;3.7;3.7\n3.7;x;3.7", "line 2: “x” is no voltage"),
        ("3.7;3.7;9.9", "row 1: 9.9 is no voltage of a group"),
    ],
)
def test_what_is_wrong_is_said_by_its_line_and_nothing_is_taken(text: str, said: str) -> None:
    with pytest.raises(FileProblem, match=said):
        read_volts(text, "here", 3)
