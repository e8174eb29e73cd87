"""Problems in a line, and what comes in line by line."""

import io
import sys

import pytest

from lumvak.cli.told import MOST_SAID, Parser, complain, lines_in, shown


def test_a_text_is_one_line_that_can_be_read() -> None:
    assert shown("a\x1b[0m\nb\u202e  c") == "a[0m b c"
    assert shown("9" * 400 + " is no count") == "9" * 40 + "… is no count"
    assert len(shown("so it goes " * 100)) == MOST_SAID


def test_where_nobody_listens_nothing_is_said(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    complain("lumvak", "a\tproblem")
    assert capsys.readouterr().err == "lumvak: a problem\n"
    monkeypatch.setattr(sys, "stderr", None)
    complain("lumvak", "unheard")
    monkeypatch.setattr(sys, "stdin", None)
    assert list(lines_in()) == []


def test_odd_bytes_do_not_end_what_comes_in(monkeypatch: pytest.MonkeyPatch) -> None:
    raw = io.TextIOWrapper(io.BytesIO(b"\xff{\n{}\n"), "utf-8")
    monkeypatch.setattr(sys, "stdin", raw)
    assert list(lines_in()) == ["\ufffd{\n", "{}\n"]


def test_arguments_are_refused_alike(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as ended:
        Parser(prog="lumvak").parse_args(["\x1b[1m" + "x" * 500])
    assert ended.value.code == 2
    assert len(capsys.readouterr().err) < 150
