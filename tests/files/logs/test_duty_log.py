"""Logs of all spellings, and what is said about bad ones."""

import numpy as np
import pytest

from lumvak.core.need.duty import duty_mean, duty_rms
from lumvak.core.spelling import spoken
from lumvak.files.logs.duty_log import read_duty_log
from lumvak.files.problem import FileProblem


@pytest.mark.parametrize(
    "text",
    [
        "time,current\n0,12.5\n2,30\n4,0\n",
        "0;12,5\n2;30\n4;0\n",
        "0,12.5\n2,30\n4,0",
        "\ufeffTime (s);Power (W);Current (A)\n0;600;12,5\n2;1400;30\n4;0;0\n",
        "# a note\nelapsed\tamps\n00:10:00\t12.5\n00:10:02\t30\n00:10:04,0\t0\n",
        "t;i\n2026-05-01T09:00:00;12.5\n2026-05-01T09:00:02;30\n2026-05-01T09:00:04;0\n",
    ],
)
def test_spellings_of_one_log(text: str) -> None:
    log = read_duty_log(text, "ride.csv", "A")
    assert [(step.amount, step.seconds) for step in log.steps] == [(12.5, 2), (30, 2), (0, 2)]
    assert log.unit == "A"


def test_power_is_taken_where_it_is_meant_or_alone() -> None:
    both = "time,current,power\n0,1,50\n1,2,100\n"
    assert read_duty_log(both, "x", "W").unit == "W"
    assert read_duty_log(both, "x", "A").steps[0].amount == 1.0
    assert read_duty_log("time,power\n0,50\n1,100\n", "x", "A").unit == "W"


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "holds no samples"),
        ("time,current\n0,1\n", "1 sample; a log wants at least two"),
        ("time,current\n0,1\n1,abc\n", "line 3: “abc” is no current"),
        ("time,speed\n0,1\n1,2\n", "line 1: the header has time, speed"),
        ("0,1\n2,1\n1,3\n", "line 3: time 1 s comes after 2 s"),
        ("0,5,1,5\n1,5,2,5\n", "4 columns and no header"),
        ("time,current\n0,1,5\n1,2,5\n", "line 2: 3 columns, 2 above"),
        ("5\n6\n", "line 1: one column"),
        ("0,0\n1,-3\n", "no sample draws anything"),
        ("time,current\n0,1\n1,1e999\n", "line 3"),
    ],
)
def test_a_bad_log_is_named_by_its_line(text: str, says: str) -> None:
    with pytest.raises(FileProblem, match=says.replace("(", r"\(")):
        read_duty_log(text, "ride.csv", "A")


def test_a_long_log_keeps_its_charge_its_heat_and_its_peak() -> None:
    rng = np.random.default_rng(3)
    amps = np.round(np.abs(np.cumsum(rng.normal(size=5000))), 2)
    text = "\n".join(f"{second},{value}" for second, value in enumerate(amps))
    log = read_duty_log(text, "ride.csv", "A")
    short = np.array([step.amount for step in log.steps])
    spans = np.array([step.seconds for step in log.steps])
    assert len(short) <= 500
    whole = np.ones(len(amps))
    assert duty_mean(short, spans) == pytest.approx(duty_mean(amps, whole), rel=1e-4)
    assert duty_rms(short, spans) == pytest.approx(duty_rms(amps, whole), rel=0.01)
    assert short.max() == pytest.approx(amps.max(), abs=1e-4)
    assert "5000 samples over 1 h 23 in 500 steps" in spoken(log.said)
