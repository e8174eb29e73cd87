"""Headers in long and short forms, and nothing that is sent does harm."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.bench.simulated.scpi import (
    MOST_ERRORS,
    Interpreter,
    ScpiError,
    channel_of,
    command,
    no_good,
    number_of,
    switch_of,
    unknown,
)


def known() -> tuple[Interpreter, list[str]]:
    heard: list[str] = []
    return Interpreter(
        (
            command("*IDN?", lambda _: "it"),
            command("[SOURce:]VOLTage[:LEVel]", heard.append),
            command("MEASure:VOLTage[:DC]?", lambda text: f"1{text}"),
        )
    ), heard


@pytest.mark.parametrize(
    "line", ["VOLT 3", "voltage 3", "SOUR:VOLT 3", ":source:voltage:level 3", "Sour:Volt:Lev  3"]
)
def test_long_and_short_forms_in_any_case(line: str) -> None:
    interpreter, heard = known()
    assert interpreter.line(line) is None
    assert heard == ["3"] and interpreter.next_error().startswith("0")


@pytest.mark.parametrize("line", ["VOLTA 3", "SOURC:VOLT 3", "VOL 3", "MEAS:VOLT", "IDN?", "?"])
def test_what_is_neither_goes_into_the_queue(line: str) -> None:
    interpreter, heard = known()
    assert interpreter.line(line) is None and not heard
    assert interpreter.next_error().startswith("-113") and interpreter.next_error().startswith("0")


def test_several_in_a_line_and_no_more_errors_than_fit() -> None:
    interpreter, _ = known()
    assert interpreter.line("*idn?; VOLT 2 ;meas:volt? (@2)") == "it;1(@2)"
    for _ in range(3 * MOST_ERRORS):
        interpreter.line("nothing")
    errors = [interpreter.next_error() for _ in range(MOST_ERRORS + 1)]
    assert sum(not it.startswith("0") for it in errors) == MOST_ERRORS


@given(st.text(max_size=200))
def test_no_text_does_harm(text: str) -> None:
    interpreter, _ = known()
    answer = interpreter.line(text)
    assert answer is None or isinstance(answer, str)


def test_parameters() -> None:
    assert number_of("2.5e1") == 25.0 and switch_of("on") and not switch_of("0")
    assert channel_of("(@12)") == 12
    wrong = ("", "x", "nan", "inf", "-1", "1e9")
    for text in wrong:
        with pytest.raises(ScpiError):
            number_of(text)
    for text in ("", "3", "(@)", "(@1,2)", "@3"):
        with pytest.raises(ScpiError):
            channel_of(text)
    with pytest.raises(ScpiError):
        switch_of("maybe")
    assert str(unknown()).startswith("-113") and str(no_good()).startswith("-222")
