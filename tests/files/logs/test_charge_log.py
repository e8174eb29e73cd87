"""Logs of a charge in many spellings; what is wrong is told by its line."""

import pytest

from lumvak.core.document.charging import MOST_LOG, LogRow
from lumvak.files.logs.charge_log import log_csv, read_charge_log
from lumvak.files.problem import FileProblem

ROWS = [(0.0, 50.0, 2.0), (60.0, 50.2, 2.0), (120.0, 50.4, 1.9)]


def log(head: str = "time s,volts,amps", rows: object = ROWS, joint: str = ",") -> str:
    lines = [joint.join(str(value) for value in row) for row in rows]  # type: ignore[attr-defined]
    return "\n".join([head, *lines])


@pytest.mark.parametrize(
    "text",
    [
        log(),
        log("t;V;A", [("0", "50,0", "2,0"), ("60", "50,2", "2,0"), ("120", "50,4", "1,9")], ";"),
        log("time min,voltage,current mA", [(0, 50, 2000), (1, 50.2, 2000), (2, 50.4, 1900)]),
        log(
            "elapsed,voltage,current",
            [("0:00:00", 50.0, 2), ("0:01:00", 50.2, 2), ("0:02:00", 50.4, 1.9)],
        ),
        log(
            "time,voltage,current",
            [
                ("2026-03-01 10:00:00", 50.0, 2),
                ("2026-03-01 10:01:00", 50.2, 2),
                ("2026-03-01 10:02:00", 50.4, 1.9),
            ],
        ),
    ],
)
def test_many_spellings_say_the_same(text: str) -> None:
    found = read_charge_log(text, "here", 14)
    assert [row.seconds for row in found.rows] == [row[0] for row in ROWS]
    assert [row.volts for row in found.rows] == [row[1] for row in ROWS]
    assert [row.amps for row in found.rows] == pytest.approx([row[2] for row in ROWS])
    assert found.said == "3 readings."


def test_warmth_and_groups_are_taken_where_they_are() -> None:
    text = "time s,volts,temp,g1,g2 mV\n0,8.0,21,4.0,4000\n60,8.1,22,,\n"
    found = read_charge_log(text, "here", 2)
    assert found.rows[0].groups == (4.0, 4.0)
    assert found.rows[1].groups == ()
    assert [row.warm_c for row in found.rows] == [21.0, 22.0]
    assert found.rows[0].amps is None


@pytest.mark.parametrize(
    ("text", "says"),
    [
        (log(rows=[(0, 50, 2), (60, 50, 2), (30, 50, 2)]), "line 4: time runs backwards"),
        (log(rows=[(0, 50, 2), (0, 50, 2)]), "line 3: time runs backwards, or stands"),
        (log("time s,amps", [(0, 2), (1, 2)]), "no column for volts"),
        (log(rows=[(0, "x", 2), (60, 50, 2)]), "line 2: “x” is no volts"),
        (log(rows=[(0, 50, 2), ("later", 50, 2)]), "line 3: “later” is no time"),
        (log("time s,volts,amps,g1", [(0, 50, 2, 4.0), (60, 50, 2, 4.0)]), "the pack has 14"),
        (log(rows=[(0, -50, 2), (60, 50, 2)]), "line 2"),
        ("volts", "1 rows; accepted: 2"),
        (log(rows=[(0, "", 2), (60, 50, 2)]), "line 2: no volts"),
    ],
)
def test_what_is_wrong_is_told_by_its_line(text: str, says: str) -> None:
    with pytest.raises(FileProblem, match=says):
        read_charge_log(text, "here", 14)


def test_a_long_log_is_thinned_and_keeps_its_ends() -> None:
    count = 2 * MOST_LOG + 5
    text = log(rows=[(place, 50.0, 2.0) for place in range(count)])
    found = read_charge_log(text, "here", 14)
    assert len(found.rows) <= MOST_LOG
    assert (found.rows[0].seconds, found.rows[-1].seconds) == (0.0, count - 1.0)
    assert "every 3th of them kept" in found.said


def test_what_is_written_is_read_again() -> None:
    rows = (
        LogRow(seconds=0.0, volts=8.0, amps=2.0, warm_c=20.5, groups=(4.0, 4.1)),
        LogRow(seconds=61.5, volts=8.1),
    )
    assert read_charge_log(log_csv(rows), "here", 2).rows == rows
