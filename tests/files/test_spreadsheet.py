import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.files.spreadsheet import GUARD, RISKY, harmless, harmless_row, unguarded


@given(st.text())
def test_nothing_runs_and_everything_comes_back(text: str) -> None:
    assert not harmless(text).startswith(RISKY)
    assert unguarded(harmless(text)) == text


@pytest.mark.parametrize("text", ["=1+1", "+cmd|' /C calc'!A0", "-2+3", "@SUM(A1)", "'quoted"])
def test_what_would_run_is_guarded(text: str) -> None:
    assert harmless_row([text]) == [GUARD + text]


def test_numbers_stay_numbers() -> None:
    row = ["-12.5", "+3", "1e-05", -4.0, 7, None, "cell"]
    assert harmless_row(row) == row
