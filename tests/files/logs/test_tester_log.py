"""Logs of testers: charge by integration, resistance from a step, and what is wrong by line."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.files.logs.tester_log import is_tester_log, read_tester_log
from lumvak.files.problem import FileProblem


def log(amps: float, hours: float, ohm: float, sign: float = 1.0, comma: bool = False) -> str:
    """A cell that falls from 4.1 V in a straight line, at rest for a minute before."""
    time = np.concatenate([[0.0, 30.0, 60.0], np.linspace(65.0, 65.0 + hours * 3600.0, 200)])
    current = np.where(time > 60.0, amps, 0.0)
    volts = 4.1 - 1.2 * np.maximum(time - 65.0, 0.0) / (hours * 3600.0) - ohm * current
    rows = [
        f"{second:.2f};{volt:.6f};{sign * amp:.6f}"
        for second, volt, amp in zip(time, volts, current, strict=True)
    ]
    text = "Time (s);Voltage (V);Current (A)\n" + "\n".join(rows)
    return text.replace(".", ",") if comma else text


@given(
    st.floats(0.2, 10.0), st.floats(0.2, 5.0), st.floats(0.005, 0.2), st.booleans(), st.booleans()
)
def test_charge_and_resistance_are_what_was_drawn(
    amps: float, hours: float, ohm: float, negative: bool, comma: bool
) -> None:
    text = log(amps, hours, ohm, -1.0 if negative else 1.0, comma)
    assert is_tester_log(text)
    found = read_tester_log(text, "log.csv")
    # The step from rest is counted as half drawn.
    assert found.ah == pytest.approx(amps * (hours + 2.5 / 3600.0), rel=1e-4)
    assert found.mohm == pytest.approx(ohm * 1e3, rel=2e-3, abs=0.05)
    assert found.pulse_s == pytest.approx(5.0)
    assert found.end_v == pytest.approx(2.9 - ohm * amps, abs=1e-3)
    assert found.mean_a == pytest.approx(amps, rel=1e-5)


def test_units_and_clocks_of_a_log() -> None:
    text = "t [h:m:s],U (mV),I (mA)\n0:00:00,4100,0\n0:30:00,3600,-1000\n1:00:00,3400,-1000\n"
    found = read_tester_log(text, "log.csv")
    assert found.ah == pytest.approx(0.75)
    # Half an hour is no step.
    assert found.mohm is None
    assert found.end_v == pytest.approx(3.4)


@pytest.mark.parametrize(
    ("text", "wrong"),
    [
        ("time,voltage,current\n0,4,1\n", "2 rows"),
        ("time,voltage\n0,4\n1,4\n", "no column for amps"),
        ("time,voltage,current\n0,4,x\n1,4,1\n", "line 2: “x” is no amps"),
        ("time,voltage,current\n5,4,1\n1,4,1\n", "line 3: time goes back"),
        ("time,voltage,current\n0,4,0\n1,4,0\n", "no current flows"),
        ("time,voltage,current\n0,4,1e12\n1,4,0\n", "too large for amps"),
    ],
)
def test_what_is_wrong_with_a_log_is_said(text: str, wrong: str) -> None:
    with pytest.raises(FileProblem, match=r"log\.csv") as caught:
        read_tester_log(text, "log.csv")
    assert wrong in str(caught.value)


def test_a_table_of_cells_is_no_log() -> None:
    assert not is_tester_log("number;volts;ah\n1;3.6;4\n")
    assert not is_tester_log("")
